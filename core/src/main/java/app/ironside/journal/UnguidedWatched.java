package app.ironside.journal;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.OptionalDouble;

/**
 * The guide star was watched for some minutes without a correction: air, drift and gear as they are.
 *
 * @param airArcsec the part faster than any mount, both axes together
 * @param raDriftArcsecPerMin along right ascension
 * @param decDriftArcsecPerMin along declination: the polar axis
 * @param periodSeconds of the strongest swing of the gear, if one stands out
 * @param periodArcsec of that swing, to either side
 */
public record UnguidedWatched(
        Instant time,
        String text,
        String target,
        Interval span,
        double airArcsec,
        double raDriftArcsecPerMin,
        double decDriftArcsecPerMin,
        OptionalDouble periodSeconds,
        OptionalDouble periodArcsec)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.GUIDE;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
