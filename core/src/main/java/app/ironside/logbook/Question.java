package app.ironside.logbook;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.Month;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * What is asked of all subs of a logbook, typed in words in any order: "Ha above 50° under 2 px since March kept". Values of one kind are
 * alternatives, all else must hold together.
 *
 * @param notUnderstood words that mean nothing here
 */
public record Question(List<Condition> conditions, List<String> notUnderstood) {
    public Question {
        conditions = List.copyOf(conditions);
        notUnderstood = List.copyOf(notUnderstood);
    }

    /**
     * One thing that must hold.
     *
     * @param of what it is about; conditions of one such thing by equality are alternatives
     * @param sql over the tables {@code sub s} and {@code night n}, with one {@code ?}
     * @param words as it was understood
     */
    public record Condition(String of, String sql, Object value, String words) {
        boolean isEquality() {
            return sql.endsWith(" = ?"); // and not ">= ?"
        }
    }

    /**
     * The names that a logbook knows.
     *
     * @param causes what lowers subs
     */
    public record Vocabulary(
            List<String> filters, List<String> targets, List<String> kits, List<String> sites, List<String> causes) {}

    private static final List<String> ABOVE = List.of("above", "over", "from", ">");
    private static final List<String> BELOW = List.of("below", "under", "<");
    private static final int LONGEST_NAME = 5;

    private static final Map<String, Condition> PLAIN = Map.of(
            "kept", new Condition("keep", "s.keep = ?", 1, "kept"),
            "good", new Condition("keep", "s.keep = ?", 1, "kept"),
            "out", new Condition("keep", "s.keep = ?", 0, "left out"),
            "lost", new Condition("keep", "s.keep = ?", 0, "left out"),
            "real", new Condition("origin", "n.origin = ?", "real", "real nights"),
            "rehearsed", new Condition("origin", "n.origin = ?", "rehearsed", "rehearsed nights"),
            "by-folder", new Condition("origin", "n.origin = ?", "by-folder", "nights by folder"));

    /**
     * Reads a question.
     *
     * @param today what "since March" is counted from: the last one
     */
    public static Question parse(String text, Vocabulary known, LocalDate today) {
        return new Reader(text, known, today).read();
    }

    private static final class Reader {
        private final List<String> words;
        private final Vocabulary known;
        private final LocalDate today;
        private final List<Condition> found = new ArrayList<>();
        private final List<String> strange = new ArrayList<>();
        private int at;

        Reader(String text, Vocabulary known, LocalDate today) {
            // A unit may stand at its number; a comma or an "and" means nothing.
            String apart = text.replaceAll("(?<=\\d)(?=[^\\d\\s.,:-])", " ").replace(",", " ");
            this.words = Arrays.stream(apart.strip().split("\\s+"))
                    .filter(w -> !w.isEmpty() && !w.equalsIgnoreCase("and"))
                    .toList();
            this.known = known;
            this.today = today;
        }

        Question read() {
            while (at < words.size()) {
                if (!(name() || comparison() || date() || plain())) {
                    strange.add(words.get(at++));
                }
            }
            return new Question(found, strange);
        }

        private String word(int ahead) {
            return at + ahead < words.size() ? words.get(at + ahead).toLowerCase(Locale.ROOT) : "";
        }

        private boolean plain() {
            Condition one = PLAIN.get(word(0));
            if (one != null) {
                found.add(one);
                at++;
            }
            return one != null;
        }

        /** The longest run of words that is a name. */
        private boolean name() {
            for (int n = Math.min(LONGEST_NAME, words.size() - at); n > 0; n--) {
                String said = bare(String.join("", words.subList(at, at + n)));
                if (isOne("filter", "s.filter = ?", known.filters(), said)
                        || isOne("target", "s.target = ?", known.targets(), said)
                        || isOne("kit", "n.kit = ?", known.kits(), said)
                        || isOne("site", "n.site = ?", known.sites(), said)
                        || isOne("cause", "s.cause = ?", known.causes(), said)) {
                    at += n;
                    return true;
                }
            }
            return false;
        }

        private boolean isOne(String of, String sql, List<String> names, String said) {
            Optional<String> name =
                    names.stream().filter(f -> bare(f).equals(said)).findFirst();
            name.ifPresent(f -> found.add(new Condition(of, sql, f, f)));
            return name.isPresent();
        }

        private static String bare(String name) {
            return name.toLowerCase(Locale.ROOT).replaceAll("[\\s_]+", "");
        }

