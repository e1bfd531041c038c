package app.ironside.sky;

import java.util.Optional;

/**
 * The gnomonic projection about a point: ξ grows to the east, η to the north, both in degrees.
 *
 * @see "Calabretta and Greisen 2002, A&A 395, 1077 (FITS WCS paper II), section 5.1.3"
 */
public record TangentPlane(Equatorial centre) {
    /** A point on the plane, degrees. */
    public record Point(double xiDeg, double etaDeg) {}

    /** Projects a direction; empty for directions 90° or more from the centre. */
    public Optional<Point> project(Equatorial sky) {
        double[] xy = new double[2];
        return projectInto(sky.raDeg(), sky.decDeg(), xy) ? Optional.of(new Point(xy[0], xy[1])) : Optional.empty();
    }

    /** As {@link #project}, for loops over many stars: writes ξ, η into {@code xiEtaDeg} and tells whether it could. */
    public boolean projectInto(double raDeg, double decDeg, double[] xiEtaDeg) {
        double deltaRa = Math.toRadians(raDeg - centre.raDeg());
        double dec = Math.toRadians(decDeg);
        double dec0 = Math.toRadians(centre.decDeg());
        double cosDistance = Math.sin(dec0) * Math.sin(dec) + Math.cos(dec0) * Math.cos(dec) * Math.cos(deltaRa);
        if (cosDistance <= 1e-9) {
            return false;
        }
        xiEtaDeg[0] = Math.toDegrees(Math.cos(dec) * Math.sin(deltaRa) / cosDistance);
        xiEtaDeg[1] = Math.toDegrees(
                (Math.cos(dec0) * Math.sin(dec) - Math.sin(dec0) * Math.cos(dec) * Math.cos(deltaRa)) / cosDistance);
        return true;
    }

    /** The direction that projects to ξ, η. */
    public Equatorial unproject(double xiDeg, double etaDeg) {
        double xi = Math.toRadians(xiDeg);
        double eta = Math.toRadians(etaDeg);
        double dec0 = Math.toRadians(centre.decDeg());
        double below = Math.cos(dec0) - eta * Math.sin(dec0);
        double ra = centre.raDeg() + Math.toDegrees(Math.atan2(xi, below));
        double dec = Math.atan2(Math.sin(dec0) + eta * Math.cos(dec0), Math.hypot(xi, below));
        return new Equatorial(Angles.wrap360(ra), Math.toDegrees(dec));
    }
}
