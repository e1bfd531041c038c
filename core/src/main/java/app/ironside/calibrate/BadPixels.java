package app.ironside.calibrate;

import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Pixels that tell nothing of the sky, found in the masters: hot ones, whose dark current is so large that its own noise drowns the sky, and
 * dead ones. They get the middle value of their sound neighbours of the same colour.
 */
final class BadPixels {
    /** Above the master dark's median, in its own robust deviations: where one pixel in a hundred thousand of good noise would not be. */
    private static final double HOT_SIGMAS = 12;

    /** No sensor has more; what looks so is glow. */
    private static final double MOST_SHARE = 0.02;

    /** Of the flat's mean: half blind. */
    private static final float DEAD_FLAT = 0.3f;

    private static final int FEWEST_PIXELS = 10_000;

    private final BitSet bad;
    private final int width;

    private BadPixels(BitSet bad, int width) {
        this.bad = bad;
        this.width = width;
    }

    /** Those that some masters show; none without a dark and a flat, nor in pictures too small to tell. */
    static BadPixels of(Masters masters) {
        BitSet bad = new BitSet();
        // One after the other in memory: they may be large.
        masters.dark().map(MasterPixels::frame).filter(BadPixels::tells).ifPresent(dark -> hot(dark, bad));
        BitSet dead = new BitSet();
        masters.flat().map(MasterPixels::frame).filter(BadPixels::tells).ifPresent(flat -> dead(flat, dead));
        MasterPixels any = masters.dark().or(masters::flat).orElse(null);
        boolean corners = any != null && dead.cardinality() > MOST_SHARE * any.width() * any.height();
        if (!corners) { // corners that no light reaches are not dead
            bad.or(dead);
        }
        return new BadPixels(bad, any == null ? 1 : any.width());
    }

    private static void dead(Frame flat, BitSet dead) {
        for (int i = 0; i < flat.pixels().length; i++) {
            if (flat.pixels()[i] < DEAD_FLAT) {
                dead.set(i);
            }
        }
    }

    private static boolean tells(Frame frame) {
        return frame.pixels().length >= FEWEST_PIXELS;
    }

    private static void hot(Frame dark, BitSet bad) {
        Statistics.Spread level = Statistics.robust(Statistics.sample(dark, 200_000));
        if (level.sigma() <= 0) {
            return;
        }
        double limit = level.centre() + HOT_SIGMAS * level.sigma();
        int most = (int) (MOST_SHARE * dark.pixels().length);
        int n = 0;
        for (float v : dark.pixels()) {
            n += v > limit ? 1 : 0;
        }
        if (n > most) {
            float[] above = new float[n];
            int k = 0;
            for (float v : dark.pixels()) {
                if (v > limit) {
                    above[k++] = v;
                }
            }
            Arrays.sort(above);
            limit = above[n - most];
        }
        for (int i = 0; i < dark.pixels().length; i++) {
            if (dark.pixels()[i] > limit) {
                bad.set(i);
            }
        }
    }

    int count() {
        return bad.cardinality();
    }

    /**
     * Repairs a band of rows in place.
     *
     * @param firstRow which row of the sensor it begins with, from 0
     * @param mosaic whether the nearest pixel of the same colour is the next but one
     */
    void repair(float[] values, int firstRow, boolean mosaic) {
        if (bad.isEmpty()) {
            return;
        }
        int offset = firstRow * width;
        int step = mosaic ? 2 : 1;
        int rows = values.length / width;
        float[] near = new float[8];
        for (int at = bad.nextSetBit(offset); at >= 0 && at < offset + values.length; at = bad.nextSetBit(at + 1)) {
            int column = (at - offset) % width;
            int row = (at - offset) / width;
            int n = 0;
            for (int dy = -step; dy <= step; dy += step) {
                for (int dx = -step; dx <= step; dx += step) {
                    int x = column + dx;
                    int y = row + dy;
                    boolean sound = (dx != 0 || dy != 0)
                            && x >= 0
                            && x < width
                            && y >= 0
                            && y < rows
                            && !bad.get(offset + y * width + x)
                            && Float.isFinite(values[y * width + x]);
                    if (sound) {
                        near[n++] = values[y * width + x];
                    }
                }
            }
            values[at - offset] = n == 0 ? Float.NaN : (float) Statistics.median(Arrays.copyOf(near, n));
        }
    }
}
