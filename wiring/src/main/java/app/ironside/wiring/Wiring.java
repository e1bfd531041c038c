package app.ironside.wiring;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.DeviceDriver;
import app.ironside.device.Devices;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.document.ReadyList;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.ProgramRevised;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.AirWatch;
import app.ironside.night.FrameArchive;
import app.ironside.night.MountWatch;
import app.ironside.night.NightContext;
import app.ironside.night.NightControl;
import app.ironside.night.NightEngine;
import app.ironside.night.NightRecord;
import app.ironside.night.NightWatcher;
import app.ironside.night.ProgramInForce;
import app.ironside.night.WatchedClock;
import app.ironside.plan.Program;
import app.ironside.plan.WeatherForecast;
import app.ironside.point.Centering;
import app.ironside.point.GuardedMount;
import app.ironside.point.ModelRun;
import app.ironside.point.ModelShelf;
import app.ironside.point.PointingModel;
import app.ironside.point.SkyPoints;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimWeather;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.StarSource;
import app.ironside.solve.StarShelf;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** The one place that decides what a night is made of. */
public final class Wiring {
    private static final Duration MODEL_EXPOSURE = Duration.ofSeconds(8);

    private final StarCatalogue stars;
    private final DeepSkyCatalogue objects;
    private final Workers workers;
    private final StarShelf shelf;
    private final DriverShelf drivers;

    /** Nothing is kept from one run to the next. */
    public Wiring(Workers workers) {
        this(workers, Optional.empty());
    }

    /**
     * @param dataFolder where the stars that a user added are kept, and the index of the sky
     */
    public Wiring(Workers workers, Optional<Path> dataFolder) {
        this.workers = workers;
        this.stars = StarCatalogue.hipparcos();
        this.objects = DeepSkyCatalogue.load();
        this.shelf = new StarShelf(stars, workers, dataFolder);
        this.drivers = new DriverShelf(dataFolder);
    }

    /** Where a user's data lies: IRONSIDE_DATA, or the usual place of the system. */
    public static Path usersData() {
        String chosen = System.getenv("IRONSIDE_DATA");
        return chosen != null && !chosen.isBlank()
                ? Path.of(chosen)
                : Path.of(System.getProperty("user.home"), ".local", "share", "ironside");
    }

    /** The stars by which frames are recognised. */
    public StarShelf shelf() {
        return shelf;
    }

    public DeepSkyCatalogue objects() {
        return objects;
    }

    public StarCatalogue stars() {
        return stars;
    }

    /** The catalogue's stars, with invented ones below its reach. */
    public StarSource starSource() {
        return new SkySource(stars, objects);
    }

    /** Draws frames of rehearsals again that are not on the disk. */
    public FrameArtist artist() {
        return new FrameArtist(stars, objects, workers);
    }

