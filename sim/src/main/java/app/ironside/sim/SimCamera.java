package app.ironside.sim;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.CameraSettings;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Sensor;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.TangentPlane;
import app.ironside.solve.Wcs;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.DoubleSupplier;

/** A camera in the simulated observatory: the main one, or the one behind the guide scope. */
final class SimCamera extends SimDevice implements Camera {
    private static final DateTimeFormatter FITS_TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HH:mm:ss.SSS");
    private static final int PATH_POINTS = 10;
    private static final double COOLING_C_PER_MINUTE = 5;
    private static final double WARMING_C_PER_MINUTE = 3;
    private static final double DEEPEST_COOLING_C = 38;

    /** What the camera looks through. */
    interface Optics {
        /** The filter in the beam. */
        FilterSpec filter();

        /** Distance of the sensor from focus, micrometres. */
        double defocusUm(Instant time);

        /** Arcseconds of random image motion to add to a frame, each axis. */
        double jitterArcsec(Instant time, double seconds);

        /** Share of light that comes through, cloud and air apart. */
        double clearness(Instant time);

        /** Whether nothing at all shines in. */
        boolean isCovered(Instant time);

        /** Factor of the width of star images. */
        double blur(Instant time);

        /** Share of light that a spot on the sensor takes. */
        double spot(Instant time);

        /** By how much it looks east of where the mount does, arcseconds. */
        double flexureArcsec(Instant time);

        /** What an exposure bears besides the sky. */
        Exposer.Marks marks(Instant middle, double seconds, Horizontal toward);

        /** Whether a hot pixel stands where its star was. */
        boolean showsHotPixel(Instant time);
    }

    private static final Abilities ABILITIES = new Abilities(
            4,
            true,
            Optional.of(new Span(0, 6400)),
            Optional.of(new Span(0, 1000)),
            List.of("usual", "low noise"),
            true,
            true);

    private final Kit kit;
    private final NightClock clock;
    private final Surroundings surroundings;
    private final SimMount mount;
    private final SimPanel panel;
    private final Optics optics;
    private final FrameMaker maker;
    private final DoubleSupplier angleDeg;
    private final long seed;
    private Optional<Exposer.Scene> lastMoving = Optional.empty();

    /** Where the star stood that a hot pixel has taken the place of. */
    private Optional<Region> hotSpot = Optional.empty();

    private Exposure exposure = Exposure.light(Duration.ZERO);
    private Instant started;
    private int frames;
    private double targetC = Double.NaN;
    private double sensorC;
    private Instant sensorAt;
    private CameraSettings settings = CameraSettings.AS_IT_IS;

    SimCamera(
            String name,
            Kit kit,
            NightClock clock,
            Surroundings surroundings,
            SimMount mount,
            SimPanel panel,
            Optics optics,
            FrameMaker maker,
            DoubleSupplier angleDeg,
            long seed) {
        super(name);
        this.kit = kit;
        this.clock = clock;
        this.surroundings = surroundings;
        this.mount = mount;
        this.panel = panel;
        this.optics = optics;
        this.maker = maker;
        this.angleDeg = angleDeg;
        this.seed = seed;
        this.started = clock.now();
        this.sensorAt = clock.now();
        this.sensorC = surroundings.temperatureC(clock.now());
    }

    @Override
    public Abilities abilities() {
        return new Abilities(
                ABILITIES.mostBinning(),
                ABILITIES.regions(),
                ABILITIES.gain(),
                ABILITIES.offset(),
                ABILITIES.readoutModes(),
                kit.sensor().cooled(),
                ABILITIES.stopsEarly());
    }

    @Override
    public void use(CameraSettings wanted) {
        mustAnswer();
        wanted.readoutMode().filter(m -> !ABILITIES.readoutModes().contains(m)).ifPresent(m -> {
            throw new DeviceException(
                    name(), "it has no read-out mode \"" + m + "\"", "Choose one of " + ABILITIES.readoutModes() + ".");
        });
        wanted.gain().ifPresent(g -> mustHold("gain", ABILITIES.gain().orElseThrow(), g));
        wanted.offset().ifPresent(o -> mustHold("offset", ABILITIES.offset().orElseThrow(), o));
        settings = new CameraSettings(
                wanted.gain().or(settings::gain),
                wanted.offset().or(settings::offset),
                wanted.readoutMode().or(settings::readoutMode));
    }

    private void mustHold(String what, Span span, int value) {
        if (!span.holds(value)) {
            throw new DeviceException(
                    name(),
                    "its " + what + " cannot be " + value,
                    "Choose one from " + span.least() + " to " + span.most() + ".");
        }
    }

    @Override
    public Operation start(Exposure wanted) {
        mustAnswer();
        exposure = wanted;
        started = clock.now();
        return new Exposing();
    }

    @Override
    public void stop() {
        mustAnswer();
        Duration open = Duration.between(started, clock.now());
        if (open.compareTo(exposure.length()) < 0) {
            exposure = exposure.lasting(open);
        }
    }

