package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import app.ironside.sky.Horizon;
import app.ironside.sky.Site;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.ZoneId;
import picocli.CommandLine.Option;

/** Where the observer stands. */
final class SiteOptions {
    private static final String SKYLINE = "a file of azimuth and altitude pairs";

    /** Used where no option tells the sky's brightness: a rural sky. */
    private static final double RURAL_SKY = 21.0;

    @Option(names = "--lat", required = true, paramLabel = "D", description = "Latitude, degrees, north positive.")
    private double lat;

    @Option(names = "--lon", required = true, paramLabel = "D", description = "Longitude, degrees, east positive.")
    private double lon;

    @Option(
            names = "--elevation",
            paramLabel = "M",
            defaultValue = "0",
            description = "Metres above sea level (default 0).")
    private double elevation;

    Site site(ZoneId zone, Path horizonFile) {
        checkRange("--lat", lat, 90);
        checkRange("--lon", lon, 180);
        if (!(elevation >= -500 && elevation <= 9000)) {
            throw Verb.badOption("--elevation", "is " + elevation, "metres, -500 to 9000");
        }
        return new Site("command line", lat, lon, elevation, zone, RURAL_SKY, horizon(horizonFile));
    }

    private static void checkRange(String option, double value, double limit) {
        if (!(Math.abs(value) <= limit)) {
            throw Verb.badOption(option, "is " + value, "degrees, -" + limit + " to " + limit);
        }
    }

    private static Horizon horizon(Path file) {
        if (file == null) {
            return Horizon.FLAT;
        }
        try (BufferedReader reader = TextFiles.reader(file, SKYLINE)) {
            return Horizon.parse(reader, file.toString());
        } catch (IOException e) {
            throw new BadInputException(file.toString(), "cannot be read", SKYLINE, e);
        }
    }

    static ZoneId zone(String name) {
        try {
            return ZoneId.of(name);
        } catch (DateTimeException e) {
            throw new BadInputException(
                    "option --zone", "\"" + name + "\" is no time zone", "a name like Europe/Rome", e);
        }
    }
}
