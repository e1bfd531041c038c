package app.ironside.plan;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.sky.Interval;
import java.io.BufferedReader;
import java.io.IOException;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * A forecast that a person has: a table that somebody else made, or a few numbers of their own. It tells of its own times only, and of what
 * it has a column for.
 *
 * @param source for words: a file's name, or "as typed"
 * @param made when it was written
 */
public record WeatherTable(String source, Instant made, TreeMap<Instant, Reading> readings) implements WeatherForecast {
    private static final String EXAMPLE =
            "a line as 2026-11-14T21:00:00+01:00,35 (time, cloud in percent), or a heading with time, cloud, temperature, humidity, wind";

    /**
     * What is foreseen for a moment; NaN for what is not.
     *
     * @param cloudCover share of the sky, 0 to 1
     * @param relativeHumidity 0 to 1
     */
    public record Reading(
            double cloudCover, double temperatureC, double relativeHumidity, double windMetresPerSecond) {}

    /** What a column tells. */
    private enum Column {
        CLOUD("cloud|cover", 0, 100),
        TEMPERATURE("temp|°c", -60, 60),
        HUMIDITY("hum", 0, 100),
        WIND("wind", 0, 100);

        /** How its heading begins, as a pattern. */
        private final String begins;

        private final double least;
        private final double most;

        Column(String begins, double least, double most) {
            this.begins = begins;
            this.least = least;
            this.most = most;
        }
    }

    public WeatherTable {
        readings = new TreeMap<>(readings);
    }

    /**
     * Numbers of a person's own for one night.
     *
     * @param night from dusk to dawn
     * @param atDuskC air then; straight to dawn
     * @param relativeHumidity 0 to 1
     */
    public static WeatherTable typed(
            Interval night,
            double cloudCover,
            double atDuskC,
            double atDawnC,
            double relativeHumidity,
            double windMetresPerSecond,
            Instant now) {
        Check.inRange("cloud", cloudCover, 0, 1);
        Check.inRange("temperature", atDuskC, Column.TEMPERATURE.least, Column.TEMPERATURE.most);
        Check.inRange("temperature", atDawnC, Column.TEMPERATURE.least, Column.TEMPERATURE.most);
        Check.inRange("humidity", relativeHumidity, 0, 1);
        Check.inRange("wind", windMetresPerSecond, Column.WIND.least, Column.WIND.most);
        TreeMap<Instant, Reading> ends = new TreeMap<>();
        ends.put(night.from(), new Reading(cloudCover, atDuskC, relativeHumidity, windMetresPerSecond));
        ends.put(night.until(), new Reading(cloudCover, atDawnC, relativeHumidity, windMetresPerSecond));
        return new WeatherTable("as typed", now, ends);
    }

    /**
     * Where and when a table is for, where its times do not say it.
     *
     * @param evening of the night; clock times before noon belong to the morning after
     */
    public record Place(ZoneId zone, LocalDate evening) {}

    /**
     * Reads a table: a line a time, with commas or semicolons. Without a heading the columns are time and cloud in percent; a heading names
     * time, cloud (percent), temperature (°C), humidity (percent) and wind (m/s) in any order. Times are ISO-8601 with an offset, or local,
     * or clock times alone. {@code #} begins a comment.
     *
     * @param reader is left open
     * @param name for messages
     * @throws BadInputException naming the line
     */
    public static WeatherTable parse(BufferedReader reader, String name, Instant made, Place place) throws IOException {
        TreeMap<Instant, Reading> readings = new TreeMap<>();
        List<Column> columns = List.of(Column.CLOUD);
        int time = 0;
        int number = 0;
        for (String line = reader.readLine(); line != null; line = reader.readLine()) {
            number++;
            String facts = line.replaceFirst("#.*", "").strip();
            if (facts.isEmpty()) {
                continue;
            }
            String[] cells = facts.split("[,;\\t]", -1);
            if (readings.isEmpty() && Arrays.stream(cells).anyMatch(c -> key(c).startsWith("time"))) {
                time = indexOf(cells, "time");
                columns = columns(cells);
                continue;
            }
            try {
                readings.put(time(cells[time].strip(), place), reading(cells, columns));
            } catch (DateTimeException | IllegalArgumentException | ArrayIndexOutOfBoundsException e) {
                throw new BadInputException(name + " line " + number, "\"" + line + "\" is not a forecast", EXAMPLE, e);
            }
        }
        if (readings.isEmpty()) {
            throw new BadInputException(name, "no forecast in it", EXAMPLE);
        }
        return new WeatherTable(name, made, readings);
    }

    private static String key(String heading) {
        return heading.strip().toLowerCase(Locale.ROOT);
    }

    private static int indexOf(String[] cells, String begins) {
        for (int i = 0; i < cells.length; i++) {
            if (key(cells[i]).startsWith(begins)) {
                return i;
            }
        }
        return -1;
    }

