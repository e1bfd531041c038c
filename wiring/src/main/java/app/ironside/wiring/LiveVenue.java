package app.ironside.wiring;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Device;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import app.ironside.device.Devices;
import app.ironside.device.FilterWheel;
import app.ironside.device.FlatPanel;
import app.ironside.device.Focuser;
import app.ironside.device.HandFocuser;
import app.ironside.device.HandMount;
import app.ironside.device.HandPanel;
import app.ironside.device.HandWheel;
import app.ironside.device.Hands;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.PowerBox;
import app.ironside.device.Rotator;
import app.ironside.device.WeatherStation;
import app.ironside.document.NightFile;
import app.ironside.journal.NightEvent;
import app.ironside.kit.Equipment.DriverChoice;
import app.ironside.kit.Kit;
import app.ironside.night.NightWatcher;
import app.ironside.night.PersonsHands;
import app.ironside.point.ContactWalk;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.star.FrameGauge;
import java.time.Duration;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** Real devices, connected by the drivers that the kit names; what has no motor is moved by the person who is there. */
final class LiveVenue implements Venue {
    /** Where nothing tells how warm it is, focus is not moved with the temperature. */
    private static final double UNKNOWN_AIR_C = 10;

    private static final Duration TRIAL = Duration.ofSeconds(1);

    private final List<DeviceDriver> drivers;
    private final NightClock clock;
    private final Workers workers;
    private final Function<NightWatcher, Hands> hands;

    LiveVenue(List<DeviceDriver> drivers, NightClock clock, Workers workers) {
        this(drivers, clock, workers, PersonsHands::new);
    }

    /**
     * @param hands of whoever looks on
     */
    LiveVenue(List<DeviceDriver> drivers, NightClock clock, Workers workers, Function<NightWatcher, Hands> hands) {
        this.hands = hands;
        this.drivers = drivers;
        this.clock = clock;
        this.workers = workers;
    }

    @Override
    public Prepared prepare(NightFile file, List<NightEvent> before, NightWatcher watcher) {
        Kit kit = file.kit();
        Hands hands = this.hands.apply(watcher);
        Optional<WeatherStation> weather = chosen(file, hands, DeviceRole.WEATHER, WeatherStation.class);
        Devices devices = new Devices(
                kit.equipment().goTo() ? needed(file, hands, DeviceRole.MOUNT, Mount.class) : byHand(file, hands),
                needed(file, hands, DeviceRole.CAMERA, Camera.class),
                kit.guideOptics().map(g -> needed(file, hands, DeviceRole.GUIDE_CAMERA, Camera.class)),
                kit.motorFocuser().isPresent()
                        ? needed(file, hands, DeviceRole.FOCUSER, Focuser.class)
                        : new HandFocuser(kit.focuser(), hands, () -> airC(weather)),
                chosen(file, hands, DeviceRole.FILTER_WHEEL, FilterWheel.class)
                        .orElseGet(() -> new HandWheel(kit.filters(), hands)),
                chosen(file, hands, DeviceRole.FLAT_PANEL, FlatPanel.class).orElseGet(() -> new HandPanel(hands)),
                hands,
                chosen(file, hands, DeviceRole.ROTATOR, Rotator.class),
                weather,
                chosen(file, hands, DeviceRole.POWER, PowerBox.class));
        devices.connect();
        return new Prepared(
                devices,
                clock,
                FrameGauge.ofPixels(workers),
                isByFolder(file) ? Provenance.BY_FOLDER : Provenance.REAL,
                Optional.empty());
    }

    /** Whether the frames are taken by another program. */
    private boolean isByFolder(NightFile file) {
        return Optional.ofNullable(file.kit().equipment().drivers().get(DeviceRole.CAMERA.word()))
                .filter(choice -> driver(file, DeviceRole.CAMERA, choice).isByFolder())
                .isPresent();
    }

    /**
     * Whether there is a driver for everything that needs one, and whether the night is tonight.
     *
     * @throws BadInputException naming what is missing
     */
    void check(NightFile file) {
        checkDrivers(file);
        if (!NightTimes.of(file.site(), file.program().date()).night().contains(clock.now())) {
            // A night lasts from noon to noon and has the date of its evening.
            LocalDate tonight =
                    clock.now().atZone(file.site().zone()).minusHours(12).toLocalDate();
            throw new BadInputException(
                    "the night of " + file.program().date(),
                    "is not tonight",
                    "the date " + tonight + ", chosen at Plan, Tonight");
        }
    }

