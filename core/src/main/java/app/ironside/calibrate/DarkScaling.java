package app.ironside.calibrate;

import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A dark of another exposure brought to that of some lights: bias + k (dark − bias), k being the ratio of the exposures, for dark current goes with
 * time (Howell 2006, Handbook of CCD Astronomy, section 4.3). Light that the electronics themselves give off goes by other laws; so it is said by the
 * frames themselves whether it may be done: how much of such glow the dark has, and how bright the light's own hot pixels are against it.
 *
 * @param factor k
 * @param glowAdu by how much the dark current of one part of the sensor exceeds that of another, less what chance makes of it
 * @param worstAdu what is left of that if none of it goes with time
 * @param allowedAdu of that
 * @param hot how bright the light's hot pixels are against the scaled dark's; empty where there are too few
 */
public record DarkScaling(
        double factor, double glowAdu, double worstAdu, double allowedAdu, Optional<CalibrationProof.Ratio> hot) {
    private static final int STRIPS = 12;
    private static final int STRIP_ROWS = 48;
    private static final int PARTS = 16;

    /** Of the light's sky: no flat is better. */
    private static final double SHARE_OF_SKY = 0.001;

    /** Of the light's noise: what a stack of some hundred such lights still hides. */
    private static final double SHARE_OF_NOISE = 0.05;

    private static final double HOT_OFF = 0.1;

    /** Mean of the range of sixteen by twelve normal values, in their sigma (Tippett 1925, interpolated; from memory). */
    private static final double RANGE_OF_CHANCE = 5.5;

    /** Standard error of a median over that of a mean, for normal scatter: √(π/2). */
    private static final double MEDIAN_ERROR = Math.sqrt(Math.PI / 2);

    /** Rows of a picture. */
    @FunctionalInterface
    private interface Rows {
        float[] of(int first, int count);
    }

    /**
     * Judges it by some strips of rows, which say enough of large frames.
     *
     * @param light one of the lights it is for
     * @param factor exposure of the light over that of the dark
     * @throws app.ironside.BadInputException if the light cannot be read, or a master is of another size
     */
    public static DarkScaling judged(MasterPixels dark, MasterPixels bias, Path light, double factor) {
        try (FitsBands raw = FitsBands.open(light)) {
            Calibrator.mustFit("dark", dark, raw.width(), raw.height());
            Calibrator.mustFit("bias", bias, raw.width(), raw.height());
            Frame current = strips(raw.width(), raw.height(), Header.EMPTY, minus(dark::rows, bias::rows));
            Frame sky = strips(raw.width(), raw.height(), Header.EMPTY, minus(raw::rows, bias::rows));
            // As the camera gave it: what is full is told by its own level.
            Frame untouched = strips(raw.width(), raw.height(), raw.header(), raw::rows);
            double glow = glow(current);
            float[] seen = Statistics.sample(sky, 40_000);
            double level = Math.max(0, Statistics.median(seen));
            double allowed = Math.max(
                    SHARE_OF_SKY * level,
                    SHARE_OF_NOISE * Statistics.robust(seen).sigma());
            return new DarkScaling(
                    factor,
                    glow,
                    Math.abs(1 - factor) * glow,
                    allowed,
                    CalibrationProof.hot(
                                    current, untouched, Mosaic.of(raw.header()).isPresent())
                            .map(r -> new CalibrationProof.Ratio(r.value() / factor, r.error() / factor)));
        }
    }

    private static Rows minus(Rows one, Rows other) {
        return (first, count) -> {
            float[] values = one.of(first, count).clone();
            float[] less = other.of(first, count);
            for (int i = 0; i < values.length; i++) {
                values[i] -= less[i];
            }
            return values;
        };
    }

    /** Evenly spread over the frame, one below the other; a small frame whole. */
    private static Frame strips(int width, int height, Header header, Rows rows) {
        if (height <= STRIPS * STRIP_ROWS) {
            return new Frame(width, height, rows.of(0, height), header);
        }
        float[] all = new float[width * STRIPS * STRIP_ROWS];
        for (int i = 0; i < STRIPS; i++) {
            int first = i * (height - STRIP_ROWS) / (STRIPS - 1) / 2 * 2;
            System.arraycopy(rows.of(first, STRIP_ROWS), 0, all, i * STRIP_ROWS * width, STRIP_ROWS * width);
        }
        return new Frame(width, STRIPS * STRIP_ROWS, all, header);
    }

    private static double glow(Frame current) {
        List<Double> medians = new ArrayList<>();
        double noise = 0;
        int tall = Math.max(1, current.height() / STRIPS);
        int wide = Math.max(1, current.width() / PARTS);
        for (int top = 0; top + tall <= current.height(); top += tall) {
            for (int left = 0; left + wide <= current.width(); left += wide) {
                float[] cell = new float[tall * wide];
                for (int y = 0; y < tall; y++) {
                    System.arraycopy(current.pixels(), (top + y) * current.width() + left, cell, y * wide, wide);
                }
                medians.add(Statistics.median(cell));
                noise += Statistics.robust(cell).sigma() * MEDIAN_ERROR / Math.sqrt(cell.length);
            }
        }
        double[] sorted =
                medians.stream().mapToDouble(Double::doubleValue).sorted().toArray();
        double range = sorted[sorted.length - 1] - sorted[0];
        return Math.max(0, range - RANGE_OF_CHANCE * noise / sorted.length);
    }

    /** Whether nothing speaks against it. */
    public boolean isSound() {
        return worstAdu <= allowedAdu && hot.map(h -> h.isNear(1, HOT_OFF)).orElse(true);
    }

    /** What was found. */
    public List<String> sentences() {
        String glow = String.format(
                Locale.ROOT,
                "Scaled by %.3f: the dark's glow differs by %.2f ADU over the sensor, of which %.2f may stay; the light hides %.2f",
                factor,
                glowAdu,
                worstAdu,
                allowedAdu);
        return List.of(
                glow + (worstAdu <= allowedAdu ? "." : ": not used."),
                hot.map(h -> String.format(
                                Locale.ROOT,
                                "The light's hot pixels are %.2f ± %.2f times as bright as the scaled dark has them%s",
                                h.value(),
                                h.error(),
                                h.isNear(1, HOT_OFF) ? ": it fits." : ": it does not go with time, and is not used."))
                        .orElse("Too few hot pixels to tell by whether it fits."));
    }

    /** The dark of the lights' exposure. */
    public Frame dark(MasterPixels dark, MasterPixels bias) {
        Frame from = dark.frame();
        float[] scaled = new float[from.pixels().length];
        int width = from.width();
        for (int row = 0; row < from.height(); row += STRIP_ROWS) {
            int rows = Math.min(STRIP_ROWS, from.height() - row);
            float[] zero = bias.rows(row, rows);
            for (int i = 0; i < zero.length; i++) {
                int at = row * width + i;
                scaled[at] = (float) (zero[i] + factor * (from.pixels()[at] - zero[i]));
            }
        }
        Header header = from.header();
        if (header.number("EXPTIME").isPresent()) {
            header = header.with("EXPTIME", factor * header.number("EXPTIME").getAsDouble());
        }
        return new Frame(
                width,
                from.height(),
                scaled,
                header.withHistory(String.format(Locale.ROOT, "dark current scaled by %.4f above the bias", factor)));
    }
}
