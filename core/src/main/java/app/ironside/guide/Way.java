package app.ironside.guide;

import java.util.Locale;

/** One of several ways to do a thing, explained for who chooses. */
public interface Way {
    String name();

    /** What it does, and what speaks for it. */
    String explained();

    /** As it stands in a night file. */
    default String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
