package app.ironside.stack;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import app.ironside.judge.BlockNoise;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.Looks;
import app.ironside.solve.PlaneTransform;
import app.ironside.solve.Registration;
import app.ironside.solve.Wcs;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Stacks subs: measures each, grades them, chooses the reference, registers the others on it by their stars, brings each to the reference's
 * light and sky, and then, band by band, rejects what does not belong and averages by weight. Frames of a mosaic give a plane for each
 * colour.
 */
public final class Stacker {
    private static final List<Mosaic.Plane> ONE_PLANE = List.of(Mosaic.Plane.GREY);
    private static final List<Mosaic.Plane> COLOURS = List.of(Mosaic.Plane.RED, Mosaic.Plane.GREEN, Mosaic.Plane.BLUE);

    /** Stars of a sub that lies well on the reference are nearer to theirs; beyond it is another field, or drawn out of shape. */
    private static final double WORST_FIT_PX = 1.5;

    /** Frames of more pixels are measured one at a time: two of them would double the memory. */
    private static final long LARGE_PIXELS = 8_000_000;

    private final StarSearch finder;
    private final Workers workers;
    private final StackSettings settings;

    public Stacker(StarSearch finder, Workers workers, StackSettings settings) {
        this.finder = finder;
        this.workers = workers;
        this.settings = settings;
    }

    /**
     * Stacks files.
     *
     * @param files raw lights (or calibrated ones, with a calibrator that has no masters), at least 1
     * @throws BadInputException if a file is no whole FITS image, or sizes or mosaics differ
     * @throws NothingToStack if none can be kept
     */
    public StackResult stack(List<Path> files, Calibrator calibrator, Progress progress) {
        return stack(files.stream().map(f -> new Light(f, calibrator)).toList(), Optional.empty(), progress);
    }

    /** A raw light with its own calibration. */
    public record Light(Path file, Calibrator calibrator) {}

    /**
     * The pixels that stacks of several filters share.
     *
     * @param field stars to align by
     */
    public record Grid(String name, StarField field) {}

    /**
     * As above, each light with its own calibration: of several nights, or exposures.
     *
     * @param grid onto which it is laid; empty for the reference's own
     */
    public StackResult stack(List<Light> lights, Optional<Grid> grid, Progress progress) {
        Check.atLeast("lights", lights.size(), 1);
        List<Sub> subs = new ArrayList<>();
        try {
            measure(lights, progress, subs);
            List<StackResult.Rejected> rejected = new ArrayList<>();
            List<Sub> good = chosen(subs, rejected);
            if (good.isEmpty()) {
                throw new NothingToStack(count(lights) + ": none can be kept to align by its stars", rejected);
            }
            Sub reference = good.stream()
                    .min(Comparator.comparingDouble(Sub::referenceCost))
                    .orElseThrow();
            Grid laid = grid.orElseGet(() -> new Grid(
                    reference.source().file().toString(), reference.look().field()));
            List<Placed> placed = place(laid, reference, good, rejected, progress);
            if (placed.isEmpty()) {
                throw new NothingToStack(count(lights) + ": none shows the stars of " + laid.name(), rejected);
            }
            return combine(laid, reference, placed, rejected, progress);
        } finally {
            subs.forEach(s -> s.source().close());
        }
    }

    private static String count(List<Light> lights) {
        return lights.size() == 1 ? lights.get(0).file().toString() : lights.size() + " lights";
    }

    private void measure(List<Light> lights, Progress progress, List<Sub> subs) {
        Looks looks = new Looks(finder);
        for (int i = 0; i < lights.size(); i++) {
            FitsBands source = FitsBands.open(lights.get(i).file());
            Optional<Mosaic> mosaic = Mosaic.of(source.header());
            Calibrator calibrator = lights.get(i).calibrator();
            subs.add(
                    new Sub(source, mosaic.isPresent() ? calibrator.forMosaic() : calibrator, mosaic, null, List.of()));
            mustMatch(subs.get(0), subs.get(i));
            lights.get(i).calibrator().mustFit(source.width(), source.height());
        }
        mustHold(subs.get(0));
        boolean small =
                (long) subs.get(0).source().width() * subs.get(0).source().height() < LARGE_PIXELS;
        AtomicInteger done = new AtomicInteger();
        (small ? workers : Workers.SERIAL).forEach(lights.size(), i -> {
            progress.step(
                    "measuring " + lights.get(i).file().getFileName(), 0.4 * done.getAndIncrement() / lights.size());
            subs.set(i, measured(subs.get(i), looks));
        });
    }

    /** A finer grid lies in memory whole, and once more while its stars are looked for. */
    private void mustHold(Sub first) {
        if (settings.drizzle().isEmpty()) {
            return;
        }
        double scale = settings.drizzle().get().scale();
        int planes = planes(first.mosaic()).size();
        double pixels = (double) first.source().width() * first.source().height();
        double megabytes = pixels * Float.BYTES * (planes + (planes + 1) * scale * scale) / (1 << 20);
        if (megabytes > settings.maxMemoryBytes() / (double) (1 << 20)) {
            throw new BadInputException(
                    first.source().file().toString(),
                    String.format(
                            java.util.Locale.ROOT,
                            "takes %.0f MB for pixels %s times as fine; %d are allowed",
                            megabytes,
                            settings.drizzle().get().times(),
                            settings.maxMemoryBytes() >> 20),
                    "a coarser grid, or more memory");
        }
    }

