package app.ironside.sim;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Device;
import app.ironside.device.Devices;
import app.ironside.device.HandFocuser;
import app.ironside.device.HandMount;
import app.ironside.device.HandWheel;
import app.ironside.device.NightClock;
import app.ironside.device.Rotator;
import app.ironside.document.FaultKind;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Optics;
import app.ironside.kit.Sampling;
import app.ironside.kit.Sensor;
import app.ironside.plan.Overheads;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Site;
import app.ironside.star.FrameGauge;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** A whole observatory that is not there, with the truth about it. */
public final class SimulatedObservatory {
    /** How the frames of its cameras are made. */
    public enum Frames {
        /** With all their pixels. */
        DRAWN,
        /** Without pixels, and with what measuring them would give, for an answer in seconds: see {@link #gauge}. */
        SKETCHED
    }

    private static final double FAINTEST_MAIN = 15.2;
    private static final double FAINTEST_GUIDE = 12.5;
    private static final double FIELD_CURVATURE_UM = 12;
    private static final double GUIDE_ANGLE_DEG = 40;
    private static final double GUIDE_BLUR_ARCSEC = 7;

    private final Kit kit;
    private final SimSettings settings;
    private final NightClock clock;
    private final Surroundings surroundings;
    private final SimMount mount;
    private final SimFocuser focuser;
    private final SimWheel wheel;
    private final SimPanel panel;
    private final SimPowerBox power;
    private final Optional<SimRotator> rotator;
    private final Devices devices;
    private final Optional<SketchedFrames> sketches;
    private final Workers workers;

    /** As below, with frames that have their pixels. */
    public SimulatedObservatory(
            Site site,
            Kit kit,
            SimSettings settings,
            SkySource sky,
            NightClock clock,
            Instant sunset,
            Workers workers) {
        this(site, kit, settings, sky, clock, sunset, Frames.DRAWN, workers);
    }

    /**
     * @param told the kit as its file says
     * @param sunset of the night, from which temperature and clouds count
     * @param frames whether they have pixels
     */
    public SimulatedObservatory(
            Site site,
            Kit told,
            SimSettings settings,
            SkySource sky,
            NightClock clock,
            Instant sunset,
            Frames frames,
            Workers workers) {
        Kit kit = inTruth(told, settings);
        this.workers = workers;
        this.sketches = frames == Frames.SKETCHED ? Optional.of(new SketchedFrames()) : Optional.empty();
        this.kit = kit;
        this.settings = settings;
        this.clock = clock;
        this.surroundings = new Surroundings(site, settings, sunset);
        this.mount = new SimMount(kit.mount(), kit.equipment().ownFlipDeg(), settings, clock, surroundings);
        this.focuser = new SimFocuser(kit.focuser(), clock, surroundings);
        this.wheel = new SimWheel(kit.filters().size(), clock, surroundings.faults());
        this.panel = new SimPanel(clock);
        this.power = new SimPowerBox(kit.equipment());
        this.rotator = kit.equipment().rotator() ? Optional.of(new SimRotator(clock)) : Optional.empty();
        SimCamera camera = new SimCamera(
                "camera",
                kit,
                clock,
                surroundings,
                mount,
                panel,
                new MainOptics(),
                maker(kit, settings.seed(), new SkyPatch(sky, kit.fieldRadiusDeg(), FAINTEST_MAIN), FIELD_CURVATURE_UM),
                this::cameraAngleDeg,
                settings.seed());
        SimHands hands = new SimHands(mount, focuser, wheel, kit.filters(), settings, clock);
        boolean goTo = kit.equipment().goTo();
        this.devices = new Devices(
                goTo
                        ? mount
                        : new HandMount(hands, mount.pointing(), () -> surroundings
                                .observer()
                                .siderealTimeDeg(clock.now())),
                camera,
                kit.guideOptics().map(spec -> guideCamera(spec, sky)),
                kit.motorFocuser().isPresent()
                        ? focuser
                        : new HandFocuser(kit.focuser(), hands, () -> surroundings.temperatureC(clock.now())),
                Overheads.filtersFromABox(kit) ? new HandWheel(kit.filters(), hands) : wheel,
                panel,
                hands,
                rotator.map(Rotator.class::cast),
                Optional.of(new SimWeatherStation(clock, surroundings)),
                Optional.of(power));
        for (Device device : devices.all()) {
            if (device instanceof SimDevice simulated) {
                simulated.failWhen(() -> surroundings.faults().isLost(simulated.name(), clock.now()));
            }
        }
    }

