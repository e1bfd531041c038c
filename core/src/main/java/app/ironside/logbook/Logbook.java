package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.focus.FocusModel;
import app.ironside.guide.GuideSample;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.journal.StackMade;
import app.ironside.journal.StepProven;
import app.ironside.journal.TargetCentred;
import app.ironside.kit.RoundRecord;
import app.ironside.point.FramingMatch;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.star.SubLimits;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/**
 * All nights of one data folder. An event is on the disk when its call returns (write-ahead log, synchronous), so that a power
 * cut loses nothing that was told.
 */
public final class Logbook implements AutoCloseable {
    static final String FILE = "logbook.sqlite";

    /** A kit is as it was lately; and these are read whole. */
    private static final int LATEST_NIGHTS = 20;

    private final Path folder;
    private final Jdbi jdbi;
    private final LogbookWriter writer;
    private Optional<String> rescued = Optional.empty();

    private Logbook(Path folder, Jdbi jdbi) {
        this.folder = folder;
        this.jdbi = jdbi;
        this.writer = new LogbookWriter(jdbi.open());
    }

    /** Whether a data folder has a logbook. */
    public static boolean isIn(Path folder) {
        return Files.isRegularFile(folder.resolve(FILE));
    }

    /**
     * Opens the logbook of a data folder, or begins one. Of a file that was cut off, what is left of it is read into a new one, and the
     * old file is kept beside it.
     *
     * @throws BadInputException if the folder cannot hold one, naming it
     */
    public static Logbook open(Path folder) {
        Destination.folder(folder, "data folder");
        Path file = folder.resolve(FILE);
        Optional<LogbookRescue> damaged = LogbookRescue.ofCutOff(file);
        SQLiteDataSource source = source(file);
        try {
            migrate(source);
        } catch (FlywayException e) {
            damaged = LogbookRescue.ofBroken(file);
            if (damaged.isEmpty()) {
                throw new BadInputException(
                        file.toString(),
                        "is not a logbook that this version can read",
                        "a file made by Ironside; move it aside to begin a new one",
                        e);
            }
            migrate(source);
        }
        Logbook logbook = new Logbook(folder, Jdbi.create(source));
        logbook.rescued = damaged.map(d -> d.readInto(logbook.writer));
        logbook.lookThroughOlderNights();
        return logbook;
    }

