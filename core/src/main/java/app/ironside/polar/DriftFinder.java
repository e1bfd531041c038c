package app.ironside.polar;

import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;

/**
 * Finds the axis from the drift in declination of two or more stars, for those who cannot see the pole.
 *
 * <p>A star carried about the pole while the mount turns about an axis that is {@code a} too high and {@code z} too far east drifts north
 * at −ω (a sin H + z cos H), H being its hour angle (south of the equator the other way): on the meridian azimuth shows, six hours from
 * it altitude. The seen sky, refraction included, takes the place of the formula here, which makes no difference at the zenith and much
 * at the horizon.
 *
 * @see "Hook 1989, J. Br. Astron. Assoc. 99, 19 (polar axis alignment requirements; from memory)"
 */
public final class DriftFinder {
    private static final double ARCMIN_RAD = Math.PI / 180 / 60;
    private static final double LEAST_SPREAD = 0.05;
    private static final int ROUNDS = 3;

    /** Where the axis lies square to the star: 2π / 1436.07 minutes, of an arcminute in arcseconds. */
    static final double WORST_ARCSEC_PER_MINUTE_AN_ARCMIN = 60 * 2 * Math.PI / 1436.068;

    /**
     * A star watched with declination not corrected.
     *
     * @param driftArcsecPerMinute north positive
     * @param sigmaArcsecPerMinute standard deviation of the drift
     */
    public record DriftSight(
            Equatorial star,
            Instant start,
            Duration watched,
            double driftArcsecPerMinute,
            double sigmaArcsecPerMinute) {}

    private final Observer observer;

    public DriftFinder(Observer observer) {
        this.observer = observer;
    }

    /**
     * @param sights two or more, well apart in hour angle (about the meridian and low in the east or west)
     */
    public PolarResult find(List<DriftSight> sights) {
        if (sights.size() < 2) {
            return new PolarRefusal(
                    "One star's drift tells only one of altitude and azimuth: watch another, six hours away.");
        }
        double up = 0;
        double east = 0;
        double varianceUp = 0;
        double varianceEast = 0;
        for (int round = 0; round < ROUNDS; round++) {
            double aa = 0;
            double bb = 0;
            double ab = 0;
            double ay = 0;
            double by = 0;
            for (DriftSight s : sights) {
                double w = 1 / Math.max(1e-4, s.sigmaArcsecPerMinute());
                double here = expectedArcsecPerMinute(s, up, east);
                double a = (expectedArcsecPerMinute(s, up + 1, east) - here) * w;
                double b = (expectedArcsecPerMinute(s, up, east + 1) - here) * w;
                double y = (s.driftArcsecPerMinute() - here) * w;
                aa += a * a;
                bb += b * b;
                ab += a * b;
                ay += a * y;
                by += b * y;
            }
            double determinant = aa * bb - ab * ab;
            if (!(determinant > LEAST_SPREAD * Math.max(aa, bb) * Math.max(aa, bb))) {
                return new PolarRefusal(
                        "The stars are too near in hour angle to tell altitude from azimuth: watch one near the meridian and one low in the east or west.");
            }
            up += (ay * bb - by * ab) / determinant;
            east += (by * aa - ay * ab) / determinant;
            varianceUp = bb / determinant;
            varianceEast = aa / determinant;
        }
        return new PolarError(up, east, Math.sqrt(varianceUp + varianceEast), 0);
    }

    /**
     * Drift of a star, north positive, with an axis that stands so far off.
     *
     * @param upArcmin too high
     * @param eastArcmin too far east
     */
    double expectedArcsecPerMinute(DriftSight s, double upArcmin, double eastArcmin) {
        double[] axis = axis(upArcmin, eastArcmin);
        double before = fromAxis(s.star(), s.start(), axis);
        double after = fromAxis(s.star(), s.start().plus(s.watched()), axis);
        double toPole = Math.toDegrees(before - after) * 3600 / (s.watched().toMillis() / 60_000.0);
        return observer.site().latDeg() >= 0 ? toPole : -toPole;
    }

    private double fromAxis(Equatorial star, Instant time, double[] axis) {
        return Vectors.angle(observer.observed(star, time).toEastNorthUp(), axis);
    }

    private double[] axis(double upArcmin, double eastArcmin) {
        double altitude = observer.site().poleAltitudeDeg();
        double[] pole = new Horizontal(observer.site().poleAzimuthDeg(), altitude).toEastNorthUp();
        double[] raised = new Horizontal(observer.site().poleAzimuthDeg(), altitude + upArcmin / 60).toEastNorthUp();
        double[] east = {1, 0, 0};
        double[] moved = new double[3];
        for (int k = 0; k < 3; k++) {
            moved[k] = raised[k] + east[k] * eastArcmin * ARCMIN_RAD;
        }
        return Vectors.length(moved) > 0 ? Vectors.unit(moved) : pole;
    }

    /** In words, what the drift of one star says at once, before a second is watched. */
    public String firstHint(DriftSight sight) {
        double hourAngle = observer.hourAngleDeg(sight.star(), sight.start());
        boolean meridian = Math.abs(Math.sin(Math.toRadians(hourAngle))) < 0.5;
        double north = sight.driftArcsecPerMinute() * (observer.site().latDeg() >= 0 ? 1 : -1);
        if (Math.abs(north) < 2 * sight.sigmaArcsecPerMinute()) {
            return "No drift beyond the noise yet: watch longer, or this coordinate is good.";
        }
        if (meridian) {
            return "Near the meridian: the axis is too far " + (north < 0 ? "east." : "west.");
        }
        boolean high = hourAngle < 0 ? north > 0 : north < 0;
        return String.format(
                Locale.ROOT,
                "Low in the %s: the axis is too %s.",
                hourAngle < 0 ? "east" : "west",
                high ? "high" : "low");
    }
}