    /** The kit as it really is, where its file errs. */
    private static Kit inTruth(Kit told, SimSettings settings) {
        double factor = Faults.focalLength(settings.faults());
        Optics o = told.optics();
        return factor == 1
                ? told
                : told.withOptics(new Optics(
                        o.apertureMm(),
                        factor * o.focalLengthMm(),
                        o.obstruction(),
                        o.transmission(),
                        o.blurFwhmArcsec()));
    }

    private Camera guideCamera(GuiderSpec spec, SkySource sky) {
        Kit guide = guideKit(kit, spec);
        return new SimCamera(
                "guide camera",
                guide,
                clock,
                surroundings,
                mount,
                new SimPanel(clock),
                new GuideOptics(guide.filters().get(0)),
                maker(guide, settings.seed() + 1, new SkyPatch(sky, guide.fieldRadiusDeg(), FAINTEST_GUIDE), 0),
                () -> GUIDE_ANGLE_DEG,
                settings.seed() + 1);
    }

    private FrameMaker maker(Kit optics, long seed, SkyPatch patch, double curvatureUm) {
        return sketches.map(s -> s.of(new SketchedFrames.Camera(optics, patch, curvatureUm)))
                .orElseGet(() -> new DrawnFrames(
                        new Exposer(optics, new SensorTruth(optics.sensor(), seed), patch, curvatureUm, workers),
                        optics.sensor()));
    }

    /** What its frames are measured with. */
    public FrameGauge gauge() {
        return sketches.map(SketchedFrames::gauge).orElseGet(() -> FrameGauge.ofPixels(workers));
    }

    private double cameraAngleDeg() {
        return settings.cameraAngleDeg() + rotator.map(SimRotator::turnedDeg).orElse(0.0);
    }

    /** Pulls the cable of a device out, or plugs it in again. */
    public void pull(String device, boolean out) {
        devices.all().stream()
                .filter(d -> d.name().equals(device))
                .map(SimDevice.class::cast)
                .forEach(d -> d.pull(out));
    }

    private static Kit guideKit(Kit kit, GuiderSpec spec) {
        Optics optics = new Optics(spec.apertureMm(), spec.focalLengthMm(), 0, 0.85, GUIDE_BLUR_ARCSEC);
        Sensor sensor = new Sensor(
                spec.widthPx(),
                spec.heightPx(),
                spec.pixelUm(),
                0.25,
                400,
                16,
                1.6,
                16_000,
                0.75,
                0.03,
                0,
                6,
                false,
                0.15);
        return new Kit(
                kit.name() + " guider",
                optics,
                sensor,
                List.of(new FilterSpec("none", 300, 580, 0)),
                kit.focuser(),
                kit.mount(),
                spec);
    }

    private final class MainOptics implements SimCamera.Optics {
        @Override
        public FilterSpec filter() {
            return kit.filters().get(wheel.inBeam());
        }

        @Override
        public double defocusUm(Instant time) {
            return focuser.tubeUm() - bestFocusUm(time);
        }

        @Override
        public double jitterArcsec(Instant time, double seconds) {
            return shaken(time) * Math.sqrt(2 / Math.max(2, seconds));
        }

        @Override
        public double clearness(Instant time) {
            return surroundings.faults().optics(time);
        }

        @Override
        public boolean isCovered(Instant time) {
            return surroundings.faults().isOn(FaultKind.CAP, time);
        }

        @Override
        public double blur(Instant time) {
            return surroundings.faults().blur(time);
        }

        @Override
        public double spot(Instant time) {
            return surroundings.faults().spot(time);
        }

