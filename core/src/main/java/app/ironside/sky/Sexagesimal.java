package app.ironside.sky;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Angles written in degrees, minutes and seconds. */
public final class Sexagesimal {
    private static final Pattern ANGLE = Pattern.compile(
            "\\s*([NSEW]?)\\s*([+\\-−]?\\d{1,3}(?:[.,]\\d+)?)\\s*[d°:\\s]?\\s*"
                    + "(?:(\\d{1,2}(?:[.,]\\d+)?)\\s*['′m:\\s]?\\s*(?:(\\d{1,2}(?:[.,]\\d+)?)\\s*[\"″s]?)?)?\\s*([NSEW]?)\\s*",
            Pattern.CASE_INSENSITIVE);

    private static final double SIXTY = 60;

    private Sexagesimal() {}

    /**
     * An angle as people write a latitude or longitude: "45.2042", "45° 12′ 15″ N", "45 12.25", "S 33:51". South and west are negative.
     *
     * @return degrees; empty if it is no angle, or minutes or seconds of sixty and more
     */
    public static Optional<Double> degrees(String text) {
        Matcher m = ANGLE.matcher(text);
        if (!m.matches() || !m.group(1).isEmpty() && !m.group(5).isEmpty()) {
            return Optional.empty();
        }
        String side = (m.group(1) + m.group(5)).toUpperCase(Locale.ROOT);
        String whole = point(m.group(2));
        boolean fraction = whole.contains(".") && m.group(3) != null || has(m.group(3)) && m.group(4) != null;
        if (fraction || sixty(m.group(3)) || sixty(m.group(4))) {
            return Optional.empty();
        }
        double size = Math.abs(Double.parseDouble(whole)) + part(m.group(3), SIXTY) + part(m.group(4), SIXTY * SIXTY);
        boolean below = whole.startsWith("-") ^ (side.equals("S") || side.equals("W"));
        return Optional.of(below ? -size : size);
    }

    /** A direction as hours of right ascension and degrees of declination: "01 33 50.9  +30 39 36". */
    public static String text(Equatorial place) {
        return text(place.raDeg(), place.decDeg());
    }

    /** As {@link #text(Equatorial)}, of any equinox. */
    public static String text(double raDeg, double decDeg) {
        long tenths = Math.round(raDeg / 15 * 36_000) % 864_000;
        long arcsec = Math.round(Math.abs(decDeg) * 3600);
        return String.format(
                Locale.ROOT,
                "%02d %02d %04.1f  %s%02d %02d %02d",
                tenths / 36_000,
                tenths / 600 % 60,
                tenths % 600 / 10.0,
                decDeg < 0 ? "−" : "+",
                arcsec / 3600,
                arcsec / 60 % 60,
                arcsec % 60);
    }

    /** Degrees (or hours) of three parts; the sign is the first one's, also of "-0". */
    static double of(String whole, String minutes, String seconds) {
        String first = point(whole);
        double size = Math.abs(Double.parseDouble(first)) + part(minutes, SIXTY) + part(seconds, SIXTY * SIXTY);
        return first.startsWith("-") ? -size : size;
    }

    private static double part(String text, double of) {
        return text == null ? 0 : Double.parseDouble(point(text)) / of;
    }

    private static boolean sixty(String text) {
        return text != null && Double.parseDouble(point(text)) >= SIXTY;
    }

    private static boolean has(String text) {
        return text != null && point(text).contains(".");
    }

    private static String point(String text) {
        return text.replace('−', '-').replace(',', '.');
    }
}
