package app.ironside.sky;

import app.ironside.Check;

/**
 * The air that bends the light.
 *
 * @param pressureHpa at the telescope; 0 for no refraction at all
 * @param temperatureC of the air
 * @param relativeHumidity 0 to 1
 */
public record Atmosphere(double pressureHpa, double temperatureC, double relativeHumidity) {
    /** No air: geometric altitudes, as the rise and set conventions want them. */
    public static final Atmosphere NONE = new Atmosphere(0, 0, 0);

    /** Wavelength for which refraction is computed, micrometres: the middle of the visual band. */
    static final double WAVELENGTH_UM = 0.55;

    public Atmosphere {
        Check.inRange("pressureHpa", pressureHpa, 0, 1100);
        Check.inRange("temperatureC", temperatureC, -90, 60);
        Check.inRange("relativeHumidity", relativeHumidity, 0, 1);
    }

    /**
     * A mild night at an elevation, with the pressure of the barometric formula.
     *
     * @see "SOFA, iauApco13 note 5: phpa = 1013.25 exp(-hm / (29.3 tsl))"
     */
    public static Atmosphere standardAt(double elevationM) {
        double temperatureC = 10;
        return new Atmosphere(1013.25 * Math.exp(-elevationM / (29.3 * (temperatureC + 273.15))), temperatureC, 0.6);
    }
}
