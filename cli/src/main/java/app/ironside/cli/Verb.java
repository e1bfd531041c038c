package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Printable;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.json.JsonWriteFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.PrintWriter;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** What all verbs share: --json, --help, printing, exit codes 0 and 1. */
abstract class Verb implements Callable<Integer> {
    static final int POSSIBLE = 0;
    static final int NOT_POSSIBLE = 1;

    /** Letters beyond ASCII are escaped: the object is the same in every encoding a terminal may have. */
    private static final ObjectMapper JSON =
            JsonMapper.builder().enable(JsonWriteFeature.ESCAPE_NON_ASCII).build();

    private static final int LIST_SHOWN = 12;
    private static final int FEW_FACTS = 8;

    @Spec
    private CommandSpec spec;

    @Option(names = "--json", description = "Print one JSON object on standard output and nothing else there.")
    private boolean json;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    private boolean help;

    /** Does the work. */
    abstract Answer answer() throws InterruptedException;

    @Override
    public Integer call() throws InterruptedException {
        Answer answer = answer();
        PrintWriter out = spec.commandLine().getOut();
        if (json) {
            out.println(toJson(answer.facts()));
        } else {
            print(out, "", answer.facts());
        }
        out.flush();
        return answer.possible() ? POSSIBLE : NOT_POSSIBLE;
    }

    private static String toJson(Map<String, Object> facts) {
        try {
            return JSON.writeValueAsString(facts);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("the answer cannot be written as JSON", e);
        }
    }

    private static void print(PrintWriter out, String indent, Map<?, ?> facts) {
        for (Map.Entry<?, ?> fact : facts.entrySet()) {
            Object value = fact.getValue();
            if (value instanceof Map<?, ?> map) {
                out.println(indent + fact.getKey() + ":");
                print(out, indent + "  ", map);
            } else if (value instanceof Collection<?> list) {
                out.println(indent + fact.getKey() + ": " + (list.isEmpty() ? "none" : list.size()));
                for (Object item : list.stream().limit(LIST_SHOWN).toList()) {
                    if (item instanceof Map<?, ?> map && hasLists(map)) {
                        print(out, indent + "  ", map);
                    } else {
                        out.println(indent + "  " + line(item));
                    }
                }
                if (list.size() > LIST_SHOWN) {
                    out.println(indent + "  and " + (list.size() - LIST_SHOWN) + " more; see --json");
                }
            } else {
                out.println(indent + fact.getKey() + ": "
                        + (value == null ? "does not happen" : Printable.line(value.toString())));
            }
        }
    }

    /** A few facts with lists among them are shown one below the other; many are a line of a table, which tells how long its lists are. */
    private static boolean hasLists(Map<?, ?> map) {
        return map.size() <= FEW_FACTS && map.values().stream().anyMatch(Collection.class::isInstance);
    }

    private static String line(Object item) {
        if (item instanceof Map<?, ?> map) {
            return Printable.line(
                    String.join("  ", map.values().stream().map(Verb::word).toList()));
        }
        return Printable.line(String.valueOf(item));
    }

    private static String word(Object value) {
        return value == null ? "-" : value instanceof Collection<?> list ? list.size() + " listed" : value.toString();
    }

    /** Tells of one thing before the answer is known, as a line. */
    void line(Map<String, Object> facts) {
        PrintWriter out = spec.commandLine().getOut();
        out.println(json ? toJson(facts) : line((Object) facts));
        out.flush();
    }

    /** Progress on standard error; an interrupted process cancels the work. */
    Progress progress() {
        PrintWriter err = spec.commandLine().getErr();
        return (what, done) -> {
            err.printf("%3.0f %%  %s%n", 100 * done, Printable.line(what));
            err.flush();
            return !Thread.currentThread().isInterrupted();
        };
    }

    CommandLine commandLine() {
        return spec.commandLine();
    }

    static StarFinder finder() {
        return new StarFinder(DetectSettings.DEFAULT, Workers.ALL_CORES);
    }

    /** A time in a zone with its offset, to the second; {@code null} for none. */
    static String time(Optional<Instant> time, ZoneId zone) {
        return time.map(t -> time(t, zone)).orElse(null);
    }

    static String time(Instant time, ZoneId zone) {
        return time.plusMillis(500)
                .truncatedTo(ChronoUnit.SECONDS)
                .atZone(zone)
                .toOffsetDateTime()
                .toString();
    }

    static List<String> times(List<Instant> times, ZoneId zone) {
        return times.stream().map(t -> time(t, zone)).toList();
    }

    /** Rounds for output: no reader is helped by sixteen digits. */
    static double rounded(double value, int digits) {
        double factor = Math.pow(10, digits);
        return Math.round(value * factor) / factor;
    }

    static BadInputException badOption(String option, String found, String expected) {
        return new BadInputException("option " + option, found, expected);
    }
}
