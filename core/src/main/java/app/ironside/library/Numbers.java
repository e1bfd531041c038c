package app.ironside.library;

import java.util.Locale;

/** Numbers in sentences: as long as they need to be. */
final class Numbers {
    private Numbers() {}

    static String of(double value) {
        String text = String.format(Locale.ROOT, Math.abs(value) < 1 ? "%.4f" : "%.1f", value);
        return text.replaceFirst("\\.?0+$", "").replaceFirst("^-0$", "0");
    }

    static String celsius(double value) {
        return of(Math.round(value)) + " °C";
    }
}
