package app.ironside.calibrate;

import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;

/**
 * What calibration frames and the master made of them show of themselves, before any light is asked: whether light came in, whether the
 * level held, whether flats are well exposed and even, whether averaging lowered the noise as it should, and which gain the photons tell.
 *
 * @param remarks in the order of their weight for the person: what speaks against the master first
 */
public record MasterVerdict(List<Remark> remarks) {
    /** Rows of every frame that are held against each other. */
    private static final int STRIP_ROWS = 96;

    /** Light that came in, against the noise of one frame: less does no harm that could be seen. */
    private static final double LEAST_LEAK_NOISES = 0.25;

    private static final double SURE_SIGMAS = 5;

    /** Levels of darks may wander by this share of a frame's noise. */
    private static final double LEVEL_NOISES = 0.3;

    /** Flats between these shares of the full range are straight and have light enough; common practice. */
    private static final double LOWEST_FLAT = 0.2;

    private static final double HIGHEST_FLAT = 0.8;

    /** Where the header does not tell where the sensor is full. */
    private static final double LOWEST_UNTOLD = 0.03;

    private static final double MOST_SATURATED = 1e-4;

    /** From one flat to the next the level jumps by more than this: the panel flickers, or the shutter is as fast as the exposure. */
    private static final double FLICKER = 0.01;

    /** A slope across a flat beyond this is no falling-off of optics. */
    private static final double SLOPE = 0.06;

    private static final double EVEN = 0.005;

    /** The noise of N frames is this much more than one's over √N before anything is said. */
    private static final double MORE_NOISE = 1.2;

    private static final double GAIN_OFF = 0.1;
    private static final double LEAST_SPECK = 0.003;

    public MasterVerdict {
        remarks = List.copyOf(remarks);
    }

    /** What a remark is about. */
    public enum About {
        LEAK,
        LEVEL,
        EXPOSURE,
        SATURATION,
        SLOPE,
        DUST,
        GAIN,
        NOISE
    }

    /**
     * One thing that was looked at.
     *
     * @param against whether it speaks against the master
     */
    public record Remark(About about, boolean against, String sentence) {}

    /** Whether nothing speaks against the master. */
    public boolean isSound() {
        return remarks.stream().noneMatch(Remark::against);
    }

    public List<String> sentences() {
        return remarks.stream().map(Remark::sentence).toList();
    }

    /** Whether something of a kind speaks against it. */
    public boolean isAgainst(About about) {
        return remarks.stream().anyMatch(r -> r.about() == about && r.against());
    }

    /**
     * Looks at a set and its master.
     *
     * @param files the set, at least one
     * @param master made of it
     * @param under what was taken off flats
     */
    public static MasterVerdict of(MasterKind kind, List<Path> files, Frame master, Optional<MasterPixels> under) {
        List<FitsBands> sources = new ArrayList<>();
        try {
            files.forEach(f -> sources.add(FitsBands.open(f)));
            return new Looking(kind, sources, master, under).verdict();
        } finally {
            sources.forEach(FitsBands::close);
        }
    }

    /** One look. */
    private static final class Looking {
        private final MasterKind kind;
        private final List<FitsBands> sources;
        private final Frame master;
        private final Optional<MasterPixels> under;
        private final boolean mosaic;
        private final CellMap cells;
        private final int firstRow;
        private final float[][] strips;
        private final double[] levels;
        private final List<Remark> remarks = new ArrayList<>();

        Looking(MasterKind kind, List<FitsBands> sources, Frame master, Optional<MasterPixels> under) {
            this.kind = kind;
            this.sources = sources;
            this.master = master;
            this.under = under;
            this.mosaic = Mosaic.of(sources.get(0).header()).isPresent();
            this.cells = CellMap.of(master, mosaic);
            int rows = Math.min(STRIP_ROWS, master.height());
            this.firstRow = (master.height() - rows) / 2 / 2 * 2;
            this.strips = new float[sources.size()][];
            this.levels = new double[sources.size()];
            for (int i = 0; i < strips.length; i++) {
                strips[i] = lessUnder(sources.get(i).rows(firstRow, rows));
                levels[i] = Statistics.median(finite(strips[i]));
            }
        }

        private float[] lessUnder(float[] strip) {
            under.map(u -> u.rows(firstRow, strip.length / master.width())).ifPresent(rows -> {
                for (int i = 0; i < strip.length; i++) {
                    strip[i] -= rows[i];
                }
            });
            return strip;
        }

