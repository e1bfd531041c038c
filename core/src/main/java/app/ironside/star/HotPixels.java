package app.ironside.star;

import app.ironside.Workers;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Single pixels that shine by themselves: hot ones, and what a particle left in one. Air and optics spread a star's light over a pixel's
 * neighbours; such a pixel's neighbours are as dark as those further out. How much darker a star's may be is learned from the frame.
 *
 * <p>The neighbours are judged by their median, so that of two or three hot pixels side by side each is found; and against the ring
 * around them, so that one on the flank of a star or in a nebula is.
 *
 * @see "van Dokkum 2001, PASP 113, 1420, for the thought: a contrast that no star of the frame's own sharpness can have"
 */
final class HotPixels {
    /** A fainter one is not taken for a star by the matched filter, whatever its neighbours are. */
    private static final double LEAST_SIGMAS = 8;

    /**
     * Peak over neighbours of a star that a lens draws, 1.3 pixels wide at half peak and in the middle of a pixel: 5.5; where a frame shows
     * too few stars to learn from, it may have sharper ones.
     */
    private static final double SHARPEST = 20;

    /**
     * The sharpest of a frame's stars over the lower quartile of all, as a factor and a power: stars well sampled are all alike, of those
     * hardly wider than a pixel some fall in the middle of one and show nearly nothing around. By the pixels of Gaussians and Moffat
     * profiles 0.9 to 4.5 px wide at random places; the lower quartile, because hot pixels count only upward.
     */
    private static final double POWER = 1.5;

    private static final double OVER_THE_STARS = 1.25;

    /** A mosaic's neighbours are of other colours, in which a star may be a good deal fainter: there they must be as dark as the sky. */
    private static final double MOSAIC_DARK_SIGMAS = 0.8;

    private static final double MOSAIC_LEAST_SIGMAS = 12;

    private static final double LEAST_LIMIT = 3.5;
    private static final double SURE_SIGMAS = 30;

    /** Of neighbours that surely hold light; those of a hot pixel hold none. */
    private static final double LIT_SIGMAS = 3;

    private static final int ENOUGH_TO_LEARN = 12;
    private static final int BAND_ROWS = 64;

    private final float[] flat;
    private final int width;
    private final int height;
    private final BackgroundMap background;
    private final Workers workers;

    private HotPixels(float[] flat, int width, int height, BackgroundMap background, Workers workers) {
        this.flat = flat;
        this.width = width;
        this.height = height;
        this.background = background;
        this.workers = workers;
    }

    /**
     * Gives each such pixel the median of its neighbours.
     *
     * @param flat the frame's pixels above its background; changed
     * @return the bright peaks that are left, in no order
     */
    static List<Contrast> darken(
            float[] flat, int width, int height, BackgroundMap background, boolean mosaic, Workers workers) {
        return width < 5 || height < 5
                ? List.of()
                : new HotPixels(flat, width, height, background, workers).darken(mosaic);
    }

    private List<Contrast> darken(boolean mosaic) {
        Contrast[] all = bright();
        double[] stars = Arrays.stream(all)
                .filter(c -> c.peak() && c.above() > SURE_SIGMAS * c.sigma() && c.around() > LIT_SIGMAS * c.sigma())
                .mapToDouble(c -> c.above() / c.around())
                .sorted()
                .toArray();
        double limit = stars.length < ENOUGH_TO_LEARN
                ? SHARPEST
                : Math.max(LEAST_LIMIT, OVER_THE_STARS * Math.pow(stars[stars.length / 4], POWER));
        List<Contrast> left = new ArrayList<>();
        for (Contrast c : all) {
            boolean hot = mosaic
                    ? c.above() > MOSAIC_LEAST_SIGMAS * c.sigma() && c.around() < MOSAIC_DARK_SIGMAS * c.sigma()
                    : c.above() > limit * c.around();
            if (hot) {
                flat[c.at()] = c.neighbours();
            } else if (c.peak()) {
                left.add(c);
            }
        }
        return left;
    }

    private Contrast[] bright() {
        int bands = (height + BAND_ROWS - 1) / BAND_ROWS;
        Contrast[][] found = new Contrast[bands][];
        workers.forEach(bands, band -> {
            Contrast[] some = new Contrast[256];
            int n = 0;
            float[] sigma = new float[width];
            float[] ring = new float[16];
            float[] eight = new float[8];
            for (int row = Math.max(2, band * BAND_ROWS); row < Math.min(height - 2, (band + 1) * BAND_ROWS); row++) {
                background.sigmaOfRow(row, width, height, sigma);
                int at = row * width;
                for (int column = 2; column < width - 2; column++) {
                    if (flat[at + column] > LEAST_SIGMAS * sigma[column] && sigma[column] > 0) {
                        Contrast c = Contrast.of(flat, width, at + column, sigma[column], eight, ring);
                        if (c.above() > LEAST_LIMIT * c.around() || c.peak()) {
                            some = n == some.length ? Arrays.copyOf(some, 2 * n) : some;
                            some[n++] = c;
                        }
                    }
                }
            }
            found[band] = Arrays.copyOf(some, n);
        });
        return Arrays.stream(found).flatMap(Arrays::stream).toArray(Contrast[]::new);
    }
}
