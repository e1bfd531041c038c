package app.ironside.kit;

import app.ironside.Check;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What planning and setting up must know of a kit beyond the optics and devices that the night's engine drives.
 *
 * @param colour whether the sensor carries a colour mosaic
 * @param deepRedShare share of Hα light that reaches the sensor compared with a sensor without a cutting filter: about 0.25 for an
 *     unmodified camera (common practice), 1 for an astronomical one
 * @param gainCurve the camera at its gains, in rising order; empty if only the gain in use is known
 * @param goTo whether the mount finds a direction by itself
 * @param needsBalance false for strain-wave mounts
 * @param payloadLimitKg rating of the mount; empty if unknown
 * @param payloadWithCounterweightKg rating of a mount that carries more with one; empty where there is one rating
 * @param periodicErrorArcsec half the swing of the gear's error, 0 if unknown
 * @param wormSeconds period of that error
 * @param contacts where something touches, in rising declination; empty if only the mount's one figure is known
 * @param parts everything that is lifted on or draws current
 * @param supply what feeds them; empty if nothing electric needs feeding
 * @param cardGigabytes room on the camera's own card, where frames stay on it; empty where they go to a disk
 * @param offAxis the pick-off prism of an off-axis guider
 * @param setUpMinutes from the car to the first star
 * @param heated whether dew heaters are fitted
 * @param ownFlipDeg hour angle past the meridian from which the mount by itself takes the side after the flip; empty for a mount that
 *     takes the side it is told
 * @param rotator whether a motor turns the camera
 * @param filtersByHand whether somebody changes the filters, for want of a wheel
 * @param camera how the main camera is to be set
 * @param ownTimes what its nights showed that things take
 * @param drivers by device ("camera", "mount"), what connects it on a real night
 */
