package app.ironside.cli;

import app.ironside.sky.NightTimes;
import app.ironside.sky.Site;
import java.nio.file.Path;
import java.time.LocalDate;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** A night at a place. */
final class EveningOptions {
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
        return NightTimes.of(site, date);
    }
}
