package app.ironside.kit;

import app.ironside.Check;
import java.util.Optional;

/**
 * An equatorial mount.
 *
 * @param slewDegPerSecond speed of a slew
 * @param settleSeconds until it stands still after a slew
 * @param guideRateSidereal speed of a guide pulse in units of the sidereal rate
 * @param contactHourAngleDeg how far past the meridian (west positive) the axis may go before something touches
 * @param correction how a missed target is corrected; empty for {@link Correction#SYNC}
 */
public record MountSpec(
        double slewDegPerSecond,
        double settleSeconds,
        double guideRateSidereal,
        double contactHourAngleDeg,
        Optional<Correction> correction) {
    /** A mount that is told the truth. */
    public MountSpec(
            double slewDegPerSecond, double settleSeconds, double guideRateSidereal, double contactHourAngleDeg) {
        this(slewDegPerSecond, settleSeconds, guideRateSidereal, contactHourAngleDeg, Optional.empty());
    }

    public MountSpec {
        Check.positive("slewDegPerSecond", slewDegPerSecond);
        Check.inRange("settleSeconds", settleSeconds, 0, 120);
        Check.inRange("guideRateSidereal", guideRateSidereal, 0.05, 2);
        Check.inRange("contactHourAngleDeg", contactHourAngleDeg, -60, 60);
    }

    /** Guide speed in arcseconds per second. */
    public double guideArcsecPerSecond() {
        return guideRateSidereal * 15.041;
    }
}
