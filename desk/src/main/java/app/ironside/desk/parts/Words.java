package app.ironside.desk.parts;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.function.Function;
import javafx.util.StringConverter;

/** How the desk writes numbers, times and angles. */
public final class Words {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm");

    private Words() {}

    /** With its first letter large. */
    public static String capital(String words) {
        return words.isEmpty() ? words : Character.toUpperCase(words.charAt(0)) + words.substring(1);
    }

    public static String format(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }

    public static String clock(Instant time, ZoneId zone) {
        return CLOCK.format(time.atZone(zone));
    }

    /** "2 h 05 min", "7 min", "40 s". */
    public static String span(Duration time) {
        long seconds = Math.max(0, time.toSeconds());
        if (seconds >= 3600) {
            return format("%d h %02d min", seconds / 3600, seconds % 3600 / 60);
        }
        return seconds >= 90 ? format("%d min", Math.round(seconds / 60.0)) : seconds + " s";
    }

    /** As {@link #span}, to the second while it is short: "1 min 40 s". */
    public static String countdown(Duration time) {
        long seconds = Math.max(0, time.toSeconds());
        return seconds < 60 || seconds >= 600 ? span(time) : format("%d min %02d s", seconds / 60, seconds % 60);
    }

    /** A number to be edited: no more digits than it has, at most four that count. */
    public static String number(double value) {
        return new BigDecimal(value)
                .round(new MathContext(4))
                .stripTrailingZeros()
                .toPlainString();
    }

    /** Names the values of a choice; what is chosen is never written. */
    public static <T> StringConverter<T> naming(Function<T, String> name) {
        return new StringConverter<>() {
            @Override
            public String toString(T value) {
                return value == null ? "" : name.apply(value);
            }

            @Override
            public T fromString(String words) {
                return null;
            }
        };
    }
}
