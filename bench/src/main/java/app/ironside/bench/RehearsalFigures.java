package app.ironside.bench;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.journal.JournalInMemory;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import app.ironside.wiring.ManyNights;
import app.ironside.wiring.SwiftNight;
import app.ironside.wiring.Wiring;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;

/**
 * How long a whole night without pixels takes, first and warm, against the 3 s that somebody waits for; how long a hundred nights take
 * against two minutes; and how much memory is held after ever more of them, against what was held after the first ten.
 */
public final class RehearsalFigures {
    private static final double NIGHT_LIMIT_S = 3;
    private static final double HUNDRED_LIMIT_S = 120;
    private static final int WARM = 5;

    private RehearsalFigures() {}

    /** The arguments are night files; the example if there are none. */
    public static void main(String[] arguments) throws IOException, InterruptedException {
        String[] files = arguments.length == 0 ? new String[] {"examples/colle-sorbo.json"} : arguments;
        long start = System.nanoTime();
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        System.out.printf("catalogues read: %.2f s%n", seconds(start));
        for (String file : files) {
            NightFile night = NightFile.parse(Files.readString(Path.of(file)), file, wiring.objects());
            System.out.println(file);
            double first = one(wiring, night);
            double[] warm = new double[WARM];
            for (int i = 0; i < WARM; i++) {
                warm[i] = one(wiring, night);
            }
            Arrays.sort(warm);
            System.out.printf(
                    "one night: first %.2f s (%.2f of the limit), warm %.2f s (%.2f of it)%n",
                    first, first / NIGHT_LIMIT_S, warm[WARM / 2], warm[WARM / 2] / NIGHT_LIMIT_S);
            many(wiring, night);
        }
    }

    private static double one(Wiring wiring, NightFile night) throws InterruptedException {
        long start = System.nanoTime();
        SwiftNight run =
                wiring.swift(night, new JournalInMemory(), SteppedClock::new, NightWatcher.NONE, new NightControl());
        run.engine().run();
        return seconds(start);
    }

    private static void many(Wiring wiring, NightFile night) throws InterruptedException {
        double total = 0;
        long held = 0;
        StringBuilder memory = new StringBuilder();
        for (int tens = 0; tens < 10; tens++) {
            long start = System.nanoTime();
            new ManyNights(wiring).run(night, 1 + 10L * tens, 10, Progress.NONE);
            total += seconds(start);
            long now = heldBytes();
            held = tens == 0 ? now : held;
            memory.append(String.format(" %.2f", (double) now / held));
        }
        System.out.printf(
                "a hundred nights: %.0f s (%.2f of the limit); memory after each ten, of that after the first (%d MB):%s%n",
                total, total / HUNDRED_LIMIT_S, held >> 20, memory);
    }

    private static long heldBytes() {
        System.gc();
        Runtime runtime = Runtime.getRuntime();
        return runtime.totalMemory() - runtime.freeMemory();
    }

    private static double seconds(long since) {
        return (System.nanoTime() - since) / 1e9;
    }
}
