package app.ironside.stack;

import java.util.Locale;

/**
 * What drops onto a finer grid would give, told before they fall.
 *
 * @param spread by how much what falls on the pixels would vary, for lights that lie anyhow to each other: a standard deviation over the mean
 * @param fwhmPx width of the stars in the lights' pixels
 */
public record DrizzleOutlook(Drizzle drizzle, int lights, double spread, double fwhmPx) {
    /**
     * A Gaussian of this width has less than a hundredth of its contrast left at the finest detail that pixels can hold, exp(−π² σ² / 2) with σ = 1 pixel:
     * finer ones show no more.
     */
    private static final double SAMPLED_PX = 2.355;

    private static final int STEPS = 4000;

    /** @param lights at least one */
    public static DrizzleOutlook of(Drizzle drizzle, int lights, double fwhmPx) {
        double first = 0;
        double second = 0;
        for (int i = 0; i < STEPS; i++) {
            double share = share(drizzle, (i + 0.5) / STEPS);
            first += share / STEPS;
            second += share * share / STEPS;
        }
        // Rows and columns are shifted by chance each, so that a pixel's share is a product.
        double one = second * second / Math.pow(first, 4) - 1;
        return new DrizzleOutlook(drizzle, lights, Math.sqrt(Math.max(0, one) / lights), fwhmPx);
    }

    /** How much of a pixel's side the drops of a row cover that is shifted by a part of the light's pixel. */
    private static double share(Drizzle drizzle, double shift) {
        double pixel = 1 / drizzle.scale();
        double covered = 0;
        for (int k = -2; k <= 1; k++) {
            double from = Math.max(0, shift + k);
            double until = Math.min(pixel, shift + k + drizzle.drop());
            covered += Math.max(0, until - from);
        }
        return covered;
    }

    /** Whether the pixels would be covered evenly enough. */
    public boolean isEven() {
        return spread <= Drizzle.EVEN_SPREAD;
    }

    /** Whether the stars are narrow enough for finer pixels to show more of them. */
    public boolean isWorthwhile() {
        return fwhmPx < SAMPLED_PX;
    }

    /** Lights from which on the pixels are covered evenly. */
    public int lightsForEven() {
        return (int) Math.ceil(lights * spread * spread / (Drizzle.EVEN_SPREAD * Drizzle.EVEN_SPREAD) - 1e-9);
    }

    public String sentence() {
        return String.format(
                        Locale.ROOT,
                        "%d lights dithered by chance would cover pixels %s times as fine to within %.0f %%: %s. ",
                        lights,
                        drizzle.times(),
                        100 * spread,
                        isEven()
                                ? "evenly enough"
                                : String.format(Locale.ROOT, "unevenly; %d would do", lightsForEven()))
                + String.format(
                        Locale.ROOT,
                        isWorthwhile()
                                ? "Stars of %.2f px are narrow enough to gain."
                                : "Stars of %.2f px are sampled well as they are: finer pixels show no more, and cost time and room.",
                        fwhmPx);
    }
}
