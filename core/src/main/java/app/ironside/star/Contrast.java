package app.ironside.star;

import java.util.Arrays;

/**
 * A bright pixel against its surroundings.
 *
 * @param at its index
 * @param neighbours median of the eight
 * @param above the pixel over the ring of sixteen around the neighbours, by their median
 * @param around the neighbours over that ring
 * @param sigma noise of the background there
 * @param peak whether none of the neighbours is brighter
 */
record Contrast(int at, float neighbours, double above, double around, double sigma, boolean peak) {
    /**
     * Of a pixel at least two from the edges.
     *
     * @param eight room for the neighbours
     * @param ring room for the sixteen around them
     */
    static Contrast of(float[] flat, int width, int at, double sigma, float[] eight, float[] ring) {
        int i = 0;
        int j = 0;
        for (int r = -2; r <= 2; r++) {
            for (int c = -2; c <= 2; c++) {
                float value = flat[at + r * width + c];
                if (Math.max(Math.abs(r), Math.abs(c)) == 2) {
                    ring[j++] = value;
                } else if (r != 0 || c != 0) {
                    eight[i++] = value;
                }
            }
        }
        Arrays.sort(eight);
        Arrays.sort(ring);
        float neighbours = (eight[3] + eight[4]) / 2;
        double far = (ring[7] + ring[8]) / 2.0;
        return new Contrast(at, neighbours, flat[at] - far, neighbours - far, sigma, flat[at] >= eight[7]);
    }
}
