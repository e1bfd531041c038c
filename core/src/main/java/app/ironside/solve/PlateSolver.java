package app.ironside.solve;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;

/**
 * Recognises frames. With a hint of place only that part of the sky is searched; if it is not there, or nothing is known, the
 * whole sky is. Thread-safe.
 */
public final class PlateSolver {
    /** Known stars in a frame: some are missed, blended or at its edge, and those left must be beyond chance. */
    static final int FEWEST_STARS = 7;

    /** Patterns are made among the brightest stars of the frame, in sets of these sizes. */
    private static final int[] IMAGE_LEVELS = {9, 14, 22, 35, 55};

    private static final int IMAGE_NEIGHBOURS = 8;

    /** Where the catalogue holds only a third of the frame's bright stars, patterns must reach further to find four of them. */
    private static final int FAR_NEIGHBOURS = 14;

    private static final int LOCAL_NEIGHBOURS = 6;
    private static final int SKY_NEIGHBOURS = 5;

    /** The brightest of the sky around a hint: more in a field than the frame's bright ones are of no use. */
    private static final double LOCAL_STARS_A_FIELD = 80;

    private static final int FEWEST_LOCAL_STARS = 150;
    private static final int MOST_LOCAL_STARS = 60_000;
    private static final double DEGREES_PER_RADIAN = 180 / Math.PI;
    private static final double SQUARE_DEGREES_OF_THE_SKY = 4 * Math.PI * DEGREES_PER_RADIAN * DEGREES_PER_RADIAN;

    /** Stars of the first levels of the index of the whole sky: about V 4, 5, 6, 7, 8. */
    private static final int[] SKY_LEVELS = {500, 1600, 5000, 15_500, 41_000};

    /**
     * Each level below reaches this much fainter, whatever the number of stars: a catalogue may be deep in one region only, and there a
     * frame's brightest stars must be a level's too.
     */
    private static final double NEXT_LEVEL_MAGNITUDES = 0.7;

    /** A level that adds fewer, as a share, is left to the next. */
    private static final double WORTH_A_LEVEL = 1.02;

    /** Of a deeper catalogue, the brightest of this many enter the index of the whole sky: some 70 in each square degree. */
    private static final int MOST_INDEXED_STARS = 3_000_000;

    /** Largest difference of a ratio: a centroid's error, the catalogue's, and the projection's over the pattern. */
    private static final double CODE_TOLERANCE = 0.006;

    private static final int FIRST_BLOCK = 8;
    private static final int LARGEST_BLOCK = 256;

    /** More candidates than the patterns of a block can have. */
    private static final long MOST_TRIED_IN_A_BLOCK = 10_000_000;

    private static final double SWOLLEN_HFR_PX = 7;
    private static final double TRAILED_ECCENTRICITY = 0.93;
    private static final double SURE_SNR = 12;

    /**
     * A field of few stars is recognised by its scale among other things, and a kit's may be wrong by this share: a reducer at another
     * distance, a focal length as its maker rounded it.
     */
    private static final double ROUGH_SCALE = 0.12;

    /** Binned and whole frames of one kit differ by more, two nights of it by less. */
    private static final double SAME_SCALE = 0.02;

    private final StarCatalogue known;

    /** By which frames are recognised. */
    private final StarCatalogue catalogue;

    private final Workers workers;
    private final OnDemand sky;
    private final LocalIndexes locals;

    /** Scales at which frames were recognised, arcseconds a pixel. */
    private final Set<Double> proven = ConcurrentHashMap.newKeySet();

    /** With the index of the whole sky in memory only. */
    public PlateSolver(StarCatalogue catalogue, Workers workers) {
        this(catalogue, workers, Optional.empty());
    }

    /**
     * @param kept folder in which the index of the whole sky is kept from one run to the next
     */
    public PlateSolver(StarCatalogue catalogue, Workers workers, Optional<Path> kept) {
        this.known = catalogue;
        this.catalogue = catalogue;
        this.workers = workers;
        this.locals = locals(catalogue, workers);
        this.sky = new OnDemand(catalogue, workers, kept);
    }

