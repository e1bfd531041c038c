package app.ironside.sim;

import app.ironside.Check;
import app.ironside.JsonText;
import app.ironside.document.RehearsedFault;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.function.Consumer;

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
 * @param faults what goes wrong, at a time
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
        List<Cloud> clouds,
        List<RehearsedFault> faults) {
    /** A usual night with usual gear. */
    public static final SimSettings DEFAULT = new SimSettings(
            1, 38, -27, 1.1, 4, 9, 480, 3.5, 2.9, 0.32, 520, -11, 11, 2, 17, 62, 37, List.of(), List.of());

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
        faults = faults == null ? List.of() : List.copyOf(faults);
    }

    public SimSettings withSeed(long other) {
        return with(change -> change.put("seed", other));
    }

    /** The same sky and camera on a mount that is perfect, and with nothing going wrong: what good guiding makes of any. */
    public SimSettings withPerfectMount() {
        return with(change -> {
            for (String error : List.of(
                    "polarAltitudeArcmin",
                    "polarAzimuthArcmin",
                    "pointingErrorDeg",
                    "coneArcmin",
                    "periodicArcsec",
                    "decBacklashArcsec")) {
                change.put(error, 0.0);
            }
            change.putArray("faults");
        });
    }

    public SimSettings withPolarError(double altitudeArcmin, double azimuthArcmin) {
        return with(
                change -> change.put("polarAltitudeArcmin", altitudeArcmin).put("polarAzimuthArcmin", azimuthArcmin));
    }

    /** Under these clouds and no others. */
    public SimSettings withClouds(List<Cloud> others) {
        return with(change -> {
            ArrayNode list = change.putArray("clouds");
            others.forEach(cloud -> list.add(JsonText.tree(cloud)));
        });
    }

    /** In other air: how wide stars are at the zenith, how they move, how warm it is at sunset and toward morning. */
    SimSettings withAir(double seeing, double jitter, double evening, double morning) {
        return with(change -> change.put("seeingArcsec", seeing)
                .put("jitterArcsec", jitter)
                .put("eveningC", evening)
                .put("morningC", morning));
    }

    /** With these going wrong and no others. */
    public SimSettings withFaults(List<RehearsedFault> others) {
        return with(change -> {
            ArrayNode list = change.putArray("faults");
            others.forEach(fault -> list.add(JsonText.tree(fault)));
        });
    }

    private SimSettings with(Consumer<ObjectNode> change) {
        ObjectNode changed = JsonText.newObject();
        change.accept(changed);
        return JsonText.overlay(this, changed, SimSettings.class, "observatory");
    }
}
