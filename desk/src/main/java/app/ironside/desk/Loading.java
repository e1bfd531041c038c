package app.ironside.desk;

import app.ironside.Workers;
import app.ironside.desk.session.ShownNight;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.Profiles;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;

/** Reads catalogues, logbook and profiles, the first while the others are read and while the toolkit starts. */
final class Loading {
    /**
     * What a desk is made of.
     *
     * @param first the night that is shown when it opens: one that was left under way, or else the last
     */
    record Loaded(Wiring wiring, Logbook logbook, Profiles profiles, Opening.Found found, Optional<ShownNight> first) {}

    private record Kept(Logbook logbook, Opening.Found found) {}

    private final CompletableFuture<Wiring> wiring;
    private final CompletableFuture<Profiles> profiles;
    private final CompletableFuture<Kept> kept;
    private final CompletableFuture<Optional<ShownNight>> first;

    private Loading(Path folder, boolean demo) {
        wiring = CompletableFuture.supplyAsync(() -> new Wiring(Workers.ALL_CORES, Optional.of(folder)));
        profiles = CompletableFuture.supplyAsync(() -> profiles(folder, demo));
        kept = CompletableFuture.supplyAsync(() -> kept(folder, demo));
        first = wiring.thenCombineAsync(
                kept, (made, read) -> read.found().first().map(night -> ShownNight.kept(made, read.logbook(), night)));
    }

    /** Begins at once. */
    static Loading begin(Path folder, boolean demo) {
        return new Loading(folder, demo);
    }

    private static Profiles profiles(Path folder, boolean demo) {
        Profiles profiles = new Profiles(folder);
        if (demo && profiles.kits().isEmpty()) {
            DemoNights.importProfiles(profiles);
        }
        profiles.reload();
        return profiles;
    }

    private static Kept kept(Path folder, boolean demo) {
        Logbook logbook = Logbook.open(folder);
        if (demo && logbook.nights().isEmpty()) {
            DemoNights.begin(logbook);
        } else if (demo && logbook.unfinished().isEmpty()) {
            DemoNights.importTonight(logbook); // the last one has ended
        }
        return new Kept(logbook, Opening.Found.in(logbook));
    }

    /**
     * Waits until all is read.
     *
     * @throws RuntimeException as the reading did
     */
    Loaded await() {
        try {
            Kept read = kept.join();
            return new Loaded(wiring.join(), read.logbook(), profiles.join(), read.found(), first.join());
        } catch (CompletionException e) {
            throw e.getCause() instanceof RuntimeException cause ? cause : e;
        }
    }
}
