package app.ironside.sky;

/**
 * How bright the sky is and how much light it takes away.
 *
 * @see "Krisciunas and Schaefer 1991, PASP 103, 1033"
 */
public final class SkyBrightness {
    /** V extinction of a clear low site, magnitudes per airmass (common practice: 0.2 to 0.3). */
    public static final double EXTINCTION_MAG_PER_AIRMASS = 0.25;

    private SkyBrightness() {}

    /**
     * Airmass of a star, about 1 % good down to the horizon.
     *
     * @param altitudeDeg apparent; below 0 it counts as 0
     * @see "Kasten and Young 1989, Applied Optics 28, 4735"
     */
    public static double airmass(double altitudeDeg) {
        double altitude = Math.max(0, altitudeDeg);
        return 1 / (Angles.sinDeg(altitude) + 0.50572 * Math.pow(altitude + 6.07995, -1.6364));
    }

    /** Optical path through the thin layer that glows (paper, equation 3): it grows less than the airmass. */
    static double glowAirmass(double altitudeDeg) {
        double sinZenithDistance = Angles.cosDeg(Math.max(0, altitudeDeg));
        return 1 / Math.sqrt(1 - 0.96 * sinZenithDistance * sinZenithDistance);
    }

    /** Surface brightness in nanoLamberts from V magnitudes per square arcsecond (paper, equation 1). */
    public static double nanoLamberts(double magPerArcsec2) {
        return 34.08 * Math.exp(20.7233 - 0.92104 * magPerArcsec2);
    }

    /** V magnitudes per square arcsecond from nanoLamberts: the inverse of {@link #nanoLamberts}. */
    public static double magPerArcsec2(double nanoLamberts) {
        return (20.7233 - Math.log(nanoLamberts / 34.08)) / 0.92104;
    }

    /** The moonless sky at an altitude, nanoLamberts (paper, equation 2). */
    public static double darkSkyNanoLamberts(double zenithMagPerArcsec2, double altitudeDeg) {
        double path = glowAirmass(altitudeDeg);
        return nanoLamberts(zenithMagPerArcsec2) * Math.pow(10, -0.4 * EXTINCTION_MAG_PER_AIRMASS * (path - 1)) * path;
    }

    /**
     * The light that the Moon adds, nanoLamberts; the paper claims 8 to 23 %.
     *
     * @param phaseAngleDeg 0 full, 180 new
     * @param separationDeg between the Moon and the place looked at
     * @param moonAltitudeDeg below the horizon the Moon adds nothing
     * @param altitudeDeg of the place looked at
     */
    public static double moonNanoLamberts(
            double phaseAngleDeg, double separationDeg, double moonAltitudeDeg, double altitudeDeg) {
        if (moonAltitudeDeg <= 0) {
            return 0;
        }
        double illuminance =
                Math.pow(10, -0.4 * (3.84 + 0.026 * Math.abs(phaseAngleDeg) + 4e-9 * Math.pow(phaseAngleDeg, 4)));
        double cosine = Angles.cosDeg(separationDeg);
        double rayleigh = Math.pow(10, 5.36) * (1.06 + cosine * cosine);
        double mie = separationDeg > 10
                ? Math.pow(10, 6.15 - separationDeg / 40)
                : 6.2e7 / Math.max(separationDeg * separationDeg, 0.25);
        double k = EXTINCTION_MAG_PER_AIRMASS;
        return (rayleigh + mie)
                * illuminance
                * Math.pow(10, -0.4 * k * glowAirmass(moonAltitudeDeg))
                * (1 - Math.pow(10, -0.4 * k * glowAirmass(altitudeDeg)));
    }
}
