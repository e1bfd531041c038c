package app.ironside.stack;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.solve.PlaneTransform;
import app.ironside.solve.Registration;
import app.ironside.solve.Wcs;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import app.ironside.star.SubLimits;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Stacks subs: measures each, chooses the reference, registers the others on it by their stars, and then, band by band, reads,
 * calibrates, resamples, levels to the reference's background, rejects and averages.
 */
public final class Stacker {

    private final StarSearch finder;
    private final Workers workers;
    private final StackSettings settings;

    public Stacker(StarSearch finder, Workers workers, StackSettings settings) {
        this.finder = finder;
        this.workers = workers;
        this.settings = settings;
    }

    /**
     * A sub with where it lies on the reference.
     *
     * @param light of its stars over the reference's
     */
    private record Placed(Sub sub, PlaneTransform transform, double light, double offsetAdu) {
        double signalToNoise() {
            return light / Math.max(1e-9, sub.noise().noiseAdu());
        }
    }

    /**
     * Stacks files.
     *
     * @param files raw lights (or calibrated ones, with a calibrator that has no masters), at least 1
     * @throws BadInputException if a file is no whole FITS image, sizes differ, or nothing can be kept
     */
    public StackResult stack(List<Path> files, Calibrator calibrator, Progress progress) {
        Check.atLeast("files", files.size(), 1);
        List<Sub> subs = new ArrayList<>();
        try {
            measure(files, calibrator, progress, subs);
            List<StackResult.Rejected> rejected = new ArrayList<>();
            List<Sub> good = settings.keepAll() ? withStars(subs, rejected) : grade(subs, rejected);
            if (good.isEmpty()) {
                throw new BadInputException(
                        files.size() + " lights", "none has stars to align by", "frames of one field, in focus");
            }
            Sub reference = good.stream()
                    .min(Comparator.comparingDouble(Sub::referenceCost))
                    .orElseThrow();
            List<Placed> placed = place(reference, good, rejected, progress);
            return combine(reference, placed, rejected, progress);
        } finally {
            subs.forEach(s -> s.source().close());
        }
    }

    private void measure(List<Path> files, Calibrator calibrator, Progress progress, List<Sub> subs) {
        for (int i = 0; i < files.size(); i++) {
            progress.step("measuring " + files.get(i).getFileName(), 0.4 * i / files.size());
            FitsBands source = FitsBands.open(files.get(i));
            Sub opened =
                    new Sub(source, calibrator, new StarField(1, 1, List.of(), 0, 0), new BlockNoise.Measured(0, 0));
            subs.add(opened);
            mustBeOneColour(source);
            mustMatch(subs.get(0).source(), source);
            calibrator.mustFit(source.width(), source.height());
            Frame frame = new Frame(source.width(), source.height(), opened.rows(0, source.height()), source.header());
            StarField field = finder.find(frame);
            subs.set(i, new Sub(source, calibrator, field, BlockNoise.of(frame, field)));
        }
    }

    /** Pixels of a mosaic have three colours: laid over each other with a shift they would be mixed. */
    private static void mustBeOneColour(FitsBands source) {
        source.header()
                .text("BAYERPAT")
                .filter(pattern -> !pattern.isBlank() && !pattern.equalsIgnoreCase("none"))
                .ifPresent(pattern -> {
                    throw new BadInputException(
                            source.file().toString(),
                            "is a mosaic of colours (BAYERPAT " + pattern + "), which cannot be stacked yet",
                            "frames of one colour, from a camera without a mosaic");
                });
    }

    private static void mustMatch(FitsBands first, FitsBands other) {
        if (first.width() != other.width() || first.height() != other.height()) {
            throw new BadInputException(
                    other.file().toString(),
                    "is " + other.width() + " x " + other.height() + " pixels",
                    first.width() + " x " + first.height() + " as in "
                            + first.file().getFileName());
        }
    }

    private static List<Sub> withStars(List<Sub> subs, List<StackResult.Rejected> rejected) {
        List<Sub> kept = new ArrayList<>();
        for (Sub sub : subs) {
            if (sub.field().stars().size() >= 5) {
                kept.add(sub);
            } else {
                reject(sub, "fewer than 5 stars to align by", rejected);
            }
        }
        return kept;
    }

