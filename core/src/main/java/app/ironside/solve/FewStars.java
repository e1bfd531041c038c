package app.ironside.solve;

import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.TangentPlane;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

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
    private final Crowd crowd;

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
        this.crowd = new Crowd(field, seen, reachesPx[0]);
    }

    /**
     * The solution, if one stands.
     *
     * @param hints with place and scale
     */
    static Optional<PlateSolution> find(StarField field, StarCatalogue catalogue, SolveHints hints, Verifier verifier) {
        Optional<PlateSolution> near = new FewStars(field, catalogue, hints, verifier, FRAME_STARS)
                .within(Math.min(NEAR_DEG, hints.radiusDeg()));
        return near.isPresent() || hints.radiusDeg() <= NEAR_DEG
                ? near
                : new FewStars(field, catalogue, hints, verifier, FRAME_STARS_FAR).within(hints.radiusDeg());
    }

    private Optional<PlateSolution> within(double radiusDeg) {
        double scale = hints.scaleArcsecPerPixel().orElseThrow() / 3600;
        double diagonalPx = Math.hypot(field.width(), field.height());
        Sky sky = sky(radiusDeg + diagonalPx * scale / 2);
        double fieldArea = field.width() * scale * field.height() * scale;
        if (sky.size() * fieldArea > MOST_IN_FIELD * Math.PI * Math.pow(radiusDeg + diagonalPx * scale / 2, 2)) {
            return Optional.empty();
        }
        double shortest = SHORTEST_BASE * diagonalPx;
        double tolerance = 1 + hints.scaleTolerance();
        Pairs pairs = sky.pairs(shortest * scale / tolerance, diagonalPx * scale * tolerance);
        Search search = new Search(sky, hints.withNear(hints.near().orElseThrow(), radiusDeg));
        for (int i = 0; i < seen.size(); i++) {
            for (int j = i + 1; j < seen.size(); j++) {
                Star one = seen.get(i);
                Star two = seen.get(j);
                double base = Math.hypot(one.x() - two.x(), one.y() - two.y());
                if (base < shortest) {
                    continue;
                }
                double longest = base * scale * tolerance;
                for (int k = pairs.first(base * scale * (1 - hints.scaleTolerance()));
                        k < pairs.deg.length && pairs.deg[k] <= longest;
                        k++) {
                    int a = pairs.a[k];
                    int b = pairs.b[k];
                    Optional<PlateSolution> found = search.laid(one, two, a, b).or(() -> search.laid(one, two, b, a));
                    if (found.isPresent()) {
                        return found;
                    }
                }
            }
        }
        return Optional.empty();
    }

    /** Pairs of catalogue stars, sorted by their distance. */
    private record Pairs(int[] a, int[] b, double[] deg) {
        /** First that is at least so long. */
        int first(double least) {
            int at = Arrays.binarySearch(deg, least);
            if (at < 0) {
                return -at - 1;
            }
            while (at > 0 && deg[at - 1] == least) {
                at--;
            }
            return at;
        }
    }

    /**
     * Catalogue stars on the plane that touches the sky at the hint, brightest first.
     *
     * @param around of each star, it and the others that may be in one frame with it
     */
    private record Sky(List<Equatorial> positions, double[] xi, double[] eta, int[][] around) {
        int size() {
            return xi.length;
        }

        /** The pairs of some lengths; those that are not too long for one frame are told who is around them. */
        Pairs pairs(double shortestDeg, double longestDeg) {
            List<double[]> found = new ArrayList<>();
            boolean[][] near = new boolean[size()][size()];
            for (int a = 0; a < size(); a++) {
                near[a][a] = true;
                for (int b = a + 1; b < size(); b++) {
                    double deg = positions.get(a).separationDeg(positions.get(b));
                    if (deg < longestDeg) {
                        near[a][b] = true;
                        near[b][a] = true;
                        if (deg > shortestDeg) {
                            found.add(new double[] {deg, a, b});
                        }
                    }
                }
            }
            for (int a = 0; a < size(); a++) {
                boolean[] mine = near[a];
                around[a] = IntStream.range(0, size()).filter(b -> mine[b]).toArray();
            }
            found.sort(Comparator.comparingDouble(pair -> pair[0]));
            return new Pairs(
                    found.stream().mapToInt(pair -> (int) pair[1]).toArray(),
                    found.stream().mapToInt(pair -> (int) pair[2]).toArray(),
                    found.stream().mapToDouble(pair -> pair[0]).toArray());
        }
    }

    private Sky sky(double radiusDeg) {
        TangentPlane plane = new TangentPlane(hints.near().orElseThrow());
        List<Equatorial> positions = new ArrayList<>();
        List<TangentPlane.Point> points = new ArrayList<>();
        for (int index : catalogue.indicesWithin(hints.near().orElseThrow(), Math.min(60, radiusDeg))) {
            Equatorial position = catalogue.star(index).positionAt(hints.epochYear());
            plane.project(position).ifPresent(point -> {
                positions.add(position);
                points.add(point);
            });
            if (points.size() == MOST_CATALOGUE_STARS) {
                break;
            }
        }
        return new Sky(
                positions,
                points.stream().mapToDouble(TangentPlane.Point::xiDeg).toArray(),
                points.stream().mapToDouble(TangentPlane.Point::etaDeg).toArray(),
                new int[points.size()][]);
    }

    /** One search; hundreds of thousands of candidates are laid, so that nothing is made for one until three more stars meet. */
    private final class Search {
        private final Sky sky;
        private final SolveHints inside;
        private long tried;

        Search(Sky sky, SolveHints inside) {
            this.sky = sky;
            this.inside = inside;
        }

        Optional<PlateSolution> laid(Star one, Star two, int a, int b) {
            for (int parity = -1; parity <= 1; parity += 2) {
                tried++;
                // On the hint's plane, which is good enough to tell whether three more stars are there.
                if (!meetEnough(one, two, a, b, parity)) {
                    continue;
                }
                Optional<PlateSolution> found = verified(through(one, two, sky, a, b, parity), sky, a, tried);
                if (found.filter(s -> inside.allowsCentre(s.centre()) && inside.allowsScale(s.scaleArcsecPerPixel()))
                        .isPresent()) {
                    return found;
                }
            }
            return Optional.empty();
        }

        /** Whether, with two stars laid on two, enough of the catalogue stars around fall into the frame and meet one of its stars. */
        private boolean meetEnough(Star one, Star two, int a, int b, int parity) {
            double u = two.x() - one.x();
            double v = parity * (two.y() - one.y());
            double dXi = sky.xi[b] - sky.xi[a];
            double dEta = sky.eta[b] - sky.eta[a];
            double turned = dXi * dXi + dEta * dEta;
            // Pixels a degree: the inverse of what turns (u, v) into (dXi, dEta).
            double along = (u * dXi + v * dEta) / turned;
            double across = (u * dEta - v * dXi) / turned;
            int hits = 0;
            for (int star : sky.around[a]) {
                double xi = sky.xi[star] - sky.xi[a];
                double eta = sky.eta[star] - sky.eta[a];
                if (crowd.meets(one.x() + along * xi + across * eta, one.y() + parity * (along * eta - across * xi))
                        && ++hits == FEWEST_MATCHES) {
                    return true;
                }
            }
            return false;
        }
    }

    /** Where a frame's stars are, to within the first reach: a raster tells at once which of them may be near a place. */
    private static final class Crowd {
        /** One bit for each of the stars looked for. */
        private static final int MOST_STARS = Long.SIZE;

        private static final double CELLS_ALONG_DIAGONAL = 400;

        private final double[] x;
        private final double[] y;
        private final double reach;
        private final int width;
        private final int height;
        private final double cell;
        private final int columns;
        private final long[] near;

        Crowd(StarField field, List<Star> stars, double reach) {
            assert stars.size() <= MOST_STARS;
            this.x = stars.stream().mapToDouble(Star::x).toArray();
            this.y = stars.stream().mapToDouble(Star::y).toArray();
            this.reach = reach;
            this.width = field.width();
            this.height = field.height();
            this.cell = Math.max(reach, Math.hypot(width, height) / CELLS_ALONG_DIAGONAL);
            this.columns = (int) (width / cell) + 3;
            this.near = new long[columns * ((int) (height / cell) + 3)];
            for (int star = 0; star < x.length; star++) {
                int column = (int) Math.max(0, x[star] / cell);
                int row = (int) Math.max(0, y[star] / cell);
                for (int r = Math.max(0, row - 1); r <= row + 1; r++) {
                    for (int c = Math.max(0, column - 1); c <= column + 1; c++) {
                        near[r * columns + c] |= 1L << star;
                    }
                }
            }
        }

        boolean meets(double atX, double atY) {
            if (!(atX >= 1 && atY >= 1 && atX <= width && atY <= height)) {
                return false;
            }
            for (long left = near[(int) (atY / cell) * columns + (int) (atX / cell)]; left != 0; left &= left - 1) {
                int star = Long.numberOfTrailingZeros(left);
                if (Math.abs(x[star] - atX) < reach && Math.abs(y[star] - atY) < reach) {
                    return true;
                }
            }
            return false;
        }
    }

    private Optional<PlateSolution> verified(Similarity first, Sky sky, int a, long tried) {
        Equatorial near = sky.positions.get(a);
        Wcs wcs = first.wcs(hints.near().orElseThrow());
        Optional<PlateSolution> best = Optional.empty();
        double bestOdds = 0;
        // Looked at more and more closely; of the last reaches, each counts as another try.
        for (double reach : reachesPx) {
            List<Equatorial> expected = expected(wcs, sky, a);
            List<WcsFit.Match> matches = Verifier.match(wcs, expected, seen, reach);
            Optional<Wcs> next = matches.size() < FEWEST_MATCHES
                    ? Optional.empty()
                    : fit(matches, near, first.parity()).map(s -> s.wcs(near));
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

    private List<Equatorial> expected(Wcs wcs, Sky sky, int a) {
        List<Equatorial> inside = new ArrayList<>();
        for (int star : sky.around[a]) {
            Equatorial position = sky.positions.get(star);
            wcs.toPixel(position)
                    .filter(p -> p[0] >= 1 && p[1] >= 1 && p[0] <= field.width() && p[1] <= field.height())
                    .ifPresent(p -> inside.add(position));
            if (inside.size() == seen.size()) {
                break;
            }
        }
        return inside;
    }

    private static Similarity through(Star one, Star two, Sky sky, int a, int b, int parity) {
        return Similarity.fit(
                new double[] {one.x(), two.x()},
                new double[] {one.y(), two.y()},
                new double[] {sky.xi[a], sky.xi[b]},
                new double[] {sky.eta[a], sky.eta[b]},
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
}
