package app.ironside.solve;

import app.ironside.sky.Angles;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.Vectors;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.IntStream;

/**
 * Recognises frames. With a hint of place only that part of the sky is searched; if it is not there, or nothing is known, the
 * whole sky is. Thread-safe.
 */
public final class PlateSolver {
    private static final int FEWEST_STARS = 7;

    /** Patterns are made among the brightest stars of the frame, in sets of these sizes. */
    private static final int[] IMAGE_LEVELS = {9, 14, 22, 35, 55};

    private static final int IMAGE_NEIGHBOURS = 8;

    /** Where the catalogue holds only a third of the frame's bright stars, patterns must reach further to find four of them. */
    private static final int FAR_NEIGHBOURS = 14;

    private static final int LOCAL_NEIGHBOURS = 8;
    private static final int SKY_NEIGHBOURS = 5;

    /** Stars of each level of the index of the whole sky: about V 4, 5, 6, 7, 8 and all of Hipparcos. */
    private static final int[] SKY_LEVELS = {500, 1600, 5000, 15_500, 41_000, 120_000};

    /** Largest difference of a ratio: a centroid's error, the catalogue's, and the projection's over the pattern. */
    private static final double CODE_TOLERANCE = 0.006;

    private static final double SWOLLEN_HFR_PX = 7;
    private static final double TRAILED_ECCENTRICITY = 0.93;

    private final StarCatalogue catalogue;
    private final Supplier<PatternIndex> sky;

    public PlateSolver(StarCatalogue catalogue) {
        this.catalogue = catalogue;
        this.sky = new OnDemand(catalogue);
    }

    /** The index of the whole sky takes a second to build and is only needed blind: built when first asked for. */
    private static final class OnDemand implements Supplier<PatternIndex> {
        private final StarCatalogue catalogue;
        private PatternIndex index;

        OnDemand(StarCatalogue catalogue) {
            this.catalogue = catalogue;
        }

        @Override
        public synchronized PatternIndex get() {
            if (index == null) {
                int[] all = brightestFirst(catalogue, IntStream.range(0, catalogue.size()));
                index = PatternIndex.build(catalogue, all, SKY_LEVELS, SKY_NEIGHBOURS);
            }
            return index;
        }
    }

    /** Recognises a frame by its stars. */
    public SolveResult solve(StarField field, SolveHints hints) {
        if (field.stars().size() < FEWEST_STARS) {
            return new NoSolution("Only " + field.stars().size() + " stars were found and " + FEWEST_STARS
                    + " are needed: look for cloud, a cap or a far-off focus, or expose longer.");
        }
        List<int[]> patterns = patterns(field.stars(), IMAGE_NEIGHBOURS);
        if (hints.near().isPresent()) {
            PatternIndex local = local(field, hints);
            Optional<PlateSolution> near = search(field, patterns, local, hints)
                    .or(() -> search(field, patterns(field.stars(), FAR_NEIGHBOURS), local, hints));
            if (near.isPresent()) {
                return near.get();
            }
        }
        Optional<PlateSolution> anywhere =
                search(field, patterns, sky.get(), hints.near().isPresent() ? withoutPlace(hints) : hints);
        return anywhere.<SolveResult>map(s -> s).orElseGet(() -> new NoSolution(reason(field, hints)));
    }

    private static SolveHints withoutPlace(SolveHints hints) {
        return new SolveHints(Optional.empty(), 180, hints.scaleArcsecPerPixel(), hints.scaleTolerance());
    }

    private Optional<PlateSolution> search(
            StarField field, List<int[]> patterns, PatternIndex index, SolveHints hints) {
        List<Star> stars = field.stars();
        Verifier verifier = new Verifier(field, catalogue);
        double[] code = new double[FourStars.LENGTH];
        double[] x = new double[4];
        double[] y = new double[4];
        int[] tried = {0};
        List<PlateSolution> found = new ArrayList<>(1);
        for (int[] four : patterns) {
            FourStars.code(
                    four,
                    (s, axis) -> axis == 0 ? stars.get(s).x() : stars.get(s).y(),
                    2,
                    code);
            for (int k = 0; k < 4; k++) {
                x[k] = stars.get(four[k]).x();
                y[k] = stars.get(four[k]).y();
            }
            index.lookUp(code, CODE_TOLERANCE, pattern -> {
                if (found.isEmpty()) {
                    candidate(field, index, pattern, x, y, hints)
                            .flatMap(wcs -> verifier.verify(wcs, ++tried[0]))
                            .filter(s -> hints.allowsScale(s.scaleArcsecPerPixel()) && hints.allowsCentre(s.centre()))
                            .ifPresent(found::add);
                }
            });
            if (!found.isEmpty()) {
                return Optional.of(found.get(0));
            }
        }
        return Optional.empty();
    }