    /** The exposure that was begun last. */
    private final class Exposing implements Operation {
        private final Duration limit = exposure.length().plusSeconds(60);
        private boolean aborted;

        @Override
        public String device() {
            return name();
        }

        @Override
        public String what() {
            return "the exposure";
        }

        @Override
        public State state() {
            mustAnswer();
            return aborted ? State.ABORTED : left().isZero() ? State.DONE : State.UNDER_WAY;
        }

        @Override
        public Optional<Duration> remaining() {
            return Optional.of(aborted ? Duration.ZERO : left());
        }

        private Duration left() {
            Duration total = exposure.length().plusMillis(Math.round(1000 * readoutSeconds()));
            Duration left = total.minus(Duration.between(started, clock.now()));
            return left.isNegative() ? Duration.ZERO : left;
        }

        @Override
        public Duration limit() {
            return limit;
        }

        @Override
        public void abort() {
            aborted = aborted || !left().isZero();
        }
    }

    private double readoutSeconds() {
        return exposure.region().isPresent() ? 0.05 : kit.sensor().readoutSeconds() / exposure.binning();
    }

    @Override
    public Frame download() {
        mustAnswer();
        frames++;
        Sensor sensor = kit.sensor();
        Exposer.Window window = exposure.region()
                .map(r -> new Exposer.Window(r.left(), r.bottom(), r.width(), r.height()))
                .orElse(new Exposer.Window(0, 0, sensor.widthPx(), sensor.heightPx()));
        double seconds = exposure.length().toMillis() / 1000.0;
        boolean dark = exposure.kind() == FrameKind.DARK
                || exposure.kind() == FrameKind.BIAS
                || seconds == 0
                || optics.isCovered(started.plusMillis(Math.round(500 * seconds)));
        boolean sky = panel.isOpen() && !dark;
        // With the panel before the telescope even a light frame sees only the panel.
        double even = dark || sky ? 0 : panel.electronsPerSecond(optics.filter()) * seconds;
        return maker.make(new FrameMaker.Shot(
                sky ? Optional.of(scene(seconds)) : Optional.empty(),
                even,
                window,
                exposure.binning(),
                seconds,
                sensorTemperatureC(),
                seed * 1_000_003 + frames,
                header(seconds)));
    }

    private Exposer.Scene scene(double seconds) {
        Instant middle = started.plusMillis(Math.round(500 * seconds));
        Exposer.Scene now = moving(seconds, middle);
        if (!optics.showsHotPixel(middle)) {
            lastMoving = Optional.of(now);
            hotSpot = Optional.empty();
            return now;
        }
        hotSpot = hotSpot.or(exposure::region);
        if (!isAtHotSpot()) {
            return now;
        }
        // A hot pixel stays where the star was, wherever the telescope looks.
        Exposer.Scene then = lastMoving.orElse(now);
        return new Exposer.Scene(
                then.wcs(),
                now.filter(),
                seconds,
                now.transparency(),
                now.skyElectronsPerSecond(),
                now.fwhmPx(),
                now.defocusUm(),
                then.path(),
                now.spotShare(),
                now.marks());
    }

    /** Whether what is read is about the hot pixel; another star has another window, and is one. */
    private boolean isAtHotSpot() {
        return exposure.region()
                .filter(r -> hotSpot.filter(h -> Math.abs(r.left() - h.left()) < h.width() / 2
                                && Math.abs(r.bottom() - h.bottom()) < h.height() / 2)
                        .isPresent())
                .isPresent();
    }

    private Exposer.Scene moving(double seconds, Instant middle) {
        Horizontal seen = mount.direction(middle);
        Equatorial centre = bent(surroundings.observer().catalogue(seen, middle), middle);
        Wcs wcs = wcs(centre, mount.rollDeg(middle, centre) + angleDeg.getAsDouble());
        double fwhmArcsec = Math.sqrt(
                square(surroundings.seeingArcsec(seen)) + square(kit.optics().blurFwhmArcsec()));
        List<StarImage.Stray> path = path(wcs, centre, seconds);
        return new Exposer.Scene(
                wcs,
                optics.filter(),
                seconds,
                surroundings.transparency(seen, middle) * optics.clearness(middle),
                surroundings.skyElectronsPerSecond(centre, seen, middle, kit, optics.filter()),
                optics.blur(middle) * fwhmArcsec / kit.arcsecPerPixel(),
                optics.defocusUm(middle),
                path,
                optics.spot(middle),
                optics.marks(middle, seconds, seen));
    }

    /** A telescope that bends looks beside the mount's direction. */
    private Equatorial bent(Equatorial straight, Instant time) {
        double arcsec = optics.flexureArcsec(time);
        return arcsec == 0
                ? straight
                : new Equatorial(
                        Angles.wrap360(straight.raDeg() + arcsec / 3600 / Angles.cosDeg(straight.decDeg())),
                        straight.decDeg());
    }

    private static double square(double x) {
        return x * x;
    }