    private static Sub measured(Sub opened, Looks looks) {
        FitsBands source = opened.source();
        float[] pixels = source.rows(0, source.height());
        opened.calibrator().apply(pixels, source.width(), 0);
        Frame frame = new Frame(source.width(), source.height(), pixels, source.header());
        return new Sub(
                source,
                opened.calibrator(),
                opened.mosaic(),
                looks.measure(source.file(), frame),
                planes(opened.mosaic()).stream()
                        .map(plane -> SkyGrid.of(frame, opened.mosaic(), plane))
                        .toList());
    }

    private static List<Mosaic.Plane> planes(Optional<Mosaic> mosaic) {
        return mosaic.isPresent() ? COLOURS : ONE_PLANE;
    }

    private static void mustMatch(Sub first, Sub other) {
        FitsBands a = first.source();
        FitsBands b = other.source();
        if (a.width() != b.width() || a.height() != b.height()) {
            throw new BadInputException(
                    b.file().toString(),
                    "is " + b.width() + " x " + b.height() + " pixels",
                    a.width() + " x " + a.height() + " as in " + a.file().getFileName());
        }
        if (first.mosaic().isPresent() != other.mosaic().isPresent()) {
            throw new BadInputException(
                    b.file().toString(),
                    other.mosaic().isPresent() ? "is a mosaic of colours" : "is no mosaic of colours",
                    "frames of one kind of sensor, as in " + a.file().getFileName());
        }
    }

    /** Those that the rule book keeps, or a person; with {@code keepAll} every one with stars of the field. */
    private List<Sub> chosen(List<Sub> subs, List<StackResult.Rejected> rejected) {
        List<Grade> grades = Grader.grade(Looks.of(subs.stream().map(Sub::look).toList()));
        List<Sub> kept = new ArrayList<>();
        for (int i = 0; i < subs.size(); i++) {
            Grade grade = grades.get(i);
            Path file = subs.get(i).source().file();
            Boolean byHand = settings.byHand().get(file);
            boolean keep = byHand != null
                    ? byHand && grade.weight() > 0
                    : settings.keepAll() ? grade.weight() > 0 : grade.keep();
            if (keep) {
                kept.add(subs.get(i));
            } else {
                String why = grade.cause().word() + ": " + grade.reason();
                rejected.add(new StackResult.Rejected(
                        file, Boolean.FALSE.equals(byHand) ? "left out by hand (" + why + ")" : why));
            }
        }
        return kept;
    }

    private List<Placed> place(
            Grid grid, Sub reference, List<Sub> subs, List<StackResult.Rejected> rejected, Progress progress) {
        int width = grid.field().width();
        int height = grid.field().height();
        Map<Sub, Registration> found = new LinkedHashMap<>();
        for (int i = 0; i < subs.size(); i++) {
            Sub sub = subs.get(i);
            progress.step("aligning " + sub.source().file().getFileName(), 0.4 + 0.1 * i / subs.size());
            Optional<Registration> lies = sub.look().field() == grid.field()
                    ? Optional.of(new Registration(
                            PlaneTransform.IDENTITY, grid.field().stars().size(), 0, 1))
                    : Registration.ofBentFields(grid.field(), sub.look().field());
            if (lies.isPresent() && lies.get().rmsPx() <= WORST_FIT_PX) {
                found.put(sub, lies.get());
            } else {
                rejected.add(new StackResult.Rejected(
                        sub.source().file(),
                        lies.isEmpty()
                                ? "wrong-field: its stars do not match the reference's"
                                : String.format(
                                        java.util.Locale.ROOT,
                                        "its stars lie %.1f px from the reference's after the best fit",
                                        lies.get().rmsPx())));
            }
        }
        // The reference may be what does not fit the grid; the light of any other is as good a scale.
        Sub scale = found.containsKey(reference) || found.isEmpty()
                ? reference
                : found.keySet().iterator().next();
        List<Placed> placed = new ArrayList<>();
        found.forEach((sub, lies) -> placed.add(placed(sub, lies, scale, found.get(scale), width, height)));
        return placed;
    }

    private static Placed placed(Sub sub, Registration lies, Sub scale, Registration there, int width, int height) {
        double light = lies.fluxRatio() / there.fluxRatio();
        List<Levelling> levellings = new ArrayList<>();
        for (int plane = 0; plane < sub.skies().size(); plane++) {
            levellings.add(
                    sub == scale
                            ? Levelling.none(width, height)
                            : Levelling.of(
                                    scale.skies().get(plane),
                                    there.transform(),
                                    sub.skies().get(plane),
                                    lies.transform(),
                                    light,
                                    width,
                                    height));
        }
        double noise = Math.max(1e-9, sub.look().noiseAdu());
        return new Placed(sub, lies.transform(), light, Math.pow(light / noise, 2), levellings);
    }

