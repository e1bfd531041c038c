package app.ironside.kit;

/** Electrons from magnitudes. */
public final class Photometry {
    /**
     * Photons from a star of V = 0 above the atmosphere, per second, cm² and nanometre at 550 nm: 3.64e-20 W m⁻² Hz⁻¹, that is
     * 3.64e-9 erg s⁻¹ cm⁻² Å⁻¹, over 3.61e-12 erg a photon.
     *
     * @see "Bessell 1979, PASP 91, 589, table IV"
     */
    private static final double PHOTONS_PER_S_CM2_NM = 10_070;

    private Photometry() {}

    /** Photons of a star of magnitude 0 at 550 nm, per second, cm² and nanometre. */
    public static double photonsPerSecondCm2Nm() {
        return PHOTONS_PER_S_CM2_NM;
    }

    /** Electrons a second from a source through a filter, above the atmosphere. */
    public static double electronsPerSecond(double magnitude, Kit kit, FilterSpec filter) {
        return PHOTONS_PER_S_CM2_NM
                * Math.pow(10, -0.4 * magnitude)
                * kit.optics().areaCm2()
                * kit.optics().transmission()
                * kit.sensor().quantumEfficiency()
                * filter.passNm();
    }

    /** Electrons a second and pixel from a surface brightness in magnitudes per square arcsecond. */
    public static double electronsPerSecondPerPixel(double magPerArcsec2, Kit kit, FilterSpec filter) {
        double scale = kit.arcsecPerPixel();
        return electronsPerSecond(magPerArcsec2, kit, filter) * scale * scale;
    }

    /** Instrumental surface brightness back from electrons a second and pixel: the inverse of the above. */
    public static double magPerArcsec2(double electronsPerSecondPerPixel, Kit kit, FilterSpec filter) {
        return -2.5 * Math.log10(electronsPerSecondPerPixel / electronsPerSecondPerPixel(0, kit, filter));
    }
}
