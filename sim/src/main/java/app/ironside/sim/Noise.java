package app.ironside.sim;

import java.util.stream.IntStream;
import org.hipparchus.special.Erf;

/**
 * A fast stream of random numbers for pixels: SplitMix64 with a table of the normal distribution's quantiles. Deterministic for a
 * seed; not for more than 4 sigma into the tails.
 *
 * @see "Steele, Lea and Flood 2014, OOPSLA, Fast splittable pseudorandom number generators"
 */
final class Noise {
    private static final int TABLE_BITS = 15;
    private static final float[] QUANTILES = quantiles();
    private static final double SMALL_MEAN = 20;

    /** 1/k; a mean of {@link #SMALL_MEAN} gives no count as high as the last but once in 10¹². */
    private static final double[] RECIPROCALS =
            IntStream.range(0, 64).mapToDouble(k -> 1.0 / Math.max(1, k)).toArray();

    private long state;

    Noise(long seed) {
        state = seed;
    }

    /** A stream of its own for every combination of numbers. */
    static Noise of(long seed, long... parts) {
        long mixed = seed;
        for (long part : parts) {
            mixed = mix(mixed ^ part * 0x9E3779B97F4A7C15L);
        }
        return new Noise(mixed);
    }

    private static float[] quantiles() {
        int n = 1 << TABLE_BITS;
        float[] table = new float[n + 1];
        double squares = 0;
        for (int i = 0; i <= n; i++) {
            double p = (i + 0.25) / (n + 0.5);
            table[i] = (float) (Math.sqrt(2) * Erf.erfInv(2 * p - 1));
        }
        for (int i = 0; i < n; i++) {
            // Between entries the table is straight: the variance of one such piece.
            double a = table[i];
            double b = table[i + 1];
            squares += (a * a + a * b + b * b) / 3;
        }
        float scale = (float) (1 / Math.sqrt(squares / n));
        for (int i = 0; i <= n; i++) {
            table[i] *= scale;
        }
        return table;
    }

    private static long mix(long value) {
        long z = (value ^ (value >>> 30)) * 0xBF58476D1CE4E5B9L;
        z = (z ^ (z >>> 27)) * 0x94D049BB133111EBL;
        return z ^ (z >>> 31);
    }

    private long next() {
        state += 0x9E3779B97F4A7C15L;
        return mix(state);
    }

    /** Uniform in 0 up to 1. */
    double uniform() {
        return (next() >>> 11) * 0x1.0p-53;
    }

    /** Normal with mean 0 and deviation 1. */
    float gaussian() {
        long bits = next();
        int index = (int) (bits >>> (64 - TABLE_BITS));
        float share = ((bits >>> 16) & 0xffff) * (1 / 65_536f);
        return QUANTILES[index] + share * (QUANTILES[index + 1] - QUANTILES[index]);
    }

    /** Poisson; for large means the normal distribution it tends to. */
    float poisson(float mean) {
        if (mean <= 0) {
            return 0;
        }
        if (mean > SMALL_MEAN) {
            return Math.max(0, Math.round(mean + (float) Math.sqrt(mean) * gaussian()));
        }
        // Inversion by adding up the distribution from 0; the table spares the divisions.
        double left = uniform();
        double share = Math.exp(-mean);
        int count = 0;
        while (left > share && count < RECIPROCALS.length - 1) {
            left -= share;
            count++;
            share *= mean * RECIPROCALS[count];
        }
        return count;
    }

    /**
     * What is read of a pixel: photons and dark current, not more than it holds, and read noise.
     *
     * @param mean electrons
     * @param full electrons that the pixel holds
     * @param readNoise electrons
     */
    float electrons(float mean, float full, float readNoise) {
        if (mean > SMALL_MEAN && mean + 6 * (float) Math.sqrt(mean) < full) {
            // Two normal noises are one, drawn once.
            return mean + (float) Math.sqrt(mean + readNoise * readNoise) * gaussian();
        }
        return Math.min(full, poisson(mean)) + readNoise * gaussian();
    }
}