    private static List<Sub> grade(List<Sub> subs, List<StackResult.Rejected> rejected) {
        List<Sub> starry = withStars(subs, rejected);
        if (starry.size() < 3) {
            return starry;
        }
        double hfr = Statistics.median(starry.stream()
                .mapToDouble(s -> s.field().medianHalfFluxRadiusPx().orElse(99))
                .toArray());
        double stars = Statistics.median(
                starry.stream().mapToDouble(s -> s.field().stars().size()).toArray());
        List<Sub> kept = new ArrayList<>();
        for (Sub sub : starry) {
            double size = sub.field().medianHalfFluxRadiusPx().orElse(99);
            double shape = sub.field().medianEccentricity().orElse(1);
            if (size > SubLimits.SOFT_FACTOR * hfr) {
                reject(
                        sub,
                        String.format(java.util.Locale.ROOT, "soft: %.2f px, the others %.2f", size, hfr),
                        rejected);
            } else if (shape > SubLimits.TRAILED_ECCENTRICITY) {
                reject(sub, String.format(java.util.Locale.ROOT, "trailed: eccentricity %.2f", shape), rejected);
            } else if (sub.field().stars().size() < SubLimits.FEW_STARS_SHARE * stars) {
                reject(sub, "few stars: " + sub.field().stars().size() + " of " + Math.round(stars), rejected);
            } else {
                kept.add(sub);
            }
        }
        return kept;
    }

    private static void reject(Sub sub, String reason, List<StackResult.Rejected> rejected) {
        rejected.add(new StackResult.Rejected(sub.source().file(), reason));
    }

    private List<Placed> place(Sub reference, List<Sub> subs, List<StackResult.Rejected> rejected, Progress progress) {
        List<Placed> placed = new ArrayList<>();
        for (int i = 0; i < subs.size(); i++) {
            Sub sub = subs.get(i);
            progress.step("aligning " + sub.source().file().getFileName(), 0.4 + 0.1 * i / subs.size());
            Optional<Registration> found = sub == reference
                    ? Optional.of(new Registration(
                            PlaneTransform.IDENTITY, sub.field().stars().size(), 0, 1))
                    : Registration.of(reference.field(), sub.field());
            double offset = reference.field().backgroundAdu() - sub.field().backgroundAdu();
            found.ifPresentOrElse(
                    r -> placed.add(new Placed(sub, r.transform(), r.fluxRatio(), offset)),
                    () -> reject(sub, "its stars do not match the reference's", rejected));
        }
        return placed;
    }

    private StackResult combine(
            Sub reference, List<Placed> placed, List<StackResult.Rejected> rejected, Progress progress) {
        int width = reference.source().width();
        int height = reference.source().height();
        float[] out = new float[width * height];
        long[] used = new long[height];
        long[] offered = new long[height];
        // Half for the resampled band of every sub, half for the raw rows being read.
        long bandBytes = (long) width * Float.BYTES * placed.size();
        int rows = (int) Math.max(8, Math.min(height, settings.maxMemoryBytes() / 2 / bandBytes));
        float[][] band = new float[placed.size()][];
        for (int first = 0; first < height; first += rows) {
            int from = first;
            int count = Math.min(rows, height - first);
            progress.step("stacking rows " + (first + 1) + " to " + (first + count), 0.5 + 0.5 * first / height);
            workers.forEach(placed.size(), i -> band[i] = resample(placed.get(i), from, count, width, height));
            workers.forEach(count, row -> {
                float[] values = new float[placed.size()];
                int[] kept = new int[1];
                for (int x = 0; x < width; x++) {
                    int n = 0;
                    for (float[] sub : band) {
                        float v = sub[row * width + x];
                        if (!Float.isNaN(v)) {
                            values[n++] = v;
                        }
                    }
                    out[(from + row) * width + x] = settings.rejection().combine(values, n, kept);
                    offered[from + row] += n;
                    used[from + row] += kept[0];
                }
            });
        }
        Frame picture = new Frame(width, height, out, header(reference, placed));
        double[] subNoise =
                placed.stream().mapToDouble(p -> p.sub().field().noiseAdu()).toArray();
        double[] hfr = placed.stream()
                .mapToDouble(p -> p.sub().field().medianHalfFluxRadiusPx().orElse(Double.NaN))
                .toArray();
        StarField stars = finder.find(picture);
        long values = Arrays.stream(offered).sum();
        return new StackResult(
                picture,
                placed.stream().map(p -> p.sub().source().file()).toList(),
                List.copyOf(rejected),
                reference.source().file(),
                values == 0 ? 0 : 1 - (double) Arrays.stream(used).sum() / values,
                stars.noiseAdu(),
                Statistics.median(subNoise),
                Statistics.median(hfr),
                gain(placed, BlockNoise.of(picture, stars)));
    }

    private static StackResult.Gain gain(List<Placed> placed, BlockNoise.Measured noise) {
        double[] each = placed.stream().mapToDouble(Placed::signalToNoise).toArray();
        double one = Statistics.median(each);
        double light = placed.stream().mapToDouble(Placed::light).average().orElseThrow();
        double squares = Arrays.stream(each).map(v -> v * v).sum();
        double measured = light / Math.max(1e-9, noise.noiseAdu()) / one;
        // A scaled median absolute deviation of n values is known to 1.17 / √n (Rousseeuw and Croux 1993).
        double error = measured * 1.17 / Math.sqrt(Math.max(1, noise.differences()));
        return new StackResult.Gain(measured, Math.sqrt(squares) / one, error);
    }

