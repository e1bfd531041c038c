package app.ironside.solve;

import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.TangentPlane;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Recognises a narrow field of which the catalogue holds only a handful of stars, too few for patterns, when place and scale are known:
 * two stars of the frame are laid on two of the catalogue that stand as far apart, and the other catalogue stars must then meet stars
 * of the frame. Only shift, turn and scale are fitted, which two stars fix, so that every further star counts as evidence in full.
 */
final class FewStars {
    /** The stars of a sparse catalogue are among the brightest of a narrow frame. */
    private static final int FRAME_STARS = 36;

    /** Far from the hint there is so much sky that more would take too long. */
    private static final int FRAME_STARS_FAR = 16;

    private static final int FEWEST_MATCHES = 5;

    /** A shorter base would turn centroids' errors into large ones across the frame. */
    private static final double SHORTEST_BASE = 0.25;

    /** Across a frame of usual size; a small frame's stars crowd, and its pixels are turned away by less. */
    private static final double FIRST_REACH_PX = 5;

    private static final double FIRST_REACH_OF_DIAGONAL = 0.003;
    private static final double[] NEXT_REACHES_PX = {2, 0.8, 0.45};

    /** Mounts that were told the truth once are nearer than this; a narrow search needs fewer stars to be sure. */
    private static final double NEAR_DEG = 1.5;

    private static final int MOST_CATALOGUE_STARS = 600;

    /** Of a catalogue that holds more stars in a field than this, patterns find it. */
    private static final double MOST_IN_FIELD = 16;

    private final StarField field;
    private final StarCatalogue catalogue;
    private final SolveHints hints;
    private final Verifier verifier;
    private final List<Star> seen;
    private final double[] reachesPx;

    private FewStars(StarField field, StarCatalogue catalogue, SolveHints hints, Verifier verifier, int frameStars) {
        this.field = field;
        this.catalogue = catalogue;
        this.hints = hints;
        this.verifier = verifier;
        this.seen = field.stars().subList(0, Math.min(frameStars, field.stars().size()));
        this.reachesPx = new double[1 + NEXT_REACHES_PX.length];
        reachesPx[0] = Math.max(
                NEXT_REACHES_PX[0],
                Math.min(FIRST_REACH_PX, FIRST_REACH_OF_DIAGONAL * Math.hypot(field.width(), field.height())));
        System.arraycopy(NEXT_REACHES_PX, 0, reachesPx, 1, NEXT_REACHES_PX.length);
    }

    /**
     * The solution, if one stands.
     *
     * @param hints with place and scale
     * @param tried candidates so far, which count against the odds; those of this search are added
     */
    static Optional<PlateSolution> find(
            StarField field, StarCatalogue catalogue, SolveHints hints, Verifier verifier, long[] tried) {
        Optional<PlateSolution> near = new FewStars(field, catalogue, hints, verifier, FRAME_STARS)
                .within(Math.min(NEAR_DEG, hints.radiusDeg()), tried);
        return near.isPresent() || hints.radiusDeg() <= NEAR_DEG
                ? near
                : new FewStars(field, catalogue, hints, verifier, FRAME_STARS_FAR).within(hints.radiusDeg(), tried);
    }

    private record CataloguePair(int a, int b, double deg) {}

    private Optional<PlateSolution> within(double radiusDeg, long[] tried) {
        SolveHints inside = hints.withNear(hints.near().orElseThrow(), radiusDeg);
        double scale = hints.scaleArcsecPerPixel().orElseThrow() / 3600;
        double diagonalPx = Math.hypot(field.width(), field.height());
        List<Place> sky = places(radiusDeg + diagonalPx * scale / 2);
        double fieldArea = field.width() * scale * field.height() * scale;
        if (sky.size() * fieldArea > MOST_IN_FIELD * Math.PI * Math.pow(radiusDeg + diagonalPx * scale / 2, 2)) {
            return Optional.empty();
        }
        double shortest = SHORTEST_BASE * diagonalPx;
        List<CataloguePair> pairs = new ArrayList<>();
        double tolerance = 1 + hints.scaleTolerance();
        for (int a = 0; a < sky.size(); a++) {
            sky.get(a).around.add(sky.get(a));
            for (int b = a + 1; b < sky.size(); b++) {
                double deg = sky.get(a).position.separationDeg(sky.get(b).position);
                if (deg < diagonalPx * scale * tolerance) {
                    sky.get(a).around.add(sky.get(b));
                    sky.get(b).around.add(sky.get(a));
                    if (deg > shortest * scale / tolerance) {
                        pairs.add(new CataloguePair(a, b, deg));
                    }
                }
            }
        }
        pairs.sort(Comparator.comparingDouble(CataloguePair::deg));
        for (int i = 0; i < seen.size(); i++) {
            for (int j = i + 1; j < seen.size(); j++) {
                Star one = seen.get(i);
                Star two = seen.get(j);
                double base = Math.hypot(one.x() - two.x(), one.y() - two.y());
                if (base < shortest) {
                    continue;
                }
                int from = first(pairs, base * scale * (1 - hints.scaleTolerance()));
                for (int k = from; k < pairs.size() && pairs.get(k).deg <= base * scale * tolerance; k++) {
                    CataloguePair pair = pairs.get(k);
                    Optional<PlateSolution> found = laid(one, two, sky.get(pair.a), sky.get(pair.b), inside, tried)
                            .or(() -> laid(one, two, sky.get(pair.b), sky.get(pair.a), inside, tried));
                    if (found.isPresent()) {
                        return found;
                    }
                }
            }
        }
        return Optional.empty();
    }

