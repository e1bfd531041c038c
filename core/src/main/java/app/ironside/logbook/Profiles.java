package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.FileNames;
import app.ironside.JsonText;
import app.ironside.image.AtomicFile;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.stream.Stream;

/** Sites, kits and lessons as open JSON files in the data folder: the one truth that a night in use is compared with. */
public final class Profiles {
    private static final String LESSONS = "lessons.json";
    private static final String SET_ASIDE = "set-aside.json";

    private final Path folder;

    /**
     * @param folder the user's data
     */
    public Profiles(Path folder) {
        this.folder = folder;
    }

    /** Lessons as they stand in their file. */
    private record Lessons(List<String> lessons) {}

    private record SetAside(List<String> setAside) {}

    public List<Site> sites() {
        return all("sites", SiteFile::parse);
    }

    public List<Kit> kits() {
        return all("kits", KitFile::parse);
    }

    public Optional<Site> site(String name) {
        return sites().stream().filter(s -> s.name().equals(name)).findFirst();
    }

    public Optional<Kit> kit(String name) {
        return kits().stream().filter(k -> k.name().equals(name)).findFirst();
    }

    public void save(Site site) {
        write(folder.resolve("sites").resolve(fileName(site.name())), JsonText.write(SiteFile.tree(site)));
    }

    public void save(Kit kit) {
        write(folder.resolve("kits").resolve(fileName(kit.name())), JsonText.write(KitFile.tree(kit)));
    }

    /** In what a kit in use differs from the saved one of its name; empty if nothing, or if none is saved. */
    public List<JsonText.Difference> differences(Kit inUse) {
        return kit(inUse.name())
                .map(saved -> JsonText.differences(KitFile.tree(saved), KitFile.tree(inUse)))
                .orElse(List.of());
    }

    /** In what a site in use differs from the saved one of its name. */
    public List<JsonText.Difference> differences(Site inUse) {
        return site(inUse.name())
                .map(saved -> JsonText.differences(SiteFile.tree(saved), SiteFile.tree(inUse)))
                .orElse(List.of());
    }

    /** Steps that bad nights taught. */
    public List<String> lessons() {
        Path file = folder.resolve(LESSONS);
        if (!Files.exists(file)) {
            return List.of();
        }
        return JsonText.read(text(file), Lessons.class, LESSONS, "{\"lessons\": [\"…\"]}")
                .lessons();
    }

    public void saveLessons(List<String> lessons) {
        write(folder.resolve(LESSONS), JsonText.write(JsonText.tree(new Lessons(lessons))));
    }

    /** Catalogue numbers of targets that are done with or not wanted, and so are not proposed. */
    public Set<String> setAside() {
        Path file = folder.resolve(SET_ASIDE);
        if (!Files.exists(file)) {
            return Set.of();
        }
        return Set.copyOf(JsonText.read(text(file), SetAside.class, SET_ASIDE, "{\"setAside\": [\"NGC 891\"]}")
                .setAside());
    }

    public void saveSetAside(Set<String> ids) {
        write(
                folder.resolve(SET_ASIDE),
                JsonText.write(JsonText.tree(new SetAside(ids.stream().sorted().toList()))));
    }

    private static String fileName(String name) {
        String plain = FileNames.plain(name.toLowerCase(java.util.Locale.ROOT), "-");
        if (plain.replace("-", "").isEmpty()) {
            throw new BadInputException("name", "\"" + name + "\" has no letter in it", "a name");
        }
        return plain + ".json";
    }

    private <T> List<T> all(String kind, BiFunction<String, String, T> parse) {
        Path place = folder.resolve(kind);
        if (!Files.isDirectory(place)) {
            return List.of();
        }
        List<T> found = new ArrayList<>();
        try (Stream<Path> files = Files.list(place)) {
            for (Path file :
                    files.filter(f -> f.toString().endsWith(".json")).sorted().toList()) {
                found.add(parse.apply(text(file), kind + "/" + file.getFileName()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(place + " cannot be read", e);
        }
        return found;
    }

    private static String text(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(file + " cannot be read", e);
        }
    }

    private static void write(Path file, String text) {
        try {
            Files.createDirectories(file.getParent());
        } catch (IOException e) {
            throw new UncheckedIOException(file.getParent() + " cannot be made", e);
        }
        AtomicFile.write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }
}
