package app.ironside.image;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Predicate;

/**
 * The facts of a FITS header: keywords with values, and HISTORY lines. Immutable; {@code with} gives a changed copy.
 *
 * <p>Values are {@code String}, {@code Long}, {@code Double} or {@code Boolean}. The structural keywords (SIMPLE, BITPIX, NAXIS
 * and so on) are the file's business and are not in here.
 */
public final class Header {
    public static final Header EMPTY = new Header(new LinkedHashMap<>(), List.of());

    /** Ten days: what is longer is no exposure but a slip. */
    private static final double LONGEST_SECONDS = 864_000;

    /** Beyond these no picture of the sky was ever taken, and arithmetic with times fails. */
    private static final int FIRST_YEAR = 1800;

    private static final int LAST_YEAR = 2999;

    private final Map<String, Object> values;
    private final List<String> history;

    private Header(Map<String, Object> values, List<String> history) {
        this.values = values;
        this.history = history;
    }

    /** Gathers many cards. */
    static final class Builder {
        private final Map<String, Object> cards = new LinkedHashMap<>();

        void put(String keyword, Object value) {
            cards.put(keyword, value);
        }

        Header build() {
            return new Header(cards, List.of());
        }
    }

    /** A copy with one keyword set; a {@code null} value removes it. */
    public Header with(String keyword, Object value) {
        Map<String, Object> copy = new LinkedHashMap<>(values);
        set(copy, keyword, value);
        return new Header(copy, history);
    }

    /** A copy with all of these set. */
    public Header withAll(Map<String, ?> more) {
        Map<String, Object> copy = new LinkedHashMap<>(values);
        more.forEach((keyword, value) -> set(copy, keyword, value));
        return new Header(copy, history);
    }

    /** A copy with all cards of another header, whose HISTORY stays with it. */
    public Header withAll(Header more) {
        return withAll(more.values);
    }

    private static void set(Map<String, Object> values, String keyword, Object value) {
        if (value == null) {
            values.remove(keyword);
        } else {
            values.put(keyword, value instanceof Integer i ? Long.valueOf(i) : value);
        }
    }

    /** Without the keywords that a test picks. */
    public Header without(Predicate<String> keywords) {
        Map<String, Object> left = new LinkedHashMap<>(values);
        left.keySet().removeIf(keywords);
        return new Header(left, history);
    }

    /** The cards that all of some headers have with the same value: what one of them says alone is not true of all. No HISTORY. */
    public static Header shared(List<Header> headers) {
        Map<String, Object> common = new LinkedHashMap<>(headers.get(0).values);
        for (Header other : headers) {
            common.entrySet().removeIf(card -> !card.getValue().equals(other.values.get(card.getKey())));
        }
        return new Header(common, List.of());
    }

    /** A copy with one more HISTORY line. */
    public Header withHistory(String line) {
        List<String> more = new ArrayList<>(history);
        more.add(line);
        return new Header(values, List.copyOf(more));
    }

    public Map<String, Object> values() {
        return Collections.unmodifiableMap(values);
    }

    public List<String> history() {
        return history;
    }

    /** A keyword's value as text without surrounding blanks. */
    public Optional<String> text(String keyword) {
        return Optional.ofNullable(values.get(keyword)).map(v -> v.toString().strip());
    }

    /** A keyword's value as a number; empty if it is absent or not one. */
    public OptionalDouble number(String keyword) {
        Object value = values.get(keyword);
        if (value instanceof Number n) {
            return OptionalDouble.of(n.doubleValue());
        }
        if (value instanceof String s) {
            try {
                return OptionalDouble.of(Double.parseDouble(s.strip()));
            } catch (NumberFormatException e) {
                return OptionalDouble.empty();
            }
        }
        return OptionalDouble.empty();
    }

    /** DATE-OBS, the start of the exposure, UTC (FITS standard 4.0, section 9.1.1: no zone means UTC here). */
    public Optional<Instant> start() {
        return text("DATE-OBS").flatMap(Header::instant);
    }

    /** Exposure in seconds: EXPTIME, or the also usual EXPOSURE; empty if what is there can be no exposure. */
    public OptionalDouble exposureSeconds() {
        OptionalDouble exptime = number("EXPTIME");
        OptionalDouble seconds = exptime.isPresent() ? exptime : number("EXPOSURE");
        return seconds.isPresent() && seconds.getAsDouble() >= 0 && seconds.getAsDouble() <= LONGEST_SECONDS
                ? seconds
                : OptionalDouble.empty();
    }

    /** The middle of the exposure, if start and length are both known. */
    public Optional<Instant> middle() {
        return start().filter(s -> exposureSeconds().isPresent())
                .map(s -> s.plusMillis(Math.round(exposureSeconds().orElse(0) * 500)));
    }

    private static Optional<Instant> instant(String text) {
        try {
            String date = text.endsWith("Z") ? text.substring(0, text.length() - 1) : text;
            String full = date.length() == 10 ? date + "T00:00:00" : date;
            LocalDateTime time = LocalDateTime.parse(full);
            return time.getYear() < FIRST_YEAR || time.getYear() > LAST_YEAR
                    ? Optional.empty()
                    : Optional.of(time.toInstant(ZoneOffset.UTC));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
