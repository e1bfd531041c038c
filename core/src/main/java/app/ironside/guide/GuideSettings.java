package app.ironside.guide;

import java.time.Duration;

/**
 * How the loop answers.
 *
 * @param raAggressiveness share of the displacement that is corrected, 0 to 1
 * @param leastMoveArcsec smaller displacements are left alone: they are the air
 * @param settleArcsec guiding has settled when it stays within this
 * @param settleFor for so long
 * @param settleLimit and gives up after this
 */
public record GuideSettings(
        Duration exposure,
        double raAggressiveness,
        double decAggressiveness,
        double leastMoveArcsec,
        double settleArcsec,
        Duration settleFor,
        Duration settleLimit) {
    public static final GuideSettings DEFAULT = new GuideSettings(
            Duration.ofSeconds(2), 0.6, 0.45, 0.25, 2.0, Duration.ofSeconds(12), Duration.ofSeconds(120));
}
