package app.ironside.app;

import java.io.PrintWriter;
import java.io.Writer;
import java.time.Duration;

/**
 * Runs what every start runs, in memory and on the demo's data: the launcher keeps an archive of the classes that are loaded here
 * ({@code -XX:ArchiveClassesAtExit}), from which later starts take them ready-made.
 */
final class DryStart {
    static final String WORD = "--dry-start";

    /** The demo's night is well under way by then. */
    private static final Duration LONG_ENOUGH = Duration.ofSeconds(7);

    private static final String[][] VERBS = {
        {"night", "--lat", "44", "--lon", "7", "--zone", "Europe/Rome", "--date", "2026-11-14", "--json"},
        {"target", "M 33", "--lat", "44", "--lon", "7", "--zone", "Europe/Rome", "--date", "2026-11-14", "--json"},
        {"--help"}
    };

    private DryStart() {}

    static void run() throws InterruptedException {
        PrintWriter nowhere = new PrintWriter(Writer.nullWriter());
        for (String[] verb : VERBS) {
            app.ironside.cli.Main.run(verb, nowhere, nowhere);
        }
        app.ironside.desk.Main.dryStart(LONG_ENOUGH);
    }
}
