package app.ironside.solve;

import app.ironside.sky.StarCatalogue;
import app.ironside.sky.Vectors;
import java.util.Arrays;
import java.util.function.IntConsumer;

/**
 * Patterns of neighbouring catalogue stars, found by their code. Each level holds the stars down to one magnitude, so that there
 * are patterns of every size: those that the brightest stars of a wide field make as well as those of a narrow one.
 */
final class PatternIndex {
    private static final int BUCKET_BITS = 20;

    /** Edge of a cell in the space of codes. */
    private static final double CELL = 0.02;

    private final double[][] vectors;
    private int[] stars = new int[1 << 16];
    private short[] codes = new short[(1 << 14) * FourStars.LENGTH];
    private int count;
    private int[] bucketStart;
    private int[] bucketed;

    private PatternIndex(double[][] vectors) {
        this.vectors = vectors;
    }

    /**
     * Builds an index.
     *
     * @param brightestFirst catalogue indices, by magnitude
     * @param levels how many of them each level takes
     * @param neighbours how many neighbours of a star enter its patterns
     */
    static PatternIndex build(StarCatalogue catalogue, int[] brightestFirst, int[] levels, int neighbours) {
        double[][] all = new double[brightestFirst.length][];
        for (int i = 0; i < all.length; i++) {
            all[i] = Vectors.of(catalogue.raDeg(brightestFirst[i]), catalogue.decDeg(brightestFirst[i]));
        }
        PatternIndex index = new PatternIndex(all);
        for (int level : levels) {
            index.addLevel(Math.min(level, all.length), neighbours);
        }
        index.fillBuckets();
        return index;
    }

    private void addLevel(int size, int neighbours) {
        NearestStars nearest = new NearestStars(Arrays.copyOf(vectors, size));
        int[] around = new int[neighbours];
        double[] code = new double[FourStars.LENGTH];
        int[] four = new int[4];
        for (int star = 0; star < size; star++) {
            int n = nearest.nearest(star, around);
            for (int a = 0; a < n; a++) {
                for (int b = a + 1; b < n; b++) {
                    for (int c = b + 1; c < n; c++) {
                        four[0] = star;
                        four[1] = around[a];
                        four[2] = around[b];
                        four[3] = around[c];
                        if (FourStars.code(four, (s, axis) -> vectors[s][axis], 3, code)) {
                            add(four, code);
                        }
                    }
                }
            }
        }
    }

    private void add(int[] four, double[] code) {
        if ((count + 1) * 4 > stars.length) {
            stars = Arrays.copyOf(stars, stars.length * 2);
            codes = Arrays.copyOf(codes, stars.length / 4 * FourStars.LENGTH);
        }
        System.arraycopy(four, 0, stars, count * 4, 4);
        for (int k = 0; k < FourStars.LENGTH; k++) {
            codes[count * FourStars.LENGTH + k] = (short) Math.round(code[k] * 32_000);
        }
        count++;
    }

    private void fillBuckets() {
        bucketStart = new int[(1 << BUCKET_BITS) + 1];
        int[] bucketOf = new int[count];
        int[] cell = new int[FourStars.LENGTH];
        for (int i = 0; i < count; i++) {
            for (int k = 0; k < FourStars.LENGTH; k++) {
                cell[k] = (int) (codes[i * FourStars.LENGTH + k] / 32_000.0 / CELL);
            }
            bucketOf[i] = bucket(cell);
            bucketStart[bucketOf[i] + 1]++;
        }
        for (int b = 0; b < bucketStart.length - 1; b++) {
            bucketStart[b + 1] += bucketStart[b];
        }
        int[] next = bucketStart.clone();
        bucketed = new int[count];
        for (int i = 0; i < count; i++) {
            bucketed[next[bucketOf[i]]++] = i;
        }
    }

    private static int bucket(int[] cell) {
        int hash = 0;
        for (int c : cell) {
            hash = hash * 59 + c;
        }
        hash *= 0x9E3779B1;
        return hash >>> (32 - BUCKET_BITS);
    }

    /** Hands every pattern whose code differs by at most {@code tolerance} in each ratio to {@code each}. */
    void lookUp(double[] code, double tolerance, IntConsumer each) {
        int[] low = new int[FourStars.LENGTH];
        int[] high = new int[FourStars.LENGTH];
        for (int k = 0; k < FourStars.LENGTH; k++) {
            low[k] = (int) (Math.max(0, code[k] - tolerance) / CELL);
            high[k] = (int) (Math.min(1, code[k] + tolerance) / CELL);
        }
        int[] cell = low.clone();
        while (true) {
            int bucket = bucket(cell);
            for (int i = bucketStart[bucket]; i < bucketStart[bucket + 1]; i++) {
                if (near(bucketed[i], code, tolerance)) {
                    each.accept(bucketed[i]);
                }
            }
            int k = 0;
            while (k < FourStars.LENGTH && ++cell[k] > high[k]) {
                cell[k] = low[k];
                k++;
            }
            if (k == FourStars.LENGTH) {
                return;
            }
        }
    }

    private boolean near(int pattern, double[] code, double tolerance) {
        for (int k = 0; k < FourStars.LENGTH; k++) {
            if (Math.abs(codes[pattern * FourStars.LENGTH + k] / 32_000.0 - code[k]) > tolerance) {
                return false;
            }
        }
        return true;
    }

    /** Unit vector of star {@code place} (0 to 3) of a pattern. */
    double[] vector(int pattern, int place) {
        return vectors[stars[pattern * 4 + place]];
    }

    int size() {
        return count;
    }
}
