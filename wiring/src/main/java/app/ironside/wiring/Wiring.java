package app.ironside.wiring;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.darkroom.Darkroom;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceRole;
import app.ironside.device.Devices;
import app.ironside.device.HeldCamera;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.document.ReadyList;
import app.ironside.gear.GearBook;
import app.ironside.gear.GearChange;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Kit;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.AirWatch;
import app.ironside.night.Earlier;
import app.ironside.night.FolderWork;
import app.ironside.night.FrameArchive;
import app.ironside.night.HeaterWatch;
import app.ironside.night.MountWatch;
import app.ironside.night.NightContext;
import app.ironside.night.NightControl;
import app.ironside.night.NightEngine;
import app.ironside.night.NightRecord;
import app.ironside.night.NightWatcher;
import app.ironside.night.Placement;
import app.ironside.night.ProgramInForce;
import app.ironside.night.SuppliesWatch;
import app.ironside.night.WatchedClock;
import app.ironside.plan.Program;
import app.ironside.plan.WeatherForecast;
import app.ironside.point.Centering;
import app.ironside.point.ContactWalk;
import app.ironside.point.GuardedMount;
import app.ironside.point.ModelRun;
import app.ironside.point.ModelShelf;
import app.ironside.point.PointingModel;
import app.ironside.point.SkyPoints;
import app.ironside.polar.KnobGearing;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimWeather;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.NamedStar;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.SkyNames;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.StarSource;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.StarShelf;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import app.ironside.star.StarSearch;
import app.ironside.watch.FolderNight;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.CompletableFuture;
import java.util.function.Function;

/** The one place that decides what a night is made of. */
public final class Wiring {
    /** How fast a simulated mount is shown to move. */
    private static final double SHOWN_RATE = 10;

    private static final Duration MODEL_EXPOSURE = Duration.ofSeconds(8);

