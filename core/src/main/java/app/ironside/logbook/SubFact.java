package app.ironside.logbook;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** What the logbook knows of each sub as a number. */
public enum SubFact {
    SIZE("star size", "px", "s.fwhm_px", List.of("px")),
    ALTITUDE("altitude", "°", "s.altitude_deg", List.of("°", "deg", "degrees")),
    GUIDING("guiding RMS", "″", "s.guide_rms_arcsec", List.of("″", "\"", "arcsec")),
    TEMPERATURE("temperature of the tube", "°C", "s.temperature_c", List.of("°c", "c")),
    FOCUS("focus", "steps", "s.focus_steps", List.of("steps")),
    LONG("eccentricity", "", "s.eccentricity", List.of()),
    STARS("stars", "", "s.stars", List.of("stars")),
    SKY("background", "ADU", "s.background_adu", List.of("adu")),
    NOISE("noise of the background", "ADU", "s.noise_adu", List.of()),
    EXPOSURE("exposure", "s", "s.seconds", List.of("s", "sec", "seconds")),
    KEPT("kept", "", "s.keep", List.of()),
    FOCUS_AGE(
            "time since the last focus run",
            "min",
            "(select (julianday(s.time) - julianday(max(f.time))) * 1440 from event f"
                    + " where f.kind = 'FOCUS' and f.night = s.night and f.time <= s.time)",
            List.of()),
    POLAR(
            "polar error measured last",
            "′",
            "(select json_extract(p.facts, '$.totalErrorArcmin') from event p"
                    + " where p.kind = 'POLAR' and p.night = s.night and p.time <= s.time order by p.time desc limit 1)",
            List.of()),
    /** By mean lunations: Meeus, Astronomical Algorithms, 2nd ed., 49.1; the true phase is up to 14 hours from it. */
    MOON(
            "lit share of the Moon, mean",
            "",
            "(1 - cos(2 * pi() * (julianday(s.time) - 2451550.09766) / 29.530588861)) / 2",
            List.of()),
    SEASON("day of the year", "d", "cast(strftime('%j', n.date) as integer)", List.of()),
    HOUR("hour, UT", "h", "(julianday(s.time) - 0.5 - floor(julianday(s.time) - 0.5)) * 24", List.of()),
    DAY("days since the first", "d", "julianday(n.date) - (select min(julianday(date)) from night)", List.of());

    private final String words;
    private final String unit;
    private final String sql;
    private final List<String> units;

    SubFact(String words, String unit, String sql, List<String> units) {
        this.words = words;
        this.unit = unit;
        this.sql = sql;
        this.units = units;
    }

    /** With its unit, for an axis. */
    public String axis() {
        return unit.isEmpty() ? words : words + ", " + unit;
    }

    public String words() {
        return words;
    }

    /** Empty for what is counted. */
    public String unit() {
        return unit;
    }

    /** Over the tables {@code sub s} and {@code night n}. */
    String sql() {
        return sql;
    }

    /** What a unit after a number speaks of. */
    static Optional<SubFact> ofUnit(String unit) {
        return Arrays.stream(values()).filter(f -> f.units.contains(unit)).findFirst();
    }

    @Override
    public String toString() {
        return axis();
    }
}
