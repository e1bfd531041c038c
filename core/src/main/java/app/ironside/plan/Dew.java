package app.ironside.plan;

import app.ironside.Check;

/**
 * When glass gets wet or white.
 *
 * @see "WMO 2018, Guide to Instruments and Methods of Observation (WMO-No. 8), annex 4.B, for vapour pressure over water: e = 6.112
 *     exp(17.62 t / (243.12 + t)) hPa"
 */
public final class Dew {
    private static final double A = 17.62;
    private static final double B = 243.12;

    /** Glass that looks at a clear sky radiates itself below the air's temperature by about this (common practice: 2 to 4 K). */
    private static final double RADIATIVE_COOLING_C = 3;

    private static final double NEAR_C = 1;

    /** What happens to unheated glass. */
    public enum Risk {
        DRY("dry"),
        NEAR("close to dew"),
        DEW("dew"),
        FROST("frost");

        private final String words;

        Risk(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    private Dew() {}

    /** Saturation pressure of water vapour over water, hPa. */
    public static double saturationHpa(double temperatureC) {
        return 6.112 * Math.exp(A * temperatureC / (B + temperatureC));
    }

    /**
     * The temperature at which air of a relative humidity drops its water.
     *
     * @param relativeHumidity above 0 to 1
     */
    public static double pointC(double temperatureC, double relativeHumidity) {
        Check.inRange("relativeHumidity", relativeHumidity, 0.001, 1);
        double x = Math.log(relativeHumidity) + A * temperatureC / (B + temperatureC);
        return B * x / (A - x);
    }

    /** How far unheated glass under a clear sky stands above the dew point, °C; below 0 it is wet. */
    public static double marginC(double temperatureC, double relativeHumidity) {
        return temperatureC - RADIATIVE_COOLING_C - pointC(temperatureC, relativeHumidity);
    }

    /** What unheated glass under a clear sky must expect. */
    public static Risk risk(double temperatureC, double relativeHumidity) {
        double glass = temperatureC - RADIATIVE_COOLING_C;
        double margin = marginC(temperatureC, relativeHumidity);
        if (margin > NEAR_C) {
            return Risk.DRY;
        }
        if (margin > 0) {
            return Risk.NEAR;
        }
        return glass < 0 ? Risk.FROST : Risk.DEW;
    }
}