        MasterVerdict verdict() {
            OptionalDouble one = noiseOfOne();
            if (kind == MasterKind.FLAT) {
                exposure();
                flicker();
                slope();
                gain();
                dust();
            } else if (one.isPresent()) {
                leak(one.getAsDouble());
                level(one.getAsDouble());
            }
            one.ifPresentOrElse(
                    this::noise,
                    () -> remarks.add(
                            new Remark(
                                    About.NOISE,
                                    false,
                                    "One frame alone: its noise goes into every light, and nothing tells it from the sensor.")));
            remarks.sort((a, b) -> Boolean.compare(b.against(), a.against()));
            return new MasterVerdict(remarks);
        }

        private void tell(About about, boolean against, String format, Object... values) {
            remarks.add(new Remark(about, against, String.format(Locale.ROOT, format, values)));
        }

        /** Of one frame: what neighbours in the set differ by, over √2; flats as shares of their level. */
        private OptionalDouble noiseOfOne() {
            double[] found = IntStream.range(1, Math.min(7, strips.length))
                    .mapToDouble(i -> spread(levelled(i - 1), levelled(i)) / Math.sqrt(2))
                    .filter(Double::isFinite)
                    .toArray();
            return found.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(Statistics.median(found));
        }

        private float[] levelled(int i) {
            float[] strip = strips[i].clone();
            for (int k = 0; k < strip.length; k++) {
                strip[k] = (float) (kind == MasterKind.FLAT ? strip[k] / levels[i] : strip[k] - levels[i]);
            }
            return strip;
        }

        private static double spread(float[] a, float[] b) {
            float[] difference = new float[a.length];
            for (int i = 0; i < a.length; i++) {
                difference[i] = a[i] - b[i];
            }
            float[] sound = finite(difference);
            return sound.length == 0 ? Double.NaN : Statistics.robust(sound).sigma();
        }

        private static float[] finite(float[] values) {
            float[] sound = new float[values.length];
            int n = 0;
            for (float v : values) {
                if (Float.isFinite(v)) {
                    sound[n++] = v;
                }
            }
            return Arrays.copyOf(sound, n);
        }

        /** Half the set against the other half: what they share by chance of the moment does not average out. */
        private void noise(double one) {
            int n = strips.length / 2 * 2;
            if (n < 4) {
                tell(
                        About.NOISE,
                        false,
                        "Noise %s; %d frames lower it by √%d.",
                        amount(one),
                        strips.length,
                        strips.length);
                return;
            }
            double measured = spread(mean(0, n), mean(1, n)) / 2;
            double expected = one / Math.sqrt(n);
            boolean against = measured > MORE_NOISE * expected;
            tell(
                    About.NOISE,
                    against,
                    against
                            ? "%d frames leave a noise of %s, %.1f times what they should (%s): something in them changes from frame to"
                                    + " frame."
                            : "%d frames leave a noise of %s, %.2f times what is to be expected (%s).",
                    n,
                    amount(measured),
                    measured / expected,
                    amount(expected));
        }

        private String amount(double noise) {
            return kind == MasterKind.FLAT
                    ? String.format(Locale.ROOT, "%.3f %%", 100 * noise)
                    : String.format(Locale.ROOT, "%.2f ADU", noise);
        }

        private float[] mean(int from, int n) {
            float[] mean = new float[strips[0].length];
            for (int i = from; i < n; i += 2) {
                float[] one = levelled(i);
                for (int k = 0; k < mean.length; k++) {
                    mean[k] += one[k] * 2 / n;
                }
            }
            return mean;
        }

        /**
         * Light that came in lies at the edges, and other light comes into the next frame; a sensor's own glow is the same in each.
         */
        private void leak(double one) {
            Edges all = Edges.of(cells);
            double stands = Math.max(LEAST_LEAK_NOISES * one, SURE_SIGMAS * all.error());
            if (!(all.most() > stands)) {
                tell(About.LEAK, false, "No edge is brighter than the middle by more than %.1f ADU.", stands);
                return;
            }
            double[] each = IntStream.of(0, sources.size() / 2, sources.size() - 1)
                    .distinct()
                    .mapToObj(sources::get)
                    .mapToDouble(s -> Edges.of(CellMap.of(s.frame(), mosaic)).at(all.where()))
                    .toArray();
            double changes = Arrays.stream(each).max().orElseThrow()
                    - Arrays.stream(each).min().orElseThrow();
            boolean moves = changes > Math.max(0.2 * all.most(), stands);
            tell(
                    About.LEAK,
                    moves || kind == MasterKind.BIAS,
                    moves
                            ? "The %s edge is %.1f ADU brighter than the middle, and by %.1f ADU more in one frame than in another: light came"
                                    + " in. Cover the camera and take them again."
                            : kind == MasterKind.BIAS
                                    ? "The %s edge is %.1f ADU brighter than the middle: the shortest exposures show no glow, so light comes"
                                            + " in, or the sensor is read unevenly."
                                    : "The %s edge is %.1f ADU brighter than the middle, alike in all frames (within %.1f ADU): the sensor's"
                                            + " own glow, or a leak as steady. A dark taken in a dark room tells them apart; never scale this one.",
                    all.name(),
                    all.most(),
                    changes);
        }

