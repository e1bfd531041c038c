package app.ironside.cli;

import app.ironside.Printable;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Site;
import java.nio.file.Path;
import java.time.LocalDate;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** A night at a place. */
final class EveningOptions {
    /** UTC has its present rate since 1972, and nobody knows its leap seconds beyond; the last night of 2099 ends in 2100. */
    private static final int FIRST_YEAR = 1972;

    private static final int LAST_YEAR = 2098;

    @Mixin
    private SiteOptions place;

    @Option(
            names = "--date",
            required = true,
            paramLabel = "YYYY-MM-DD",
            description = "Local calendar date of the evening.")
    private LocalDate date;

    @Option(names = "--zone", required = true, paramLabel = "IANA", description = "Time zone, for example Europe/Rome.")
    private String zone;

    @Option(
            names = "--horizon",
            paramLabel = "FILE",
            description = "Skyline: one azimuth and altitude a line, degrees; # starts a comment.")
    private Path horizon;

    Site site() {
        return place.site(SiteOptions.zone(zone), horizon);
    }

    NightTimes times(Site site) {
        if (date.getYear() < FIRST_YEAR || date.getYear() > LAST_YEAR) {
            throw Verb.badOption(
                    "--date",
                    "is " + Printable.line(date.toString()),
                    "a date from " + FIRST_YEAR + " to " + LAST_YEAR);
        }
        return NightTimes.of(site, date);
    }
}
