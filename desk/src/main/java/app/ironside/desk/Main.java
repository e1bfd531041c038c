package app.ironside.desk;

import app.ironside.image.AtomicFile;
import app.ironside.logbook.FolderLock;
import app.ironside.logbook.TakingBack;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import javafx.application.Application;
import javafx.application.Platform;
import org.slf4j.LoggerFactory;
import org.slf4j.bridge.SLF4JBridgeHandler;

/** {@code ./ironside} and {@code ./ironside demo [--pictures DIR]}. */
public final class Main {
    private static final int BAD_USAGE = 2;

    /** Held as long as the process lives: one that nobody holds would be let go by the garbage collector. */
    private static Optional<FolderLock> lock = Optional.empty();

    /** Begun before the toolkit is: each takes a second or two. */
    private static Optional<Loading> loading = Optional.empty();

    private static Optional<String> said = Optional.empty();

    private Main() {}

    /** What is being read, if this start has begun to. */
    static Optional<Loading> loading() {
        return loading;
    }

    public static void main(String[] arguments) throws InterruptedException {
        SLF4JBridgeHandler.removeHandlersForRootLogger();
        SLF4JBridgeHandler.install();
        List<String> words = List.of(arguments);
        boolean demo = words.contains("demo");
        int pictures = words.indexOf("--pictures");
        if (pictures >= 0) {
            if (pictures + 1 >= words.size()) {
                System.err.println("ironside: option --pictures has no folder; expected --pictures DIR");
                System.exit(BAD_USAGE);
            }
            headless();
            System.exit(Pictures.render(Path.of(words.get(pictures + 1))));
        }
        Path folder = Opening.dataFolder(demo);
        lock = FolderLock.take(folder);
        if (lock.isPresent()) {
            takeBack(folder);
        }
        if (lock.isEmpty() && new Summons(folder).ask()) {
            System.err.println("ironside: it runs already; its window is shown");
            return;
        }
        if (lock.isEmpty()) {
            System.err.println(
                    "ironside: " + folder + " is in use by another Ironside; go on in its window, or close it first");
            System.exit(BAD_USAGE);
        }
        LoggerFactory.getILoggerFactory(); // before two threads ask for it at once
        loading = Optional.of(Loading.begin(folder, demo));
        Runtime.getRuntime().addShutdownHook(new Thread(AtomicFile::endOfProcess, "unfinished files"));
        Application.launch(DeskApp.class, demo ? new String[] {"demo"} : new String[0]);
    }

    /** A backup that was chosen in the window takes its place before anything is opened. */
    private static void takeBack(Path folder) {
        TakingBack backup = new TakingBack(folder);
        if (!backup.waits()) {
            return;
        }
        lock.ifPresent(FolderLock::close); // some systems rename no folder that is in use
        try {
            said = Optional.of("The backup is in its place."
                    + backup.takeOver(Clock.systemUTC())
                            .map(aside -> " What was here before, frames too, lies in " + aside + ".")
                            .orElse(""));
        } catch (UncheckedIOException e) {
            said = Optional.of("Nothing was taken back: " + e.getMessage() + ". What was here goes on.");
        }
        lock = FolderLock.take(folder);
    }

    /** What the first line of the desk is to tell of this start. */
    static Optional<String> said() {
        return said;
    }

    /** Opens the demo in memory and closes it after a while. */
    public static void dryStart(Duration open) throws InterruptedException {
        headless();
        Thread closing = new Thread(
                () -> {
                    try {
                        Thread.sleep(open.toMillis());
                        Platform.exit();
                    } catch (InterruptedException e) {
                        Thread.currentThread().interrupt();
                    }
                },
                "closing");
        closing.setDaemon(true);
        closing.start();
        main(new String[] {"demo"});
    }

    /** The toolkit draws into memory: no display is needed. */
    public static void headless() {
        System.setProperty("glass.platform", "Monocle");
        System.setProperty("monocle.platform", "Headless");
        System.setProperty("prism.order", "sw");
        System.setProperty("headless.geometry", "1280x800");
        System.setProperty("java.awt.headless", "true");
    }
}
