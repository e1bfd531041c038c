package app.ironside.bench;

import app.ironside.Provenance;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Noted;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.logbook.EventCodec;
import app.ironside.logbook.EventRow;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.Question;
import app.ironside.logbook.SubFact;
import app.ironside.logbook.SubSearch;
import app.ironside.sky.Interval;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.stream.Stream;

/**
 * How long an invented archive of 1,000 nights and 200,000 subs takes to be asked; the first question is about nearly all
 * of them.
 */
public final class LogbookFigures {
    private static final int NIGHTS = 1000;
    private static final int SUBS = 200;
    private static final int TRIES = 9;
    private static final int NOTES = 25;
    private static final List<String> ASKED =
            List.of("kept", "Ha above 50° under 2.2 px since March", "M 33 lost to cloud", "NGC 891 L over 60°");

    private LogbookFigures() {}

    public static void main(String[] arguments) throws IOException {
        Path folder = Files.createTempDirectory("logbook-figures");
        try (Logbook logbook = Logbook.open(folder)) {
            SplittableRandom random = new SplittableRandom(5);
            for (int night = 0; night < NIGHTS; night++) {
                logbook.importEvents(logbook.begin("night " + night, "night-" + night, "{}"), night(night, random));
            }
            SubSearch search = logbook.search();
            Question.Vocabulary known = search.vocabulary();
            for (String text : ASKED) {
                Question question = Question.parse(text, known, LocalDate.of(2026, 11, 27));
                double[] find = new double[TRIES];
                double[] points = new double[TRIES];
                for (int i = 0; i < TRIES; i++) {
                    long began = System.nanoTime();
                    int subs = search.find(question).all().subs();
                    find[i] = (System.nanoTime() - began) / 1e6;
                    began = System.nanoTime();
                    search.points(question, SubFact.ALTITUDE, SubFact.SIZE, subs);
                    points[i] = (System.nanoTime() - began) / 1e6;
                }
                double[] looked = new double[TRIES];
                double[] told = new double[TRIES];
                for (int i = 0; i < TRIES; i++) {
                    int subs = search.find(question).all().subs();
                    long began = System.nanoTime();
                    search.points(question, SubFact.POLAR, SubFact.SIZE, subs);
                    looked[i] = (System.nanoTime() - began) / 1e6;
                    began = System.nanoTime();
                    search.told(Question.parse(text + " greased", known, LocalDate.of(2026, 11, 27)));
                    told[i] = (System.nanoTime() - began) / 1e6;
                }
                System.out.printf(
                        "%-45s charted by what stood in %.0f ms, notes found in %.0f ms%n",
                        text, median(looked), median(told));
                System.out.printf("%-45s counted in %.0f ms, charted in %.0f ms%n", text, median(find), median(points));
            }
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
    }

    private static List<EventRow> night(int number, SplittableRandom random) {
        Instant begin = Instant.parse("2023-01-01T19:00:00Z").plusSeconds(86_400L * number * 14 / 10);
        List<EventRow> rows = new ArrayList<>();
        rows.add(EventCodec.write(new NightStarted(
                begin,
                "t",
                "Colle Sorbo",
                number % 3 == 0 ? "Heron" : "Wren",
                LocalDate.ofInstant(begin, java.time.ZoneOffset.UTC),
                Provenance.REHEARSED)));
        String target = List.of("M 33", "NGC 891", "NGC 7331", "IC 342").get(number % 4);
        rows.add(EventCodec.write(new AxisMeasured(
                begin,
                "axis",
                random.nextDouble(3),
                0,
                random.nextDouble(3),
                0.1,
                60,
                0,
                false,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                "",
                List.of())));
        for (int i = 0; i < NOTES; i++) {
            String words =
                    random.nextInt(30) == 0 ? "worm greased again" : "cloud came up from the west, waited for it";
            rows.add(EventCodec.write(Noted.of(begin.plusSeconds(600L * i), words, "Ada")));
        }
        for (int i = 0; i < SUBS; i++) {
            rows.add(EventCodec.write(sub(begin.plusSeconds(180L * i), target, i, random)));
        }
        return rows;
    }

    private static SubTaken sub(Instant at, String target, int i, SplittableRandom random) {
        boolean keep = random.nextInt(12) > 0;
        return new SubTaken(
                at.plusSeconds(180),
                "Sub " + i,
                target,
                List.of("L", "R", "G", "B", "Ha").get(random.nextInt(5)),
                180,
                new Interval(at, at.plusSeconds(180)),
                "lights/" + at.getEpochSecond() + ".fits",
                true,
                false,
                false,
                Set.of(),
                false,
                new SubMeasures(
                        2800,
                        random.nextInt(500, 4000),
                        OptionalDouble.of(random.nextDouble(1, 2)),
                        OptionalDouble.of(random.nextDouble(1.8, 3.5)),
                        OptionalDouble.of(random.nextDouble(0.1, 0.6)),
                        random.nextDouble(800, 2000),
                        random.nextDouble(20, 40),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        Optional.empty(),
                        Optional.empty(),
                        OptionalDouble.empty()),
                new SubCircumstances(
                        OptionalDouble.of(random.nextDouble(25, 85)),
                        OptionalDouble.empty(),
                        OptionalDouble.of(random.nextDouble(-5, 15)),
                        OptionalInt.of(random.nextInt(2400, 2600)),
                        Optional.empty(),
                        Optional.empty()),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                Optional.empty(),
                new Verdict(keep, keep ? "good" : "cloud took 60 %", keep ? "good" : "cloud"));
    }

    private static double median(double[] values) {
        Arrays.sort(values);
        return values[values.length / 2];
    }
}
