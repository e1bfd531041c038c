package app.ironside.kit;

import app.ironside.Check;

/**
 * Which share of unguided subs has round stars: the gear swings, each sub begins at another place of its swing, and the axis drifts. A star
 * that moves while the shutter is open is drawn out by the variance of its motion.
 */
public final class RoundStars {
    private static final int PHASES = 180;
    private static final int INSTANTS = 24;
    private static final double FWHM_PER_SIGMA = 2.3548;

    private RoundStars() {}

    /**
     * What the stars are like and how the mount stands.
     *
     * @param seeingArcsec full width at half maximum
     * @param polarErrorArcmin of the axis
     * @param eccentricity from which a star counts as trailed
     */
    public record Conditions(double seeingArcsec, double polarErrorArcmin, double eccentricity) {
        public Conditions {
            Check.positive("seeingArcsec", seeingArcsec);
            Check.inRange("polarErrorArcmin", polarErrorArcmin, 0, 600);
            Check.inRange("eccentricity", eccentricity, 0.01, 0.999);
        }
    }

    /** Expected share of subs of a length, 0 to 1; 1 for a kit that is guided. */
    public static double share(Kit kit, double seconds, Conditions conditions) {
        Check.positive("seconds", seconds);
        if (kit.guideOptics().isPresent()) {
            return 1;
        }
        double scale = kit.arcsecPerPixel();
        double sigma2 =
                (square(conditions.seeingArcsec()) + square(kit.optics().blurFwhmArcsec())) / square(FWHM_PER_SIGMA)
                        + scale * scale / 12;
        double drift = PolarTolerance.driftArcsecPerMinute(conditions.polarErrorArcmin()) / 60;
        int round = 0;
        for (int phase = 0; phase < PHASES; phase++) {
            double[] moved = moved(kit.equipment(), seconds, 2 * Math.PI * phase / PHASES, drift);
            double half = (moved[0] + moved[1]) / 2;
            double apart = Math.hypot((moved[0] - moved[1]) / 2, moved[2]);
            double minor = sigma2 + half - apart;
            double major = sigma2 + half + apart;
            round += Math.sqrt(1 - minor / major) <= conditions.eccentricity() ? 1 : 0;
        }
        return (double) round / PHASES;
    }

    /**
     * Variances of the motion during a sub along and across the equator, and their covariance, arcseconds squared.
     *
     * @param drift in declination, arcseconds a second
     */
    private static double[] moved(Equipment equipment, double seconds, double phase, double drift) {
        double[] sums = new double[5];
        for (int i = 0; i < INSTANTS; i++) {
            double time = seconds * (i + 0.5) / INSTANTS;
            double along =
                    equipment.periodicErrorArcsec() * Math.sin(phase + 2 * Math.PI * time / equipment.wormSeconds());
            double across = drift * time;
            sums[0] += along / INSTANTS;
            sums[1] += across / INSTANTS;
            sums[2] += along * along / INSTANTS;
            sums[3] += across * across / INSTANTS;
            sums[4] += along * across / INSTANTS;
        }
        return new double[] {
            Math.max(0, sums[2] - square(sums[0])), Math.max(0, sums[3] - square(sums[1])), sums[4] - sums[0] * sums[1]
        };
    }

    private static double square(double x) {
        return x * x;
    }
}
