package app.ironside.judge;

import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.Arrays;

/**
 * The noise of a background on a scale of several pixels. Resampling makes neighbouring pixels alike, so that the scatter from pixel to
 * pixel falls without anything being gained; the means of blocks hardly notice, and faint extended light is seen by blocks, not by pixels.
 */
public final class BlockNoise {
    /** Wider than the kernel that resamples reaches with any weight, narrower than most that one looks for. */
    public static final int BLOCK_PX = 4;

    /** Where colours were filled in from neighbours two pixels away, alike reaches further. */
    public static final int MOSAIC_BLOCK_PX = 12;

    /** About stars, in half-flux radii: nine tenths and more of a star's light (Moffat profile) lie within. */
    private static final double STAR_RADII = 4;

    private static final int ENOUGH = 300;

    /** Of b(i−1) − 2 b(i) + b(i+1) for independent b: √(1 + 4 + 1). */
    private static final double SECOND_DIFFERENCE = Math.sqrt(6);

    private BlockNoise() {}

    /**
     * What was measured.
     *
     * @param noiseAdu standard deviation of block means, brought to one pixel as if pixels were independent: of white noise the pixels' own
     * @param differences by how many it was measured
     */
    public record Measured(double noiseAdu, int differences) {}

    /**
     * Measures a picture, by second differences along rows, so that gradients and wide nebulae do not count as noise.
     *
     * @param stars of the picture; blocks they touch are left out while enough are left
     * @param block pixels along each side of a block
     */
    public static Measured of(Frame picture, StarField stars, int block) {
        int across = picture.width() / block;
        int up = picture.height() / block;
        float[] means = means(picture, across, up, block);
        double[] all = differences(means, across, up);
        float[] starless = means.clone();
        for (Star star : stars.stars()) {
            blot(star, starless, across, up, block);
        }
        double[] between = differences(starless, across, up);
        double[] used = between.length >= ENOUGH ? between : all;
        if (used.length == 0) {
            return new Measured(0, 0);
        }
        return new Measured(Statistics.noise(used) / SECOND_DIFFERENCE * block, used.length);
    }

    /** NaN where a pixel of the block has no value. */
    private static float[] means(Frame picture, int across, int up, int block) {
        float[] means = new float[across * up];
        float[] pixels = picture.pixels();
        for (int by = 0; by < up; by++) {
            for (int bx = 0; bx < across; bx++) {
                double sum = 0;
                for (int y = 0; y < block; y++) {
                    int from = (by * block + y) * picture.width() + bx * block;
                    for (int x = 0; x < block; x++) {
                        sum += pixels[from + x];
                    }
                }
                means[by * across + bx] = (float) (sum / (block * block));
            }
        }
        return means;
    }

    private static void blot(Star star, float[] means, int across, int up, int block) {
        double reach = STAR_RADII * star.halfFluxRadiusPx();
        int left = (int) Math.max(0, (star.x() - 1 - reach) / block);
        int right = (int) Math.min(across - 1, (star.x() - 1 + reach) / block);
        int low = (int) Math.max(0, (star.y() - 1 - reach) / block);
        int high = (int) Math.min(up - 1, (star.y() - 1 + reach) / block);
        for (int by = low; by <= high; by++) {
            for (int bx = left; bx <= right; bx++) {
                means[by * across + bx] = Float.NaN;
            }
        }
    }

    /** Of the middle two thirds of the frame, where every sub of a set lies over the reference; triples that do not overlap. */
    private static double[] differences(float[] means, int across, int up) {
        double[] found = new double[means.length];
        int n = 0;
        for (int by = up / 6; by < up - up / 6; by++) {
            for (int bx = across / 6; bx + 2 < across - across / 6; bx += 3) {
                int at = by * across + bx;
                double d = means[at] - 2.0 * means[at + 1] + means[at + 2];
                if (Double.isFinite(d)) {
                    found[n++] = d;
                }
            }
        }
        return Arrays.copyOf(found, n);
    }
}