    private PlateSolver(PlateSolver other, StarCatalogue catalogue, LocalIndexes locals, Workers workers) {
        this.known = other.known;
        this.catalogue = catalogue;
        this.workers = workers;
        this.sky = other.sky;
        this.locals = locals;
    }

    /** With the same indexes, on one core, and without what it has learned of earlier frames: for one of many nights at a time. */
    public PlateSolver forAnother() {
        return new PlateSolver(this, catalogue, locals, Workers.SERIAL);
    }

    /** As it would be with more stars in the neighbourhoods that it is asked about; {@link #catalogue} stays what is really known. */
    public PlateSolver asIfKnown(StarCatalogue more) {
        return new PlateSolver(this, more, locals(more, workers), workers);
    }

    private static LocalIndexes locals(StarCatalogue catalogue, Workers workers) {
        return new LocalIndexes(
                catalogue,
                workers,
                new LocalIndexes.Sizes(FEWEST_LOCAL_STARS, MOST_LOCAL_STARS, LOCAL_STARS_A_FIELD, LOCAL_NEIGHBOURS));
    }

    /** The stars that are known. */
    public StarCatalogue catalogue() {
        return known;
    }

    /** Prepares the index of the whole sky, which otherwise is made when it is first asked for. Goes on where it was stopped. */
    public void prepare(Progress progress) {
        sky.get(progress);
    }

    /** The index of the whole sky is only needed blind: built, or opened, when first asked for. */
    private static final class OnDemand {
        private final StarCatalogue catalogue;
        private final Workers workers;
        private final Optional<Path> kept;
        private PatternIndex index;

        OnDemand(StarCatalogue catalogue, Workers workers, Optional<Path> kept) {
            this.catalogue = catalogue;
            this.workers = workers;
            this.kept = kept;
        }

        synchronized PatternIndex get(Progress progress) {
            if (index == null) {
                int[] all = catalogue.brightestFirst(IntStream.range(0, catalogue.size()));
                PatternIndex.Plan plan = new PatternIndex.Plan(levels(catalogue, all), SKY_NEIGHBOURS);
                index = kept.map(folder -> PatternIndex.kept(folder, catalogue, all, plan, workers, progress))
                        .orElseGet(() -> PatternIndex.build(catalogue, all, plan, workers));
            }
            return index;
        }

        private static int[] levels(StarCatalogue catalogue, int[] brightestFirst) {
            int most = Math.min(brightestFirst.length, MOST_INDEXED_STARS);
            List<Integer> sizes = new ArrayList<>();
            int last = 0;
            for (int size : SKY_LEVELS) {
                if (size < most) {
                    sizes.add(size);
                    last = size;
                }
            }
            double limit = last == 0 ? 0 : catalogue.magnitude(brightestFirst[last - 1]);
            int size = last;
            while (size < most) {
                limit += NEXT_LEVEL_MAGNITUDES;
                while (size < most && catalogue.magnitude(brightestFirst[size]) < limit) {
                    size++;
                }
                if (size == most || size > WORTH_A_LEVEL * last) {
                    sizes.add(size);
                    last = size;
                }
            }
            return sizes.stream().mapToInt(Integer::intValue).toArray();
        }
    }

