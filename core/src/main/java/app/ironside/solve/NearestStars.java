package app.ironside.solve;

import java.util.Arrays;

/** Finds the nearest neighbours of stars given as unit vectors, with a grid of cubes through space. */
final class NearestStars {
    /** Stars in a cube, on average over the sphere. */
    private static final double STARS_A_CELL = 3;

    /** Room for 16 million stars. */
    private static final int INDEX_BITS = 24;

    private final double cell;

    /** The cube of each star, the stars of a cube one after the other. */
    private final long[] keys;

    private final int[] order;

    /** Three numbers a star, in the same order: what is looked at together lies together. */
    private final double[] places;

    private final int[] placeOf;

    /** Cubes in a table with open places, and where their stars begin among the keys; −1 is an open place. */
    private final int[] begins;

    private final long[] cubes;

    NearestStars(double[][] vectors) {
        double area = 4 * Math.PI / Math.max(1, spread(vectors));
        cell = Math.max(1e-5, Math.min(0.7, Math.sqrt(area * STARS_A_CELL)));
        long[] packed = new long[vectors.length];
        for (int i = 0; i < vectors.length; i++) {
            packed[i] = key(floor(vectors[i][0]), floor(vectors[i][1]), floor(vectors[i][2])) << INDEX_BITS | i;
        }
        Arrays.sort(packed);
        keys = new long[packed.length];
        order = new int[packed.length];
        for (int k = 0; k < packed.length; k++) {
            keys[k] = packed[k] >>> INDEX_BITS;
            order[k] = (int) (packed[k] & ((1L << INDEX_BITS) - 1));
        }
        places = new double[3 * packed.length];
        placeOf = new int[packed.length];
        begins = new int[Integer.highestOneBit(Math.max(1, keys.length)) * 4];
        cubes = new long[begins.length];
        Arrays.fill(begins, -1);
        for (int k = 0; k < keys.length; k++) {
            System.arraycopy(vectors[order[k]], 0, places, 3 * k, 3);
            placeOf[order[k]] = k;
            if (k == 0 || keys[k] != keys[k - 1]) {
                int slot = slot(keys[k]);
                begins[slot] = k;
                cubes[slot] = keys[k];
            }
        }
    }

    /** Star {@code k} of an order in which neighbours on the sky come one soon after the other. */
    int inOrder(int k) {
        return order[k];
    }

    /** Where a cube stands in the table, or the open place where it would. */
    private int slot(long key) {
        int mask = begins.length - 1;
        int slot = (int) (key * 0x9E3779B97F4A7C15L >>> 32) & mask;
        while (begins[slot] >= 0 && cubes[slot] != key) {
            slot = slot + 1 & mask;
        }
        return slot;
    }

    /** How many stars there would be over the whole sphere at the density of these. */
    private static double spread(double[][] vectors) {
        double[] middle = new double[3];
        for (double[] v : vectors) {
            for (int k = 0; k < 3; k++) {
                middle[k] += v[k] / vectors.length;
            }
        }
        // For a cap, the mean vector has length (1 + cos radius) / 2, and the cap's share of the sphere is (1 − cos
        // radius) / 2.
        double length = Math.sqrt(middle[0] * middle[0] + middle[1] * middle[1] + middle[2] * middle[2]);
        return vectors.length / Math.max(1e-7, 1 - length);
    }

    private int floor(double coordinate) {
        return (int) Math.floor((coordinate + 1.5) / cell);
    }

    private static long key(int a, int b, int c) {
        return ((long) a * 73_856_093L ^ (long) b * 19_349_663L ^ (long) c * 83_492_791L)
                & ((1L << (63 - INDEX_BITS)) - 1);
    }

    /**
     * Writes up to {@code into.length} nearest neighbours of a star, nearest first, as far as they lie in the neighbouring cubes.
     *
     * @return how many were written
     */
    int nearest(int star, int[] into) {
        double[] distances = new double[into.length];
        int n = 0;
        int own = placeOf[star];
        double x = places[3 * own];
        double y = places[3 * own + 1];
        double z = places[3 * own + 2];
        int atA = floor(x);
        int atB = floor(y);
        int atC = floor(z);
        for (int a = atA - 1; a <= atA + 1; a++) {
            for (int b = atB - 1; b <= atB + 1; b++) {
                for (int c = atC - 1; c <= atC + 1; c++) {
                    long key = key(a, b, c);
                    int begin = begins[slot(key)];
                    for (int k = begin; k >= 0 && k < keys.length && keys[k] == key; k++) {
                        if (k != own) {
                            double dx = places[3 * k] - x;
                            double dy = places[3 * k + 1] - y;
                            double dz = places[3 * k + 2] - z;
                            double distance = dx * dx + dy * dy + dz * dz;
                            if (n < into.length || distance < distances[n - 1]) {
                                n = insert(order[k], distance, into, distances, n);
                            }
                        }
                    }
                }
            }
        }
        return n;
    }

    private static int insert(int candidate, double distance, int[] into, double[] distances, int count) {
        int at = count;
        while (at > 0 && distances[at - 1] > distance) {
            at--;
        }
        if (at == into.length || (at > 0 && into[at - 1] == candidate)) {
            return count;
        }
        int n = Math.min(into.length, count + 1);
        for (int k = n - 1; k > at; k--) {
            into[k] = into[k - 1];
            distances[k] = distances[k - 1];
        }
        into[at] = candidate;
        distances[at] = distance;
        return n;
    }
}
