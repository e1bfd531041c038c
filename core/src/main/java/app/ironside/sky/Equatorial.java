package app.ironside.sky;

import app.ironside.Check;

/**
 * A direction on the celestial sphere, ICRS (J2000 to within 0.02″).
 *
 * @param raDeg right ascension, 0 up to 360
 * @param decDeg declination, −90 to 90
 */
public record Equatorial(double raDeg, double decDeg) {
    public Equatorial {
        Check.inRange("raDeg", raDeg, -360, 720);
        Check.inRange("decDeg", decDeg, -90, 90);
        raDeg = Angles.wrap360(raDeg);
    }

    /** The angle between two directions, 0 to 180°, exact at all separations. */
    public double separationDeg(Equatorial other) {
        return Math.toDegrees(Vectors.angle(Vectors.of(raDeg, decDeg), Vectors.of(other.raDeg, other.decDeg)));
    }

    /** The direction of {@code other} as seen from here, north through east, −180 to 180°. */
    public double positionAngleDeg(Equatorial other) {
        double deltaRa = Math.toRadians(other.raDeg - raDeg);
        double from = Math.toRadians(decDeg);
        double to = Math.toRadians(other.decDeg);
        double east = Math.sin(deltaRa) * Math.cos(to);
        double north = Math.cos(from) * Math.sin(to) - Math.sin(from) * Math.cos(to) * Math.cos(deltaRa);
        return Math.toDegrees(Math.atan2(east, north));
    }
}