        private boolean comparison() {
            boolean above = ABOVE.contains(word(0));
            if (!above && !BELOW.contains(word(0))) {
                return false;
            }
            Optional<Double> number = number(word(1));
            // Degrees Celsius may be typed in two.
            boolean celsius = word(2).equals("°") && word(3).equals("c");
            Optional<SubFact> fact = celsius ? Optional.of(SubFact.TEMPERATURE) : SubFact.ofUnit(word(2));
            if (number.isEmpty() || fact.isEmpty()) {
                return false;
            }
            found.add(new Condition(
                    fact.get().name(),
                    fact.get().sql() + (above ? " >= ?" : " <= ?"),
                    number.get(),
                    (fact.get().words() + (above ? " above " : " under ") + words.get(at + 1) + " "
                                    + fact.get().unit())
                            .strip()));
            at += celsius ? 4 : 3;
            return true;
        }

        private static Optional<Double> number(String word) {
            try {
                return Optional.of(Double.parseDouble(word)).filter(Double::isFinite);
            } catch (NumberFormatException e) {
                return Optional.empty();
            }
        }

        /** since, before, in, until: a year, a month, a day. */
        private boolean date() {
            String how = word(0);
            if (!List.of("since", "before", "in", "until", "on").contains(how)) {
                return false;
            }
            for (int n = Math.min(3, words.size() - at - 1); n > 0; n--) {
                Optional<Span> span = span(words.subList(at + 1, at + 1 + n));
                if (span.isPresent()) {
                    String said = String.join(" ", words.subList(at, at + 1 + n));
                    LocalDate first = span.get().first();
                    LocalDate after = span.get().after();
                    switch (how) {
                        case "since" -> found.add(night(">= ?", first, said));
                        case "before" -> found.add(night("< ?", first, said));
                        case "until" -> found.add(night("< ?", after, said));
                        default -> {
                            found.add(night(">= ?", first, said));
                            found.add(night("< ?", after, said));
                        }
                    }
                    at += 1 + n;
                    return true;
                }
            }
            return false;
        }

        private static Condition night(String how, LocalDate date, String said) {
            return new Condition("date", "n.date " + how, date.toString(), said);
        }

        /** A stretch of days. */
        private record Span(LocalDate first, LocalDate after) {
            static Span of(YearMonth month) {
                return new Span(month.atDay(1), month.plusMonths(1).atDay(1));
            }
        }

        private Optional<Span> span(List<String> said) {
            try {
                String one = said.get(0);
                if (said.size() == 1 && one.matches("\\d{4}-\\d{2}-\\d{2}")) {
                    LocalDate day = LocalDate.parse(one);
                    return Optional.of(new Span(day, day.plusDays(1)));
                }
                if (said.size() == 1 && one.matches("\\d{4}-\\d{2}")) {
                    return Optional.of(Span.of(YearMonth.parse(one)));
                }
                if (said.size() == 1 && one.matches("\\d{4}")) {
                    LocalDate year = LocalDate.of(Integer.parseInt(one), 1, 1);
                    return Optional.of(new Span(year, year.plusYears(1)));
                }
                boolean day = one.matches("\\d{1,2}") && said.size() > 1;
                Optional<Month> month = month(said.get(day ? 1 : 0));
                int yearAt = day ? 2 : 1;
                if (month.isEmpty() || said.size() > yearAt + 1 || said.size() < yearAt) {
                    return Optional.empty();
                }
                int year = said.size() > yearAt ? Integer.parseInt(said.get(yearAt)) : lastYearOf(month.get());
                if (day) {
                    LocalDate date = LocalDate.of(year, month.get(), Integer.parseInt(one));
                    return Optional.of(new Span(date, date.plusDays(1)));
                }
                return Optional.of(Span.of(YearMonth.of(year, month.get())));
            } catch (DateTimeException | NumberFormatException e) {
                return Optional.empty();
            }
        }

        private int lastYearOf(Month month) {
            return month.getValue() <= today.getMonthValue() ? today.getYear() : today.getYear() - 1;
        }

        private static Optional<Month> month(String word) {
            String said = word.toLowerCase(Locale.ROOT);
            return said.length() < 3
                    ? Optional.empty()
                    : Arrays.stream(Month.values())
                            .filter(m -> m.name().toLowerCase(Locale.ROOT).startsWith(said))
                            .findFirst();
        }
    }
}
