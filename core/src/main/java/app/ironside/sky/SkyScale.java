package app.ironside.sky;

import app.ironside.Check;

/**
 * The darkness of a site on the three scales in use: surface brightness of the zenith, faintest star for the naked eye, and the
 * nine classes.
 *
 * @see "Schaefer 1990, PASP 102, 212, for the faintest star at a sky brightness, in the closed form usual with sky meters: m = 7.93 −
 *     5 log(10^(4.316 − B/5) + 1)"
 * @see "Bortle 2001, Sky and Telescope 101(2), 126, for the classes; their bounds in magnitudes per square arcsecond as printed on
 *     nomograms for sky meters (common practice, from memory)"
 */
public final class SkyScale {
    /** The darkest sky of each class but the first is the brightest of the class before. */
    private static final double[] BRIGHTEST = {21.99, 21.89, 21.69, 20.49, 19.50, 18.94, 18.38, 17.80};

    private static final double DARKEST = 22.0;
    private static final double CITY = 17.3;

    private SkyScale() {}

    /** The faintest star seen with the naked eye under a sky of a brightness in magnitudes per square arcsecond. */
    public static double faintestStar(double magPerArcsec2) {
        return 7.93 - 5 * Math.log10(Math.pow(10, 4.316 - magPerArcsec2 / 5) + 1);
    }

    /** The inverse of {@link #faintestStar}, for stars up to 7.9. */
    public static double magPerArcsec2(double faintestStar) {
        Check.inRange("faintestStar", faintestStar, 0, 7.92);
        return 21.58 - 5 * Math.log10(Math.pow(10, 1.586 - faintestStar / 5) - 1);
    }

    /** The class, 1 darkest to 9, of a sky brightness in magnitudes per square arcsecond. */
    public static int classOf(double magPerArcsec2) {
        int skyClass = 1;
        while (skyClass < 9 && magPerArcsec2 < BRIGHTEST[skyClass - 1]) {
            skyClass++;
        }
        return skyClass;
    }

    /** The middle of a class, magnitudes per square arcsecond. */
    public static double ofClass(int skyClass) {
        Check.inRange("skyClass", skyClass, 1, 9);
        double dark = skyClass == 1 ? DARKEST : BRIGHTEST[skyClass - 2];
        double bright = skyClass == 9 ? CITY : BRIGHTEST[skyClass - 1];
        return (dark + bright) / 2;
    }
}
