package app.ironside.sim;

import app.ironside.Check;
import java.util.List;

/**
 * The truth of a simulated observatory.
 *
 * @param polarAltitudeArcmin error of the axis at the start, positive too high
 * @param polarAzimuthArcmin positive too far east, as an angle on the sky
 * @param pointingErrorDeg how wrong the mount's first idea of its direction is
 * @param coneArcmin angle by which the telescope is not square to the declination axis
 * @param periodicArcsec amplitude of the gear error
 * @param periodicSeconds its period
 * @param decBacklashArcsec slack of the declination gear
 * @param seeingArcsec width of star images at the zenith, long exposure
 * @param jitterArcsec motion of star images from one guide exposure to the next, each axis
 * @param focusErrorUm distance from focus at the start
 * @param focusDriftUmPerC shift of best focus with the tube's temperature
 * @param eveningC air temperature at sunset
 * @param morningC toward which it falls
 * @param cameraAngleDeg of the camera on the telescope
 * @param altitudeKnobArcmin what a turn of the altitude knob does
 * @param azimuthKnobArcmin what a turn of the azimuth knob does
 * @param clouds when and how thick
 */
public record SimSettings(
        long seed,
        double polarAltitudeArcmin,
        double polarAzimuthArcmin,
        double pointingErrorDeg,
        double coneArcmin,
        double periodicArcsec,
        double periodicSeconds,
        double decBacklashArcsec,
        double seeingArcsec,
        double jitterArcsec,
        double focusErrorUm,
        double focusDriftUmPerC,
        double eveningC,
        double morningC,
        double cameraAngleDeg,
        double altitudeKnobArcmin,
        double azimuthKnobArcmin,
        List<Cloud> clouds) {
    /** A usual night with usual gear. */
    public static final SimSettings DEFAULT =
            new SimSettings(1, 38, -27, 1.1, 4, 9, 480, 3.5, 2.9, 0.32, 520, -11, 11, 2, 17, 62, 37, List.of());

    /**
     * A cloud.
     *
     * @param from minutes after sunset
     * @param until minutes after sunset
     * @param transparency share of light that passes
     */
    public record Cloud(double from, double until, double transparency) {
        public Cloud {
            Check.inRange("transparency", transparency, 0, 1);
        }
    }

    public SimSettings {
        Check.positive("seeingArcsec", seeingArcsec);
        Check.positive("periodicSeconds", periodicSeconds);
        clouds = clouds == null ? List.of() : List.copyOf(clouds);
    }

    public SimSettings withSeed(long other) {
        return new SimSettings(
                other,
                polarAltitudeArcmin,
                polarAzimuthArcmin,
                pointingErrorDeg,
                coneArcmin,
                periodicArcsec,
                periodicSeconds,
                decBacklashArcsec,
                seeingArcsec,
                jitterArcsec,
                focusErrorUm,
                focusDriftUmPerC,
                eveningC,
                morningC,
                cameraAngleDeg,
                altitudeKnobArcmin,
                azimuthKnobArcmin,
                clouds);
    }

    /** The same sky and camera on a mount that is perfect: what good guiding makes of any. */
    public SimSettings withPerfectMount() {
        return new SimSettings(
                seed,
                0,
                0,
                0,
                0,
                0,
                periodicSeconds,
                0,
                seeingArcsec,
                jitterArcsec,
                focusErrorUm,
                focusDriftUmPerC,
                eveningC,
                morningC,
                cameraAngleDeg,
                altitudeKnobArcmin,
                azimuthKnobArcmin,
                clouds);
    }

    public SimSettings withPolarError(double altitudeArcmin, double azimuthArcmin) {
        return new SimSettings(
                seed,
                altitudeArcmin,
                azimuthArcmin,
                pointingErrorDeg,
                coneArcmin,
                periodicArcsec,
                periodicSeconds,
                decBacklashArcsec,
                seeingArcsec,
                jitterArcsec,
                focusErrorUm,
                focusDriftUmPerC,
                eveningC,
                morningC,
                cameraAngleDeg,
                altitudeKnobArcmin,
                azimuthKnobArcmin,
                clouds);
    }
}
