package app.ironside.kit;

import app.ironside.Check;
import app.ironside.kit.Equipment.GainPoint;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;

/**
 * How long a sub should be, at which gain, and what it costs.
 *
 * <p>Throughout the CCD equation: the variance of a pixel in a sub of t seconds is (S + B + D) t + R², with the source's, the sky's
 * and the dark current's electrons a second and the read noise R.
 *
 * @see "Howell 2006, Handbook of CCD Astronomy, section 4.4"
 */
public final class Exposure {
    private static final double SIDEREAL_ARCSEC_PER_S = 15.041_067;

    private Exposure() {}

    /** Electrons a second and pixel that the sky of a brightness in magnitudes per square arcsecond leaves behind a filter. */
    public static double skyElectronsPerSecond(Kit kit, FilterSpec filter, double skyMagPerArcsec2) {
        return Photometry.electronsPerSecondPerPixel(skyMagPerArcsec2, kit, filter);
    }

    /**
     * The sub length at which read noise raises the noise by a given share over what sky and dark current make: solves
     * √((B + D) t + R²) = (1 + p) √((B + D) t).
     *
     * @param backgroundElectronsPerSecond sky and dark current, B + D
     * @param share p, for example 0.05
     * @return R² / ((B + D) ((1 + p)² − 1)), seconds
     */
    public static double skyLimitedSeconds(
            double readNoiseElectrons, double backgroundElectronsPerSecond, double share) {
        Check.positive("backgroundElectronsPerSecond", backgroundElectronsPerSecond);
        Check.inRange("share", share, 0.001, 2);
        return readNoiseElectrons
                * readNoiseElectrons
                / (backgroundElectronsPerSecond * ((1 + share) * (1 + share) - 1));
    }

    /** How much read noise raises the noise of subs of a length: √(1 + R² / ((B + D) t)) − 1. */
    public static double readNoiseCost(double readNoiseElectrons, double backgroundElectronsPerSecond, double seconds) {
        return Math.sqrt(1 + readNoiseElectrons * readNoiseElectrons / (backgroundElectronsPerSecond * seconds)) - 1;
    }

    /**
     * The magnitude of the faintest star whose middle pixel fills its well in a sub.
     *
     * <p>The middle pixel of a Gaussian of full width w gets the share erf²(p √ln 2 / w) of the light, p being the pixel.
     *
     * @param fwhmArcsec width of star images
     */
    public static double saturationMagnitude(Kit kit, FilterSpec filter, double seconds, double fwhmArcsec) {
        double pixel = kit.arcsecPerPixel();
        double share = org.hipparchus.special.Erf.erf(pixel * Math.sqrt(Math.log(2)) / fwhmArcsec);
        double zero = Photometry.electronsPerSecond(0, kit, filter) * share * share * seconds;
        double full = Math.min(
                kit.sensor().fullWellElectrons(),
                kit.sensor().fullScaleAdu() * kit.sensor().gainElectronsPerAdu());
        return 2.5 * Math.log10(zero / full);
    }

    /**
     * The longest sub without guiding before drift and gear trail a star by half a pixel.
     *
     * <p>The gear moves fastest at 2π A / P for a swing of ±A in a period P; from a random start the mean speed is 2/π of that.
     *
     * @param polarErrorArcmin of the mount's axis
     */
    public static double unguidedSeconds(Kit kit, double polarErrorArcmin) {
        double drift = PolarTolerance.driftArcsecPerMinute(polarErrorArcmin) / 60;
        double gear =
                4 * kit.equipment().periodicErrorArcsec() / kit.equipment().wormSeconds();
        double speed = Math.hypot(drift, gear);
        return speed <= 0 ? Double.POSITIVE_INFINITY : Sampling.INVISIBLE_PX * kit.arcsecPerPixel() / speed;
    }

    /** Without tracking at all: until a star at a declination has moved by a number of pixels. */
    public static double untrackedSeconds(Kit kit, double declinationDeg, double pixels) {
        double speed = SIDEREAL_ARCSEC_PER_S * Math.max(0.02, Math.cos(Math.toRadians(declinationDeg)));
        return pixels * kit.arcsecPerPixel() / speed;
    }

    /**
     * The rule of 500 for a fixed tripod: 500 over the focal length that gives the same view on a frame 36 mm wide (common practice).
     */
    public static double rule500Seconds(double focalLengthMm, double cropFactor) {
        return 500 / Check.positive("focalLengthMm", focalLengthMm) / Check.positive("cropFactor", cropFactor);
    }

    /** A sensor's width against 36 mm. */
    public static double cropFactor(Sensor sensor) {
        return 36 / (sensor.widthPx() * sensor.pixelUm() / 1000);
    }

