package app.ironside.guide;

import app.ironside.image.Statistics;
import java.util.Arrays;
import java.util.Optional;

/**
 * How one axis answers to what is sent to it, as its record tells: what the pulses moved, and what no mount can have done because it is
 * faster than any.
 *
 * <p>The record is noise (the air) on a mount that goes on as it went (a line whose slope wanders) and was moved by what was sent before.
 * What a pulse moves is what makes each exposure least surprising after those before it; looking only backward, the air that a pulse
 * answered to is not taken for what the pulse did.
 *
 * @param airArcsec standard deviation of the part that changes from each exposure to the next
 * @param gain share of a displacement that is sent back; 0 if nothing corrects
 * @param open where the axis would have stood without corrections; as the record if nothing corrects
 * @see "Harvey 1989, Forecasting, Structural Time Series Models and the Kalman Filter (local linear trend, innovations' likelihood)"
 */
record Answering(double airArcsec, double gain, double[] open) {
    /** Of what the displacement's own spread would need, the most that a pulse is thought to move. */
    private static final double MOST_GAIN = 2.0;

    private static final int STEPS = 40;
    private static final int REFINED = 6;

    /** How much the slope wanders from one exposure to the next, over the air: from a mount that goes straight to a bad gear. */
    private static final double[] WANDERING = {0, 1e-4, 3e-4, 1e-3, 3e-3, 1e-2, 3e-2, 0.1, 0.3};

    /** An exposure more surprising than this many standard deviations is a gust, and tells nothing of the answer. */
    private static final double GUST = 4;

    /** Variance of a slope that nobody knows yet, over the air's. */
    private static final double UNKNOWN_SLOPE = 1;

    /** Standard deviation of a normal distribution over the median of its absolute values. */
    private static final double NORMAL = 1.4826;

    private static final int SETTLED_AFTER = 4;

    /**
     * @param x displacements, arcseconds
     * @param pulses sent after each; if they are not told, a share of the displacement is taken to be sent
     * @param guided whether anything was sent
     * @param struck exposures that a gust threw off, which tell nothing of either
     */
    static Answering of(double[] x, Optional<double[]> pulses, boolean guided, boolean[] struck) {
        return new Axis(x, struck).answering(pulses, guided);
    }

    /** An axis while it is looked at. */
    private record Axis(double[] x, boolean[] struck) {
        private Answering answering(Optional<double[]> pulses, boolean guided) {
            if (!guided) {
                return new Answering(surprise(new double[x.length], 0).noise, 0, x.clone());
            }
            double[] sent = pulses.filter(p -> spread(p) > 0).orElseGet(() -> negative());
            double[] before = summed(sent);
            double scale = spread(x) / Math.max(1e-12, spread(sent));
            double best = 0;
            double least = surprise(before, 0).surprise;
            double step = 2 * MOST_GAIN * scale / STEPS;
            for (int i = -STEPS / 2; i <= STEPS / 2; i++) {
                double tried = surprise(before, i * step).surprise;
                if (tried < least) {
                    least = tried;
                    best = i * step;
                }
            }
            for (int i = 0; i < REFINED; i++) {
                step /= 2;
                for (double k : new double[] {best - step, best + step}) {
                    double tried = surprise(before, k).surprise;
                    if (tried < least) {
                        least = tried;
                        best = k;
                    }
                }
            }
            double[] open = without(before, best);
            return new Answering(surprise(before, best).noise, share(sent, best), open);
        }

        private static double[] summed(double[] sent) {
            double[] before = new double[sent.length];
            for (int i = 1; i < sent.length; i++) {
                before[i] = before[i - 1] + sent[i - 1];
            }
            return before;
        }

        private double[] without(double[] before, double k) {
            double[] open = new double[x.length];
            for (int i = 0; i < x.length; i++) {
                open[i] = x[i] - k * before[i];
            }
            return open;
        }

        /** @param surprise −2 log likelihood, but for a constant */
        private record Fit(double surprise, double noise) {}

        /** The best fit over how much the slope wanders. */
        private Fit surprise(double[] before, double k) {
            double[] open = without(before, k);
            Fit best = new Fit(Double.POSITIVE_INFINITY, 0);
            for (double wandering : WANDERING) {
                Fit fit = fit(open, wandering);
                if (fit.surprise < best.surprise) {
                    best = fit;
                }
            }
            return best;
        }

        /**
         * A filter of level and slope; the noise is what the innovations say, by their median. After exposures that were struck it begins
         * anew: the axis may stand elsewhere.
         */
        private Fit fit(double[] y, double wandering) {
            double q = wandering * wandering;
            double level = 0;
            double slope = 0;
            double pl = 0;
            double pls = 0;
            double ps = 0;
            double[] off = new double[y.length];
            double[] logs = new double[y.length];
            int n = 0;
            int since = 0;
            for (int i = 0; i < y.length; i++) {
                if (struck[i]) {
                    since = 0;
                    continue;
                }
                if (since == 0) {
                    level = y[i];
                    pl = 1;
                    pls = 0;
                    ps = Math.max(ps, UNKNOWN_SLOPE);
                } else {
                    level += slope;
                    pl += 2 * pls + ps;
                    pls += ps;
                    ps += q;
                    double f = pl + 1;
                    double innovation = y[i] - level;
                    if (since >= SETTLED_AFTER) {
                        off[n] = Math.abs(innovation) / Math.sqrt(f);
                        logs[n++] = Math.log(f);
                    }
                    double kl = pl / f;
                    double ks = pls / f;
                    level += kl * innovation;
                    slope += ks * innovation;
                    ps -= ks * pls;
                    pls -= ks * pl;
                    pl -= kl * pl;
                }
                since++;
            }
            if (n == 0) {
                return new Fit(0, 0);
            }
            double noise = Math.max(1e-9, NORMAL * Statistics.median(Arrays.copyOf(off, n)));
            double surprise = 0;
            for (int i = 0; i < n; i++) {
                double z = Math.min(GUST, off[i] / noise);
                surprise += z * z + logs[i];
            }
            return new Fit(surprise + 2 * n * Math.log(noise), noise);
        }

        /** Share of a displacement that is sent back. */
        private double share(double[] sent, double k) {
            double up = 0;
            double down = 0;
            for (int i = 0; i < x.length; i++) {
                up -= k * sent[i] * x[i];
                down += x[i] * x[i];
            }
            return down == 0 ? 0 : Math.max(0, up / down);
        }

        private double[] negative() {
            double[] out = new double[x.length];
            for (int i = 0; i < x.length; i++) {
                out[i] = -x[i];
            }
            return out;
        }
    }

    private static double spread(double[] v) {
        double mean = 0;
        for (double a : v) {
            mean += a / v.length;
        }
        double sum = 0;
        for (double a : v) {
            sum += (a - mean) * (a - mean);
        }
        return Math.sqrt(sum / v.length);
    }
}
