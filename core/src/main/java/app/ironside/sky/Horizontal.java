package app.ironside.sky;

import app.ironside.Check;

/**
 * A direction above the local horizon.
 *
 * @param azimuthDeg from north through east, 0 up to 360
 * @param altitudeDeg above the horizontal plane, −90 to 90; whether refraction is in it is said by whoever made it
 */
public record Horizontal(double azimuthDeg, double altitudeDeg) {
    public Horizontal {
        azimuthDeg = Angles.wrap360(azimuthDeg);
        Check.inRange("altitudeDeg", altitudeDeg, -90, 90);
    }

    /** Unit vector east, north, up. */
    public double[] toEastNorthUp() {
        double azimuth = Math.toRadians(azimuthDeg);
        double altitude = Math.toRadians(altitudeDeg);
        return new double[] {
            Math.sin(azimuth) * Math.cos(altitude), Math.cos(azimuth) * Math.cos(altitude), Math.sin(altitude)
        };
    }

    /** The direction of a vector east, north, up of any length above zero. */
    public static Horizontal fromEastNorthUp(double[] v) {
        return new Horizontal(
                Math.toDegrees(Math.atan2(v[0], v[1])), Math.toDegrees(Math.atan2(v[2], Math.hypot(v[0], v[1]))));
    }
}