    /**
     * The lowest gain, and so the greatest range, at which read noise costs at most a share of the noise in subs of a length.
     *
     * @return empty if the camera's curve is not known or no gain reaches it
     */
    public static Optional<GainPoint> gainFor(
            Kit kit, double backgroundElectronsPerSecond, double seconds, double share) {
        return kit.equipment().gainCurve().stream()
                .filter(g -> readNoiseCost(g.readNoiseElectrons(), backgroundElectronsPerSecond, seconds) <= share)
                .max(Comparator.comparingDouble(GainPoint::dynamicRangeStops));
    }

    /**
     * A way to spend a time on subs of one length.
     *
     * @param subs that fit, read-out and dither counted
     * @param keptSubs after the spoiled ones
     * @param gigabytes of the files
     * @param stackMinutes to stack them
     * @param noise of the stack of kept subs, relative to the same hours in one noiselessly read exposure; 1 is perfect
     */
    public record Way(double seconds, int subs, double keptSubs, double gigabytes, double stackMinutes, double noise) {}

    /**
     * What the ways of spending time depend on.
     *
     * @param overheadSeconds between subs, dither shared out
     * @param spoilsPerHour gusts, trails and stumbles that each cost the sub they fall into
     * @param stackSecondsPerSub measured on this machine
     * @param roundShare share of subs of a length whose stars are round
     */
    public record Conditions(
            double hours,
            double backgroundElectronsPerSecond,
            double overheadSeconds,
            double spoilsPerHour,
            double stackSecondsPerSub,
            DoubleUnaryOperator roundShare) {
        /** For a mount that guides. */
        public Conditions(
                double hours,
                double backgroundElectronsPerSecond,
                double overheadSeconds,
                double spoilsPerHour,
                double stackSecondsPerSub) {
            this(hours, backgroundElectronsPerSecond, overheadSeconds, spoilsPerHour, stackSecondsPerSub, t -> 1);
        }
    }

    /** What each sub length gives in the same hours: spoils fall at random, so a sub of t survives with e^(−rate t). */
    public static List<Way> ways(Kit kit, Conditions conditions, double[] lengthsSeconds) {
        List<Way> ways = new ArrayList<>();
        double read = kit.sensor().readNoiseElectrons();
        for (double t : lengthsSeconds) {
            int subs = (int) Math.floor(conditions.hours() * 3600 / (t + conditions.overheadSeconds()));
            double survives = Math.exp(-conditions.spoilsPerHour() * t / 3600)
                    * conditions.roundShare().applyAsDouble(t);
            double kept = subs * survives;
            double ideal = conditions.hours() * 3600;
            double light = kept * t;
            double noise = light <= 0
                    ? Double.POSITIVE_INFINITY
                    : Math.sqrt(ideal / light)
                            * (1 + readNoiseCost(read, conditions.backgroundElectronsPerSecond(), t));
            double bytes = 2.0 * kit.sensor().widthPx() * kit.sensor().heightPx() * subs;
            ways.add(new Way(t, subs, kept, bytes / 1e9, subs * conditions.stackSecondsPerSub() / 60, noise));
        }
        return ways;
    }

    /**
     * Signal-to-noise ratio of one pixel of a source in a stack.
     *
     * @param sourceElectronsPerSecond of the source in the pixel
     * @param backgroundElectronsPerSecond sky and dark current
     */
    public static double stackSignalToNoise(
            double sourceElectronsPerSecond,
            double backgroundElectronsPerSecond,
            double readNoiseElectrons,
            Subs subs) {
        double light = subs.count() * subs.seconds();
        double variance = (sourceElectronsPerSecond + backgroundElectronsPerSecond) * light
                + subs.count() * readNoiseElectrons * readNoiseElectrons;
        return variance <= 0 ? 0 : sourceElectronsPerSecond * light / Math.sqrt(variance);
    }

    /** So many subs of a length. */
    public record Subs(double count, double seconds) {}

    /**
     * Hours after which one more night of a length raises the ratio by less than a share: since it grows with √t, T where
     * √(1 + night/T) = 1 + share.
     */
    public static double diminishingHours(double nightHours, double share) {
        return nightHours / ((1 + share) * (1 + share) - 1);
    }

    /**
     * By how much the hours must be multiplied on another kit for the same signal in a pixel from something extended: the pixel's
     * étendue and sensitivity compared. For the same camera this is the ratio of focal ratios squared.
     */
    public static double equalSignalHours(Kit from, Kit to) {
        return perPixel(from) / perPixel(to);
    }

    private static double perPixel(Kit kit) {
        double scale = kit.arcsecPerPixel();
        return kit.optics().areaCm2()
                * kit.optics().transmission()
                * kit.sensor().quantumEfficiency()
                * scale
                * scale;
    }
}
