package app.ironside;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Faults of Ironside itself, written down in files that a person can read and show to somebody: the version, the machine's system, and where in
 * the program it happened. Nothing of the site, the nights or the person's files is in them, and nothing is sent anywhere. Thread-safe.
 */
public final class FaultReport {
    /** Older ones give way. */
    static final int MOST_KEPT = 20;

    private static final DateTimeFormatter NAME = DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH-mm-ss-SSS");

    private final Path folder;
    private final Clock clock;

    /** By what they are like: a fault that comes again and again is told once. */
    private final Map<String, Path> written = new HashMap<>();

    /**
     * @param folder made when it is needed
     * @param clock by which they are named
     */
    public FaultReport(Path folder, Clock clock) {
        this.folder = folder;
        this.clock = clock;
    }

    /**
     * Writes a fault down.
     *
     * @param doing what was being done, in words
     * @return where; empty if it cannot be written
     */
    public synchronized Optional<Path> write(Throwable fault, String doing) {
        String like = doing + " " + fault.getClass() + " " + List.of(fault.getStackTrace());
        Path before = written.get(like);
        if (before != null && Files.exists(before)) {
            return Optional.of(before);
        }
        try {
            Files.createDirectories(folder);
            Instant now = clock.instant();
            Path file = folder.resolve("ironside-report-" + NAME.format(now.atOffset(ZoneOffset.UTC)) + ".txt");
            for (int again = 2; Files.exists(file); again++) {
                file = folder.resolve(
                        "ironside-report-" + NAME.format(now.atOffset(ZoneOffset.UTC)) + "-" + again + ".txt");
            }
            Files.writeString(file, text(fault, doing, now));
            written.put(like, file);
            dropOld();
            return Optional.of(file);
        } catch (IOException unwritable) {
            return Optional.empty();
        }
    }

    private static String text(Throwable fault, String doing, Instant now) {
        Runtime machine = Runtime.getRuntime();
        StringWriter text = new StringWriter();
        text.append("A fault of Ironside itself. This file stays on this machine; show it to whoever can help.\n\n")
                .append(Version.current() + "\n")
                .append("Java " + System.getProperty("java.version") + ", " + System.getProperty("os.name") + " "
                        + System.getProperty("os.version") + " " + System.getProperty("os.arch") + "\n")
                .append(machine.availableProcessors() + " processors, " + (machine.maxMemory() >> 20) + " MB allowed, "
                        + ((machine.totalMemory() - machine.freeMemory()) >> 20) + " MB used\n")
                .append(now + "\n")
                .append("While: " + doing + "\n\n");
        fault.printStackTrace(new PrintWriter(text));
        return text.toString();
    }

    private void dropOld() throws IOException {
        List<Path> all;
        try (Stream<Path> files = Files.list(folder)) {
            all = files.filter(f -> f.getFileName().toString().startsWith("ironside-report-"))
                    .sorted(Comparator.comparing(Path::getFileName))
                    .toList();
        }
        for (Path old : all.subList(0, Math.max(0, all.size() - MOST_KEPT))) {
            Files.deleteIfExists(old);
        }
    }
}