    private final StarCatalogue stars;
    private final DeepSkyCatalogue objects;
    private SkyNames names;
    private final Workers workers;
    private final SkySource sky;
    private final RehearsedStars rehearsedStars;
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
        CompletableFuture<DeepSkyCatalogue> read = CompletableFuture.supplyAsync(DeepSkyCatalogue::load);
        this.stars = StarCatalogue.hipparcos();
        this.objects = read.join();
        this.sky = new SkySource(stars, objects);
        this.rehearsedStars = new RehearsedStars(stars, sky);
        this.shelf = new StarShelf(stars, workers, dataFolder);
        this.drivers = new DriverShelf(dataFolder);
    }

    /** Finds where developed pictures lie, by what their headers say of it; without a hint none is looked for. */
    public Darkroom.Placer placer() {
        StarSearch finder = new StarFinder(DetectSettings.DEFAULT, workers);
        return picture -> {
            SolveHints hints = SolveHints.of(picture.header(), picture.width(), picture.height());
            return hints.near().isPresent()
                            && shelf().solver().solve(finder.find(picture), hints.nearOnly())
                                    instanceof PlateSolution found
                    ? Optional.of(found.wcs())
                    : Optional.empty();
        };
    }

    /** The time of this machine. */
    public static NightClock liveClock() {
        return new LiveClock(Clock.systemUTC());
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

    /** What the sky's places are called; made when it is first asked for, beside the interface if it can be. */
    public synchronized SkyNames names() {
        if (names == null) {
            names = new SkyNames(objects, NamedStar.of(stars));
        }
        return names;
    }

    public StarCatalogue stars() {
        return stars;
    }

    /** The catalogue's stars, with invented ones below its reach. */
    public StarSource starSource() {
        return sky;
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
                new RehearsalVenue(sky, SimulatedObservatory.Frames.DRAWN, workers, clock),
                watcher,
                control);
    }

    /**
     * Finds out whether a kit's drivers are there, before anything is begun.
     *
     * @throws BadInputException naming what is missing
     */
    public void checkLive(NightFile file) {
        new LiveVenue(drivers(), liveClock(), workers).check(file);
    }

    /**
     * Takes one frame with a camera's driver, to see what comes before a night relies on it.
     *
     * @param person is told what is wanted of a hand
     * @throws BadInputException if no driver is chosen or there is none of its name
     * @throws app.ironside.device.DeviceException if the camera does not answer or no frame comes
     * @throws java.util.concurrent.CancellationException if the progress says so
     */
    public CameraTrial tryCamera(NightFile file, DeviceRole role, NightWatcher person, Progress progress)
            throws InterruptedException {
        return new LiveVenue(drivers(), liveClock(), workers).tryCamera(file, role, person, progress);
    }

    /** Whether a walk to the contacts would move the kit's own mount; else it is a simulated one, which tells nothing of the kit. */
    public static boolean movesOwnMount(NightFile file) {
        return file.kit().equipment().drivers().containsKey(DeviceRole.MOUNT.word());
    }

    /**
     * Walks the kit's mount by day to where its telescope touches; without a driver a simulated one, an hour before sunset, to show how it
     * goes.
     *
     * @param eyes of whoever stands beside
     * @throws app.ironside.device.DeviceException if the mount does not answer
     * @throws java.util.concurrent.CancellationException if the progress says so; the mount is stopped then
     */
    public List<ContactWalk.Found> walkContacts(
            NightFile file, List<Double> declinationsDeg, ContactWalk.Eyes eyes, Progress progress)
            throws InterruptedException {
        if (movesOwnMount(file)) {
            return new LiveVenue(drivers(), liveClock(), workers).walkContacts(file, declinationsDeg, eyes, progress);
        }
        NightTimes times = NightTimes.of(file.site(), file.program().date());
        Instant before = times.sunset().orElse(times.night().from()).minus(Duration.ofHours(1));
        NightClock clock = new PacedClock(before, SHOWN_RATE);
        SimulatedObservatory observatory = simulated(file, clock, before);
        return new ContactWalk(observatory.devices().mount(), Observer.at(file.site()), file.kit(), clock)
                .run(declinationsDeg, eyes, progress);
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
        return night(given, logbook, entry, new LiveVenue(drivers(), liveClock(), workers), watcher, control);
    }

    /** What a night is drawn by whose frames come into a folder. Reads their headers: not on the interface thread. */
    public FolderPlan planOf(Path folder, NightFile base) {
        LocalDate tonight =
                liveClock().now().atZone(base.site().zone()).minusHours(12).toLocalDate();
        return FolderPlan.of(folder, base, tonight, objects, workers);
    }

    /** A night that somebody else runs, looked on at through the frames in a folder. */
    public NightRun watched(
            FolderPlan plan,
            Path folder,
            Logbook logbook,
            NightEntry entry,
            NightWatcher watcher,
            NightControl control) {
        NightFile file = plan.file();
        NightClock clock = liveClock();
        Journal journal = logbook.journal(entry);
        Instant first = plan.first().filter(t -> t.isBefore(clock.now())).orElse(clock.now());
        NightStarted started = new NightStarted(
                first.minusSeconds(1),
                "Looking on at " + folder + ": its frames are judged as they come; nothing is moved.",
                file.site().name(),
                file.kit().name(),
                file.program().date(),
                Provenance.WATCHED);
        FolderNight night = new FolderNight(
                new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), workers),
                Optional.of(file.site()),
                OptionalDouble.of(file.kit().arcsecPerPixel()));
        FolderWork work = new FolderWork(
                folder,
                night,
                started,
                new NightRecord(journal, clock, watcher),
                control,
                clock,
                shelf.solver(),
                Observer.at(file.site()));
        return new NightRun(
                file, entry, work, control, clock, journal, new FrameArchive(entry.folder()), Optional.empty());
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
        NightFile file = inForce(given, before);
        Venue.Prepared prepared = venue.prepare(file, before, watcher);
        FrameArchive onDisk = new FrameArchive(entry.folder());
        prepared.observatory().ifPresent(o -> TruthFile.write(entry.folder(), o.faults()));
        FrameArchive archive =
                prepared.observatory().map(o -> onDisk.fullWhen(o::isDiskFull)).orElse(onDisk);
        Books books = new Books(
                archive,
                prepared.observatory().isPresent() ? rehearsedStars.solver(file, shelf.solver()) : shelf.solver(),
                earlier(file, logbook, entry, prepared.provenance()));
        NightEngine engine = new NightEngine(context(file, journal, prepared, watcher, control, books));
        return new NightRun(file, entry, engine, control, prepared.clock(), journal, archive, prepared.observatory());
    }

    private static Earlier earlier(NightFile file, Logbook logbook, NightEntry own, Provenance provenance) {
        String kit = file.kit().name();
        // What was done to the real gear means nothing to a simulated one.
        Function<GearChange.Voids, Instant> since = what -> provenance.isReal()
                ? new GearBook(logbook.folder())
                        .last(kit, what, file.program().date())
                        .map(c -> c.since(file.site().zone()))
                        .orElse(Instant.MIN)
                : Instant.MIN;
        KnobGearing gearing = KnobGearing.UNKNOWN;
        List<Placement> placements = new ArrayList<>();
        for (List<NightEvent> night : logbook.habits().placements(kit, own, provenance)) {
            gearing = Placement.learned(gearing, night);
            placements.add(Placement.of(night));
        }
        return new Earlier(
                logbook.habits().focusPositions(kit, own, provenance, since.apply(GearChange.Voids.FOCUS)),
                gearing,
                placements,
                models(logbook, provenance).of(kit, since.apply(GearChange.Voids.POINTING)),
                logbook.habits().guiderCalibration(kit, own, provenance, since.apply(GearChange.Voids.GUIDER)),
                logbook.habits().focusRuns(kit, own, provenance, since.apply(GearChange.Voids.FOCUS)));
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
        SimulatedObservatory observatory =
                simulated(file, clock, times.sunset().orElse(times.night().from()));
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

    /** The observatory of a night, which began to stand in the open at a time. */
    private SimulatedObservatory simulated(NightFile file, NightClock clock, Instant since) {
        return new SimulatedObservatory(
                file.site(),
                file.kit(),
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class),
                sky,
                clock,
                since,
                workers);
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
            NightFile file,
            Devices devices,
            GuardedMount mount,
            FrameArchive archive,
            NightRecord record,
            NightControl control) {
        Kit kit = file.kit();
        SuppliesWatch ofSupplies =
                new SuppliesWatch(kit, file.site().zone(), archive, devices.power(), devices.weather(), record);
        MountWatch ofMount = new MountWatch(mount, record::mountStopped);
        Optional<AirWatch> ofAir = devices.weather().map(station -> new AirWatch(station, record, control));
        Optional<HeaterWatch> ofHeaters = devices.weather()
                .filter(station ->
                        kit.equipment().heated() && !kit.equipment().heaters().isEmpty())
                .flatMap(station -> devices.power().map(power -> new HeaterWatch(station, power, record)));
        return now -> {
            ofMount.look(now);
            ofHeaters.ifPresent(heaters -> heaters.look(now));
            devices.camera().remarks().forEach(record::deviceSaid);
            ofAir.ifPresent(air -> air.look(now));
            ofSupplies.look(now);
        };
    }

    /**
     * A rehearsal without pixels: what measuring its frames would give is worked out from what falls on the sensor, and nothing is written
     * to the disk.
     *
     * @param journal new, or that of such a night which was stopped
     * @param clock made for the instant at which the night begins or goes on
     */
    public SwiftNight swift(
            NightFile given,
            Journal journal,
            Function<Instant, ? extends NightClock> clock,
            NightWatcher watcher,
            NightControl control) {
        List<NightEvent> before = journal.events();
        NightFile file = inForce(given, before);
        Venue.Prepared venue = new RehearsalVenue(sky, SimulatedObservatory.Frames.SKETCHED, Workers.SERIAL, clock)
                .prepare(file, before, watcher);
        List<String> taken =
                NightState.of(before).subs().stream().map(SubTaken::file).toList();
        NightEngine engine = new NightEngine(context(
                file,
                journal,
                venue,
                watcher,
                control,
                new Books(
                        FrameArchive.ofNames(Path.of("night"), taken)
                                .fullWhen(venue.observatory().orElseThrow()::isDiskFull),
                        rehearsedStars.solver(file, shelf.solver()).forAnother(),
                        Earlier.NONE)));
        return new SwiftNight(
                file,
                engine,
                control,
                venue.clock(),
                journal,
                venue.observatory().orElseThrow());
    }

    /** By a changed program, if the night was given one. */
    private NightFile inForce(NightFile given, List<NightEvent> before) {
        return NightState.of(before)
                .last(ProgramRevised.class)
                .map(r -> NightFile.parse(r.document(), "the program in force", objects))
                .orElse(given);
    }

    /**
     * What a night goes back to of other nights, and where it keeps its own.
     *
     * @param solver by which its frames are recognised
     * @param earlier what the kit's other nights have taught
     */
    private record Books(FrameArchive archive, PlateSolver solver, Earlier earlier) {}

    private NightContext context(
            NightFile file,
            Journal journal,
            Venue.Prepared venue,
            NightWatcher watcher,
            NightControl control,
            Books books) {
        NightClock clock = venue.clock();
        Devices devices =
                venue.devices().withCamera(new HeldCamera(venue.devices().camera(), clock));
        Observer observer = Observer.at(file.site());
        GuardedMount mount = new GuardedMount(devices.mount(), observer, file.kit(), clock);
        NightRecord record = new NightRecord(journal, clock, watcher);
        return new NightContext(
                file.site(),
                file.kit(),
                new ProgramInForce(file.program(), text -> revised(text, file)),
                devices.withMount(mount),
                new WatchedClock(clock, watch(file, devices, mount, books.archive(), record, control)),
                books.archive(),
                record,
                venue.gauge(),
                books.solver(),
                workers,
                ReadyList.of(file.site(), file.kit(), file.program(), file.lessons()),
                books.earlier(),
                venue.provenance(),
                control,
                file.training().isPresent());
    }
}
