package app.ironside.document;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Arrays;
import java.util.Optional;

/** What can go wrong in a rehearsal. The words are those of the command line and of a diagnosis's cause. */
public enum FaultKind {
    CLOUD("cloud", "Cloud passes", 25, Optional.of("share of light that is lost"), 0.85),
    FOG("fog", "Fog comes up", 90, Optional.of("share of light that is lost"), 0.6),
    DEW("dew", "The optics dew over", 60, Optional.of("share of light that is lost in the end"), 0.7),
    FROST(
            "frost",
            "Frost grows on the sensor's window",
            90,
            Optional.of("share of light that is lost in the end"),
            0.7),
    WIND("wind", "Gusts shake the telescope", 40, Optional.of("times the usual image motion"), 6),
    CABLE("cable", "A cable drags, more and more", 60, Optional.of("drift in the end, arcseconds a minute"), 40),
    CONTACT("contact", "The telescope touches its tripod", 15, Optional.empty(), 1),
    KNOCK("knock", "Somebody knocks against the tripod", 0, Optional.of("shift, arcminutes"), 6),
    GUIDE_STAR_LOST("guide-star-lost", "The guide camera sees no star", 15, Optional.empty(), 1),
    WRONG_GUIDE_STAR("wrong-guide-star", "The guider follows a hot pixel", 30, Optional.empty(), 1),
    FOCUSER_SLIP("focuser-slip", "The focuser slips", 0, Optional.of("micrometres"), 180),
    FOCUSER_LOST("focuser-lost", "The focuser loses its zero", 0, Optional.empty(), 1),
    POWER_DIP("power-dip", "The voltage dips and devices drop out", 3, Optional.empty(), 1),
    CAMERA_LOST("camera-lost", "The camera does not answer", 6, Optional.empty(), 1),
    MOUNT_STUCK("mount-stuck", "The mount answers and does not move", 12, Optional.empty(), 1),
    BALANCE(
            "balance",
            "The telescope is heavy on one side and slips",
            45,
            Optional.of("slip, arcseconds a minute"),
            25),
    SPOT("spot", "A spot of oil lies on the sensor", 0, Optional.of("share of light lost in it"), 0.35),
    DISK_FULL("disk-full", "The disk is full", 20, Optional.empty(), 1),
    STRAY_LIGHT("stray-light", "A lamp shines into the telescope", 40, Optional.of("times the sky's light"), 4),
    WRONG_FILTER("wrong-filter", "The wheel holds another filter than the kit says", 0, Optional.empty(), 1),
    SEEING("seeing", "The air grows unsteady", 60, Optional.of("times as wide"), 1.9),
    POLAR_ERROR("polar-error", "The polar axis sinks", 0, Optional.of("arcminutes"), 12),
    GEAR_ERROR("gear-error", "The gear errs more", 90, Optional.of("times the usual error"), 4),
    TRAILING_EXPOSURE(
            "trailing-exposure", "The mount runs at a wrong rate", 60, Optional.of("arcseconds a minute"), 12),
    MOON("moon", "Moonlight lies over the field", 60, Optional.of("times the sky's light"), 5),
    TWILIGHT("twilight", "The sky is lit as in twilight", 30, Optional.of("times the sky's light"), 25),
    FLEXURE("flexure", "The guide scope bends away from the main one", 90, Optional.of("arcseconds a minute"), 1.5),
    GUIDE_FOCUS("guide-focus", "The guide camera is out of focus", 0, Optional.of("micrometres"), 120),
    BROKEN_FRAME(
            "broken-frame", "A frame comes with its upper part empty", 2, Optional.of("share of it that is lost"), 0.4),
    TRAILS("trails", "Satellites cross the field", 60, Optional.of("trails an hour"), 40),
    COSMIC_RAYS("cosmic-rays", "Cosmic rays hit the sensor", 60, Optional.of("hits a minute"), 30),
    TILT("tilt", "The camera hangs askew on its adapter", 0, Optional.of("micrometres of defocus at the edge"), 90),
    LIGHT_DOME(
            "light-dome",
            "Lamps brighten the southern side of the sky",
            90,
            Optional.of("times the sky's light at that horizon"),
            5),
    COOLER(
            "cooler",
            "The cooler gives only part of its power",
            90,
            Optional.of("share of its power that is left"),
            0.3),
    WRONG_FOCAL_LENGTH(
            "wrong-focal-length",
            "The telescope is of another focal length than the kit says, all night",
            0,
            Optional.of("percent that it is longer"),
            6),
    HALF_CLOUD(
            "half-cloud",
            "Cloud covers the southern half of the sky",
            60,
            Optional.of("share of light that is lost"),
            0.9),
    CAP("cap", "The cap lies on the telescope", 25, Optional.empty(), 1);

    private final String word;
    private final String sentence;
    private final int usualMinutes;
    private final Optional<String> strengthMeans;
    private final double usualStrength;

    FaultKind(String word, String sentence, int usualMinutes, Optional<String> strengthMeans, double usualStrength) {
        this.word = word;
        this.sentence = sentence;
        this.usualMinutes = usualMinutes;
        this.strengthMeans = strengthMeans;
        this.usualStrength = usualStrength;
    }

    /** As on the command line and in files. */
    @JsonValue
    public String word() {
        return word;
    }

    /** What happens, for people. */
    public String sentence() {
        return sentence;
    }

    /** How long it lasts unless somebody says otherwise; 0 for what happens in a moment and stays. */
    public int usualMinutes() {
        return usualMinutes;
    }

    /** What its strength means, with its unit; empty for what has none. */
    public Optional<String> strengthMeans() {
        return strengthMeans;
    }

    public double usualStrength() {
        return usualStrength;
    }

    /**
     * @throws IllegalArgumentException naming all there are
     */
    @JsonCreator
    public static FaultKind of(String word) {
        return Arrays.stream(values())
                .filter(k -> k.word.equals(word))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("there is no fault \"" + word + "\"; expected one of "
                        + String.join(
                                ", ",
                                Arrays.stream(values()).map(FaultKind::word).toList())));
    }
}
