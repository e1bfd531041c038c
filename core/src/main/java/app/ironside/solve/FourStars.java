package app.ironside.solve;

/**
 * The code of a pattern of four stars: their six distances, longest first, divided by the longest. It does not change when the
 * pattern is shifted, turned, scaled or mirrored. The same stars in the same order belong to it: by the sum of the distances to
 * the other three.
 *
 * @see "Groth 1986, AJ 91, 1244, for the like with triangles"
 */
final class FourStars {
    /** Ratios in a code. */
    static final int LENGTH = 5;

    private static final int[][] PAIRS = {{0, 1}, {0, 2}, {0, 3}, {1, 2}, {1, 3}, {2, 3}};

    private FourStars() {}

    /** Reads coordinate {@code axis} of star {@code star}. */
    interface Coordinates {
        double at(int star, int axis);
    }

    /**
     * Computes the code of four stars and sorts them.
     *
     * @param stars four indices; sorted in place into the pattern's own order
     * @param dimensions 2 for pixels, 3 for unit vectors
     * @param code receives {@link #LENGTH} ratios, 0 to 1, falling
     * @return false if two of the stars coincide
     */
    static boolean code(int[] stars, Coordinates coordinates, int dimensions, double[] code) {
        double[] distance = new double[6];
        double[] reach = new double[4];
        for (int k = 0; k < 6; k++) {
            double sum = 0;
            for (int axis = 0; axis < dimensions; axis++) {
                double d = coordinates.at(stars[PAIRS[k][0]], axis) - coordinates.at(stars[PAIRS[k][1]], axis);
                sum += d * d;
            }
            distance[k] = Math.sqrt(sum);
            reach[PAIRS[k][0]] += distance[k];
            reach[PAIRS[k][1]] += distance[k];
        }
        sortByReach(stars, reach);
        sortDown(distance);
        if (distance[5] <= 0.02 * distance[0]) {
            return false;
        }
        for (int k = 0; k < LENGTH; k++) {
            code[k] = distance[k + 1] / distance[0];
        }
        return true;
    }

    private static void sortByReach(int[] stars, double[] reach) {
        for (int i = 1; i < 4; i++) {
            for (int j = i; j > 0 && reach[j] < reach[j - 1]; j--) {
                double r = reach[j];
                reach[j] = reach[j - 1];
                reach[j - 1] = r;
                int s = stars[j];
                stars[j] = stars[j - 1];
                stars[j - 1] = s;
            }
        }
    }

    private static void sortDown(double[] values) {
        for (int i = 1; i < values.length; i++) {
            for (int j = i; j > 0 && values[j] > values[j - 1]; j--) {
                double v = values[j];
                values[j] = values[j - 1];
                values[j - 1] = v;
            }
        }
    }
}