    /** Recognises a frame by its stars. */
    public SolveResult solve(StarField field, SolveHints hints) {
        if (field.stars().size() < FEWEST_STARS) {
            return new NoSolution("Only " + field.stars().size() + " stars were found and " + FEWEST_STARS
                    + " are needed: look for cloud, a cap or a far-off focus, or expose longer.");
        }
        FramePatterns patterns = patterns(field.stars(), IMAGE_NEIGHBOURS);
        Optional<PlateSolution> found = Optional.empty();
        if (hints.near().isPresent()) {
            PatternIndex local = locals.about(field, hints);
            found = search(field, patterns, local, hints)
                    .or(() -> search(field, patterns(field.stars(), FAR_NEIGHBOURS), local, hints));
            if (found.isEmpty() && hints.scaleArcsecPerPixel().isPresent()) {
                Verifier verifier = new Verifier(field, catalogue, hints.epochYear());
                SolveHints roughly = hints.withScale(hints.scaleArcsecPerPixel().getAsDouble(), ROUGH_SCALE);
                found = FewStars.find(field, catalogue, hints, verifier)
                        .or(() -> search(field, patterns, local, hints.withoutScale()))
                        .or(() -> FewStars.find(field, catalogue, roughly, verifier));
            }
        }
        if (found.isEmpty() && (hints.elsewhere() || hints.near().isEmpty())) {
            PatternIndex all = sky.get(Progress.NONE);
            found = search(field, patterns, all, hints.withoutPlace());
            if (found.isEmpty() && hints.scaleArcsecPerPixel().isPresent()) {
                found = search(field, patterns, all, hints.withoutPlace().withoutScale());
            }
        }
        found.ifPresent(s -> proven.add(s.scaleArcsecPerPixel()));
        return found.<SolveResult>map(s -> s.withWrongHints(hints.wrongIn(s)))
                .orElseGet(() -> new NoSolution(reason(field, hints)));
    }

    /**
     * The solution of the first pattern that has one. Patterns are tried on all cores, a growing block at a time: most frames are
     * recognised by one of their first. What a search has tried counts against the odds of what it finds, and against its own only: a
     * search that found nothing among millions says nothing of the next, which has its own share of the odds that are allowed
     * ({@link Verifier#stands}, Bonferroni's inequality).
     */
    private Optional<PlateSolution> search(
            StarField field, FramePatterns patterns, PatternIndex index, SolveHints hints) {
        Verifier verifier = new Verifier(field, catalogue, hints.epochYear());
        int block = FIRST_BLOCK;
        long tried = 0;
        List<int[]> some = patterns.block(0, block);
        for (int from = 0; !some.isEmpty(); some = patterns.block(from, block)) {
            List<int[]> tries = some;
            List<List<PlateSolution>> found = new ArrayList<>(Collections.nCopies(some.size(), List.of()));
            int[] counts = new int[some.size()];
            AtomicInteger first = new AtomicInteger(Integer.MAX_VALUE);
            long before = tried;
            workers.forEach(some.size(), i -> {
                if (i < first.get()) {
                    found.set(i, byPattern(field, tries.get(i), index, hints, verifier, counts, i));
                    // Only what stands however much was tried ends the search of the other cores: what they have tried
                    // or
                    // not by then must change nothing.
                    if (found.get(i).stream().anyMatch(s -> Verifier.stands(s, before + MOST_TRIED_IN_A_BLOCK))) {
                        first.accumulateAndGet(i, Math::min);
                    }
                }
            });
            // What the other cores tried beyond the first that stands is left out, so that the odds are the same in
            // every run.
            for (int i = 0; i < some.size(); i++) {
                tried += counts[i];
                for (PlateSolution s : found.get(i)) {
                    if (Verifier.stands(s, tried)) {
                        return Optional.of(s.withTried(tried));
                    }
                }
            }
            from += block;
            block = Math.min(LARGEST_BLOCK, 2 * block);
        }
        return Optional.empty();
    }

    private static List<PlateSolution> byPattern(
            StarField field,
            int[] four,
            PatternIndex index,
            SolveHints hints,
            Verifier verifier,
            int[] counts,
            int at) {
        List<Star> stars = field.stars();
        double[] code = new double[FourStars.LENGTH];
        double[] x = new double[4];
        double[] y = new double[4];
        FourStars.code(
                four, (s, axis) -> axis == 0 ? stars.get(s).x() : stars.get(s).y(), 2, code);
        for (int k = 0; k < 4; k++) {
            x[k] = stars.get(four[k]).x();
            y[k] = stars.get(four[k]).y();
        }
        List<PlateSolution> found = new ArrayList<>(1);
        index.lookUp(code, CODE_TOLERANCE, pattern -> {
            if (found.isEmpty()) {
                candidate(field, pattern, x, y, hints)
                        .flatMap(wcs -> {
                            counts[at]++;
                            return verifier.verify(wcs);
                        })
                        .filter(s -> hints.allowsScale(s.scaleArcsecPerPixel()) && hints.allowsCentre(s.centre()))
                        .ifPresent(found::add);
            }
        });
        return found;
    }

