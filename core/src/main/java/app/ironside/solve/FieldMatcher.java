package app.ironside.solve;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Finds which star of one frame is which of another, whatever the shift, turn and scale between them. */
public final class FieldMatcher {
    private static final int BRIGHTEST = 24;
    private static final int NEIGHBOURS = 5;
    private static final double TOLERANCE = 0.004;
    private static final int STARS_TO_PAIR = 250;
    private static final double FIRST_REACH_PX = 4;
    private static final int ENOUGH_PAIRS = 12;

    private static final int VOTERS = 60;
    private static final double VOTE_PX = 4;
    private static final long CELLS = 1L << 20;

    /** By chance one of the shifts that 3,600 pairs suggest has three or four. */
    private static final int FEWEST_VOTES = 8;

    /** In a crowd any shift finds partners. */
    private static final double OVER_CHANCE = 3;

    /** The same star in both frames. */
    public record Pair(Star a, Star b) {}

    private record Pattern(int[] four, double[] code) {}

    private FieldMatcher() {}

    /** Pairs of stars; empty if the frames do not show the same field. */
    public static Optional<List<Pair>> match(StarField a, StarField b) {
        List<Pattern> patternsA = patterns(a.stars());
        List<Pattern> patternsB = patterns(b.stars());
        patternsB.sort(Comparator.comparingDouble(p -> p.code()[0]));
        StarPlaces places = new StarPlaces(b, first(b, STARS_TO_PAIR));
        List<Pair> best = List.of();
        int enough = Math.min(
                ENOUGH_PAIRS, Math.max(5, Math.min(a.stars().size(), b.stars().size()) / 2));
        for (Pattern p : patternsA) {
            for (int k = firstAtLeast(patternsB, p.code()[0] - TOLERANCE); k < patternsB.size(); k++) {
                Pattern q = patternsB.get(k);
                if (q.code()[0] > p.code()[0] + TOLERANCE) {
                    break;
                }
                if (alike(p.code(), q.code())) {
                    List<Pair> pairs = pairs(a, b, places, p.four(), q.four());
                    if (pairs.size() > best.size()) {
                        best = pairs;
                    }
                    if (best.size() >= Math.max(enough, Math.min(a.stars().size(), STARS_TO_PAIR) / 3)) {
                        return Optional.of(best);
                    }
                }
            }
        }
        List<Pair> shifted = best.size() >= enough ? best : byShift(a, b, places);
        return shifted.size() >= enough ? Optional.of(shifted) : Optional.empty();
    }

    /**
     * By the one shift that most pairs of bright stars share, unturned or by half a turn: where stars are drawn out, swollen or half hidden,
     * the patterns of the brightest fail.
     */
    private static List<Pair> byShift(StarField a, StarField b, StarPlaces places) {
        List<Pair> best = List.of();
        for (int sign : new int[] {1, -1}) {
            Map<Long, Integer> votes = new HashMap<>();
            long most = 0;
            for (Star star : first(a, VOTERS)) {
                for (Star other : first(b, VOTERS)) {
                    long cell = cell(other.x() - sign * star.x(), other.y() - sign * star.y());
                    if (votes.merge(cell, 1, Integer::sum) > votes.getOrDefault(most, 0)) {
                        most = cell;
                    }
                }
            }
            if (votes.getOrDefault(most, 0) >= FEWEST_VOTES) {
                double dx = (most / CELLS - CELLS / 2.0) * VOTE_PX;
                double dy = (most % CELLS - CELLS / 2.0) * VOTE_PX;
                List<Pair> pairs = pairs(a, places, new double[] {sign, 0, dx, dy, 0});
                best = pairs.size() > best.size() ? pairs : best;
            }
        }
        double chance = Math.PI
                * FIRST_REACH_PX
                * FIRST_REACH_PX
                * first(a, STARS_TO_PAIR).size()
                * first(b, STARS_TO_PAIR).size()
                / ((double) b.width() * b.height());
        return best.size() > OVER_CHANCE * chance ? best : List.of();
    }

    private static List<Star> first(StarField field, int count) {
        return field.stars().subList(0, Math.min(count, field.stars().size()));
    }

    private static long cell(double dx, double dy) {
        return (Math.round(dx / VOTE_PX) + CELLS / 2) * CELLS + Math.round(dy / VOTE_PX) + CELLS / 2;
    }

