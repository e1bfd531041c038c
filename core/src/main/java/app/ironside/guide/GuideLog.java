package app.ironside.guide;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What a guide star did: a record of exposures from anywhere.
 *
 * @param seconds of each exposure, rising
 * @param ra displacement along right ascension on the sky, arcseconds
 * @param dec displacement along declination, arcseconds
 * @param raPulseMs correction sent after each; empty if it is not told
 * @param decPulseMs as raPulseMs
 * @param snr of the star; empty if it is not told
 * @param guided whether anything corrected it
 */
public record GuideLog(
        double[] seconds,
        double[] ra,
        double[] dec,
        Optional<double[]> raPulseMs,
        Optional<double[]> decPulseMs,
        Optional<double[]> snr,
        OptionalDouble declinationDeg,
        boolean guided) {
    /** Fewer say nothing about how it moved. */
    public static final int FEWEST = 20;

    private static final String WHAT = "a CSV file time_s,ra_arcsec,dec_arcsec[,ra_pulse_ms,dec_pulse_ms,snr]";

    /** A night's own samples as a table that {@link #read} takes. */
    public static String csv(List<GuideSample> samples) {
        StringBuilder csv =
                new StringBuilder("# guided: true\ntime_s,ra_arcsec,dec_arcsec,ra_pulse_ms,dec_pulse_ms,snr\n");
        if (!samples.isEmpty()) {
            csv.insert(0, "# start: " + samples.get(0).time() + "\n");
        }
        for (GuideSample s : samples) {
            csv.append(String.format(
                    Locale.ROOT,
                    "%.3f,%.4f,%.4f,%.0f,%.0f,%.1f%n",
                    Duration.between(samples.get(0).time(), s.time()).toMillis() / 1000.0,
                    s.raArcsec(),
                    s.decArcsec(),
                    s.raPulseMs(),
                    s.decPulseMs(),
                    s.snr()));
        }
        return csv.toString();
    }

    /** A night's own samples, in which nothing was corrected. */
    public static GuideLog unguided(List<GuideSample> samples) {
        GuideLog log = of(samples, OptionalDouble.empty());
        return new GuideLog(
                log.seconds, log.ra, log.dec, Optional.empty(), Optional.empty(), log.snr, log.declinationDeg, false);
    }

    /** A night's own samples; their pulses are known. */
    public static GuideLog of(List<GuideSample> samples, OptionalDouble declinationDeg) {
        Instant start = samples.get(0).time();
        double[] snr = samples.stream().mapToDouble(GuideSample::snr).toArray();
        return new GuideLog(
                samples.stream()
                        .mapToDouble(s -> Duration.between(start, s.time()).toMillis() / 1000.0)
                        .toArray(),
                samples.stream().mapToDouble(GuideSample::raArcsec).toArray(),
                samples.stream().mapToDouble(GuideSample::decArcsec).toArray(),
                Optional.of(samples.stream().mapToDouble(GuideSample::raPulseMs).toArray()),
                Optional.of(
                        samples.stream().mapToDouble(GuideSample::decPulseMs).toArray()),
                Optional.of(snr),
                declinationDeg,
                true);
    }

    /**
     * Reads a table with a line of titles; lines that begin with # may carry facts as {@code key: value}.
     *
     * @throws BadInputException naming the line and what would be right
     */
    public static GuideLog read(Path file) {
        Map<String, String> facts = new HashMap<>();
        List<String> titles = List.of();
        List<double[]> rows = new ArrayList<>();
        List<String> lines = TextFiles.lines(file, WHAT);
        for (int i = 0; i < lines.size(); i++) {
            String line = lines.get(i).strip();
            if (line.startsWith("#")) {
                fact(line.substring(1), facts);
            } else if (!line.isEmpty() && titles.isEmpty()) {
                titles = titles(line, file);
            } else if (!line.isEmpty()) {
                double[] row = row(line, titles, file + " line " + (i + 1));
                if (!rows.isEmpty() && row[0] <= rows.get(rows.size() - 1)[0]) {
                    throw new BadInputException(
                            file + " line " + (i + 1), "its time is not after the one before", "times that rise");
                }
                rows.add(row);
            }
        }
        if (rows.size() < FEWEST) {
            throw new BadInputException(file.toString(), "has " + rows.size() + " samples", "at least " + FEWEST);
        }
        return of(file, facts, titles, rows);
    }

    private static GuideLog of(Path file, Map<String, String> facts, List<String> titles, List<double[]> rows) {
        OptionalDouble declination = Optional.ofNullable(facts.get("declination_deg"))
                .map(text -> OptionalDouble.of(number(text, file + " declination_deg", -90, 90)))
                .orElse(OptionalDouble.empty());
        return new GuideLog(
                column(rows, 0),
                column(rows, 1),
                column(rows, 2),
                named(rows, titles, "ra_pulse_ms"),
                named(rows, titles, "dec_pulse_ms"),
                named(rows, titles, "snr"),
                declination,
                !"false".equalsIgnoreCase(facts.getOrDefault("guided", "true")));
    }

    private static void fact(String text, Map<String, String> facts) {
        int colon = text.indexOf(':');
        if (colon > 0) {
            facts.put(
                    text.substring(0, colon).strip().toLowerCase(Locale.ROOT),
                    text.substring(colon + 1).strip());
        }
    }

    private static List<String> titles(String line, Path file) {
        List<String> titles = Arrays.stream(line.toLowerCase(Locale.ROOT).split(","))
                .map(String::strip)
                .toList();
        if (titles.size() < 3 || !titles.subList(0, 3).equals(List.of("time_s", "ra_arcsec", "dec_arcsec"))) {
            throw new BadInputException(file.toString(), "its titles are \"" + line + "\"", WHAT);
        }
        return titles;
    }

    private static double[] row(String line, List<String> titles, String where) {
        String[] fields = line.split(",", -1);
        if (fields.length < titles.size()) {
            throw new BadInputException(
                    where, "has " + fields.length + " values", titles.size() + ", as the titles say");
        }
        double[] row = new double[titles.size()];
        for (int k = 0; k < row.length; k++) {
            // Of a lost star there is no pulse and no signal; its place must be a number.
            row[k] = k > 2 && fields[k].isBlank()
                    ? 0
                    : number(fields[k].strip(), where + " " + titles.get(k), -1e7, 1e7);
        }
        return row;
    }

    private static double number(String text, String where, double least, double most) {
        try {
            double value = Double.parseDouble(text);
            if (value >= least && value <= most) {
                return value;
            }
        } catch (NumberFormatException e) {
            throw new BadInputException(where, "\"" + text + "\" is no number", "a number", e);
        }
        throw new BadInputException(where, "is " + text, "a number from " + least + " to " + most);
    }

    private static double[] column(List<double[]> rows, int k) {
        return rows.stream().mapToDouble(r -> r[k]).toArray();
    }

    private static Optional<double[]> named(List<double[]> rows, List<String> titles, String name) {
        int k = titles.indexOf(name);
        return k < 0 ? Optional.empty() : Optional.of(column(rows, k));
    }

    public int size() {
        return seconds.length;
    }

    /** Usual time from one exposure to the next. */
    public double cadenceSeconds() {
        double[] steps = new double[seconds.length - 1];
        for (int i = 0; i < steps.length; i++) {
            steps[i] = seconds[i + 1] - seconds[i];
        }
        Arrays.sort(steps);
        return steps[steps.length / 2];
    }

    public double minutes() {
        return (seconds[seconds.length - 1] - seconds[0]) / 60;
    }
}
