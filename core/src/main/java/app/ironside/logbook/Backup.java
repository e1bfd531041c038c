package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.Printable;
import app.ironside.Progress;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.image.FrameFiles;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.EOFException;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.jdbi.v3.core.Jdbi;

/**
 * The data of a person as one file: logbook, profiles, wishes, the stars to go by, and the frames if they are wanted. A ZIP archive whose last
 * entry lists every file with its SHA-256; it is taken back whole and proven, or not at all.
 */
public final class Backup {
    private static final String MANIFEST = "ironside-backup.json";
    private static final int FORMAT = 1;
    private static final String EXPECTED = "a backup that Ironside made, whole";
    private static final ObjectMapper JSON = new ObjectMapper();

    /** What belongs to a running process or is made anew. */
    private static final List<String> LEFT_OUT =
            List.of(FolderLock.FILE, "show-window", ".part", "-wal", "-shm", "-journal");

    /**
     * What was written or taken back.
     *
     * @param bytes of all files together, unpacked
     */
    public record Told(int files, long bytes) {}

    private Backup() {}

    /**
     * Writes a folder of data, also while its logbook is in use: of that a consistent copy is taken.
     *
     * @param frames whether pictures of the nights go along
     * @throws BadInputException if there is no logbook in the folder, or the place takes no file
     */
    public static Told write(Path folder, Path zip, boolean frames, Progress progress) {
        Path logbook = folder.resolve(Logbook.FILE);
        if (!Files.isRegularFile(logbook)) {
            throw new BadInputException(folder.toString(), "holds no logbook", "the folder of Ironside's data");
        }
        Destination.file(zip, "the backup", List.of(logbook));
        try {
            Path copy = Files.createTempDirectory("ironside-backup");
            try {
                Path consistent = copy.resolve(Logbook.FILE);
                Jdbi.create("jdbc:sqlite:" + logbook).useHandle(h -> h.execute("vacuum into ?", consistent.toString()));
                List<Path> files = files(folder, zip, frames);
                Packing packing = new Packing();
                AtomicFile.write(zip, out -> packing.pack(folder, files, consistent, out, progress));
                return packing.told;
            } finally {
                delete(copy);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " could not be read: " + e.getMessage(), e);
        }
    }

    private static List<Path> files(Path folder, Path zip, boolean frames) throws IOException {
        Path own = zip.toAbsolutePath().normalize();
        try (Stream<Path> all = Files.walk(folder)) {
            return all.filter(Files::isRegularFile)
                    .filter(f -> !f.getFileName().toString().equals(Logbook.FILE))
                    .filter(f -> LEFT_OUT.stream().noneMatch(f.getFileName().toString()::endsWith))
                    .filter(f -> !f.toAbsolutePath().normalize().equals(own))
                    .filter(f -> frames || !FrameFiles.isFrame(f.getFileName().toString()))
                    .sorted()
                    .toList();
        }
    }

    /** What goes into the archive, with what is told of it. */
    private static final class Packing {
        private final ObjectNode manifest = JSON.createObjectNode();
        private Told told = new Told(0, 0);

        void pack(Path folder, List<Path> files, Path logbook, OutputStream out, Progress progress) throws IOException {
            ZipOutputStream zip = new ZipOutputStream(out);
            ObjectNode listed = manifest.put("format", FORMAT).putObject("files");
            add(zip, listed, Logbook.FILE, logbook);
            for (int i = 0; i < files.size(); i++) {
                progress.step("packing " + files.get(i).getFileName(), (i + 1.0) / (files.size() + 1));
                add(zip, listed, folder.relativize(files.get(i)).toString().replace('\\', '/'), files.get(i));
            }
            zip.putNextEntry(new ZipEntry(MANIFEST));
            zip.write(JSON.writeValueAsBytes(manifest));
            zip.closeEntry();
            zip.finish();
        }

        private void add(ZipOutputStream zip, ObjectNode listed, String name, Path file) throws IOException {
            zip.putNextEntry(new ZipEntry(name));
            MessageDigest digest = sha256();
            DigestOutputStream through = new DigestOutputStream(zip, digest);
            long bytes = Files.copy(file, through);
            zip.closeEntry();
            listed.putObject(name).put("bytes", bytes).put("sha256", hex(digest));
            told = new Told(told.files() + 1, told.bytes() + bytes);
        }
    }