    /** First of the pairs, sorted by length, that is at least so long. */
    private static int first(List<CataloguePair> pairs, double deg) {
        int low = 0;
        int high = pairs.size();
        while (low < high) {
            int middle = (low + high) / 2;
            if (pairs.get(middle).deg < deg) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    /**
     * A catalogue star on the plane that touches the sky at the hint.
     *
     * @param around it and the others that may be in one frame with it, brightest first
     */
    private record Place(Equatorial position, double xi, double eta, List<Place> around) {}

    private List<Place> places(double radiusDeg) {
        TangentPlane plane = new TangentPlane(hints.near().orElseThrow());
        List<Place> places = new ArrayList<>();
        for (int index : catalogue.indicesWithin(hints.near().orElseThrow(), Math.min(60, radiusDeg))) {
            CatalogueStar star = catalogue.star(index);
            Equatorial position = star.positionAt(hints.epochYear());
            plane.project(position)
                    .ifPresent(p -> places.add(new Place(position, p.xiDeg(), p.etaDeg(), new ArrayList<>())));
            if (places.size() == MOST_CATALOGUE_STARS) {
                break;
            }
        }
        return places;
    }

    private Optional<PlateSolution> laid(Star one, Star two, Place a, Place b, SolveHints inside, long[] tried) {
        for (int parity = -1; parity <= 1; parity += 2) {
            Similarity first = through(one, two, a, b, parity);
            tried[0]++;
            // On the hint's plane, which is good enough to tell whether three more stars are there.
            if (hits(first, a.around) < FEWEST_MATCHES) {
                continue;
            }
            Optional<PlateSolution> found = verified(first, a, parity, tried[0]);
            if (found.filter(s -> inside.allowsCentre(s.centre()) && inside.allowsScale(s.scaleArcsecPerPixel()))
                    .isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private Optional<PlateSolution> verified(Similarity first, Place a, int parity, long tried) {
        Equatorial near = a.position;
        Wcs wcs = first.wcs(hints.near().orElseThrow());
        Optional<PlateSolution> best = Optional.empty();
        double bestOdds = 0;
        // Looked at more and more closely; of the last reaches, each counts as another try.
        for (double reach : reachesPx) {
            List<Equatorial> expected = expected(wcs, a.around);
            List<WcsFit.Match> matches = Verifier.match(wcs, expected, seen, reach);
            Optional<Wcs> next = matches.size() < FEWEST_MATCHES
                    ? Optional.empty()
                    : fit(matches, near, parity).map(s -> s.wcs(near));
            if (next.isEmpty()) {
                break;
            }
            double chance = seen.size() * Math.PI * reach * reach / ((double) field.width() * field.height());
            double odds =
                    Verifier.log10Tail(expected.size() - 2, matches.size() - 2, chance) + Math.log10(reachesPx.length);
            wcs = next.get();
            if (Verifier.stands(odds, tried) && odds < bestOdds) {
                bestOdds = odds;
                best = Optional.of(verifier.solution(wcs, matches, odds));
            }
        }
        return best.map(s -> s.withTried(tried));
    }

    private List<Equatorial> expected(Wcs wcs, List<Place> sky) {
        List<Equatorial> inside = new ArrayList<>();
        for (Place place : sky) {
            wcs.toPixel(place.position)
                    .filter(p -> p[0] >= 1 && p[1] >= 1 && p[0] <= field.width() && p[1] <= field.height())
                    .ifPresent(p -> inside.add(place.position));
            if (inside.size() == seen.size()) {
                break;
            }
        }
        return inside;
    }

    private static Similarity through(Star one, Star two, Place a, Place b, int parity) {
        return Similarity.fit(
                new double[] {one.x(), two.x()},
                new double[] {one.y(), two.y()},
                new double[] {a.xi, b.xi},
                new double[] {a.eta, b.eta},
                parity);
    }

    /** Over matches, on the plane that touches the sky at a place. */
    private static Optional<Similarity> fit(List<WcsFit.Match> matches, Equatorial touching, int parity) {
        TangentPlane plane = new TangentPlane(touching);
        int n = matches.size();
        double[] x = new double[n];
        double[] y = new double[n];
        double[] xi = new double[n];
        double[] eta = new double[n];
        for (int i = 0; i < n; i++) {
            WcsFit.Match m = matches.get(i);
            Optional<TangentPlane.Point> point = plane.project(m.sky());
            if (point.isEmpty()) {
                return Optional.empty();
            }
            x[i] = m.x();
            y[i] = m.y();
            xi[i] = point.get().xiDeg();
            eta[i] = point.get().etaDeg();
        }
        return Optional.of(Similarity.fit(x, y, xi, eta, parity));
    }

    /** How many of some catalogue stars fall into the frame and meet one of its stars. */
    private int hits(Similarity laid, List<Place> sky) {
        int hits = 0;
        for (Place place : sky) {
            double x = laid.toX(place.xi, place.eta);
            double y = laid.toY(place.xi, place.eta);
            if (x >= 1 && y >= 1 && x <= field.width() && y <= field.height() && meets(x, y)) {
                hits++;
            }
        }
        return hits;
    }

    private boolean meets(double x, double y) {
        for (Star star : seen) {
            if (Math.abs(star.x() - x) < reachesPx[0] && Math.abs(star.y() - y) < reachesPx[0]) {
                return true;
            }
        }
        return false;
    }
}