        private void level(double one) {
            double lowest = Arrays.stream(levels).min().orElseThrow();
            double highest = Arrays.stream(levels).max().orElseThrow();
            boolean against = highest - lowest > Math.max(LEVEL_NOISES * one, 1);
            tell(
                    About.LEVEL,
                    against,
                    against
                            ? "The level goes from %.1f to %.1f ADU within the set: the temperature did not hold, or light came in."
                            : "The level holds between %.1f and %.1f ADU.",
                    lowest,
                    highest);
        }

        private double full() {
            Header header = sources.get(0).header();
            return header.number("SATURATE").orElse(65535);
        }

        private void exposure() {
            FitsBands middle = sources.get(sources.size() / 2);
            double zero = under.map(u -> Statistics.median(finite(u.rows(firstRow, strips[0].length / master.width()))))
                    .orElse(middle.header().number("PEDESTAL").orElse(0.0));
            double level = levels[sources.size() / 2] - (under.isPresent() ? 0 : zero);
            double share = level / (full() - zero);
            // A camera of 12 or 14 bits fills only part of the numbers that a file could hold.
            boolean told = middle.header().number("SATURATE").isPresent();
            double lowest = told ? LOWEST_FLAT : LOWEST_UNTOLD;
            String range = told ? "the full range" : "the 65,535 that a file holds (their header names no limit)";
            boolean against = share < lowest || share > HIGHEST_FLAT;
            tell(
                    About.EXPOSURE,
                    against,
                    share < lowest
                            ? "The flats lie at %.0f %% of %s: too dark, their noise goes into every light. Expose %.1f times as long."
                            : share > HIGHEST_FLAT
                                    ? "The flats lie at %.0f %% of %s, where few sensors are straight. Expose %.2f times as long."
                                    : "The flats lie at %.0f %% of %s.",
                    100 * share,
                    range,
                    0.45 / share);
            float[] pixels = middle.frame().pixels();
            double limit = 0.98 * full();
            long burnt = IntStream.range(0, pixels.length)
                    .filter(i -> pixels[i] >= limit)
                    .count();
            if (burnt > MOST_SATURATED * pixels.length) {
                tell(
                        About.SATURATION,
                        true,
                        "%.2f %% of a flat's pixels are full: they tell nothing of the light there.",
                        100.0 * burnt / pixels.length);
            }
        }

        /** A sky that darkens goes one way; a panel that flickers goes to and fro. */
        private void flicker() {
            if (levels.length < 3) {
                return;
            }
            double[] bends = IntStream.range(1, levels.length - 1)
                    .mapToDouble(i -> levels[i] - (levels[i - 1] + levels[i + 1]) / 2)
                    .toArray();
            double middle = Statistics.median(levels);
            double jumps =
                    Math.sqrt(Arrays.stream(bends).map(b -> b * b).average().orElseThrow() / 1.5) / middle;
            double went = levels[levels.length - 1] / levels[0] - 1;
            boolean against = jumps > FLICKER;
            OptionalDouble seconds = sources.get(0).header().exposureSeconds();
            String exposure = seconds.isPresent() ? plain(seconds.getAsDouble()) : "?";
            tell(
                    About.LEVEL,
                    against,
                    against
                            ? "The flats' level jumps by %.1f %% from one to the next: the light flickers, or %s s is too short for it. Dim it"
                                    + " and expose longer."
                            : Math.abs(went) > 0.05
                                    ? "The flats' level holds to %.1f %% from one to the next and goes by "
                                            + signedPercent(went) + " over the set of %s s exposures, as a sky does."
                                    : "The flats' level holds to %.1f %% from one to the next (%s s).",
                    100 * jumps,
                    exposure);
        }

        private static String signedPercent(double share) {
            return String.format(Locale.ROOT, "%+.0f %%%%", 100 * share);
        }

        private static String plain(double seconds) {
            return String.format(Locale.ROOT, seconds < 1 ? "%.2f" : "%.1f", seconds);
        }

