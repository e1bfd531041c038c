package app.ironside.sky;

import app.ironside.Check;

/**
 * The glow of a town on one side of the sky.
 *
 * <p>What the person measures is one number: by how many magnitudes per square arcsecond the sky 20° above the horizon toward the
 * town is brighter than on the far side. The extra light is taken to fall off with the angle from the town's azimuth as a Gaussian
 * of 35° and with altitude as e^(−altitude/18°), the shape of measured profiles of single towns (common practice; the site's own
 * measurement sets the scale).
 *
 * @param azimuthDeg of the town, from north through east
 * @param brighterBy magnitudes per square arcsecond at 20° altitude
 */
public record LightDome(double azimuthDeg, double brighterBy) {
    private static final double WIDTH_DEG = 35;
    private static final double HEIGHT_DEG = 18;
    private static final double MEASURED_AT_DEG = 20;

    public LightDome {
        azimuthDeg = Angles.wrap360(azimuthDeg);
        Check.inRange("brighterBy", brighterBy, 0, 6);
    }

    /** Extra light as a multiple of the dark sky there. */
    public double share(Horizontal direction) {
        double across = Angles.wrap180(direction.azimuthDeg() - azimuthDeg) / WIDTH_DEG;
        double up = (Math.max(0, direction.altitudeDeg()) - MEASURED_AT_DEG) / HEIGHT_DEG;
        return (Math.pow(10, 0.4 * brighterBy) - 1) * Math.exp(-across * across / 2 - up);
    }
}
