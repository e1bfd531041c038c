package app.ironside.judge;

import app.ironside.sky.SkyBrightness;
import java.util.List;

/**
 * How much light the clear air of a night takes, fitted to a series: clouds only ever take more, so that the clearer subs at each altitude
 * tell.
 *
 * @param magPerAirmass extinction
 * @param fitted whether the series' altitudes told it; else it is the usual value
 */
record ClearAir(double magPerAirmass, boolean fitted) {
    /** A clear low site, in the middle of the optical range (common practice: 0.15 to 0.35). */
    private static final double USUAL = 0.2;

    private static final double COARSE = 0.03;
    private static final double FINE = 0.005;
    private static final double LEAST = 0.06;
    private static final double MOST = 0.6;

    /** How far from the usual it may well be. */
    private static final double DOUBT = 0.08;

    /** With less difference in airmass nothing can be fitted. */
    private static final double LEAST_RANGE = 0.25;

    private static final int FEWEST = 5;

    /** What lies below counts a fifth of what lies above: three clear subs outvote twelve clouded ones. */
    private static final double QUANTILE = 0.8;

    /** Scatter of the light of clear subs, magnitudes. */
    private static final double SCATTER = 0.03;

    static final ClearAir NONE = new ClearAir(USUAL, false);

    /** By the subs of a series whose altitude is known. */
    static ClearAir of(List<SubLook> series) {
        List<SubLook> told = series.stream()
                .filter(s -> s.comparable() && s.altitudeDeg().isPresent())
                .toList();
        double[] air = told.stream().mapToDouble(ClearAir::airmass).toArray();
        double low = java.util.Arrays.stream(air).min().orElse(1);
        double high = java.util.Arrays.stream(air).max().orElse(1);
        if (told.size() < FEWEST || high - low < LEAST_RANGE) {
            return NONE;
        }
        double[] magnitudes = told.stream()
                .mapToDouble(s -> 2.5 * Math.log10(s.light().getAsDouble()))
                .toArray();
        double coarse = best(air, magnitudes, LEAST, MOST, COARSE);
        double best = best(air, magnitudes, coarse - COARSE, coarse + COARSE, FINE);
        return new ClearAir(best, true);
    }

    private static double best(double[] air, double[] magnitudes, double from, double to, double step) {
        double best = USUAL;
        double least = Double.POSITIVE_INFINITY;
        for (double k = from; k <= to; k += step) {
            double cost = cost(air, magnitudes, k) / SCATTER + Math.pow((k - USUAL) / DOUBT, 2) / 2;
            if (cost < least) {
                least = cost;
                best = k;
            }
        }
        return best;
    }

    /** Of the best quantile line with this slope. */
    private static double cost(double[] air, double[] magnitudes, double k) {
        double[] outside = new double[air.length];
        for (int i = 0; i < air.length; i++) {
            outside[i] = magnitudes[i] + k * air[i];
        }
        double[] sorted = outside.clone();
        java.util.Arrays.sort(sorted);
        double level = sorted[(int) Math.round(QUANTILE * (sorted.length - 1))];
        double cost = 0;
        for (double one : outside) {
            double off = one - level;
            cost += off > 0 ? QUANTILE * off : (QUANTILE - 1) * off;
        }
        return cost;
    }

    /** Of a sub; 1 if its altitude is not told. */
    static double airmass(SubLook sub) {
        return sub.altitudeDeg().isPresent()
                ? SkyBrightness.airmass(Math.max(3, sub.altitudeDeg().getAsDouble()))
                : 1;
    }

    /** Share of the light that clear air lets through, over that at the zenith. */
    double share(SubLook sub) {
        return Math.pow(10, -0.4 * magPerAirmass * (airmass(sub) - 1));
    }
}
