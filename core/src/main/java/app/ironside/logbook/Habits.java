package app.ironside.logbook;

import app.ironside.Provenance;
import app.ironside.focus.FocusModel;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.NightEvent;
import app.ironside.journal.StepProven;
import app.ironside.journal.TargetCentred;
import app.ironside.kit.RoundRecord;
import app.ironside.point.FramingMatch;
import app.ironside.sky.Equatorial;
import app.ironside.star.SubLimits;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import org.jdbi.v3.core.Jdbi;

/**
 * What the nights of a logbook tell of gear and places: how a kit focuses, guides, trails and takes its time, where its axis stood, how
 * targets were framed. Of nights that saw a sky and of rehearsed ones apart, since a simulated focuser stands elsewhere than the real one.
 */
public final class Habits {
    /** A kit is as it was lately; and these are read whole. */
    private static final int LATEST_NIGHTS = 20;

    private final Jdbi jdbi;

    Habits(Jdbi jdbi) {
        this.jdbi = jdbi;
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
            Logbook.events(jdbi, night, "FOCUS").stream()
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
            for (NightEvent event : Logbook.events(jdbi, night, "FOCUS")) {
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
                .flatMap(night -> Logbook.events(jdbi, night, "GUIDE_CALIBRATED").stream())
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
                        .flatMap(kind -> Logbook.events(jdbi, night, kind).stream())
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
            Logbook.events(jdbi, night, "SOLVE").forEach(e -> {
                if (e instanceof FrameSolved s) {
                    solved.put(s.target(), s.centre());
                }
            });
            Logbook.events(jdbi, night, "CENTRED").forEach(e -> {
                if (e instanceof TargetCentred c && solved.containsKey(c.target())) {
                    found.put(
                            c.target(),
                            new FramingMatch.Wanted(solved.get(c.target()), c.rotationDeg(), FramingMatch.USUAL_CROP));
                }
            });
        }
        return found;
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
                .flatMap(night -> Logbook.events(jdbi, night, "CENTRED").stream())
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
                    if (EventCodec.read(Logbook.row(rs)) instanceof StepProven step) {
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
                                        .flatMap(kind -> Logbook.events(jdbi, night, kind).stream())
                                        .toList())
                                .toList(),
                        origin.equals("="));
            }
        }
        return TimesTaken.NONE;
    }
}
