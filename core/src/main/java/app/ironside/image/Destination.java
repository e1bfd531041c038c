package app.ironside.image;

import app.ironside.BadInputException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Where results will be written. Asked before the work, so that nobody waits for what cannot be kept, and so that nothing is ever
 * written over what was read: by no other name, no link and no letter's case.
 */
public final class Destination {
    private Destination() {}

    /**
     * Checks a file that will be written.
     *
     * @param asked who named it, for messages: {@code option --out}
     * @param inputs what the work reads
     * @return the same path
     * @throws BadInputException if it is one of the inputs, a folder, or somewhere that cannot be written to
     */
    public static Path file(Path out, String asked, Collection<Path> inputs) {
        if (out.getFileName() == null || out.getFileName().toString().isBlank()) {
            throw new BadInputException(asked, "\"" + out + "\" names no file", "the path of a file");
        }
        if (Files.isDirectory(out)) {
            throw new BadInputException(asked, out + " is a folder", "the path of a file");
        }
        mustTakeFiles(folderOf(out), asked);
        for (Path input : inputs) {
            if (isSame(out, input)) {
                throw new BadInputException(
                        asked, out + " is one of the inputs (" + input + ")", "another name: inputs stay as they are");
            }
        }
        return out;
    }

    /**
     * Checks a folder for results, and makes it if it is missing.
     *
     * @throws BadInputException if it cannot be made or written to
     */
    public static Path folder(Path folder, String asked) {
        if (folder.toString().isBlank()) {
            throw new BadInputException(asked, "names no folder", "the path of a folder");
        }
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new BadInputException(
                    asked, folder + " cannot be made (" + reason(e) + ")", "a folder that may be written to", e);
        }
        mustTakeFiles(folder, asked);
        return folder;
    }

    /**
     * A name in one folder for what is made of each of some frames, as FITS: their own, or with their folders' names before it where two
     * have one name.
     *
     * @return input to result, in the order given
     * @throws BadInputException if an input is given twice, or a result would be one of the inputs
     */
    public static Map<Path, Path> oneEach(Path folder, List<Path> inputs, String asked) {
        mustDiffer(inputs);
        Map<String, Integer> count = new HashMap<>();
        inputs.forEach(i -> count.merge(key(fitsName(i)), 1, Integer::sum));
        Map<Path, Path> results = new LinkedHashMap<>();
        Map<String, Path> taken = new HashMap<>();
        for (Path input : inputs) {
            String name = fitsName(input).toString();
            Path parent = input.toAbsolutePath().normalize().getParent();
            boolean alone = count.get(key(fitsName(input))) == 1;
            while ((!alone || taken.containsKey(key(Path.of(name))))
                    && parent != null
                    && parent.getFileName() != null) {
                name = parent.getFileName() + "_" + name;
                parent = parent.getParent();
                alone = true;
            }
            if (taken.putIfAbsent(key(Path.of(name)), input) != null) {
                throw new BadInputException(
                        input.toString(),
                        "would be written to the same " + name + " as " + taken.get(key(Path.of(name))),
                        "inputs of different names");
            }
            results.put(input, file(folder.resolve(name), asked, inputs));
        }
        return results;
    }

    /** The name of a frame as that of a plain FITS file: a packed one is unpacked, and a TIFF one becomes another file. */
    private static Path fitsName(Path input) {
        String name = input.getFileName().toString();
        String plain = name.replaceFirst("(?i)(\\.(fits?|fts))\\.(gz|fz)$", "$1");
        return Path.of(FrameFiles.isTiff(input) ? plain.replaceFirst("(?i)\\.tiff?$", ".fits") : plain);
    }

    /**
     * Checks that no input is there twice, under whatever name: it would count twice.
     *
     * @throws BadInputException naming the second
     */
    public static void mustDiffer(List<Path> inputs) {
        Map<Object, Path> seen = new HashMap<>();
        for (Path input : inputs) {
            Path before = seen.put(identity(input), input);
            if (before != null) {
                throw new BadInputException(
                        input.toString(),
                        before.equals(input) ? "is given twice" : "is the same file as " + before,
                        "each file once");
            }
        }
    }

    private static Object identity(Path file) {
        try {
            Path real = file.toRealPath();
            Object key = Files.readAttributes(real, java.nio.file.attribute.BasicFileAttributes.class)
                    .fileKey();
            return key == null ? real : key;
        } catch (IOException e) {
            return file.toAbsolutePath().normalize(); // whoever reads it will say that it is not there
        }
    }

    private static String key(Path name) {
        return name.toString().toLowerCase(Locale.ROOT);
    }

    private static Path folderOf(Path file) {
        try {
            Path parent = file.toAbsolutePath().getParent();
            return parent == null ? file.toAbsolutePath() : parent;
        } catch (InvalidPathException e) {
            throw new BadInputException(file.toString(), "is no path", "the path of a file", e);
        }
    }

    private static void mustTakeFiles(Path folder, String asked) {
        if (!Files.isDirectory(folder)) {
            throw new BadInputException(
                    asked, "there is no folder " + folder, "a path below one that is there; make it first");
        }
        try {
            // Permissions do not tell of a medium that is write-protected, nor of one that is full: a byte does.
            Path probe = Files.createTempFile(folder, ".ironside-", AtomicFile.UNFINISHED);
            try {
                Files.write(probe, new byte[] {1});
            } finally {
                Files.deleteIfExists(probe);
            }
        } catch (IOException e) {
            throw new BadInputException(
                    asked,
                    folder + " cannot be written to (" + reason(e) + ")",
                    "a folder with room that may be written to",
                    e);
        }
    }

    private static String reason(IOException e) {
        return e instanceof java.nio.file.AccessDeniedException
                ? "access denied"
                : e instanceof java.nio.file.FileAlreadyExistsException
                        ? "a file of that name is there"
                        : String.valueOf(e.getMessage());
    }

    private static boolean isSame(Path a, Path b) {
        try {
            return Files.exists(a) && Files.exists(b) && Files.isSameFile(a, b);
        } catch (IOException e) {
            throw new BadInputException(a.toString(), "cannot be compared with " + b, "files that can be read", e);
        }
    }
}
