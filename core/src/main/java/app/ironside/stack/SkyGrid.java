package app.ironside.stack;

import app.ironside.image.Frame;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import java.util.Arrays;
import java.util.Optional;

/** The level of a frame's background, cell by cell, coarse: medians, which stars hardly move. */
final class SkyGrid {
    static final int ACROSS = 24;
    static final int UP = 16;
    private static final int SAMPLES = 400;

    private final int width;
    private final int height;
    private final double[] levels;

    private SkyGrid(int width, int height, double[] levels) {
        this.width = width;
        this.height = height;
        this.levels = levels;
    }

    /** Of one colour of a frame. */
    static SkyGrid of(Frame frame, Optional<Mosaic> mosaic, Mosaic.Plane plane) {
        double[] levels = new double[ACROSS * UP];
        for (int cell = 0; cell < levels.length; cell++) {
            levels[cell] = level(frame, mosaic, plane, cell % ACROSS, cell / ACROSS);
        }
        return new SkyGrid(frame.width(), frame.height(), levels);
    }

    private static double level(Frame frame, Optional<Mosaic> mosaic, Mosaic.Plane plane, int column, int row) {
        int left = column * frame.width() / ACROSS;
        int right = (column + 1) * frame.width() / ACROSS;
        int low = row * frame.height() / UP;
        int high = (row + 1) * frame.height() / UP;
        int step = Math.max(1, (int) Math.sqrt((right - left) * (double) (high - low) / SAMPLES)) | 1;
        float[] values = new float[((right - left) / step + 1) * ((high - low) / step + 1)];
        int n = 0;
        for (int y = low; y < high; y += step) {
            for (int x = left; x < right; x += step) {
                float v = frame.pixels()[y * frame.width() + x];
                if (Float.isFinite(v) && (mosaic.isEmpty() || mosaic.get().at(x, y) == plane)) {
                    values[n++] = v;
                }
            }
        }
        return n == 0 ? Double.NaN : Statistics.median(Arrays.copyOf(values, n));
    }

    double middle() {
        double[] known = Arrays.stream(levels).filter(Double::isFinite).toArray();
        return known.length == 0 ? 0 : Statistics.median(known);
    }

    /** The level at a pixel, between the middles of cells by two straight lines; NaN outside or where nothing is known. */
    double at(double x, double y) {
        if (x < 0.5 || y < 0.5 || x > width + 0.5 || y > height + 0.5) {
            return Double.NaN;
        }
        double u = Math.max(0, Math.min(ACROSS - 1.0, (x - 0.5) * ACROSS / width - 0.5));
        double v = Math.max(0, Math.min(UP - 1.0, (y - 0.5) * UP / height - 0.5));
        int c = (int) Math.min(ACROSS - 2.0, u);
        int r = (int) Math.min(UP - 2.0, v);
        double fu = u - c;
        double fv = v - r;
        int at = r * ACROSS + c;
        return (1 - fv) * ((1 - fu) * levels[at] + fu * levels[at + 1])
                + fv * ((1 - fu) * levels[at + ACROSS] + fu * levels[at + ACROSS + 1]);
    }
}
