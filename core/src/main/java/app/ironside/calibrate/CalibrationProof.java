package app.ironside.calibrate;

import app.ironside.image.Frame;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * Whether masters fit a light, told by the light itself: how its corners stand to its middle before and after, how much of the dust that the
 * flat shows is in the light and how much is left, and whether hot pixels are as bright as the dark has them.
 *
 * @param masters those it is about
 * @param cornersBefore light of the corners over the middle's, less one, with the offset taken off; NaN where that cannot be told
 * @param cornersAfter the same once calibrated
 * @param cornersError of the latter
 * @param dust how much of the flat's small structure is in the light; empty where it has none to tell by, or there is no flat
 * @param hot how bright hot pixels are against the dark's; empty where it has too few, or there is no dark
 */
public record CalibrationProof(
        Masters masters,
        double cornersBefore,
        double cornersAfter,
        double cornersError,
        Optional<Dust> dust,
        Optional<Ratio> hot) {
    /** Stands out of the flat's own noise. */
    private static final double SURE_SIGMAS = 4;

    private static final int FEWEST_DUSTY = 12;
    private static final double LEAST_DUST = 0.002;
    private static final int MOST_HOT = 600;
    private static final int FEWEST_HOT = 20;
    private static final double HOT_SIGMAS = 8;

    /** Standard error of a median over that of a mean, for normal scatter: √(π/2). */
    private static final double MEDIAN_ERROR = Math.sqrt(Math.PI / 2);

    /** A hundredth of the sky is what a gradient of the night leaves as well. */
    private static final double EVEN = 0.01;

    /** An error beyond this and nothing is said of corners. */
    private static final double UNTOLD = 0.03;

    private static final double DUST_LEFT = 0.15;
    private static final double RINGS = -0.5;
    private static final double HOT_OFF = 0.1;

    /** A ratio with its standard error. */
    public record Ratio(double value, double error) {
        boolean isNear(double wanted, double within) {
            return Math.abs(value - wanted) <= within + 2 * error;
        }
    }

    /**
     * The flat's dust in a light: 1 and 0 if it is the light's own.
     *
     * @param before as the light came
     * @param after what is left of it
     */
    public record Dust(Ratio before, Ratio after) {}

    /**
     * By a light.
     *
     * @param raw as the camera gave it
     * @param calibrated by the masters that are asked about
     * @param pedestalAdu that was added to it
     */
    public static CalibrationProof of(Frame raw, Masters masters, Frame calibrated, double pedestalAdu) {
        boolean mosaic = Mosaic.of(raw.header()).isPresent();
        Optional<Frame> base = masters.dark().or(masters::bias).map(MasterPixels::frame);
        CellMap light = CellMap.of(raw, mosaic);
        CellMap before = base.map(b -> light.minus(CellMap.of(b, mosaic)))
                .orElseGet(() -> light.minus(raw.header().number("PEDESTAL").orElse(0)));
        CellMap after = CellMap.of(calibrated, mosaic).minus(pedestalAdu);
        CellMap.Corners was = before.corners();
        CellMap.Corners is = after.corners();
        return new CalibrationProof(
                masters,
                base.isPresent() ? was.share() : Double.NaN,
                is.share(),
                is.error(),
                masters.flat().flatMap(f -> dust(CellMap.of(f.frame(), mosaic), before, after)),
                masters.dark().flatMap(d -> hot(d.frame(), raw, mosaic)));
    }

    private static Optional<Dust> dust(CellMap flat, CellMap before, CellMap after) {
        double[] f = flat.smallStructure();
        double sigma =
                Statistics.noise(Arrays.stream(f).filter(Double::isFinite).toArray());
        double least = Math.max(LEAST_DUST, SURE_SIGMAS * sigma);
        double[] was = before.smallStructure();
        double[] is = after.smallStructure();
        int[] dusty = IntStream.range(0, f.length)
                .filter(i -> Math.abs(f[i]) > least && Double.isFinite(was[i]) && Double.isFinite(is[i]))
                .toArray();
        return dusty.length < FEWEST_DUSTY
                ? Optional.empty()
                : Optional.of(new Dust(slope(f, was, dusty), slope(f, is, dusty)));
    }

    /** Of a line through nothing, by least squares. */
    private static Ratio slope(double[] x, double[] y, int[] which) {
        double xx = 0;
        double xy = 0;
        for (int i : which) {
            xx += x[i] * x[i];
            xy += x[i] * y[i];
        }
        double slope = xy / xx;
        double left = 0;
        for (int i : which) {
            left += (y[i] - slope * x[i]) * (y[i] - slope * x[i]);
        }
        return new Ratio(slope, Math.sqrt(left / Math.max(1, which.length - 1) / xx));
    }

    /** The middle of many ratios: a star on one of them counts for one. */
    static Optional<Ratio> hot(Frame dark, Frame raw, boolean mosaic) {
        int step = mosaic ? 2 : 1;
        double full = raw.header().number("SATURATE").orElse(Double.POSITIVE_INFINITY);
        int width = dark.width();
        float[] excess = new float[dark.pixels().length];
        for (int y = step; y < dark.height() - step; y++) {
            for (int x = step; x < width - step; x++) {
                excess[y * width + x] = (float) excess(dark, x, y, step);
            }
        }
        double sigma = Statistics.robust(
                        Statistics.sample(new Frame(width, dark.height(), excess, dark.header()), 20_000))
                .sigma();
        double[] ratios = IntStream.range(0, excess.length)
                .filter(i -> excess[i] > HOT_SIGMAS * sigma && raw.pixels()[i] < full)
                .boxed()
                .sorted((a, b) -> Float.compare(excess[b], excess[a]))
                .limit(MOST_HOT)
                .mapToDouble(i -> excess(raw, i % width, i / width, step) / excess[i])
                .filter(Double::isFinite)
                .toArray();
        if (ratios.length < FEWEST_HOT) {
            return Optional.empty();
        }
        double middle = Statistics.median(ratios);
        return Optional.of(new Ratio(middle, MEDIAN_ERROR * Statistics.noise(ratios) / Math.sqrt(ratios.length)));
    }

    private static double excess(Frame frame, int x, int y, int step) {
        double[] about = new double[8];
        int n = 0;
        for (int dy = -step; dy <= step; dy += step) {
            for (int dx = -step; dx <= step; dx += step) {
                if (dx != 0 || dy != 0) {
                    about[n++] = frame.pixels()[(y + dy) * frame.width() + x + dx];
                }
            }
        }
        return frame.pixels()[y * frame.width() + x] - Statistics.median(about);
    }

    private boolean isTold() {
        return masters.flat().isPresent() && cornersError <= UNTOLD;
    }

    private boolean isEven() {
        return Math.abs(cornersAfter) <= Math.max(EVEN, 3 * cornersError);
    }

    /** Whether nothing speaks against the masters. */
    public boolean isSound() {
        return (!isTold() || isEven())
                && dust.map(d -> d.after().isNear(0, DUST_LEFT)).orElse(true)
                && hot.map(h -> h.isNear(1, HOT_OFF)).orElse(true);
    }

    /** What it found, a sentence for each of the three. */
    public List<String> sentences() {
        List<String> said = new ArrayList<>();
        said.add(corners());
        said.add(dust.map(CalibrationProof::words)
                .orElse(
                        masters.flat().isPresent()
                                ? "The flat shows no dust to tell by whether it is of these lights."
                                : "There is no flat: dust stays."));
        said.add(hot.map(CalibrationProof::words)
                .orElse(
                        masters.dark().isPresent()
                                ? "Too few hot pixels to tell by whether the dark fits."
                                : "There is no dark: hot pixels stay."));
        return said;
    }

    private String corners() {
        if (masters.flat().isEmpty()) {
            return text("There is no flat: the corners stay %.1f %% darker than the middle.", -100 * cornersAfter);
        }
        if (!isTold()) {
            return "The sky of this light is too uneven to tell by its corners.";
        }
        String was = Double.isNaN(cornersBefore)
                ? "The corners have"
                : text("The corners have %.1f %% less light than the middle before, and", -100 * cornersBefore);
        String is = text(" %.1f %% %s after", 100 * Math.abs(cornersAfter), cornersAfter < 0 ? "less" : "more");
        if (isEven()) {
            return was + is + ": even.";
        }
        if (masters.dark().or(masters::bias).isEmpty()) {
            return was + is + ": nothing takes the offset off these lights.";
        }
        return was
                + is
                + (cornersAfter < 0
                        ? ": the flat takes out too little."
                        : ": the flat takes out more than there is (its own offset not taken off, or of another filter).");
    }

    private static String words(Dust d) {
        String share = text(
                "Of the flat's dust %.0f ± %.0f %% is in the light, %.0f ± %.0f %% is left",
                100 * d.before().value(),
                100 * d.before().error(),
                100 * d.after().value(),
                100 * d.after().error());
        if (d.after().isNear(0, DUST_LEFT)) {
            return share + ": it is the light's own.";
        }
        return d.after().value() < RINGS
                ? share + ": the flat makes rings. It is not of this night, or dust moved between."
                : share + ": something turned or moved between them.";
    }

    private static String words(Ratio h) {
        String ratio = text("Hot pixels are %.2f ± %.2f times as bright as in the dark", h.value(), h.error());
        return h.isNear(1, HOT_OFF) ? ratio + ": it fits." : ratio + ": it is of another exposure or temperature.";
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