        @Override
        public double flexureArcsec(Instant time) {
            return surroundings.faults().flexureArcsec(time);
        }

        @Override
        public Exposer.Marks marks(Instant middle, double seconds, Horizontal toward) {
            return surroundings.faults().marks(middle, seconds, toward, power.isHeating());
        }

        @Override
        public boolean showsHotPixel(Instant time) {
            return false;
        }
    }

    private double shaken(Instant time) {
        return settings.jitterArcsec() * surroundings.faults().shake(time);
    }

    private final class GuideOptics implements SimCamera.Optics {
        private final FilterSpec open;

        GuideOptics(FilterSpec open) {
            this.open = open;
        }

        @Override
        public FilterSpec filter() {
            return open;
        }

        @Override
        public double defocusUm(Instant time) {
            return surroundings.faults().guideDefocusUm(time);
        }

        @Override
        public double jitterArcsec(Instant time, double seconds) {
            return shaken(time) * Math.sqrt(2 / Math.max(0.5, seconds));
        }

        @Override
        public double clearness(Instant time) {
            return surroundings.faults().isOn(FaultKind.GUIDE_STAR_LOST, time) ? 0 : 1;
        }

        /** A guide scope has a glass of its own. */
        @Override
        public boolean isCovered(Instant time) {
            return kit.equipment().offAxis().isPresent()
                    && surroundings.faults().isOn(FaultKind.CAP, time);
        }

        @Override
        public double blur(Instant time) {
            return 1;
        }

        @Override
        public double spot(Instant time) {
            return 0;
        }

        @Override
        public double flexureArcsec(Instant time) {
            return 0;
        }

        @Override
        public Exposer.Marks marks(Instant middle, double seconds, Horizontal toward) {
            return Exposer.Marks.NONE;
        }

        @Override
        public boolean showsHotPixel(Instant time) {
            return surroundings.faults().isOn(FaultKind.WRONG_GUIDE_STAR, time);
        }
    }

    /** A filter whose focus nobody has measured has one all the same: up to two critical zones to either side, by its name. */
    private double trueOffsetUm(FilterSpec filter) {
        double zoneUm = Sampling.criticalFocusUm(kit.optics().focalRatio());
        return filter.focusOffsetSteps()
                .map(steps -> steps * kit.focuser().stepUm())
                .orElseGet(() -> zoneUm * (Math.floorMod(filter.name().hashCode(), 41) - 20) / 10.0);
    }

    /** Where the tube would be in focus for the filter that is in, micrometres from the inner end. */
    private double bestFocusUm(Instant time) {
        double base = kit.focuser().startSteps() * kit.focuser().stepUm() - settings.focusErrorUm();
        double temperature = settings.focusDriftUmPerC() * (surroundings.temperatureC(time) - settings.eveningC());
        double filter = trueOffsetUm(kit.filters().get(wheel.inBeam()));
        return base + temperature + filter;
    }

    /** The devices, behind the ports. */
    public Devices devices() {
        return devices;
    }

    /** Truth: errors of the polar axis, arcminutes; altitude positive too high, azimuth positive too far east. */
    public double[] polarErrorArcmin() {
        return new double[] {mount.altitudeErrorArcmin(), mount.azimuthErrorArcmin()};
    }

    /** Truth: the motor position at which an inward approach is in focus now, in the filter that is in. */
    public double bestFocusSteps() {
        return focuser.motorStepsFor(bestFocusUm(clock.now()));
    }

    /** Truth: what goes wrong in the night. */
    public List<FaultTruth> faults() {
        return surroundings.faults().all();
    }

    /** Truth: whether the disk is full now. */
    public boolean isDiskFull() {
        return surroundings.faults().isOn(FaultKind.DISK_FULL, clock.now());
    }

    /** Truth: where the telescope looks now. */
    public Equatorial looksAt() {
        return mount.looksAt(clock.now());
    }

    /** Moves the polar axis, as knobs did before a restart. */
    public void moveAxis(double altitudeArcmin, double azimuthArcmin) {
        mount.moveAxis(altitudeArcmin, azimuthArcmin);
    }
}
