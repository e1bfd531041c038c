package app.ironside.darkroom;

import app.ironside.BadInputException;
import app.ironside.JsonText;
import app.ironside.TextFiles;
import app.ironside.image.AtomicFile;
import app.ironside.stack.Footprint;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What was made of what, beside the results: by it a second run knows what is still true. */
final class Recipe {
    private static final String NAME = "darkroom.json";

    /** Counted up whenever the same frames and settings give something else than before. */
    private static final String WAY = "2";

    /**
     * A result.
     *
     * @param file relative to the folder
     * @param made from: a digest of the inputs' paths, sizes and times and of the settings
     */
    record Entry(String file, String made, Optional<StackFacts> stack, Optional<MasterFacts> master) {}

    /**
     * What a master showed of itself when it was made.
     *
     * @param sound whether nothing speaks against it
     */
    record MasterFacts(boolean sound, List<String> sentences) {
        MasterFacts {
            sentences = List.copyOf(sentences);
        }
    }

    /** What cannot be read from a stack's header. */
    record StackFacts(
            int frames,
            int kept,
            double exposureS,
            double noiseAdu,
            double gain,
            double possible,
            String reference,
            List<Left> rejected,
            List<Footprint> footprints,
            Optional<String> drizzled) {
        StackFacts {
            rejected = List.copyOf(rejected);
            footprints = List.copyOf(footprints);
        }
    }

    /** A light that did not enter. */
    record Left(String file, String reason) {}

    /** The file as it is written. */
    record Document(List<Entry> made) {
        Document {
            made = List.copyOf(made);
        }
    }

    private final Path folder;
    private final Map<String, Entry> entries = new LinkedHashMap<>();

    private Recipe(Path folder) {
        this.folder = folder;
    }

    /** That of a folder; a damaged one counts as none, and everything is made anew. */
    static Recipe in(Path folder) {
        Recipe recipe = new Recipe(folder);
        Path file = folder.resolve(NAME);
        if (Files.exists(file)) {
            try {
                JsonText.read(TextFiles.read(file, NAME), Document.class, file.toString(), "a recipe of the darkroom")
                        .made()
                        .forEach(e -> recipe.entries.put(e.file(), e));
            } catch (BadInputException e) {
                recipe.entries.clear();
            }
        }
        return recipe;
    }

    /** What a result is known by. */
    static String digest(List<Path> inputs, List<String> settings) {
        MessageDigest digest;
        try {
            digest = MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
        digest.update(WAY.getBytes(StandardCharsets.UTF_8));
        for (Path input : inputs) {
            try {
                BasicFileAttributes facts = Files.readAttributes(input, BasicFileAttributes.class);
                digest.update((input + "\n" + facts.size() + "\n" + facts.lastModifiedTime() + "\n")
                        .getBytes(StandardCharsets.UTF_8));
            } catch (IOException e) {
                throw new UncheckedIOException(input + " cannot be read (" + e.getMessage() + ")", e);
            }
        }
        settings.forEach(s -> digest.update((s + "\n").getBytes(StandardCharsets.UTF_8)));
        return HexFormat.of().formatHex(digest.digest());
    }

    /** The entry of a result that was made of just this and is still there. */
    Optional<Entry> stillTrue(Path file, String digest) {
        return Optional.ofNullable(entries.get(relative(file)))
                .filter(e -> e.made().equals(digest) && Files.exists(file));
    }

    /** Notes a result, at once: a run that is ended keeps what it has. */
    void made(Path file, String digest) {
        note(new Entry(relative(file), digest, Optional.empty(), Optional.empty()));
    }

    void madeStack(Path file, String digest, StackFacts facts) {
        note(new Entry(relative(file), digest, Optional.of(facts), Optional.empty()));
    }

    void madeMaster(Path file, String digest, MasterFacts facts) {
        note(new Entry(relative(file), digest, Optional.empty(), Optional.of(facts)));
    }

    private void note(Entry entry) {
        entries.put(entry.file(), entry);
        String text = JsonText.write(JsonText.tree(new Document(List.copyOf(entries.values()))));
        AtomicFile.write(folder.resolve(NAME), out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }

    private String relative(Path file) {
        return folder.relativize(file).toString().replace('\\', '/');
    }
}