    /** One sub's contribution to a band of the stack; reads just the rows of the sub that fall into it. */
    private static float[] resample(Placed placed, int firstRow, int rows, int width, int height) {
        float[] out = new float[rows * width];
        PlaneTransform t = placed.transform();
        if (t.equals(PlaneTransform.IDENTITY)) {
            return placed.sub().rows(firstRow, rows);
        }
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (int x : new int[] {1, width}) {
            for (int y : new int[] {firstRow + 1, firstRow + rows}) {
                low = Math.min(low, t.y(x, y));
                high = Math.max(high, t.y(x, y));
            }
        }
        int from = (int) Math.max(0, Math.floor(low) - 1 - Lanczos.REACH);
        int to = (int) Math.min(height, Math.ceil(high) + Lanczos.REACH + 1);
        if (to - from < 2 * Lanczos.REACH) {
            Arrays.fill(out, Float.NaN);
            return out;
        }
        float[] source = placed.sub().rows(from, to - from);
        for (int row = 0; row < rows; row++) {
            for (int x = 1; x <= width; x++) {
                int y = firstRow + row + 1;
                float v = Lanczos.at(source, width, to - from, t.x(x, y) - 1, t.y(x, y) - 1 - from);
                out[row * width + x - 1] = (float) (v + placed.offsetAdu());
            }
        }
        return out;
    }

    /** What all subs say, and what is true of their sum; the cards of one sub do not stand for the stack. */
    private Header header(Sub reference, List<Placed> placed) {
        List<Header> each = placed.stream().map(p -> p.sub().source().header()).toList();
        double seconds =
                each.stream().mapToDouble(h -> h.exposureSeconds().orElse(0)).sum();
        Header own = reference.source().header();
        Header header = Header.shared(each)
                .without(Wcs::isWcsKeyword)
                .withAll(own.without(keyword -> !Wcs.isWcsKeyword(keyword)).values()) // the stack lies on its grid
                .with("NCOMBINE", placed.size())
                .with("EXPTIME", seconds)
                .with("TOTALEXP", seconds)
                .with("IMAGETYP", "Stack")
                .with(
                        "PEDESTAL",
                        own.number("PEDESTAL").orElse(0)
                                + reference.calibrator().pedestalAdu());
        // A mean of N subs counts N times the electrons to a unit.
        OptionalDouble gain = header.number("EGAIN");
        if (gain.isPresent()) {
            header = header.with("EGAIN", gain.getAsDouble() * placed.size());
        }
        header = header.withAll(span(each).values());
        for (String step : reference.calibrator().steps()) {
            header = header.withHistory(step);
        }
        header = header.withHistory("aligned on " + reference.source().file().getFileName() + ", Lanczos-3");
        double x = (reference.source().width() + 1) / 2.0;
        double y = (reference.source().height() + 1) / 2.0;
        for (Placed p : placed) {
            header = header.withHistory(String.format(
                    java.util.Locale.ROOT,
                    "%s middle dx %.2f dy %.2f turn %.3f light %.3f level %+.1f",
                    p.sub().source().file().getFileName(),
                    p.transform().x(x, y) - x,
                    p.transform().y(x, y) - y,
                    p.transform().turnDeg(),
                    p.light(),
                    p.offsetAdu()));
        }
        return header.withHistory(
                "combined by mean, rejection " + settings.rejection().word());
    }

    /** From the first start to the last end (FITS standard 4.0, section 9.5), where every sub tells both. */
    private static Header span(List<Header> each) {
        Header times = Header.EMPTY;
        if (each.stream()
                .allMatch(h -> h.start().isPresent() && h.exposureSeconds().isPresent())) {
            times = times.with(
                            "DATE-OBS",
                            stamp(each.stream()
                                    .map(h -> h.start().orElseThrow())
                                    .min(Comparator.naturalOrder())))
                    .with(
                            "DATE-END",
                            stamp(each.stream()
                                    .map(h -> h.start()
                                            .orElseThrow()
                                            .plusMillis(Math.round(
                                                    1000 * h.exposureSeconds().orElseThrow())))
                                    .max(Comparator.naturalOrder())));
        }
        return times;
    }

    private static String stamp(Optional<Instant> time) {
        return time.orElseThrow().toString().replace("Z", "");
    }

    /** A stack's header with the WCS of its solution. */
    public static Frame withWcs(Frame picture, Wcs wcs) {
        return picture.withHeader(picture.header()
                .without(Wcs::isWcsKeyword)
                .withAll(wcs.toHeader().values()));
    }
}