        private void slope() {
            double[] slope = cells.slope();
            double most = Math.max(Math.abs(slope[0]), Math.abs(slope[1]));
            boolean across = Math.abs(slope[0]) >= Math.abs(slope[1]);
            String brighter = across ? slope[0] > 0 ? "right" : "left" : slope[1] > 0 ? "upper" : "lower";
            boolean against = most > SLOPE;
            if (most < EVEN) {
                tell(About.SLOPE, false, "From edge to edge it is even to %.1f %%.", 100 * EVEN);
                return;
            }
            tell(
                    About.SLOPE,
                    against,
                    against
                            ? "The %s side is %.1f %% brighter than the opposite one, beyond what falls off around the middle: the panel stood"
                                    + " askew, the sky was uneven, or the optics sit off the sensor's middle."
                            : "The %s side is %.1f %% brighter than the opposite one.",
                    brighter,
                    100 * most);
        }

        private void dust() {
            double[] small = cells.smallStructure();
            double sigma = Statistics.noise(
                    Arrays.stream(small).filter(Double::isFinite).toArray());
            double least = Math.max(LEAST_SPECK, SURE_SIGMAS * sigma);
            double deepest = Arrays.stream(small).filter(Double::isFinite).min().orElse(0);
            if (deepest > -least) {
                tell(About.DUST, false, "No dust takes more than %.1f %% of the light.", 100 * least);
            } else {
                tell(
                        About.DUST,
                        false,
                        "Dust is in it, which is what it is for: the deepest speck takes %.1f %% of the light.",
                        -100 * deepest);
            }
        }

        /**
         * Photon transfer: of two flats the variance of their difference is twice the level over the gain (Janesick 2001, Scientific
         * Charge-Coupled Devices, ch. 2). Read noise is far below at a flat's level.
         */
        private void gain() {
            if (strips.length < 2 || under.isEmpty()) {
                return;
            }
            double[] gains = IntStream.range(1, Math.min(7, strips.length))
                    .mapToDouble(i -> gain(i - 1, i))
                    .filter(Double::isFinite)
                    .toArray();
            if (gains.length == 0) {
                return;
            }
            double measured = Statistics.median(gains);
            OptionalDouble told = sources.get(0).header().number("EGAIN");
            if (told.isEmpty()) {
                tell(About.GAIN, false, "Their photons tell %.2f electrons per ADU.", measured);
                return;
            }
            boolean against = Math.abs(measured / told.getAsDouble() - 1) > GAIN_OFF;
            tell(
                    About.GAIN,
                    against,
                    against
                            ? "Their photons tell %.2f electrons per ADU, their header %.2f: they were taken with another gain than it says, or"
                                    + " its number is wrong."
                            : "Their photons tell %.2f electrons per ADU, as their header does (%.2f).",
                    measured,
                    told.getAsDouble());
        }

        /** By places of one colour, in which the light is nearly the same. */
        private double gain(int a, int b) {
            int step = mosaic ? 2 : 1;
            int width = master.width();
            int left = width / 3 / 2 * 2;
            int right = width - left;
            float[] differences = new float[strips[a].length];
            int n = 0;
            double ratio = levels[a] / levels[b];
            double sum = 0;
            for (int row = 0; row < strips[a].length / width; row += step) {
                for (int x = left; x < right; x += step) {
                    float va = strips[a][row * width + x];
                    float vb = (float) (strips[b][row * width + x] * ratio);
                    if (Float.isFinite(va - vb)) {
                        differences[n++] = va - vb;
                        sum += va;
                    }
                }
            }
            if (n < 100) {
                return Double.NaN;
            }
            double sigma = Statistics.robust(Arrays.copyOf(differences, n)).sigma();
            // The other flat's noise was scaled with its level.
            return sum / n * (1 + ratio) / (sigma * sigma);
        }
    }

    /**
     * How much brighter each edge is than the middle.
     *
     * @param excess left, right, lower, upper, ADU
     * @param error of one of them
     */
    private record Edges(double[] excess, double error) {
        private static final String[] NAMES = {"left", "right", "lower", "upper"};

        static Edges of(CellMap map) {
            return new Edges(map.edges(), map.edgeError());
        }

        int where() {
            return IntStream.range(0, 4)
                    .reduce((a, b) -> excess[b] > excess[a] ? b : a)
                    .orElseThrow();
        }

        double most() {
            return excess[where()];
        }

        double at(int which) {
            return excess[which];
        }

        String name() {
            return NAMES[where()];
        }
    }
}
