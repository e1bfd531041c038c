package app.ironside.sky;

import app.ironside.Check;

/**
 * How much light a clear sky takes, by wavelength and elevation.
 *
 * @see "Hayes and Latham 1975, ApJ 197, 593, for molecules; Green 1992, International Comet Quarterly 14, 55, for dust and ozone"
 */
public final class Extinction {
    private static final double MOLECULES_SCALE_KM = 7.996;
    private static final double DUST_SCALE_KM = 1.5;
    private static final double DUST_AT_510_NM = 0.120;
    private static final double DUST_EXPONENT = 1.3;
    private static final double OZONE = 0.016;

    private Extinction() {}

    /** By molecules alone (Rayleigh scattering), magnitudes per airmass. */
    public static double molecules(double wavelengthNm, double elevationM) {
        double um = wavelengthNm / 1000;
        double inverse = 1 / (um * um);
        double refractivity = 0.23465 + 107.6 / (146 - inverse) + 0.93161 / (41 - inverse);
        return 9.4977e-3
                * inverse
                * inverse
                * refractivity
                * refractivity
                * Math.exp(-elevationM / 1000 / MOLECULES_SCALE_KM);
    }

    /** By dust at a clean site, magnitudes per airmass. */
    public static double dust(double wavelengthNm, double elevationM) {
        return DUST_AT_510_NM
                * Math.pow(wavelengthNm / 510, -DUST_EXPONENT)
                * Math.exp(-elevationM / 1000 / DUST_SCALE_KM);
    }

    /** In all, magnitudes per airmass. */
    public static double magPerAirmass(double wavelengthNm, double elevationM) {
        Check.inRange("wavelengthNm", wavelengthNm, 300, 1100);
        double ozone = wavelengthNm > 480 && wavelengthNm < 720 ? OZONE : 0;
        return molecules(wavelengthNm, elevationM) + dust(wavelengthNm, elevationM) + ozone;
    }
}