    /**
     * Takes a backup back into a folder that is not there or empty. What does not agree with its list is refused, and nothing is left behind.
     *
     * @throws BadInputException naming the backup or the folder
     */
    public static Told restore(Path zip, Path folder, Progress progress) {
        Path into = folder.toAbsolutePath().normalize();
        if (!Files.isRegularFile(zip)) {
            throw new BadInputException(zip.toString(), "there is no such file", EXPECTED);
        }
        Path half = into.resolveSibling(into.getFileName() + ".restoring");
        try {
            if (Files.exists(into) && !isEmpty(into)) {
                throw new BadInputException(
                        into.toString(),
                        "holds data already",
                        "a folder that is empty or not there; set the other one aside first");
            }
            delete(half);
            Files.createDirectories(half);
            Told told = unpack(zip, half, progress);
            Files.deleteIfExists(into);
            Files.move(half, into, StandardCopyOption.ATOMIC_MOVE);
            return told;
        } catch (ZipException | EOFException e) {
            throw new BadInputException(zip.toString(), "is no whole archive (" + e.getMessage() + ")", EXPECTED, e);
        } catch (IOException e) {
            throw new UncheckedIOException(into + " could not be filled from " + zip + ": " + e.getMessage(), e);
        } finally {
            delete(half);
        }
    }

    private static Told unpack(Path zip, Path half, Progress progress) throws IOException {
        Map<String, String> found = new HashMap<>();
        long bytes = 0;
        JsonNode manifest = null;
        try (ZipInputStream in = new ZipInputStream(Files.newInputStream(zip))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                progress.step("taking back " + Printable.line(entry.getName()), 0.5);
                if (entry.getName().equals(MANIFEST)) {
                    manifest = JSON.readTree(in.readAllBytes());
                    continue;
                }
                Path file = half.resolve(entry.getName()).normalize();
                if (!file.startsWith(half) || file.equals(half) || entry.isDirectory()) {
                    throw new BadInputException(
                            zip.toString(), "leads out of its folder by " + Printable.line(entry.getName()), EXPECTED);
                }
                Files.createDirectories(file.getParent());
                MessageDigest digest = sha256();
                try (OutputStream out = new DigestOutputStream(Files.newOutputStream(file), digest)) {
                    bytes += in.transferTo(out);
                }
                found.put(entry.getName(), hex(digest));
            }
        }
        mustAgree(zip, manifest, found);
        return new Told(found.size(), bytes);
    }

    private static void mustAgree(Path zip, JsonNode manifest, Map<String, String> found) {
        if (manifest == null
                || manifest.path("format").asInt() < 1
                || !manifest.path("files").isObject()) {
            throw new BadInputException(
                    zip.toString(), "has no list of its files: it is no backup, or cut short", EXPECTED);
        }
        if (manifest.path("format").asInt() > FORMAT) {
            throw new BadInputException(
                    zip.toString(), "was made by a later Ironside", "this backup with that Ironside");
        }
        Map<String, String> listed = new HashMap<>();
        manifest.path("files")
                .fields()
                .forEachRemaining(
                        f -> listed.put(f.getKey(), f.getValue().path("sha256").asText()));
        listed.forEach((name, digest) -> {
            if (!digest.equals(found.get(name))) {
                throw new BadInputException(
                        zip.toString(),
                        (found.containsKey(name) ? "holds another " : "lacks ") + Printable.line(name)
                                + " than it lists",
                        EXPECTED);
            }
        });
        if (found.size() != listed.size()) {
            throw new BadInputException(zip.toString(), "holds files that it does not list", EXPECTED);
        }
    }

    private static boolean isEmpty(Path folder) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.findAny().isEmpty();
        }
    }

    private static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    private static String hex(MessageDigest digest) {
        return HexFormat.of().formatHex(digest.digest());
    }

    /** Clears a folder away, if it is there. */
    static void delete(Path folder) {
        if (!Files.exists(folder)) {
            return;
        }
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(file);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " could not be cleared away", e);
        }
    }
}
