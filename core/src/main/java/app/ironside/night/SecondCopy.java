package app.ironside.night;

import app.ironside.image.AtomicFile;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Copies every finished frame of a night to a second folder while the night goes on, and proves each copy by its SHA-256 sum, read back from
 * there. What the second disk refuses is tried again; the night never waits for it.
 */
final class SecondCopy implements AutoCloseable {
    private static final long LOOK_MILLIS = 2000;
    private static final long LAST_MILLIS = 120_000;
    private static final long LET_GO_MILLIS = 2000;

    private final Path from;
    private final Path to;
    private final Thread thread;
    private volatile boolean ending;
    private volatile int copied;
    private volatile int behind;
    private volatile String trouble = "";
    private String told = "";

    /**
     * @param night the night's own folder
     * @param folder in which a folder of the same name is made
     */
    SecondCopy(Path night, Path folder) {
        this.from = night;
        this.to = folder.resolve(night.getFileName());
        this.thread = new Thread(this::work, "second copy");
        this.thread.setDaemon(true);
        this.thread.start();
    }

    /** Files that are there, and proven. */
    int copied() {
        return copied;
    }

    /** Files that are not there yet. */
    int behind() {
        return behind;
    }

    Path folder() {
        return to;
    }

    /** What is new: that the second folder refuses, or takes again; empty if nothing is. */
    Optional<String> news() {
        String now = trouble;
        if (now.equals(told)) {
            return Optional.empty();
        }
        told = now;
        return Optional.of(
                now.isEmpty()
                        ? "The second copy goes on in " + to + "."
                        : "The second copy is " + behind + " files behind: " + now
                                + ". The frames themselves are safe; it is tried again.");
    }

    private void work() {
        while (true) {
            boolean last = ending;
            try {
                copyAll();
                trouble = "";
            } catch (IOException | UncheckedIOException e) {
                trouble = to + ": " + e.getMessage();
            }
            if (last) {
                return;
            }
            pause();
        }
    }

    private synchronized void pause() {
        try {
            if (!ending) {
                wait(LOOK_MILLIS);
            }
        } catch (InterruptedException e) {
            ending = true; // one more look, for what was finished last
        }
    }

    private synchronized void end() {
        ending = true;
        notifyAll();
    }

    private void copyAll() throws IOException {
        Path there = to.toAbsolutePath().normalize();
        Path here = from.toAbsolutePath().normalize();
        if (there.startsWith(here) || here.startsWith(there)) {
            behind = frames().size();
            throw new IOException("the frames themselves are there; choose a folder on another disk");
        }
        List<Path> files = frames();
        int left = files.size();
        int proven = 0;
        behind = left;
        for (Path file : files) {
            Path copy = to.resolve(from.relativize(file));
            if (!isCopied(file, copy)) {
                copy(file, copy);
            }
            proven++;
            copied = proven;
            behind = --left;
        }
    }

    /** A frame is written anew when its place is known. */
    private static boolean isCopied(Path file, Path copy) throws IOException {
        return Files.exists(copy)
                && Files.size(copy) == Files.size(file)
                && Files.getLastModifiedTime(copy).compareTo(Files.getLastModifiedTime(file)) >= 0;
    }

    private List<Path> frames() throws IOException {
        try (Stream<Path> all = Files.walk(from)) {
            return all.filter(f -> f.toString().endsWith(".fits")).sorted().toList();
        }
    }

    private static void copy(Path file, Path copy) throws IOException {
        Files.createDirectories(copy.getParent());
        byte[][] sum = new byte[1][];
        AtomicFile.write(copy, out -> sum[0] = transfer(file, out));
        byte[] read;
        try (InputStream in = Files.newInputStream(copy)) {
            read = transfer(in, OutputStream.nullOutputStream());
        }
        if (!Arrays.equals(sum[0], read)) {
            Files.delete(copy);
            throw new IOException(copy.getFileName() + " did not come out as it went in");
        }
    }

    private static byte[] transfer(Path file, OutputStream out) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return transfer(in, out);
        }
    }

    private static byte[] transfer(InputStream in, OutputStream out) throws IOException {
        try (DigestInputStream summed = new DigestInputStream(in, MessageDigest.getInstance("SHA-256"))) {
            summed.transferTo(out);
            return summed.getMessageDigest().digest();
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** Copies what is left, for two minutes at most. */
    @Override
    public void close() {
        end(LAST_MILLIS);
    }

    /** Copies what it can in a moment: the night was stopped, and goes on with this when it goes on. */
    void letGo() {
        end(LET_GO_MILLIS);
    }

    private void end(long millis) {
        end();
        try {
            thread.join(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
