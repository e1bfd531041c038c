package app.ironside.image;

import java.util.Arrays;

/**
 * The noise of a picture from pixel to pixel, by second differences along rows: neither gradients nor nebulae nor stars count as noise.
 */
public final class PixelNoise {
    private static final int SAMPLES = 80_000;

    /** Of a(i−1) − 2 a(i) + a(i+1) for independent a: √(1 + 4 + 1). */
    private static final double SECOND_DIFFERENCE = Math.sqrt(6);

    private PixelNoise() {}

    /**
     * Standard deviation of a pixel.
     *
     * @param mosaic whether neighbours are of other colours: pixels are then held against the next but one
     * @return 0 of a picture without values
     */
    public static double of(Frame frame, boolean mosaic) {
        int step = mosaic ? 2 : 1;
        float[] pixels = frame.pixels();
        int stride = Math.max(1, pixels.length / SAMPLES);
        float[] differences = new float[pixels.length / stride + 1];
        int n = 0;
        for (int i = step; i + step < pixels.length; i += stride) {
            int column = i % frame.width();
            float d = pixels[i - step] - 2 * pixels[i] + pixels[i + step];
            if (column >= step && column + step < frame.width() && Float.isFinite(d)) {
                differences[n++] = d;
            }
        }
        if (n < 3) {
            return 0;
        }
        Arrays.sort(differences, 0, n);
        return Statistics.winsorizedSigma(differences, 0, n, 0, 0) / SECOND_DIFFERENCE;
    }
}