    private static int firstAtLeast(List<Pattern> sorted, double ratio) {
        int low = 0;
        int high = sorted.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (sorted.get(middle).code()[0] < ratio) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    private static boolean alike(double[] a, double[] b) {
        for (int k = 0; k < a.length; k++) {
            if (Math.abs(a[k] - b[k]) > TOLERANCE) {
                return false;
            }
        }
        return true;
    }

    private static List<Pattern> patterns(List<Star> stars) {
        List<Pattern> patterns = new ArrayList<>();
        int size = Math.min(BRIGHTEST, stars.size());
        for (int star = 0; star < size; star++) {
            int[] near = nearest(stars, star, size);
            for (int i = 0; i < near.length; i++) {
                for (int j = i + 1; j < near.length; j++) {
                    for (int k = j + 1; k < near.length; k++) {
                        int[] four = {star, near[i], near[j], near[k]};
                        double[] code = new double[FourStars.LENGTH];
                        if (FourStars.code(
                                four,
                                (s, axis) -> axis == 0
                                        ? stars.get(s).x()
                                        : stars.get(s).y(),
                                2,
                                code)) {
                            patterns.add(new Pattern(four, code));
                        }
                    }
                }
            }
        }
        return patterns;
    }

    private static int[] nearest(List<Star> stars, int star, int size) {
        Star at = stars.get(star);
        int[] near = new int[Math.min(NEIGHBOURS, size - 1)];
        double[] squares = new double[near.length];
        int known = 0;
        for (int i = 0; i < size; i++) {
            double dx = stars.get(i).x() - at.x();
            double dy = stars.get(i).y() - at.y();
            double squared = dx * dx + dy * dy;
            if (i == star || known == near.length && squared >= squares[known - 1]) {
                continue;
            }
            int place = known < near.length ? known++ : known - 1;
            for (; place > 0 && squares[place - 1] > squared; place--) {
                squares[place] = squares[place - 1];
                near[place] = near[place - 1];
            }
            squares[place] = squared;
            near[place] = i;
        }
        return near;
    }

    /** Pairs all stars by the shift, turn and scale that two patterns suggest. */
    private static List<Pair> pairs(StarField a, StarField b, StarPlaces places, int[] fourA, int[] fourB) {
        double[] p = similarity(a.stars(), b.stars(), fourA, fourB);
        return p[4] > FIRST_REACH_PX ? List.of() : pairs(a, places, p);
    }

    private static List<Pair> pairs(StarField a, StarPlaces places, double[] p) {
        List<Pair> pairs = new ArrayList<>();
        for (Star star : first(a, STARS_TO_PAIR)) {
            double x = p[0] * star.x() - p[1] * star.y() + p[2];
            double y = p[1] * star.x() + p[0] * star.y() + p[3];
            places.nearest(x, y, FIRST_REACH_PX).ifPresent(nearest -> pairs.add(new Pair(star, nearest)));
        }
        return pairs;
    }

    private static double[] similarity(List<Star> a, List<Star> b, int[] fourA, int[] fourB) {
        double ax = 0;
        double ay = 0;
        double bx = 0;
        double by = 0;
        for (int k = 0; k < 4; k++) {
            ax += a.get(fourA[k]).x() / 4;
            ay += a.get(fourA[k]).y() / 4;
            bx += b.get(fourB[k]).x() / 4;
            by += b.get(fourB[k]).y() / 4;
        }
        double c = 0;
        double s = 0;
        double norm = 0;
        for (int k = 0; k < 4; k++) {
            double u = a.get(fourA[k]).x() - ax;
            double v = a.get(fourA[k]).y() - ay;
            double p = b.get(fourB[k]).x() - bx;
            double q = b.get(fourB[k]).y() - by;
            c += u * p + v * q;
            s += u * q - v * p;
            norm += u * u + v * v;
        }
        c /= norm;
        s /= norm;
        double dx = bx - c * ax + s * ay;
        double dy = by - s * ax - c * ay;
        double worst = 0;
        for (int k = 0; k < 4; k++) {
            Star at = a.get(fourA[k]);
            Star to = b.get(fourB[k]);
            worst = Math.max(
                    worst, Math.hypot(c * at.x() - s * at.y() + dx - to.x(), s * at.x() + c * at.y() + dy - to.y()));
        }
        return new double[] {c, s, dx, dy, worst};
    }
}
