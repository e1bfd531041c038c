package app.ironside.kit;

import app.ironside.BadInputException;
import app.ironside.Check;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/**
 * One optical train with its mount, camera, filters, guider and focuser.
 *
 * @param motorFocuser empty where focus is set by hand
 * @param guideOptics empty where nothing guides; for an off-axis guider its focal length is the telescope's
 */
public record Kit(
        String name,
        Optics optics,
        Sensor sensor,
        List<FilterSpec> filters,
        Optional<FocuserSpec> motorFocuser,
        MountSpec mount,
        Optional<GuiderSpec> guideOptics,
        Equipment equipment) {
    /** Pixel sizes and focal lengths are given to a percent or two. */
    private static final double SAME_SCALE = 0.03;

    /** A kit with all motors, of which nothing more is known. */
    public Kit(
            String name,
            Optics optics,
            Sensor sensor,
            List<FilterSpec> filters,
            FocuserSpec focuser,
            MountSpec mount,
            GuiderSpec guider) {
        this(name, optics, sensor, filters, Optional.of(focuser), mount, Optional.of(guider), Equipment.UNKNOWN);
    }

    public Kit {
        Check.name("the name of a kit", name);
        filters = List.copyOf(filters);
        if (filters.isEmpty()) {
            throw new IllegalArgumentException(
                    "kit " + name + " has no filter; expected at least one, \"none\" if open");
        }
    }

    /** The same with other optics. */
    public Kit withOptics(Optics other) {
        return new Kit(name, other, sensor, filters, motorFocuser, mount, guideOptics, equipment);
    }

    /** The same with another guide camera or other optics before it. */
    public Kit withGuider(GuiderSpec other) {
        return new Kit(name, optics, sensor, filters, motorFocuser, mount, Optional.of(other), equipment);
    }

    /**
     * The same with filters' focus as it was measured.
     *
     * @param reference the filter that the steps are counted from; its own offset stays
     * @param steps of each other filter from the reference
     */
    public Kit withFilterOffsets(String reference, Map<String, Integer> steps) {
        int base = filter(reference).knownOffsetSteps();
        List<FilterSpec> measured = filters.stream()
                .map(f -> f.name().equals(reference)
                        ? f.withFocusOffset(Optional.of(base))
                        : steps.containsKey(f.name()) ? f.withFocusOffset(Optional.of(base + steps.get(f.name()))) : f)
                .toList();
        return new Kit(name, optics, sensor, measured, motorFocuser, mount, guideOptics, equipment);
    }

    /** The same with a focuser whose slack was measured; without a motor nothing changes. */
    public Kit withFocuserSlack(int slackSteps) {
        return new Kit(
                name,
                optics,
                sensor,
                filters,
                motorFocuser.map(f -> new FocuserSpec(f.stepUm(), f.maxSteps(), f.startSteps(), slackSteps)),
                mount,
                guideOptics,
                equipment);
    }

    /** The same with other equipment. */
    public Kit withEquipment(Equipment other) {
        return new Kit(name, optics, sensor, filters, motorFocuser, mount, guideOptics, other);
    }

    /** The same with the main camera at a point of its gain curve. */
    public Kit atGain(Equipment.GainPoint gain) {
        CameraSettings set = equipment.camera().withGain((int) Math.round(gain.setting()));
        return new Kit(
                name,
                optics,
                sensor.atGain(gain),
                filters,
                motorFocuser,
                mount,
                guideOptics,
                equipment.withCamera(set));
    }

    /** Whether the main camera stands at a point of its gain curve. */
    public boolean isAtGain(Equipment.GainPoint gain) {
        return sensor.atGain(gain).equals(sensor);
    }

    /** What focuses: the motor, or a hand. */
    public FocuserSpec focuser() {
        return motorFocuser.orElseGet(() -> FocuserSpec.byHand(optics));
    }

    /**
     * The guide camera and its optics.
     *
     * @throws BadInputException if nothing guides
     */
    public GuiderSpec guider() {
        return guideOptics.orElseThrow(
                () -> new BadInputException("kit " + name, "has no guider", "a kit with a guide camera"));
    }

    /** How far past the meridian (west positive) a target may be followed before the telescope changes sides, degrees. */
    public double contactHourAngleDeg(double declinationDeg) {
        return contact(declinationDeg, Equipment.ContactLimit::beforeFlipDeg, mount.contactHourAngleDeg());
    }

    /** The hour angle from which the side after the flip is free, degrees; 0 if nothing else is known. */
    public double freeAfterFlipDeg(double declinationDeg) {
        return contact(declinationDeg, Equipment.ContactLimit::afterFlipDeg, 0);
    }

    private double contact(
            double declinationDeg, ToDoubleFunction<Equipment.ContactLimit> hourAngle, double otherwise) {
        List<Equipment.ContactLimit> limits = equipment.contacts().stream()
                .sorted(Comparator.comparingDouble(Equipment.ContactLimit::declinationDeg))
                .toList();
        if (limits.isEmpty()) {
            return otherwise;
        }
        Equipment.ContactLimit below = limits.get(0);
        for (Equipment.ContactLimit above : limits) {
            if (above.declinationDeg() >= declinationDeg) {
                double gap = above.declinationDeg() - below.declinationDeg();
                double share = gap == 0 ? 0 : (declinationDeg - below.declinationDeg()) / gap;
                return hourAngle.applyAsDouble(below)
                        + share * (hourAngle.applyAsDouble(above) - hourAngle.applyAsDouble(below));
            }
            below = above;
        }
        return hourAngle.applyAsDouble(below);
    }

    /** Width and height of the main camera's field, degrees. */
    public double fieldWidthDeg() {
        return fieldDeg(sensor.widthPx());
    }

    public double fieldHeightDeg() {
        return fieldDeg(sensor.heightPx());
    }

    private double fieldDeg(int pixels) {
        double halfMm = pixels * sensor.pixelUm() / 2000;
        return 2 * Math.toDegrees(Math.atan(halfMm / optics.focalLengthMm()));
    }

    /** Image scale of the main camera, arcseconds per pixel. */
    public double arcsecPerPixel() {
        return Sampling.arcsecPerPixel(sensor.pixelUm(), optics.focalLengthMm());
    }

    /**
     * The focal length by which a frame's scale can be understood, whatever its binning; empty while the kit's own explains it to 3 %.
     */
    public Optional<FocalLengthSeen> otherFocalLength(double scaleArcsecPerPixel) {
        double ratio = scaleArcsecPerPixel / arcsecPerPixel();
        double unbinned = ratio / Math.max(1, Math.round(ratio));
        return Math.abs(unbinned - 1) <= SAME_SCALE
                ? Optional.empty()
                : Optional.of(new FocalLengthSeen(optics.focalLengthMm() / unbinned, optics.focalLengthMm()));
    }

    /** A focal length that the stars tell, against the kit's, mm. */
    public record FocalLengthSeen(double mm, double ofKitMm) {
        public String sentence() {
            return String.format(
                    Locale.ROOT, "By the stars the focal length is %.0f mm; the kit says %.0f.", mm, ofKitMm);
        }
    }

    /** Half the critical zone, steps of the focuser. */
    public double criticalFocusSteps() {
        return Sampling.criticalFocusUm(optics.focalRatio()) / focuser().stepUm();
    }

    /** The same at another focal length, mm. */
    public Kit withFocalLengthMm(double mm) {
        return withOptics(new Optics(
                optics.apertureMm(), mm, optics.obstruction(), optics.transmission(), optics.blurFwhmArcsec()));
    }

    /** Half the diagonal of the main camera's field, degrees. */
    public double fieldRadiusDeg() {
        return Math.hypot(sensor.widthPx(), sensor.heightPx()) / 2 * arcsecPerPixel() / 3600;
    }

    /**
     * The filter of a name.
     *
     * @throws BadInputException if the kit has no such filter
     */
    public FilterSpec filter(String filterName) {
        return filters.get(filterSlot(filterName));
    }

    /**
     * The slot of a filter, from 0.
     *
     * @throws BadInputException if the kit has no such filter
     */
    public int filterSlot(String filterName) {
        for (int slot = 0; slot < filters.size(); slot++) {
            if (filters.get(slot).name().equals(filterName)) {
                return slot;
            }
        }
        List<String> names = filters.stream().map(FilterSpec::name).toList();
        throw new BadInputException("filter \"" + filterName + "\"", "kit " + name + " has none", "one of " + names);
    }
}
