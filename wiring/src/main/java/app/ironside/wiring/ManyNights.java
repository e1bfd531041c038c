package app.ironside.wiring;

import app.ironside.Progress;
import app.ironside.device.DeviceException;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import app.ironside.sim.YearOfNights;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;

/** The same program under many nights of a year, without pixels, all cores at work. */
public final class ManyNights {
    private final Wiring wiring;

    public ManyNights(Wiring wiring) {
        this.wiring = wiring;
    }

    /**
     * What one of the nights gave.
     *
     * @param seed by which the very same night comes again
     * @param planned subs that were promised
     * @param lightSeconds of subs that were kept
     * @param keptByTarget subs
     * @param cloudedHours under cloud that takes more than half of the light
     * @param faults what was drawn to go wrong, or set
     * @param reason why the night ended before its end; empty if it did not
     */
    public record Night(
            long seed,
            int planned,
            int taken,
            int kept,
            double lightSeconds,
            Map<String, Integer> keptByTarget,
            double seeingArcsec,
            double cloudedHours,
            List<RehearsedFault> faults,
            String reason) {
        public Night {
            keptByTarget = Map.copyOf(keptByTarget);
            faults = List.copyOf(faults);
        }
    }

    /** The night of a file under the weather of a seed, as a file of its own: with it the same night comes again, with pixels if wanted. */
    public static NightFile drawn(NightFile file, long seed) {
        SimSettings gear = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        return file.withObservatory(YearOfNights.night(gear, span(file), seed));
    }

    private static YearOfNights.Span span(NightFile file) {
        return YearOfNights.Span.of(file.site(), file.program().date());
    }

    /**
     * Runs them.
     *
     * @param firstSeed the others follow it
     * @throws java.util.concurrent.CancellationException if the progress says so
     */
    public Outcome run(NightFile file, long firstSeed, int count, Progress progress) throws InterruptedException {
        int threads = Math.max(1, Math.min(count, Runtime.getRuntime().availableProcessors()));
        ExecutorService pool = Executors.newFixedThreadPool(threads, work -> {
            Thread thread = new Thread(work, "rehearsing");
            thread.setDaemon(true);
            return thread;
        });
        AtomicInteger done = new AtomicInteger();
        try {
            List<Future<Night>> nights = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                long seed = firstSeed + i;
                nights.add(pool.submit(() -> {
                    Night night = one(file, seed);
                    done.incrementAndGet();
                    return night;
                }));
            }
            List<Night> answers = new ArrayList<>();
            for (Future<Night> night : nights) {
                answers.add(night.get());
                progress.step("Night " + answers.size() + " of " + count, (double) done.get() / count);
            }
            return new Outcome(answers);
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException wrong) {
                throw wrong;
            }
            throw new IllegalStateException("a rehearsal failed", e.getCause());
        } finally {
            pool.shutdownNow();
        }
    }

    private Night one(NightFile file, long seed) throws InterruptedException {
        NightFile drawn = drawn(file, seed);
        SimSettings settings = drawn.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        SwiftNight night =
                wiring.swift(drawn, new JournalInMemory(), SteppedClock::new, NightWatcher.NONE, new NightControl());
        String reason = "";
        try {
            night.engine().run();
        } catch (DeviceException | UncheckedIOException e) {
            reason = e.getMessage();
        }
        NightState state = night.state();
        return new Night(
                seed,
                state.subsPlanned(),
                state.subs().size(),
                state.kept(),
                state.lightSeconds(),
                state.subs().stream()
                        .filter(SubTaken::kept)
                        .collect(Collectors.toMap(SubTaken::target, s -> 1, Integer::sum, TreeMap::new)),
                settings.seeingArcsec(),
                YearOfNights.cloudedHours(settings, span(drawn)),
                settings.faults(),
                reason);
    }
}
