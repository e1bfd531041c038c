package app.ironside.star;

/**
 * Sorts a thousand numbers three times as fast as a sort by comparison: by their bytes, least first (radix sort). A frame's background
 * takes more than a thousand such sorts. Keeps its working room; not for several threads at once.
 */
final class SampleSort {
    private static final int BYTES = 4;
    private static final int VALUES = 256;

    private final int[][] counts = new int[BYTES][VALUES];
    private int[] keys;
    private int[] spare;

    /**
     * @param most numbers at a time
     */
    SampleSort(int most) {
        keys = new int[most];
        spare = new int[most];
    }

    /** Sorts the first {@code n} values, rising; none may be NaN. */
    void sort(float[] values, int n) {
        for (int[] count : counts) {
            java.util.Arrays.fill(count, 0);
        }
        for (int i = 0; i < n; i++) {
            int bits = Float.floatToRawIntBits(values[i]);
            // As integers, negative floats run backwards and above the positive ones: turned round, all are in order.
            int key = bits ^ (bits >> 31 | Integer.MIN_VALUE);
            keys[i] = key;
            counts[0][key & 0xff]++;
            counts[1][key >>> 8 & 0xff]++;
            counts[2][key >>> 16 & 0xff]++;
            counts[3][key >>> 24]++;
        }
        for (int b = 0; b < BYTES; b++) {
            pass(counts[b], 8 * b, n);
        }
        for (int i = 0; i < n; i++) {
            int key = keys[i];
            values[i] = Float.intBitsToFloat(key < 0 ? key ^ Integer.MIN_VALUE : ~key);
        }
    }

    private void pass(int[] count, int shift, int n) {
        if (n == 0 || count[keys[0] >>> shift & 0xff] == n) {
            return; // all alike in this byte, as the highest of a quiet sky is
        }
        int next = 0;
        for (int v = 0; v < VALUES; v++) {
            int here = count[v];
            count[v] = next;
            next += here;
        }
        for (int i = 0; i < n; i++) {
            int key = keys[i];
            spare[count[key >>> shift & 0xff]++] = key;
        }
        int[] sorted = spare;
        spare = keys;
        keys = sorted;
    }
}
