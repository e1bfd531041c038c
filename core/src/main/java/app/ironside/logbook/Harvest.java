package app.ironside.logbook;

import app.ironside.journal.BlockPlanned;
import app.ironside.journal.StackMade;
import app.ironside.sky.Interval;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;

/** What the nights of a logbook gave together: their account, and what was gathered of each target. */
public final class Harvest {
    private final Jdbi jdbi;
    private final Logbook logbook;

    Harvest(Jdbi jdbi, Logbook logbook) {
        this.jdbi = jdbi;
        this.logbook = logbook;
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
                        if (EventCodec.read(Logbook.row(rs)) instanceof BlockPlanned block) {
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
                                .add(EventCodec.read(Logbook.row(rs)), span -> exposed(handle, night, span));
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
                        if (EventCodec.read(Logbook.row(rs)) instanceof StackMade stack) {
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
                                                logbook.folder().resolve(text(rs, "folder")),
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
                : logbook
                        .nights("where id = "
                                + of.nights().get(of.nights().size() - 1).night())
                        .stream()
                        .findFirst();
    }

    /**
     * What each night gave and lost of a target, those that kept nothing among them, oldest first; of the same kind, seen or rehearsed, as what was
     * gathered.
     *
     * @param sameName as in {@link #gatherings}
     */
    public List<TargetNight> nightsOf(Gathering of, UnaryOperator<String> sameName) {
        Map<String, String> known = new HashMap<>();
        List<TargetNight.Taken> subs = jdbi.withHandle(
                handle -> handle.createQuery("select night.id, night.date, night.kit, sub.target, sub.filter, sub.keep,"
                                + " coalesce(sub.cause, '') as cause, sub.seconds / 3600.0 as hours, sub.fwhm_px, sub.guide_rms_arcsec"
                                + " from sub join night on night.id = sub.night where night.date is not null"
                                + " and (coalesce(night.origin, '') = 'rehearsed') = :rehearsed order by sub.event")
                        .bind("rehearsed", of.rehearsed())
                        .map((rs, context) -> new TargetNight.Taken(
                                rs.getLong("id"),
                                LocalDate.parse(rs.getString("date")),
                                Optional.ofNullable(rs.getString("kit")).orElse(""),
                                known.computeIfAbsent(rs.getString("target"), sameName),
                                rs.getString("filter"),
                                rs.getBoolean("keep"),
                                rs.getString("cause"),
                                rs.getDouble("hours"),
                                number(rs, "fwhm_px"),
                                number(rs, "guide_rms_arcsec")))
                        .list());
        Map<Long, List<TargetNight.Taken>> byNight = subs.stream()
                .filter(s -> s.target().equals(of.target()))
                .collect(Collectors.groupingBy(TargetNight.Taken::night, LinkedHashMap::new, Collectors.toList()));
        return byNight.values().stream()
                .map(TargetNight::of)
                .sorted(Comparator.comparing(TargetNight::date).thenComparing(TargetNight::night))
                .toList();
    }

    private static Optional<Double> number(ResultSet rs, String column) throws SQLException {
        double value = rs.getDouble(column);
        return rs.wasNull() ? Optional.empty() : Optional.of(value);
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
}
