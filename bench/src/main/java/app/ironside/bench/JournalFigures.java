package app.ironside.bench;

import app.ironside.journal.FaultTold;
import app.ironside.journal.NightHistory;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.logbook.EventCodec;
import app.ironside.logbook.EventRow;
import app.ironside.logbook.Logbook;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.jdbi.v3.core.Jdbi;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/**
 * What an event costs in the journal against the same row on a connection of its own, as every event was written once, both forced to the
 * disk, in one run; and how many
 * moments of a long night can be looked at in a second, against the 30 that dragging needs.
 */
public final class JournalFigures {
    private static final int EVENTS = 200;
    private static final int LONG_NIGHT = 6000;
    private static final int LOOKS = 200_000;
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    private JournalFigures() {}

    public static void main(String[] arguments) throws IOException {
        Path folder = Files.createTempDirectory("journal-figures");
        try (Logbook logbook = Logbook.open(folder)) {
            var journal = logbook.journal(logbook.begin("figures", "figures", "{}"));
            double[] held = new double[EVENTS];
            double[] each = new double[EVENTS];
            Jdbi own = Jdbi.create(source(folder.resolve("each.sqlite")));
            own.useHandle(handle -> {
                handle.execute("create table event (id integer primary key autoincrement, night integer, time text,"
                        + " kind text, text text, facts text)");
                handle.execute("create index event_of_night on event (night, id)");
            });
            for (int i = 0; i < EVENTS; i++) { // turn by turn, so that a busy moment meets both
                FaultTold event =
                        new FaultTold(NINE.plusSeconds(i), "an event of some length", Stage.RUN, Optional.empty());
                long began = System.nanoTime();
                journal.append(event);
                held[i] = System.nanoTime() - began;
                began = System.nanoTime();
                onItsOwn(own, EventCodec.write(event));
                each[i] = System.nanoTime() - began;
            }
            System.out.printf(
                    "append: %.2f ms; on a connection of its own %.2f ms; ratio %.2f%n",
                    median(held) / 1e6, median(each) / 1e6, median(held) / median(each));
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
        moments();
    }

    private static SQLiteDataSource source(Path file) {
        SQLiteConfig config = new SQLiteConfig();
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + file);
        return source;
    }

    private static void onItsOwn(Jdbi jdbi, EventRow row) {
        jdbi.useHandle(handle -> handle.createUpdate("insert into event (night, time, kind, text, facts)"
                        + " values (:night, :time, :kind, :text, :facts)")
                .bind("night", 1)
                .bind("time", row.time().toString())
                .bind("kind", row.kind())
                .bind("text", row.text())
                .bind("facts", row.facts())
                .execute());
    }

    private static void moments() {
        NightHistory night = new NightHistory();
        for (int i = 0; i < LONG_NIGHT; i++) {
            night.add(new FaultTold(NINE.plusSeconds(6L * i), "an event", Stage.RUN, Optional.empty()));
        }
        Random random = new Random(1);
        long began = System.nanoTime();
        int seen = 0;
        for (int i = 0; i < LOOKS; i++) {
            NightState state = night.at(NINE.plusSeconds(random.nextInt(6 * LONG_NIGHT)));
            seen += state.last(FaultTold.class).isPresent() ? 1 : 0;
        }
        double seconds = (System.nanoTime() - began) / 1e9;
        System.out.printf(
                "moments of a night of %d events: %.0f a second, %.0f times the 30 that dragging needs (%d seen)%n",
                LONG_NIGHT, LOOKS / seconds, LOOKS / seconds / 30, seen);
    }

    private static double median(double[] values) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted[sorted.length / 2];
    }
}