    /** What each cell of a line tells; null where it is something else. */
    private static List<Column> columns(String[] heading) {
        return Arrays.stream(heading)
                .map(cell -> Arrays.stream(Column.values())
                        .filter(c -> key(cell).matches("(" + c.begins + ").*"))
                        .findFirst()
                        .orElse(null))
                .toList();
    }

    private static Reading reading(String[] cells, List<Column> columns) {
        double[] values = new double[Column.values().length];
        Arrays.fill(values, Double.NaN);
        // Without a heading the time comes first.
        int shift = columns.size() == 1 ? 1 : 0;
        for (int i = 0; i < columns.size(); i++) {
            Column column = columns.get(i);
            if (column != null && !cells[i + shift].isBlank()) {
                values[column.ordinal()] = Check.inRange(
                        column.name(), Double.parseDouble(cells[i + shift].strip()), column.least, column.most);
            }
        }
        if (Arrays.stream(values).allMatch(Double::isNaN)) {
            throw new IllegalArgumentException("nothing is foreseen");
        }
        return new Reading(
                values[Column.CLOUD.ordinal()] / 100,
                values[Column.TEMPERATURE.ordinal()],
                values[Column.HUMIDITY.ordinal()] / 100,
                values[Column.WIND.ordinal()]);
    }

    private static Instant time(String text, Place place) {
        String iso = text.replace(' ', 'T');
        if (text.matches("\\d{1,2}:\\d\\d(:\\d\\d)?")) {
            LocalTime clock = LocalTime.parse(text.length() % 3 == 1 ? "0" + text : text);
            LocalDate date = clock.isBefore(LocalTime.NOON) ? place.evening().plusDays(1) : place.evening();
            return date.atTime(clock).atZone(place.zone()).toInstant();
        }
        return iso.matches(".*T.*([Zz]|[+-]\\d\\d(:?\\d\\d)?)")
                ? OffsetDateTime.parse(iso).toInstant()
                : LocalDateTime.parse(iso).atZone(place.zone()).toInstant();
    }

    /** Whether it tells of a part of a span. */
    public boolean tellsOf(Interval span) {
        return readings.firstKey().isBefore(span.until()) && readings.lastKey().isAfter(span.from());
    }

    /** The span that it tells of. */
    public Interval span() {
        return new Interval(readings.firstKey(), readings.lastKey());
    }

    /** Whether it tells of air, not of cloud alone. */
    public boolean tellsOfAir() {
        return readings.values().stream()
                .anyMatch(r -> !Double.isNaN(r.temperatureC()) && !Double.isNaN(r.relativeHumidity()));
    }

    /** How old it is, in words. */
    public String age(Instant now) {
        long hours = Duration.between(made, now).toHours();
        return hours < 1 ? "less than an hour old" : hours < 48 ? hours + " h old" : hours / 24 + " days old";
    }

    @Override
    public List<Hour> hours(Interval span) {
        List<Hour> hours = new ArrayList<>();
        Interval own = span();
        Instant from = own.from().isAfter(span.from()) ? own.from() : span.from();
        Instant first = from.truncatedTo(ChronoUnit.HOURS);
        for (Instant t = first.isBefore(from) ? first.plus(1, ChronoUnit.HOURS) : first;
                !t.isAfter(span.until()) && !t.isAfter(own.until());
                t = t.plus(1, ChronoUnit.HOURS)) {
            Reading r = at(t);
            if (!Double.isNaN(r.temperatureC()) && !Double.isNaN(r.relativeHumidity())) {
                hours.add(new Hour(
                        t,
                        Double.isNaN(r.cloudCover()) ? 0 : r.cloudCover(),
                        r.temperatureC(),
                        r.relativeHumidity(),
                        Double.isNaN(r.windMetresPerSecond()) ? 0 : r.windMetresPerSecond()));
            }
        }
        return hours;
    }

    /** Straight between two readings. */
    private Reading at(Instant time) {
        Map.Entry<Instant, Reading> before = readings.floorEntry(time);
        Map.Entry<Instant, Reading> after = readings.ceilingEntry(time);
        if (before == null || after == null || before.getKey().equals(after.getKey())) {
            return (before == null ? after : before).getValue();
        }
        double share = (double) Duration.between(before.getKey(), time).toMillis()
                / Duration.between(before.getKey(), after.getKey()).toMillis();
        Reading a = before.getValue();
        Reading b = after.getValue();
        return new Reading(
                between(a.cloudCover(), b.cloudCover(), share),
                between(a.temperatureC(), b.temperatureC(), share),
                between(a.relativeHumidity(), b.relativeHumidity(), share),
                between(a.windMetresPerSecond(), b.windMetresPerSecond(), share));
    }

    private static double between(double a, double b, double share) {
        return a + share * (b - a);
    }

    @Override
    public CloudForecast clouds(Interval span) {
        TreeMap<Instant, Double> cover = new TreeMap<>();
        readings.forEach((time, r) -> {
            if (!Double.isNaN(r.cloudCover())) {
                cover.put(time, r.cloudCover());
            }
        });
        return new CloudForecast(cover);
    }
}