    private void checkDrivers(NightFile file) {
        Kit kit = file.kit();
        EnumSet<DeviceRole> needed = EnumSet.of(DeviceRole.CAMERA);
        if (kit.equipment().goTo()) {
            needed.add(DeviceRole.MOUNT);
        }
        if (kit.guideOptics().isPresent()) {
            needed.add(DeviceRole.GUIDE_CAMERA);
        }
        if (kit.motorFocuser().isPresent()) {
            needed.add(DeviceRole.FOCUSER);
        }
        for (DeviceRole role : DeviceRole.values()) {
            Optional<DriverChoice> choice =
                    Optional.ofNullable(kit.equipment().drivers().get(role.word()));
            if (choice.isPresent()) {
                driver(file, role, choice.get());
            } else if (needed.contains(role)) {
                throw missing(file, role);
            }
        }
    }

    private BadInputException missing(NightFile file, DeviceRole role) {
        return new BadInputException(
                "kit " + file.kit().name(),
                "names no driver for its " + role.word(),
                "one, chosen at Site and kit; there are " + names(role));
    }

    private DeviceDriver driver(NightFile file, DeviceRole role, DriverChoice choice) {
        return drivers.stream()
                .filter(d -> d.name().equals(choice.driver()) && d.roles().contains(role))
                .findFirst()
                .orElseThrow(() -> new BadInputException(
                        "kit " + file.kit().name(),
                        "names the driver \"" + choice.driver() + "\" for its " + role.word() + ", and there is none",
                        "one of " + names(role) + ", or its jar beside the application"));
    }

    private Mount byHand(NightFile file, Hands hands) {
        Observer observer = Observer.at(file.site());
        Equatorial south = new Equatorial(Angles.wrap360(observer.siderealTimeDeg(clock.now())), 0);
        return new HandMount(hands, south, () -> observer.siderealTimeDeg(clock.now()));
    }

    /**
     * One frame of a camera, taken outside a night.
     *
     * @throws java.util.concurrent.CancellationException if the progress says so
     */
    CameraTrial tryCamera(NightFile file, DeviceRole role, NightWatcher person, Progress progress)
            throws InterruptedException {
        DriverChoice choice = Optional.ofNullable(
                        file.kit().equipment().drivers().get(role.word()))
                .orElseThrow(() -> missing(file, role));
        Camera camera = made(file, hands.apply(person), role, choice, Camera.class, true);
        camera.connect();
        Operation exposing = camera.start(Camera.Exposure.light(TRIAL));
        try {
            while (exposing.state() == Operation.State.UNDER_WAY) {
                progress.step("Waiting for a frame of the " + role.word(), 0);
                clock.await(exposing.remaining().orElse(Operation.ASK_EVERY));
            }
            return CameraTrial.of(camera.download(), camera.remarks());
        } finally {
            exposing.abort();
            camera.disconnect();
        }
    }

    /** The kit's mount, walked outside a night. What a hand has to do for its driver is not asked: it has motors. */
    List<ContactWalk.Found> walkContacts(
            NightFile file, List<Double> declinationsDeg, ContactWalk.Eyes eyes, Progress progress)
            throws InterruptedException {
        Mount mount = needed(file, hands.apply(NightWatcher.NONE), DeviceRole.MOUNT, Mount.class);
        mount.connect();
        try {
            return new ContactWalk(mount, Observer.at(file.site()), file.kit(), clock)
                    .run(declinationsDeg, eyes, progress);
        } finally {
            mount.disconnect();
        }
    }

    private static double airC(Optional<WeatherStation> weather) {
        return weather.map(w -> w.temperatureC().orElse(UNKNOWN_AIR_C)).orElse(UNKNOWN_AIR_C);
    }

    private <T extends Device> T needed(NightFile file, Hands hands, DeviceRole role, Class<T> port) {
        return chosen(file, hands, role, port).orElseThrow(() -> missing(file, role));
    }

    private <T extends Device> Optional<T> chosen(NightFile file, Hands hands, DeviceRole role, Class<T> port) {
        return Optional.ofNullable(file.kit().equipment().drivers().get(role.word()))
                .map(choice -> made(file, hands, role, choice, port, false));
    }

    private <T extends Device> T made(
            NightFile file, Hands hands, DeviceRole role, DriverChoice choice, Class<T> port, boolean trial) {
        DeviceDriver driver = driver(file, role, choice);
        Device device = driver.device(
                role, new DeviceDriver.Setup(file.site(), file.kit(), choice.address(), clock, hands, trial));
        if (!port.isInstance(device)) {
            throw new DeviceException(
                    role.word(),
                    "the driver \"" + driver.name() + "\" gave something else",
                    "This is a fault of the driver: tell whoever wrote it.");
        }
        return port.cast(device);
    }

    private List<String> names(DeviceRole role) {
        return drivers.stream()
                .filter(d -> d.roles().contains(role))
                .map(DeviceDriver::name)
                .sorted()
                .toList();
    }
}
