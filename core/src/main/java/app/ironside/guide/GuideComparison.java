package app.ironside.guide;

import java.util.Locale;
import org.hipparchus.distribution.continuous.TDistribution;

/**
 * Whether one run of guiding was steadier than another. Samples a few seconds apart are not independent: each run is taken in stretches
 * longer than its own memory, and what counts is how the stretches scatter. A run may be better only because the air was.
 *
 * @param rmsRatio of the first over the other, both axes together
 * @param low95 of its confidence interval of 95 %
 * @param pValue how often runs that do not differ would differ as much
 * @param verdict better, worse or open, of the first
 * @param minutesForTenPercent that each run would have to last for a difference of a tenth to be found four times in five, by how these
 *     scattered
 */
public record GuideComparison(
        double rmsRatio,
        double low95,
        double high95,
        double pValue,
        Verdict verdict,
        double minutesForTenPercent,
        String sentence) {
    /** Standard deviations between nothing and what is found four times in five at the level of 5 %: 1.96 + 0.84. */
    private static final double POWER = 2.8;

    private static final double LEVEL = 0.05;
    private static final int MOST_STRETCHES = 30;
    private static final int FEWEST_STRETCHES = 4;

    /** Stretches over the time after which the squared errors have forgotten each other. */
    private static final double MEMORIES = 8;

    /** Ratio of the air's part from which it may be what differs. */
    private static final double OTHER_AIR = 1.15;

    /** What the comparison says of the first run. */
    public enum Verdict {
        BETTER("better"),
        WORSE("worse"),
        OPEN("open");

        private final String word;

        Verdict(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    /** Mean square with how sure it is. */
    private record Level(double mean, double variance, double freedom) {}

    public static GuideComparison of(GuideLog one, GuideLog other) {
        Level a = level(one);
        Level b = level(other);
        double ratio = Math.sqrt(a.mean / b.mean);
        // Of the logarithm of the ratio of mean squares, by the delta method; degrees of freedom after Welch and
        // Satterthwaite.
        double va = a.variance / (a.mean * a.mean);
        double vb = b.variance / (b.mean * b.mean);
        double error = Math.sqrt(va + vb);
        double freedom = (va + vb) * (va + vb) / (va * va / a.freedom + vb * vb / b.freedom);
        TDistribution t = new TDistribution(Math.max(1, freedom));
        double log = 2 * Math.log(ratio);
        double p = 2 * (1 - t.cumulativeProbability(Math.abs(log) / error));
        double half = t.inverseCumulativeProbability(1 - LEVEL / 2) * error / 2;
        boolean differs = p < LEVEL;
        double air = differs ? GuideAnalysis.airArcsec(one) / Math.max(1e-9, GuideAnalysis.airArcsec(other)) : 1;
        boolean byAir = differs && (log < 0 ? air < 1 / OTHER_AIR : air > OTHER_AIR);
        boolean beyondAir = byAir && Math.abs(Math.log(ratio)) - half > Math.abs(Math.log(air));
        Verdict verdict = !differs || byAir && !beyondAir ? Verdict.OPEN : log < 0 ? Verdict.BETTER : Verdict.WORSE;
        double low = ratio * Math.exp(-half);
        double high = ratio * Math.exp(half);
        double asked = POWER * error / 2 / Math.log(1.1);
        double minutes = (one.minutes() + other.minutes()) / 2 * asked * asked;
        return new GuideComparison(
                ratio, low, high, p, verdict, minutes, sentence(verdict, ratio, low, high, byAir, air, minutes));
    }

    private static String sentence(
            Verdict verdict, double ratio, double low, double high, boolean byAir, double air, double minutes) {
        String range = String.format(Locale.ROOT, "%.2f times the other's RMS (%.2f to %.2f)", ratio, low, high);
        return switch (verdict) {
            case BETTER -> "Steadier: " + range + ".";
            case WORSE -> "Less steady: " + range + ".";
            case OPEN -> byAir
                    ? String.format(
                            Locale.ROOT,
                            "Open: %s, but the air was %.2f times as restless, which explains as much.",
                            range,
                            air)
                    : String.format(
                            Locale.ROOT,
                            "Open: %s. Runs of %.0f minutes, taken in turns, would show a tenth four times in five.",
                            range,
                            Math.ceil(minutes));
        };
    }

    private static Level level(GuideLog log) {
        double[] ra = log.ra();
        double[] dec = log.dec();
        double meanRa = log.guided() ? 0 : mean(ra);
        double meanDec = log.guided() ? 0 : mean(dec);
        double[] squares = new double[ra.length];
        for (int i = 0; i < squares.length; i++) {
            squares[i] = (ra[i] - meanRa) * (ra[i] - meanRa) + (dec[i] - meanDec) * (dec[i] - meanDec);
        }
        int stretches = (int)
                Math.max(FEWEST_STRETCHES, Math.min(MOST_STRETCHES, squares.length / (MEMORIES * memory(squares))));
        double[] means = new double[stretches];
        for (int k = 0; k < stretches; k++) {
            int from = k * squares.length / stretches;
            int until = (k + 1) * squares.length / stretches;
            for (int i = from; i < until; i++) {
                means[k] += squares[i] / (until - from);
            }
        }
        double mean = mean(means);
        double sum = 0;
        for (double m : means) {
            sum += (m - mean) * (m - mean);
        }
        return new Level(Math.max(1e-12, mean), Math.max(1e-18, sum / (stretches - 1) / stretches), stretches - 1.0);
    }

    /** Samples after which one tells nothing of the next: the sum of the correlations up to where they are lost in noise. */
    private static double memory(double[] v) {
        double mean = mean(v);
        double zero = 0;
        for (double a : v) {
            zero += (a - mean) * (a - mean);
        }
        double sum = 1;
        for (int k = 1; k < v.length / 4; k++) {
            double at = 0;
            for (int i = 0; i + k < v.length; i++) {
                at += (v[i] - mean) * (v[i + k] - mean);
            }
            double correlation = at / Math.max(1e-300, zero);
            if (correlation < 2 / Math.sqrt(v.length)) {
                break;
            }
            sum += 2 * correlation;
        }
        return sum;
    }

    private static double mean(double[] v) {
        double sum = 0;
        for (double a : v) {
            sum += a;
        }
        return sum / v.length;
    }
}