    private static SQLiteDataSource source(Path file) {
        SQLiteConfig config = new SQLiteConfig();
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        config.setBusyTimeout(10_000);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + file);
        return source;
    }

    private static void migrate(SQLiteDataSource source) {
        Flyway.configure()
                .dataSource(source)
                .locations("classpath:app/ironside/logbook/migration")
                .load()
                .migrate();
    }

    /** Nights from before their rows said what they are. */
    private void lookThroughOlderNights() {
        List<Long> unknown = jdbi.withHandle(h -> h.createQuery("select id from night where state is null order by id")
                .mapTo(Long.class)
                .list());
        unknown.forEach(writer::look);
    }

    /** What was done about a logbook that was cut off, in a sentence for the person; empty if it was whole. */
    public Optional<String> rescued() {
        return rescued;
    }

    public Path folder() {
        return folder;
    }

    /** Enters a new night; its folder is made by whoever writes frames to it. */
    public NightEntry begin(String title, String folderName, String document) {
        long id = writer.write(handle -> handle.createUpdate(
                        "insert into night (title, folder, document, state) values (:title, :folder, :document, 'begun')")
                .bind("title", title)
                .bind("folder", folderName)
                .bind("document", document)
                .executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class)
                .one());
        return new NightEntry(id, folder.resolve(folderName), title, document);
    }

    /** Takes back a night that was entered and never began: its devices could not be connected. One that has a journal stays. */
    public void withdraw(NightEntry night) {
        writer.write(handle -> handle.execute(
                "delete from night where id = ? and not exists (select 1 from event where night = ?)",
                night.id(),
                night.id()));
    }

    /** Asks all subs. */
    public SubSearch search() {
        return new SubSearch(jdbi);
    }

    /** All nights, oldest first. */
    public List<NightEntry> nights() {
        return nights("");
    }

    private List<NightEntry> nights(String which) {
        return jdbi.withHandle(
                handle -> handle.createQuery("select id, title, folder, document from night " + which + " order by id")
                        .map((rs, context) -> new NightEntry(
                                rs.getLong("id"),
                                folder.resolve(rs.getString("folder")),
                                rs.getString("title"),
                                rs.getString("document")))
                        .list());
    }

    /** The last night if it was begun and not ended: the one to go on with. */
    public Optional<NightEntry> unfinished() {
        return nights("where state = 'begun' and id = (select max(id) from night)").stream()
                .findFirst();
    }

    /** The journal of a night. */
    public Journal journal(NightEntry night) {
        return jdbi.withHandle(handle -> {
            List<EventRow> rows = handle.createQuery(
                            "select time, kind, version, text, facts from event where night = :night order by id")
                    .bind("night", night.id())
                    .map((rs, context) -> row(rs))
                    .list();
            List<GuideSample> samples = handle.createQuery(
                            "select time, ra_arcsec, dec_arcsec, ra_pulse_ms, dec_pulse_ms, snr from guide_sample"
                                    + " where night = :night order by rowid")
                    .bind("night", night.id())
                    .map((rs, context) -> sample(rs))
                    .list();
            return new SqliteJournal(writer, night.id(), rows, samples);
        });
    }

    static EventRow row(ResultSet rs) throws SQLException {
        return new EventRow(
                Instant.parse(rs.getString("time")),
                rs.getString("kind"),
                rs.getInt("version"),
                rs.getString("text"),
                rs.getString("facts"));
    }

    private static GuideSample sample(ResultSet rs) throws SQLException {
        return new GuideSample(
                Instant.parse(rs.getString("time")),
                rs.getDouble("ra_arcsec"),
                rs.getDouble("dec_arcsec"),
                number(rs, "ra_pulse_ms"),
                number(rs, "dec_pulse_ms"),
                number(rs, "snr"));
    }

    private static double number(ResultSet rs, String column) throws SQLException {
        double value = rs.getDouble(column);
        return rs.wasNull() ? Double.NaN : value;
    }

    /** How the origin of a night is written. */
    static String origin(Provenance provenance) {
        return switch (provenance) {
            case REAL -> "real";
            case BY_FOLDER, WATCHED -> "by-folder";
            case REHEARSED -> "rehearsed";
        };
    }

    /**
     * Best positions of the accepted focus runs of a kit on other nights, the last of each night.
     *
     * @param except the night under way
     * @param provenance of the nights: a simulated focuser stands elsewhere than the real one
     * @param since positions of before are of a focuser that is no longer the same
     */
    public List<Double> focusPositions(String kit, NightEntry except, Provenance provenance, Instant since) {
        List<Double> positions = new ArrayList<>();
        for (long night : others(kit, except, provenance)) {
            events(night, "FOCUS").stream()
                    .filter(e -> e instanceof FocusSwept f
                            && f.verdict().accepted()
                            && !f.time().isBefore(since))
                    .map(FocusSwept.class::cast)
                    .reduce((a, b) -> b)
                    .ifPresent(f -> positions.add(f.verdict().bestPosition()));
        }
        return positions;
    }

    /** How small the stars of a kit's kept subs were on real nights. */
    public SharpStars sharpStars(String kit) {
        return new SharpStars(jdbi.withHandle(handle -> handle.createQuery(
                        "select sub.hfr_px as radius, sub.temperature_c as tube from sub join night on night.id = sub.night where night.kit = :kit"
                                + " and night.origin <> 'rehearsed' and sub.keep and sub.hfr_px is not null order by sub.hfr_px")
                .bind("kit", kit)
                .map((rs, context) -> {
                    double radius = rs.getDouble("radius");
                    double tube = rs.getDouble("tube");
                    return new SharpStars.Seen(radius, rs.wasNull() ? OptionalDouble.empty() : OptionalDouble.of(tube));
                })
                .list()));
    }

    /** How many of a kit's subs on real nights had round stars, by length. */
    public RoundRecord roundRecord(String kit) {
        return new RoundRecord(jdbi.withHandle(handle -> handle.createQuery(
                        "select sub.seconds as seconds, count(*) as taken, sum(sub.eccentricity <= :trailed) as round"
                                + " from sub join night on night.id = sub.night"
                                + " where night.kit = :kit and night.origin <> 'rehearsed' and sub.eccentricity is not null and sub.seconds > 0"
                                + " group by sub.seconds order by sub.seconds")
                .bind("kit", kit)
                .bind("trailed", SubLimits.TRAILED_ECCENTRICITY)
                .map((rs, context) ->
                        new RoundRecord.Length(rs.getDouble("seconds"), rs.getInt("taken"), rs.getInt("round")))
                .list()));
    }

    /**
     * All focus runs of a kit that were believed, on other nights, in order.
     *
     * @param except the night under way
     * @param provenance of the nights
     * @param since runs of before are of a focuser that is no longer the same
     */
    public List<FocusModel.Run> focusRuns(String kit, NightEntry except, Provenance provenance, Instant since) {
        List<FocusModel.Run> runs = new ArrayList<>();
        for (long night : others(kit, except, provenance)) {
            for (NightEvent event : events(night, "FOCUS")) {
                // The coarse run at the pole is of no filter's own, and good to some steps only.
                if (event instanceof FocusSwept f
                        && f.verdict().accepted()
                        && f.isFine()
                        && !f.time().isBefore(since)) {
                    runs.add(new FocusModel.Run(
                            night,
                            f.time(),
                            f.filter(),
                            f.temperatureC(),
                            f.verdict().bestPosition()));
                }
            }
        }
        return runs;
    }

    /**
     * How a kit's guider was calibrated last, on another night that tells all of it.
     *
     * @param except the night under way
     * @param provenance of the nights
     * @param since one of before is of gear that is no longer the same
     */
    public Optional<GuiderCalibrated> guiderCalibration(
            String kit, NightEntry except, Provenance provenance, Instant since) {
        return others(kit, except, provenance).stream()
                .flatMap(night -> events(night, "GUIDE_CALIBRATED").stream())
                .filter(e -> e instanceof GuiderCalibrated c
                        && c.details().isPresent()
                        && !c.time().isBefore(since))
                .map(GuiderCalibrated.class::cast)
                .reduce((a, b) -> b);
    }

    private List<Long> others(String kit, NightEntry except, Provenance provenance) {
        return jdbi.withHandle(handle -> handle.createQuery(
                        "select id from night where kit = :kit and (origin <> 'rehearsed') = :real and id <> :except order by id")
                .bind("kit", kit)
                .bind("real", provenance.isReal())
                .bind("except", except.id())
                .mapTo(Long.class)
                .list());
    }

    /**
     * What other nights of a kit saw of its polar axis, its knobs and the first frame recognised: of each night in order.
     *
     * @param except the night under way
     * @param provenance of the nights
     */
    public List<List<NightEvent>> placements(String kit, NightEntry except, Provenance provenance) {
        return others(kit, except, provenance).stream()
                .map(night -> Stream.of("POLAR", "KNOBS", "SOLVE")
                        .flatMap(kind -> events(night, kind).stream())
                        .sorted(Comparator.comparing(NightEvent::time))
                        .toList())
                .filter(night -> !night.isEmpty())
                .toList();
    }

    /**
     * How targets were framed on the nights before a date, by name: where the last frame of each was solved to be, and the camera's
     * angle. The latest night counts: it is the one whose flats may still serve.
     *
     * @param own a night that is left out
     */
    public Map<String, FramingMatch.Wanted> framings(LocalDate before, Optional<NightEntry> own) {
        List<Long> nights = jdbi.withHandle(
                handle -> handle.createQuery("select id from night where date < :date and id <> :own order by date, id")
                        .bind("date", before.toString())
                        .bind("own", own.map(NightEntry::id).orElse(-1L))
                        .mapTo(Long.class)
                        .list());
        Map<String, FramingMatch.Wanted> found = new HashMap<>();
        for (long night : nights) {
            Map<String, Equatorial> solved = new HashMap<>();
            events(night, "SOLVE").forEach(e -> {
                if (e instanceof FrameSolved s) {
                    solved.put(s.target(), s.centre());
                }
            });
            events(night, "CENTRED").forEach(e -> {
                if (e instanceof TargetCentred c && solved.containsKey(c.target())) {
                    found.put(
                            c.target(),
                            new FramingMatch.Wanted(solved.get(c.target()), c.rotationDeg(), FramingMatch.USUAL_CROP));
                }
            });
        }
        return found;
    }

    private List<NightEvent> events(long night, String kind) {
        return jdbi.withHandle(handle -> handle.createQuery(
                        "select time, kind, version, text, facts from event where night = :night and kind = :kind order by id")
                .bind("night", night)
                .bind("kind", kind)
                .map((rs, context) -> EventCodec.read(row(rs)))
                .list());
    }

    /** The camera's angle on the last night of a kit before a date: one that was centred then; empty if none was. */
    public Optional<Double> lastAngle(String kit, LocalDate before) {
        return jdbi.withHandle(handle -> handle
                .createQuery("select id from night where kit = :kit and date < :date order by date desc, id desc")
                .bind("kit", kit)
                .bind("date", before.toString())
                .mapTo(Long.class)
                .list()
                .stream()
                .flatMap(night -> events(night, "CENTRED").stream())
                .filter(TargetCentred.class::isInstance)
                .map(e -> ((TargetCentred) e).rotationDeg())
                .findFirst());
    }

    /**
     * On how many nights each step that a lesson added was looked at, and on how many it was not so.
     *
     * @param found nights on which it was not as it should be: the step was worth it then
     */
    public record LessonRecord(int nights, int found) {}

    /** The record of lessons, by their words. */
    public Map<String, LessonRecord> lessons() {
        Map<String, Map<Long, Boolean>> proven = new HashMap<>();
        jdbi.useHandle(handle -> handle.createQuery(
                        "select night, time, kind, version, text, facts from event where kind = 'DEVICE'"
                                + " and json_extract(facts, '$.subject') = 'lesson' order by id")
                .map((rs, context) -> {
                    if (EventCodec.read(row(rs)) instanceof StepProven step) {
                        proven.computeIfAbsent(step.step(), s -> new HashMap<>())
                                .merge(rs.getLong("night"), step.proven(), Boolean::logicalAnd);
                    }
                    return rs.getLong("night");
                })
                .list());
        Map<String, LessonRecord> record = new HashMap<>();
        proven.forEach((step, nights) -> record.put(step, new LessonRecord(nights.size(), (int)
                nights.values().stream().filter(ok -> !ok).count())));
        return record;
    }

    /** What a kit's latest nights took besides light: real nights, or rehearsed ones where there is no other. */
    public TimesTaken timesTaken(String kit) {
        for (String origin : List.of("<>", "=")) {
            List<Long> nights = jdbi.withHandle(
                    handle -> handle.createQuery("select id from night where kit = :kit and origin " + origin
                                    + " 'rehearsed' and exists (select 1 from sub where sub.night = night.id) order by id desc limit "
                                    + LATEST_NIGHTS)
                            .bind("kit", kit)
                            .mapTo(Long.class)
                            .list());
            if (!nights.isEmpty()) {
                return TimesTaken.of(
                        nights.stream()
                                .map(night -> Stream.of("SUB", "FOCUS", "DITHER", "FLIP", "FAULT")
                                        .flatMap(kind -> events(night, kind).stream())
                                        .toList())
                                .toList(),
                        origin.equals("="));
            }
        }
        return TimesTaken.NONE;
    }

    /** What its nights gave. */
    public Account account() {
        Map<Long, Map<String, Map<String, Double>>> kept = new HashMap<>();
        Map<Long, Double> taken = new HashMap<>();
        Map<Long, Double> planned = new HashMap<>();
        Map<Long, Map<String, Double>> lost = new HashMap<>();
        return jdbi.withHandle(handle -> {
            handle.createQuery(
                            "select night, target, filter, keep, coalesce(cause, '') as cause, sum(seconds) / 3600.0 as hours"
                                    + " from sub group by night, target, filter, keep, coalesce(cause, '')")
                    .map((rs, context) -> {
                        long night = rs.getLong("night");
                        taken.merge(night, rs.getDouble("hours"), Double::sum);
                        if (rs.getBoolean("keep")) {
                            kept.computeIfAbsent(night, n -> new HashMap<>())
                                    .computeIfAbsent(rs.getString("target"), t -> new HashMap<>())
                                    .merge(rs.getString("filter"), rs.getDouble("hours"), Double::sum);
                        } else {
                            lost.computeIfAbsent(night, n -> new HashMap<>())
                                    .merge(rs.getString("cause"), rs.getDouble("hours"), Double::sum);
                        }
                        return night;
                    })
                    .list();
            // What was planned before the first sub: later plans are of what was left.
            handle.createQuery(
                            "select night, time, kind, version, text, facts from event e where kind = 'PLAN'"
                                    + " and id < coalesce((select min(event) from sub s where s.night = e.night), id + 1) order by id")
                    .map((rs, context) -> {
                        if (EventCodec.read(row(rs)) instanceof BlockPlanned block) {
                            planned.merge(rs.getLong("night"), block.subs() * block.seconds() / 3600, Double::sum);
                        }
                        return rs.getLong("night");
                    })
                    .list();
            Map<Long, NotTaken> reasons = new HashMap<>();
            handle.createQuery("select night, time, kind, version, text, facts from event"
                            + " where kind in ('TROUBLE_OVER', 'COMMAND', 'NIGHT_ENDED') order by id")
                    .map((rs, context) -> {
                        long night = rs.getLong("night");
                        reasons.computeIfAbsent(night, n -> new NotTaken())
                                .add(EventCodec.read(row(rs)), span -> exposed(handle, night, span));
                        return rs.getLong("night");
                    })
                    .list();
            return new Account(handle.createQuery(
                            "select id, date, site, kit, origin from night where date is not null order by id")
                    .map((rs, context) -> new Account.Night(
                            LocalDate.parse(rs.getString("date")),
                            rs.getString("site"),
                            rs.getString("kit"),
                            !"rehearsed".equals(rs.getString("origin")),
                            planned.getOrDefault(rs.getLong("id"), 0.0),
                            taken.getOrDefault(rs.getLong("id"), 0.0),
                            kept.getOrDefault(rs.getLong("id"), Map.of()),
                            lost.getOrDefault(rs.getLong("id"), Map.of()),
                            reasons.getOrDefault(rs.getLong("id"), new NotTaken())
                                    .reason(planned.getOrDefault(rs.getLong("id"), 0.0)
                                            - taken.getOrDefault(rs.getLong("id"), 0.0))))
                    .list());
        });
    }

    /**
     * What its nights gathered, by target, the most first; where a night saw a sky, rehearsals do not count.
     *
     * @param sameName brings a target's names to one: people write M33 and M 33
     */
    public List<Gathering> gatherings(UnaryOperator<String> sameName) {
        return jdbi.withHandle(handle -> {
            Map<Long, Map<String, StackMade>> stacks = new HashMap<>();
            handle.createQuery(
                            "select night, time, kind, version, text, facts from event where kind = 'STACK' order by id")
                    .map((rs, context) -> {
                        if (EventCodec.read(row(rs)) instanceof StackMade stack) {
                            stacks.computeIfAbsent(rs.getLong("night"), n -> new HashMap<>())
                                    .merge(
                                            sameName.apply(stack.target()),
                                            stack,
                                            (a, b) -> b.light().compareTo(a.light()) > 0 ? b : a);
                        }
                        return rs.getLong("night");
                    })
                    .list();
            Map<Boolean, Map<String, Map<Long, Part>>> found = Map.of(true, new HashMap<>(), false, new HashMap<>());
            handle.createQuery("select night.id, night.date, night.folder, night.origin, sub.target, sub.filter,"
                            + " sum(sub.seconds) / 3600.0 as hours from sub join night on night.id = sub.night"
                            + " where sub.keep and night.date is not null"
                            + " group by night.id, sub.target, sub.filter")
                    .map((rs, context) -> {
                        String target = sameName.apply(rs.getString("target"));
                        found.get(!"rehearsed".equals(rs.getString("origin")))
                                .computeIfAbsent(target, t -> new HashMap<>())
                                .computeIfAbsent(
                                        rs.getLong("id"),
                                        id -> new Part(
                                                LocalDate.parse(text(rs, "date")),
                                                folder.resolve(text(rs, "folder")),
                                                new HashMap<>()))
                                .hours()
                                .merge(rs.getString("filter"), rs.getDouble("hours"), Double::sum);
                        return target;
                    })
                    .list();
            boolean real = !found.get(true).isEmpty();
            return found.get(real).entrySet().stream()
                    .map(of -> new Gathering(
                            of.getKey(),
                            !real,
                            of.getValue().entrySet().stream()
                                    .map(n -> n.getValue()
                                            .night(
                                                    n.getKey(),
                                                    Optional.ofNullable(stacks.getOrDefault(n.getKey(), Map.of())
                                                            .get(of.getKey()))))
                                    .toList()))
                    .sorted(Comparator.comparingDouble(Gathering::hoursKept).reversed())
                    .toList();
        });
    }

    private static String text(ResultSet rs, String column) {
        try {
            return rs.getString(column);
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** What one night has of a target. */
    private record Part(LocalDate date, Path folder, Map<String, Double> hours) {
        Gathering.Night night(long id, Optional<StackMade> deepest) {
            return new Gathering.Night(id, date, hours, deepest.map(s -> folder.resolve(s.picture())));
        }
    }

    /** The newest night that kept light of a target, as its document tells it. */
    public Optional<NightEntry> newest(Gathering of) {
        return of.nights().isEmpty()
                ? Optional.empty()
                : nights("where id = " + of.nights().get(of.nights().size() - 1).night()).stream()
                        .findFirst();
    }

    private static double exposed(Handle handle, long night, Interval span) {
        return handle.createQuery(
                        "select coalesce(sum(seconds), 0) from sub where night = :night and time > :from and time <= :until")
                .bind("night", night)
                .bind("from", span.from().toString())
                .bind("until", span.until().toString())
                .mapTo(Double.class)
                .one();
    }

    /** Copies events into a night in one transaction, for nights that were recorded elsewhere. */
    public void importEvents(NightEntry night, List<EventRow> rows) {
        writer.copy(night.id(), rows);
    }

    /** Puts guide exposures of elsewhere into a night. */
    public void importGuiding(NightEntry night, List<GuideSample> samples) {
        writer.guided(night.id(), samples);
    }

    /**
     * Takes a night out. Its frames are not touched, and its journal is written beside them first.
     *
     * @return the file with the journal: a JSON object a line, as the rows were
     * @throws java.io.UncheckedIOException if that cannot be written; the night then stays
     */
    public Path remove(NightEntry night) {
        List<EventRow> rows = jdbi.withHandle(handle -> handle.createQuery(
                        "select time, kind, version, text, facts from event where night = :night order by id")
                .bind("night", night.id())
                .map((rs, context) -> row(rs))
                .list());
        Path file = night.folder().resolve("journal.jsonl");
        Destination.folder(night.folder(), "folder of the night");
        AtomicFile.write(file, out -> {
            for (EventRow row : rows) {
                out.write((EventCodec.line(row) + "\n").getBytes(StandardCharsets.UTF_8));
            }
        });
        writer.write(handle -> {
            handle.useTransaction(h -> {
                for (String table : List.of("sub", "guide_sample", "event")) {
                    h.execute("delete from " + table + " where night = ?", night.id());
                }
                h.execute("delete from night where id = ?", night.id());
            });
            return handle;
        });
        return file;
    }

    /** Lets go of the file. Journals of it can no longer be written to. */
    @Override
    public void close() {
        writer.close();
    }
}