    private StackResult combine(
            Grid grid, Sub reference, List<Placed> placed, List<StackResult.Rejected> rejected, Progress progress) {
        int width = grid.field().width();
        int height = grid.field().height();
        Combiner combiner = new Combiner(workers, settings, placed, width, height);
        Header header = StackHeader.of(grid, reference, placed, settings.rejection(), Optional.empty());
        List<Mosaic.Plane> planes = planes(reference.mosaic());
        List<Frame> interpolated = new ArrayList<>();
        List<float[]> finer = new ArrayList<>();
        for (int i = 0; i < planes.size(); i++) {
            double from = 0.5 + 0.5 * i / planes.size();
            double share = 0.5 / planes.size();
            Combiner.Plane plane =
                    combiner.plane(planes.get(i), i, (what, done) -> progress.report(what, from + share * done));
            interpolated.add(new Frame(width, height, plane.pixels(), header));
            plane.finer().ifPresent(finer::add);
        }
        Seen plain = seen(interpolated, placed, 1);
        Optional<Drizzle> how = settings.drizzle();
        Header finerHeader = StackHeader.of(grid, reference, placed, settings.rejection(), how);
        List<Frame> pictures = combiner.drizzler()
                .map(d -> finer.stream()
                        .map(p -> new Frame(d.width(), d.height(), p, finerHeader))
                        .toList())
                .orElse(interpolated);
        Seen seen = how.map(d -> seen(pictures, placed, d.scale())).orElse(plain);
        double scale = how.map(Drizzle::scale).orElse(1.0);
        return new StackResult(
                seen.picture(),
                pictures,
                grid,
                placed.stream()
                        .map(p -> new StackResult.Contribution(
                                p.sub().source().file(), p.weight() / heaviest(placed), p.footprint(scale)))
                        .toList(),
                List.copyOf(rejected),
                reference.source().file(),
                combiner.rejectedFraction(),
                seen.stars().noiseAdu(),
                Statistics.median(placed.stream()
                        .mapToDouble(p -> p.sub().look().field().noiseAdu())
                        .toArray()),
                Statistics.median(placed.stream()
                        .mapToDouble(p ->
                                p.sub().look().field().medianHalfFluxRadiusPx().orElse(Double.NaN))
                        .toArray()),
                seen.gain(),
                combiner.maps().map(m -> m.of(header, heaviest(placed))),
                combiner.drizzler()
                        .map(d -> new StackResult.Drizzled(
                                how.orElseThrow(),
                                d.spread(),
                                seen.stars().medianFwhmPx().orElse(Double.NaN) / scale,
                                plain.stars().medianFwhmPx().orElse(Double.NaN),
                                plain.gain())));
    }

    /** A picture with its stars and what it gained. */
    private record Seen(Frame picture, StarField stars, StackResult.Gain gain) {}

    /**
     * @param scale pixels of the picture along one of a sub's
     */
    private Seen seen(List<Frame> planes, List<Placed> placed, double scale) {
        Frame picture = planes.size() == 1 ? planes.get(0) : asTheMosaicSees(planes);
        StarField stars = finder.find(picture);
        int block = planes.size() == 1 ? BlockNoise.BLOCK_PX : BlockNoise.MOSAIC_BLOCK_PX;
        // Blocks of as much sky as those of the subs.
        return new Seen(
                picture, stars, gain(placed, BlockNoise.of(picture, stars, (int) Math.round(block * scale)), scale));
    }

    private static double heaviest(List<Placed> placed) {
        return placed.stream().mapToDouble(Placed::weight).max().orElse(1);
    }

    /** One part red, two green, one blue: what four pixels of a mosaic gather, so that its noise can be held against theirs. */
    private static Frame asTheMosaicSees(List<Frame> colours) {
        Frame red = colours.get(0);
        float[] grey = new float[red.pixels().length];
        for (int i = 0; i < grey.length; i++) {
            grey[i] = (red.pixels()[i]
                            + 2 * colours.get(1).pixels()[i]
                            + colours.get(2).pixels()[i])
                    / 4;
        }
        return new Frame(red.width(), red.height(), grey, red.header());
    }

    private static StackResult.Gain gain(List<Placed> placed, BlockNoise.Measured noise, double scale) {
        double[] each = placed.stream().mapToDouble(Placed::signalToNoise).toArray();
        double one = Statistics.median(each);
        double squares = Arrays.stream(each).map(v -> v * v).sum();
        // The stack is on the reference's scale of light, which is 1.
        double measured = scale / Math.max(1e-9, noise.noiseAdu()) / one;
        // A scaled median absolute deviation of n values is known to 1.17 / √n (Rousseeuw and Croux 1993).
        double error = measured * 1.17 / Math.sqrt(Math.max(1, noise.differences()));
        return new StackResult.Gain(measured, Math.sqrt(squares) / one, error);
    }

    /** A stack's header with the WCS of its solution. */
    public static Frame withWcs(Frame picture, Wcs wcs) {
        return picture.withHeader(picture.header()
                .without(Wcs::isWcsKeyword)
                .withAll(wcs.toHeader().values()));
    }
}