    /** The weather service of a night: the simulated one. */
    public WeatherForecast weather(NightFile file) {
        NightTimes times = NightTimes.of(file.site(), file.program().date());
        return new SimWeather(
                file.site(),
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class),
                times.sunset().orElse(times.night().from()));
    }

    /** Drivers of real devices: those that ship, and those that the user added. */
    public List<DeviceDriver> drivers() {
        return drivers.all();
    }

    /**
     * Finds out whether a night can be rehearsed, before anything is begun.
     *
     * @throws BadInputException saying what hinders it
     */
    public void check(NightFile file) {
        file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
    }

    /**
     * A rehearsal: the engine against a simulated observatory.
     *
     * @param clock made for the instant at which the night begins or goes on
     */
    public NightRun rehearsal(
            NightFile file,
            Logbook logbook,
            NightEntry entry,
            Function<Instant, ? extends NightClock> clock,
            NightWatcher watcher) {
        return rehearsal(file, logbook, entry, clock, watcher, new NightControl());
    }

    /**
     * As above, with the reins in somebody's hand.
     *
     * @param given the night file; the program in force, if it was changed while the night ran, is read from the journal
     */
    public NightRun rehearsal(
            NightFile given,
            Logbook logbook,
            NightEntry entry,
            Function<Instant, ? extends NightClock> clock,
            NightWatcher watcher,
            NightControl control) {
        return night(
                given,
                logbook,
                entry,
                new RehearsalVenue(new SkySource(stars, objects), workers, clock),
                watcher,
                control);
    }

    /**
     * Finds out whether a kit's drivers are there, before anything is begun.
     *
     * @throws BadInputException naming what is missing
     */
    public void checkLive(NightFile file) {
        new LiveVenue(drivers(), new LiveClock(Clock.systemUTC())).check(file);
    }

    /**
     * A real night: the engine with the devices that the kit's drivers connect.
     *
     * @param watcher asks the person for what has no motor
     * @throws BadInputException if a driver is missing
     * @throws app.ironside.device.DeviceException if a device does not answer
     */
    public NightRun live(
            NightFile given, Logbook logbook, NightEntry entry, NightWatcher watcher, NightControl control) {
        return night(
                given, logbook, entry, new LiveVenue(drivers(), new LiveClock(Clock.systemUTC())), watcher, control);
    }

    NightRun night(
            NightFile given,
            Logbook logbook,
            NightEntry entry,
            Venue venue,
            NightWatcher watcher,
            NightControl control) {
        Journal journal = logbook.journal(entry);
        List<NightEvent> before = journal.events();
        NightFile file = NightState.of(before)
                .last(ProgramRevised.class)
                .map(r -> NightFile.parse(r.document(), entry.title(), objects))
                .orElse(given);
        return assemble(file, entry, journal, venue.prepare(file, before, watcher), watcher, logbook, control);
    }

    /** The pointing models of a logbook's kits: those of real mounts, or of simulated ones. */
    public static ModelShelf models(Logbook logbook, Provenance provenance) {
        return new ModelShelf(logbook.folder(), provenance);
    }

    /** What taking the points of a pointing model gave. */
    public record ModelAnswer(PointingModel.Result result, List<ModelRun.Failure> failures) {}

    /**
     * Takes the points of a pointing model with the simulated observatory, on a virtual clock, an hour after dark.
     *
     * @param count of points over the sky
     * @throws java.util.concurrent.CancellationException if the progress says so
     */
    public ModelAnswer rehearseModel(NightFile file, int count, Progress progress) throws InterruptedException {
        NightTimes times = NightTimes.of(file.site(), file.program().date());
        Instant dark = times.astronomicalDusk().orElse(times.night().from()).plus(Duration.ofHours(1));
        SteppedClock clock = new SteppedClock(dark);
        SimulatedObservatory observatory = new SimulatedObservatory(
                file.site(),
                file.kit(),
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class),
                new SkySource(stars, objects),
                clock,
                times.sunset().orElse(times.night().from()),
                workers);
        Observer observer = Observer.at(file.site());
        Mount mount = new GuardedMount(observatory.devices().mount(), observer, file.kit(), clock);
        mount.unpark();
        observatory.devices().focuser().moveAndWait(clock, (int) Math.round(observatory.bestFocusSteps()));
        StarFinder finder = new StarFinder(DetectSettings.BRIGHTEST, workers);
        Centering centering =
                new Centering(mount, observatory.devices().camera(), clock, finder, shelf.solver(), file.kit());
        ModelRun.Outcome outcome = new ModelRun(mount, clock, centering)
                .take(
                        SkyPoints.spread(observer, file.kit(), dark, count),
                        MODEL_EXPOSURE,
                        (frame, field, result, offset) -> {},
                        progress);
        return new ModelAnswer(PointingModel.fit(outcome.points(), observer, clock.now()), outcome.failures());
    }

    /** A changed program of a night; its site and kit stay, as they stand under the sky. */
    private Program revised(String text, NightFile night) {
        NightFile changed = NightFile.parse(text, "the changed program", objects);
        if (!night.differsInProgramOnly(changed)) {
            throw new BadInputException(
                    "the changed program", "is of another date, site or kit", "the same: only the program can change");
        }
        return changed.program();
    }

    /** Who looks round in every wait. */
    private static WatchedClock.Watch watch(
            Devices devices, GuardedMount mount, NightRecord record, NightControl control) {
        MountWatch ofMount = new MountWatch(mount, record::mountStopped);
        Optional<AirWatch> ofAir = devices.weather().map(station -> new AirWatch(station, record, control));
        return now -> {
            ofMount.look(now);
            ofAir.ifPresent(air -> air.look(now));
        };
    }

    private NightRun assemble(
            NightFile file,
            NightEntry entry,
            Journal journal,
            Venue.Prepared venue,
            NightWatcher watcher,
            Logbook logbook,
            NightControl control) {
        NightClock clock = venue.clock();
        Devices devices = venue.devices();
        FrameArchive archive = new FrameArchive(entry.folder());
        Observer observer = Observer.at(file.site());
        GuardedMount mount = new GuardedMount(devices.mount(), observer, file.kit(), clock);
        NightRecord record = new NightRecord(journal, clock, watcher);
        NightContext context = new NightContext(
                file.site(),
                file.kit(),
                new ProgramInForce(file.program(), text -> revised(text, file)),
                devices.withMount(mount),
                new WatchedClock(clock, watch(devices, mount, record, control)),
                archive,
                record,
                shelf.solver(),
                workers,
                ReadyList.of(file.site(), file.kit(), file.program(), file.lessons()),
                logbook.focusPositions(file.kit().name(), entry, venue.provenance()),
                models(logbook, venue.provenance()).of(file.kit().name()),
                venue.provenance(),
                control);
        return new NightRun(
                file, entry, new NightEngine(context), control, clock, journal, archive, venue.observatory());
    }
}