    private static Optional<Wcs> candidate(
            StarField field, PatternIndex index, int pattern, double[] x, double[] y, SolveHints hints) {
        double[][] sky = new double[4][];
        for (int k = 0; k < 4; k++) {
            sky[k] = index.vector(pattern, k);
        }
        return Candidate.fit(x, y, sky)
                .filter(wcs -> hints.allowsScale(wcs.scaleArcsecPerPixel()))
                .filter(wcs -> hints.allowsCentre(wcs.toSky(field.width() / 2.0, field.height() / 2.0)));
    }

    /** An index of the sky around the hint only. */
    private PatternIndex local(StarField field, SolveHints hints) {
        double scale = hints.scaleArcsecPerPixel().orElse(20);
        double fieldRadius = Math.hypot(field.width(), field.height()) / 2 * scale / 3600;
        double radius = Math.min(180, hints.radiusDeg() + Math.min(20, fieldRadius));
        double[] centre = Vectors.of(
                hints.near().orElseThrow().raDeg(), hints.near().orElseThrow().decDeg());
        double cosRadius = Angles.cosDeg(radius);
        int[] inside = brightestFirst(
                catalogue,
                IntStream.range(0, catalogue.size())
                        .filter(i -> Math.abs(catalogue.decDeg(i)
                                        - hints.near().orElseThrow().decDeg())
                                <= radius)
                        .filter(i ->
                                Vectors.dot(centre, Vectors.of(catalogue.raDeg(i), catalogue.decDeg(i))) >= cosRadius));
        List<Integer> levels = new ArrayList<>();
        for (double share = 1; share * inside.length >= 8 && levels.size() < 6; share *= 0.55) {
            levels.add((int) (share * inside.length));
        }
        return PatternIndex.build(
                catalogue, inside, levels.stream().mapToInt(Integer::intValue).toArray(), LOCAL_NEIGHBOURS);
    }

    private static int[] brightestFirst(StarCatalogue catalogue, IntStream indices) {
        return indices.boxed()
                .sorted(Comparator.comparingDouble(catalogue::magnitude))
                .mapToInt(Integer::intValue)
                .toArray();
    }

    /** Patterns of the frame's brightest stars and their neighbours, brightest sets first, each once. */
    private static List<int[]> patterns(List<Star> stars, int neighbours) {
        List<int[]> patterns = new ArrayList<>();
        Set<Long> seen = new HashSet<>();
        double[] code = new double[FourStars.LENGTH];
        for (int level : IMAGE_LEVELS) {
            int size = Math.min(level, stars.size());
            for (int star = 0; star < size; star++) {
                int[] near = nearest(stars, star, size, neighbours);
                for (int a = 0; a < near.length; a++) {
                    for (int b = a + 1; b < near.length; b++) {
                        for (int c = b + 1; c < near.length; c++) {
                            int[] four = {star, near[a], near[b], near[c]};
                            if (seen.add(key(four))
                                    && FourStars.code(
                                            four,
                                            (s, axis) -> axis == 0
                                                    ? stars.get(s).x()
                                                    : stars.get(s).y(),
                                            2,
                                            code)) {
                                patterns.add(four);
                            }
                        }
                    }
                }
            }
            if (size == stars.size()) {
                break;
            }
        }
        return patterns;
    }

    private static long key(int[] four) {
        int[] sorted = four.clone();
        java.util.Arrays.sort(sorted);
        return ((sorted[0] * 1000L + sorted[1]) * 1000 + sorted[2]) * 1000 + sorted[3];
    }

    private static int[] nearest(List<Star> stars, int star, int size, int neighbours) {
        Star at = stars.get(star);
        return IntStream.range(0, size)
                .filter(i -> i != star)
                .boxed()
                .sorted(Comparator.comparingDouble(
                        i -> Math.hypot(stars.get(i).x() - at.x(), stars.get(i).y() - at.y())))
                .limit(neighbours)
                .mapToInt(Integer::intValue)
                .toArray();
    }

    private static String reason(StarField field, SolveHints hints) {
        double hfr = field.medianHalfFluxRadiusPx().orElse(0);
        double eccentricity = field.medianEccentricity().orElse(0);
        if (eccentricity > TRAILED_ECCENTRICITY) {
            return "The stars are trailed: check tracking, wind and balance, then expose shorter.";
        }
        if (hfr > SWOLLEN_HFR_PX) {
            return "The stars are swollen (half-flux radius " + Math.round(hfr) + " px): focus first.";
        }
        if (hints.scaleArcsecPerPixel().isPresent()) {
            return field.stars().size() + " stars were found but no pattern fits the sky at "
                    + String.format(
                            java.util.Locale.ROOT,
                            "%.2f",
                            hints.scaleArcsecPerPixel().getAsDouble())
                    + "″ per pixel: check the focal length and pixel size, or solve without the scale.";
        }
        return field.stars().size()
                + " stars were found but no pattern fits the catalogue: the field may be too narrow for it,"
                + " or the points are not stars.";
    }
}
