package app.ironside.logbook;

import app.ironside.judge.Cause;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.statement.Query;

/** Asks all subs of a logbook at once. Touches nothing. */
public final class SubSearch {
    private static final String TABLES = " from sub s join night n on n.id = s.night where n.date is not null";

    /** More dots than a chart has pixels tell nothing. */
    private static final int MOST_POINTS = 20_000;

    private static final int MOST_TOLD = 300;

    /** As the index of the migration V4 has them. */
    private static final String TOLD =
            "'NOTED', 'TROUBLE', 'REACTED', 'FAULT', 'AXIS_DOUBTED', 'GUIDING_COMPARED', 'OFFSETS', 'FOCUSER', 'LENGTHS'";

    private final Jdbi jdbi;

    SubSearch(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /** How many subs there are of something, and their light. */
    public record Count(int subs, int kept, double hours, double hoursKept) {
        static final Count NONE = new Count(0, 0, 0, 0);

        static Count of(int subs, double hours, boolean kept) {
            return new Count(subs, kept ? subs : 0, hours, kept ? hours : 0);
        }

        Count and(Count other) {
            return new Count(subs + other.subs, kept + other.kept, hours + other.hours, hoursKept + other.hoursKept);
        }
    }

    /**
     * A night that has some.
     *
     * @param night its number in the logbook
     */
    public record OfNight(long night, LocalDate date, String kit, Count count) {}

    /**
     * What was found.
     *
     * @param byFilter the most first, as the others
     * @param byCause of those that were left out
     */
    public record Found(
            Count all,
            List<OfNight> nights,
            Map<String, Count> byFilter,
            Map<String, Count> byTarget,
            Map<String, Count> byCause) {}

    /** A sub with two of its facts. */
    public record Point(long night, double x, double y) {}

    /** The names that can be asked for. */
    public Question.Vocabulary vocabulary() {
        return jdbi.withHandle(h -> new Question.Vocabulary(
                names(h, "select distinct filter from sub"),
                names(h, "select distinct target from sub"),
                names(h, "select distinct kit from night where kit is not null"),
                names(h, "select distinct site from night where site is not null"),
                Arrays.stream(Cause.values()).map(Cause::word).toList()));
    }

    /** From which days are counted. */
    public Optional<LocalDate> firstNight() {
        return jdbi.withHandle(h -> h.createQuery("select min(date) from night where date is not null")
                .mapTo(String.class)
                .findOne()
                .map(LocalDate::parse));
    }

    private static List<String> names(Handle h, String sql) {
        return h.createQuery(sql).mapTo(String.class).list();
    }

    /** One row for each night, filter, target, cause and verdict: all counts are sums of these. */
    private record Piece(
            long night, String date, String kit, String filter, String target, String cause, Count count) {}

    /** Counts what a question is about, in one walk through the subs. */
    public Found find(Question question) {
        List<Piece> pieces = jdbi.withHandle(h -> query(
                        h,
                        "select n.id night, n.date, n.kit, s.filter, s.target, s.cause, s.keep,"
                                + " count(*) subs, sum(s.seconds) / 3600.0 hours",
                        question,
                        " group by s.night, s.filter, s.target, s.cause, s.keep")
                .map((rs, c) -> new Piece(
                        rs.getLong("night"),
                        rs.getString("date"),
                        rs.getString("kit"),
                        rs.getString("filter"),
                        rs.getString("target"),
                        Objects.requireNonNullElse(rs.getString("cause"), ""),
                        Count.of(rs.getInt("subs"), rs.getDouble("hours"), rs.getBoolean("keep"))))
                .list());
        Map<Long, OfNight> nights = new LinkedHashMap<>();
        for (Piece p : pieces) {
            nights.merge(
                    p.night(),
                    new OfNight(p.night(), LocalDate.parse(p.date()), p.kit(), p.count()),
                    (x, y) ->
                            new OfNight(x.night(), x.date(), x.kit(), x.count().and(y.count())));
        }
        return new Found(
                pieces.stream().map(Piece::count).reduce(Count.NONE, Count::and),
                nights.values().stream()
                        .sorted(Comparator.comparing(OfNight::date).thenComparing(OfNight::night))
                        .toList(),
                by(pieces.stream(), Piece::filter),
                by(pieces.stream(), Piece::target),
                by(pieces.stream().filter(p -> p.count().kept() == 0), Piece::cause));
    }

    private static Map<String, Count> by(Stream<Piece> pieces, Function<Piece, String> what) {
        Map<String, Count> sums = new HashMap<>();
        pieces.forEach(p -> sums.merge(what.apply(p), p.count(), Count::and));
        Map<String, Count> sorted = new LinkedHashMap<>();
        sums.entrySet().stream()
                .sorted(Comparator.comparing(
                                (Map.Entry<String, Count> e) -> -e.getValue().subs())
                        .thenComparing(Map.Entry::getKey))
                .forEach(e -> sorted.put(e.getKey(), e.getValue()));
        return sorted;
    }

    /**
     * Two facts of each sub that has both, at most {@value #MOST_POINTS} of them, spread evenly.
     *
     * @param among how many subs the question is about
     */
    public List<Point> points(Question question, SubFact x, SubFact y, int among) {
        int every = Math.max(1, (among + MOST_POINTS - 1) / MOST_POINTS);
        return jdbi.withHandle(h -> query(
                        h,
                        "select n.id night, " + x.sql() + " x, " + y.sql() + " y",
                        question,
                        // What is cheap first: a fact may be looked up among the night's events.
                        (every > 1 ? " and s.event % " + every + " = 0" : "") + " and " + x.sql() + " is not null and "
                                + y.sql() + " is not null")
                .map((rs, c) -> new Point(rs.getLong("night"), rs.getDouble("x"), rs.getDouble("y")))
                .list());
    }

    /** All that {@link SubTable} tells of each sub, in time. */
    List<Object[]> rows(Question question, int columns) {
        return jdbi.withHandle(h -> query(h, SubTable.select(), question, " order by s.time")
                .map((rs, c) -> {
                    Object[] row = new Object[columns];
                    for (int i = 0; i < columns; i++) {
                        row[i] = rs.getObject(i + 1);
                    }
                    return row;
                })
                .list());
    }

    /**
     * Something that a night told in words.
     *
     * @param night its number in the logbook
     */
    public record Told(long night, LocalDate date, String kit, Instant time, String text) {}

    /**
     * Notes, troubles with what was done about them, and experiments of the nights that a question is about, the newest first, at most
     * {@value #MOST_TOLD}: those that hold every word of it that is no condition on subs.
     */
    public List<Told> told(Question question) {
        List<Question.Condition> ofNights = question.conditions().stream()
                .filter(c -> c.sql().startsWith("n."))
                .toList();
        List<Question.Condition> all = new ArrayList<>(ofNights);
        for (String word : question.notUnderstood()) {
            // Each word on its own: equality would make them alternatives.
            all.add(new Question.Condition(
                    "words", "e.text like ? escape '!'", "%" + word.replaceAll("([!%_])", "!$1") + "%", word));
        }
        return jdbi.withHandle(h -> query(
                        h,
                        "select n.id night, n.date, n.kit, e.time, e.text",
                        " from event e join night n on n.id = e.night where n.date is not null and e.kind in (" + TOLD
                                + ")",
                        new Question(all, List.of()),
                        " order by n.date desc, e.id desc limit " + MOST_TOLD)
                .map((rs, c) -> new Told(
                        rs.getLong("night"),
                        LocalDate.parse(rs.getString("date")),
                        Objects.requireNonNullElse(rs.getString("kit"), ""),
                        Instant.parse(rs.getString("time")),
                        rs.getString("text")))
                .list());
    }

    private static Query query(Handle h, String select, Question question, String rest) {
        return query(h, select, TABLES, question, rest);
    }

    /** Alternatives of one kind in brackets, and all kinds together. */
    private static Query query(Handle h, String select, String tables, Question question, String rest) {
        Map<String, List<Question.Condition>> kinds = new LinkedHashMap<>();
        List<String> sql = new ArrayList<>();
        List<Object> values = new ArrayList<>();
        for (Question.Condition c : question.conditions()) {
            if (c.isEquality()) {
                kinds.computeIfAbsent(c.of(), k -> new ArrayList<>()).add(c);
            } else {
                sql.add(c.sql());
                values.add(c.value());
            }
        }
        for (List<Question.Condition> kind : kinds.values()) {
            sql.add("("
                    + String.join(
                            " or ", kind.stream().map(Question.Condition::sql).toList()) + ")");
            kind.forEach(c -> values.add(c.value()));
        }
        String where = sql.isEmpty() ? "" : " and " + String.join(" and ", sql);
        Query query = h.createQuery(select + tables + where + rest);
        for (int i = 0; i < values.size(); i++) {
            query.bind(i, values.get(i));
        }
        return query;
    }
}