    private static Optional<Wcs> candidate(StarField field, double[][] sky, double[] x, double[] y, SolveHints hints) {
        return Candidate.fit(x, y, sky)
                .filter(wcs -> hints.allowsScale(wcs.scaleArcsecPerPixel()))
                .filter(wcs -> hints.allowsCentre(wcs.toSky(field.width() / 2.0, field.height() / 2.0)));
    }

    private static FramePatterns patterns(List<Star> stars, int neighbours) {
        return new FramePatterns(stars, IMAGE_LEVELS, neighbours);
    }

    /**
     * Why a frame may not have been recognised, by what was measured in it. Grains of noise are no stars and have neither size nor shape;
     * a scale at which frames were recognised before is not to blame.
     */
    private String reason(StarField field, SolveHints hints) {
        List<Star> sure =
                field.stars().stream().filter(s -> s.snr() >= SURE_SNR).toList();
        if (sure.size() < FEWEST_STARS) {
            return String.format(
                    Locale.ROOT,
                    "Of %d points found only %d stand well out of the noise: look for cloud, dew or a cap; else expose longer.",
                    field.stars().size(),
                    sure.size());
        }
        double hfr = field.medianHalfFluxRadiusPx().orElse(0);
        double eccentricity = field.medianEccentricity().orElse(0);
        if (eccentricity > TRAILED_ECCENTRICITY) {
            return "The stars are trailed: check tracking, wind and balance, then expose shorter.";
        }
        if (hfr > SWOLLEN_HFR_PX) {
            return "The stars are swollen (half-flux radius " + Math.round(hfr)
                    + " px): they are far out of focus, or seen through cloud or dew.";
        }
        if (hints.scaleArcsecPerPixel().isPresent() && catalogueStarsInFrame(field, hints) < FEWEST_STARS) {
            return String.format(
                    Locale.ROOT,
                    "The catalogue holds some %.0f stars in a field of %.1f° here, and %d are needed to be sure: add a deeper table"
                            + " of stars, or keep the stars of a wider picture of this region.",
                    catalogueStarsInFrame(field, hints),
                    field.width() * hints.scaleArcsecPerPixel().getAsDouble() / 3600,
                    FEWEST_STARS);
        }
        if (hints.scaleArcsecPerPixel().isPresent()) {
            double scale = hints.scaleArcsecPerPixel().getAsDouble();
            return field.stars().size() + " stars were found but no pattern fits the sky at "
                    + String.format(Locale.ROOT, "%.2f", scale)
                    + (isProven(scale)
                            ? "″ per pixel, at which other frames were recognised: some may be no stars, or the catalogue holds others here."
                            : "″ per pixel: check the focal length and pixel size, or solve without the scale.");
        }
        return field.stars().size()
                + " stars were found but no pattern fits the catalogue: the field may be too narrow for it,"
                + " or the points are not stars.";
    }

    private boolean isProven(double scale) {
        return proven.stream().anyMatch(p -> Math.abs(p / scale - 1) < SAME_SCALE);
    }

    /** How many catalogue stars a frame of the hinted scale holds, on average over where it may be. */
    private double catalogueStarsInFrame(StarField field, SolveHints hints) {
        double scale = hints.scaleArcsecPerPixel().orElseThrow() / 3600;
        double widthDeg = field.width() * scale;
        double heightDeg = field.height() * scale;
        if (hints.near().isEmpty()) {
            return catalogue.size() * widthDeg * heightDeg / SQUARE_DEGREES_OF_THE_SKY;
        }
        double radius = Math.min(180, Math.max(hints.radiusDeg(), Math.hypot(widthDeg, heightDeg) / 2));
        int around = catalogue.indicesWithin(hints.near().get(), radius).length;
        return around * widthDeg * heightDeg / LocalIndexes.capSquareDegrees(radius);
    }
}