    /** World coordinates of the whole, unbinned sensor. */
    private Wcs wcs(Equatorial centre, double angle) {
        double scale = kit.arcsecPerPixel() / 3600;
        double s = Angles.sinDeg(angle);
        double c = Angles.cosDeg(angle);
        // North up, east left, turned by the angle from north through east.
        return new Wcs(
                centre,
                (kit.sensor().widthPx() + 1) / 2.0,
                (kit.sensor().heightPx() + 1) / 2.0,
                -scale * c,
                scale * s,
                scale * s,
                scale * c);
    }

    /** How a star moved over the sensor, from where the telescope looked at moments of the exposure. */
    private List<StarImage.Stray> path(Wcs wcs, Equatorial centre, double seconds) {
        Noise noise = Noise.of(seed, frames, 5);
        double jitterX = optics.jitterArcsec(started, seconds) * noise.gaussian() / kit.arcsecPerPixel();
        double jitterY = optics.jitterArcsec(started, seconds) * noise.gaussian() / kit.arcsecPerPixel();
        int points = seconds < 1 ? 1 : (int) Math.min(PATH_POINTS, 1 + seconds);
        List<StarImage.Stray> path = new ArrayList<>();
        TangentPlane plane = new TangentPlane(centre);
        for (int k = 0; k < points; k++) {
            Instant time = started.plusMillis(Math.round(1000 * seconds * (k + 0.5) / points));
            // A telescope that looks further east sees its stars further west.
            TangentPlane.Point p =
                    plane.project(bent(mount.looksAt(time), time)).orElseThrow();
            double determinant = wcs.cd11() * wcs.cd22() - wcs.cd12() * wcs.cd21();
            double dx = -(wcs.cd22() * p.xiDeg() - wcs.cd12() * p.etaDeg()) / determinant;
            double dy = -(wcs.cd11() * p.etaDeg() - wcs.cd21() * p.xiDeg()) / determinant;
            path.add(new StarImage.Stray(dx + jitterX, dy + jitterY));
        }
        return path;
    }

    private Header header(double seconds) {
        Sensor sensor = kit.sensor();
        double full = Math.min(
                sensor.fullScaleAdu(), sensor.fullWellElectrons() / sensor.gainElectronsPerAdu() + sensor.offsetAdu());
        Map<String, Object> cards = new LinkedHashMap<>();
        cards.put("DATE-OBS", FITS_TIME.format(started.atOffset(ZoneOffset.UTC)));
        cards.put("TIMESYS", "UTC");
        cards.put("EXPTIME", seconds);
        cards.put("IMAGETYP", exposure.kind().word());
        cards.put("INSTRUME", "Simulated camera of " + kit.name());
        cards.put("CCD-TEMP", Math.round(sensorTemperatureC() * 10) / 10.0);
        cards.put("EGAIN", sensor.gainElectronsPerAdu());
        cards.put("PEDESTAL", 0.0);
        cards.put("OFFSET", sensor.offsetAdu());
        cards.put("SATURATE", 0.97 * full);
        cards.put("XPIXSZ", sensor.pixelUm() * exposure.binning());
        cards.put("YPIXSZ", sensor.pixelUm() * exposure.binning());
        if (exposure.binning() > 1) {
            cards.put("XBINNING", exposure.binning());
            cards.put("YBINNING", exposure.binning());
        }
        settings.gain().ifPresent(gain -> cards.put("GAIN", gain));
        settings.readoutMode().ifPresent(mode -> cards.put("READOUTM", mode));
        cards.put("FILTER", optics.filter().name());
        return Header.EMPTY.withAll(cards);
    }

    @Override
    public void coolTo(double temperatureC) {
        sensorTemperatureC();
        targetC = kit.sensor().cooled() ? temperatureC : Double.NaN;
    }

    @Override
    public void warmUp() {
        sensorTemperatureC();
        targetC = Double.NaN;
    }

    @Override
    public double sensorTemperatureC() {
        mustAnswer();
        double ambient = surroundings.temperatureC(clock.now());
        double wanted = Double.isNaN(targetC) ? ambient : Math.max(targetC, ambient - deepest());
        double minutes = Duration.between(sensorAt, clock.now()).toMillis() / 60_000.0;
        double most = (wanted < sensorC ? COOLING_C_PER_MINUTE : WARMING_C_PER_MINUTE) * minutes;
        double change = Math.max(-most, Math.min(most, wanted - sensorC));
        sensorC += change;
        sensorAt = clock.now();
        return sensorC;
    }

    /** How far below the air the cooler can hold the sensor now. */
    private double deepest() {
        return DEEPEST_COOLING_C * surroundings.faults().coolerShare(clock.now());
    }

    /** What holds the sensor below the air, against what the cooler can hold at most. */
    @Override
    public OptionalDouble coolerPower() {
        if (!kit.sensor().cooled()) {
            return OptionalDouble.empty();
        }
        double below = surroundings.temperatureC(clock.now()) - sensorTemperatureC();
        return OptionalDouble.of(Double.isNaN(targetC) ? 0 : Math.max(0, Math.min(1, below / deepest())));
    }
}