public record Equipment(
        boolean colour,
        double deepRedShare,
        List<GainPoint> gainCurve,
        boolean goTo,
        boolean needsBalance,
        Optional<Double> payloadLimitKg,
        Optional<Double> payloadWithCounterweightKg,
        double periodicErrorArcsec,
        double wormSeconds,
        List<ContactLimit> contacts,
        List<Part> parts,
        Optional<Supply> supply,
        Optional<Double> cardGigabytes,
        Optional<OffAxis> offAxis,
        double setUpMinutes,
        boolean heated,
        Optional<Double> ownFlipDeg,
        boolean rotator,
        boolean filtersByHand,
        CameraSettings camera,
        OwnTimes ownTimes,
        Map<String, DriverChoice> drivers) {
    /** A mono camera on a German mount of which nothing more is known. */
    public static final Equipment UNKNOWN = new Equipment(
            false,
            1,
            List.of(),
            true,
            true,
            Optional.empty(),
            Optional.empty(),
            0,
            480,
            List.of(),
            List.of(),
            Optional.empty(),
            Optional.empty(),
            Optional.empty(),
            30,
            true,
            Optional.empty(),
            false,
            false,
            CameraSettings.AS_IT_IS,
            OwnTimes.UNKNOWN,
            Map.of());

    public Equipment {
        Check.inRange("deepRedShare", deepRedShare, 0, 1);
        Check.inRange("periodicErrorArcsec", periodicErrorArcsec, 0, 600);
        Check.positive("wormSeconds", wormSeconds);
        Check.inRange("setUpMinutes", setUpMinutes, 0, 240);
        cardGigabytes.ifPresent(gb -> Check.positive("cardGigabytes", gb));
        payloadLimitKg.ifPresent(kg -> Check.positive("payloadLimitKg", kg));
        payloadWithCounterweightKg.ifPresent(kg -> Check.positive("payloadWithCounterweightKg", kg));
        ownFlipDeg.ifPresent(deg -> Check.inRange("ownFlipDeg", deg, -60, 60));
        drivers = Map.copyOf(drivers);
        gainCurve = List.copyOf(gainCurve);
        contacts = List.copyOf(contacts);
        parts = List.copyOf(parts);
    }

    /**
     * What connects a device on a real night.
     *
     * @param driver its name
     * @param address where the device is, in the driver's own way: a folder, a port, host:port; may be empty
     */
    public record DriverChoice(String driver, String address) {
        public DriverChoice {
            Check.name("the name of a driver", driver);
            address = address == null ? "" : address;
        }
    }

    /** The same kit connected by other drivers. */
    public Equipment withDrivers(Map<String, DriverChoice> others) {
        return with(contacts, camera, others, offAxis, ownTimes);
    }

    /** The same with another setting of the main camera. */
    public Equipment withCamera(CameraSettings other) {
        return with(contacts, other, drivers, offAxis, ownTimes);
    }

    /** The same with another pick-off prism, or none. */
    public Equipment withOffAxis(Optional<OffAxis> other) {
        return with(contacts, camera, drivers, other, ownTimes);
    }

    /** The same with what its nights showed that things take. */
    public Equipment withOwnTimes(OwnTimes other) {
        return with(contacts, camera, drivers, offAxis, other);
    }

    /** The same with other limits where it touches. */
    public Equipment withContacts(List<ContactLimit> others) {
        return with(others, camera, drivers, offAxis, ownTimes);
    }

    /** The rating that counts for this load, kg: with a counterweight where the load needs one; empty if none is known. */
    public Optional<Double> ratingKg() {
        return payloadLimitKg
                .filter(limit -> payloadWithCounterweightKg.isEmpty() || loadKg() <= limit)
                .or(() -> payloadWithCounterweightKg);
    }

    /** Whether the mount carries this load only with a counterweight on. */
    public boolean needsCounterweight() {
        return payloadLimitKg.isPresent() && payloadWithCounterweightKg.isPresent() && loadKg() > payloadLimitKg.get();
    }

    private Equipment with(
            List<ContactLimit> limits,
            CameraSettings setting,
            Map<String, DriverChoice> others,
            Optional<OffAxis> prism,
            OwnTimes times) {
        return new Equipment(
                colour,
                deepRedShare,
                gainCurve,
                goTo,
                needsBalance,
                payloadLimitKg,
                payloadWithCounterweightKg,
                periodicErrorArcsec,
                wormSeconds,
                limits,
                parts,
                supply,
                cardGigabytes,
                prism,
                setUpMinutes,
                heated,
                ownFlipDeg,
                rotator,
                filtersByHand,
                setting,
                times,
                others);
    }

    /**
     * The camera at one gain.
     *
     * @param setting the number on the camera's own scale, or its ISO
     */
    public record GainPoint(
            double setting, double electronsPerAdu, double readNoiseElectrons, double fullWellElectrons) {
        public GainPoint {
            Check.positive("electronsPerAdu", electronsPerAdu);
            Check.inRange("readNoiseElectrons", readNoiseElectrons, 0, 100);
            Check.positive("fullWellElectrons", fullWellElectrons);
        }

        /** Full well over read noise, in stops (powers of two). */
        public double dynamicRangeStops() {
            return Math.log(fullWellElectrons / Math.max(0.1, readNoiseElectrons)) / Math.log(2);
        }
    }

    /**
     * Where the telescope touches something at a declination.
     *
     * @param beforeFlipDeg hour angle (west positive) to which a target may be followed without changing sides
     * @param afterFlipDeg hour angle from which the other side may be used; negative: already before the meridian
     */
    public record ContactLimit(double declinationDeg, double beforeFlipDeg, double afterFlipDeg) {
        public ContactLimit {
            Check.inRange("declinationDeg", declinationDeg, -90, 90);
            Check.inRange("beforeFlipDeg", beforeFlipDeg, -90, 180);
            Check.inRange("afterFlipDeg", afterFlipDeg, -180, 90);
        }
    }

    /** Something that is lifted onto the mount (mass above 0) or draws current (watts above 0), or both. */
    public record Part(String name, double massKg, double idleWatts, double peakWatts) {
        public Part {
            Check.name("the name of a part", name);
            Check.inRange("massKg of " + name, massKg, 0, 200);
            Check.inRange("idleWatts of " + name, idleWatts, 0, 500);
            Check.inRange("peakWatts of " + name, peakWatts, idleWatts, 500);
        }
    }

    /**
     * Power supply or battery.
     *
     * @param batteryWattHours at 25 °C; empty on mains
     */
    public record Supply(double volts, double amps, Optional<Double> batteryWattHours) {
        public Supply {
            Check.inRange("volts", volts, 3, 60);
            Check.inRange("amps", amps, 0.1, 60);
            batteryWattHours.ifPresent(wh -> Check.positive("batteryWattHours", wh));
        }

        public double watts() {
            return volts * amps;
        }
    }

    /**
     * Where the prism of an off-axis guider takes its light.
     *
     * @param offsetMm from the middle of the main sensor to the middle of the guide sensor, in the focal plane
     * @param angleDeg direction of that, from the sensor's +y axis toward +x
     */
    public record OffAxis(double offsetMm, double angleDeg) {
        public OffAxis {
            Check.inRange("offsetMm", offsetMm, 1, 80);
            Check.inRange("angleDeg", angleDeg, -360, 360);
        }
    }

    /** Everything lifted onto the mount, kilograms; counterweights do not count. */
    public double loadKg() {
        return parts.stream().mapToDouble(Part::massKg).sum();
    }

    /** Those of the parts that keep glass above the dew. */
    public List<Part> heaters() {
        return parts.stream().filter(p -> p.name().contains("heater")).toList();
    }

    public double idleWatts() {
        return parts.stream().mapToDouble(Part::idleWatts).sum();
    }

    /** Between what all parts draw at rest and at work. */
    public double meanWatts() {
        return (idleWatts() + peakWatts()) / 2;
    }

    public double peakWatts() {
        return parts.stream().mapToDouble(Part::peakWatts).sum();
    }
}
