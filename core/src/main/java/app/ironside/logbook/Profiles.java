package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.FileNames;
import app.ironside.JsonText;
import app.ironside.Printable;
import app.ironside.TextFiles;
import app.ironside.image.AtomicFile;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.plan.Wish;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * Sites, kits and lessons as open JSON files in the data folder: the one truth that a night in use is compared with. What was read is kept
 * until {@link #reload}, so that asking costs nothing.
 */
public final class Profiles {
    private static final String KITS = "kits";
    private static final String SITES = "sites";
    private static final String LESSONS = "lessons.json";
    private static final String SET_ASIDE = "set-aside.json";
    private static final String WISHES = "wishes.json";

    private final Path folder;
    private Optional<Shelf<Kit>> kits = Optional.empty();
    private Optional<Shelf<Site>> sites = Optional.empty();
    private Optional<List<String>> lessons = Optional.empty();

    /**
     * @param folder the user's data
     */
    public Profiles(Path folder) {
        this.folder = folder;
    }

    /** Lessons as they stand in their file. */
    private record Lessons(List<String> lessons) {}

    private record Wishes(List<Wish> wishes) {}

    private record SetAside(List<String> setAside) {}

    /**
     * A profile with its file.
     *
     * @param name the profile's own, which the file's need not be
     */
    private record Kept<T>(Path file, String name, T profile) {}

    /** What is kept, and for each file that is none in one line why. */
    private record Shelf<T>(List<Kept<T>> kept, List<String> broken) {}

    /** Reads the files anew, which somebody may have changed by hand. */
    public synchronized void reload() {
        kits = Optional.empty();
        sites = Optional.empty();
        lessons = Optional.empty();
        kitShelf();
        siteShelf();
        lessons();
    }

    private synchronized Shelf<Kit> kitShelf() {
        kits = kits.or(() -> Optional.of(shelf(KITS, KitFile::parse, Kit::name)));
        return kits.get();
    }

    private synchronized Shelf<Site> siteShelf() {
        sites = sites.or(() -> Optional.of(shelf(SITES, SiteFile::parse, Site::name)));
        return sites.get();
    }

    public List<Site> sites() {
        return profiles(siteShelf());
    }

    public List<Kit> kits() {
        return profiles(kitShelf());
    }

    /** Files among the profiles that cannot be read, each with what is wrong; they hide no other. */
    public List<String> broken() {
        List<String> all = new ArrayList<>(kitShelf().broken());
        all.addAll(siteShelf().broken());
        return all;
    }

    private static <T> List<T> profiles(Shelf<T> shelf) {
        return shelf.kept().stream().map(Kept::profile).toList();
    }

    public Optional<Site> site(String name) {
        return sites().stream().filter(s -> s.name().equals(name)).findFirst();
    }

    public Optional<Kit> kit(String name) {
        return kits().stream().filter(k -> k.name().equals(name)).findFirst();
    }

    public synchronized void save(Site site) {
        sites = Optional.empty(); // whoever changed a file by hand meanwhile keeps it
        write(file(SITES, siteShelf(), site.name()), JsonText.write(SiteFile.tree(site)));
        sites = Optional.empty();
        siteShelf();
    }

    public synchronized void save(Kit kit) {
        kits = Optional.empty(); // whoever changed a file by hand meanwhile keeps it
        write(file(KITS, kitShelf(), kit.name()), JsonText.write(KitFile.tree(kit)));
        kits = Optional.empty();
        kitShelf();
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
    public synchronized List<String> lessons() {
        lessons = lessons.or(() -> Optional.of(readLessons()));
        return lessons.get();
    }

    private List<String> readLessons() {
        Path file = folder.resolve(LESSONS);
        if (!Files.exists(file)) {
            return List.of();
        }
        return JsonText.read(text(file), Lessons.class, LESSONS, "{\"lessons\": [\"…\"]}")
                .lessons();
    }

    public synchronized void saveLessons(List<String> next) {
        write(folder.resolve(LESSONS), JsonText.write(JsonText.tree(new Lessons(next))));
        lessons = Optional.of(List.copyOf(next));
    }

    /** What is wanted of targets, kept to be used again, by name. */
    public List<Wish> wishes() {
        Path file = folder.resolve(WISHES);
        return Files.exists(file)
                ? JsonText.read(text(file), Wishes.class, WISHES, "wishes as Ironside writes them")
                        .wishes()
                : List.of();
    }

    /** Keeps a wish; one of the same name gives way. */
    public synchronized void saveWish(Wish wish) {
        List<Wish> next = new ArrayList<>(wishes());
        next.removeIf(w -> w.name().equals(wish.name()));
        next.add(wish);
        next.sort(Comparator.comparing(Wish::name));
        write(folder.resolve(WISHES), JsonText.write(JsonText.tree(new Wishes(next))));
    }

    public synchronized void removeWish(String name) {
        List<Wish> next = wishes().stream().filter(w -> !w.name().equals(name)).toList();
        write(folder.resolve(WISHES), JsonText.write(JsonText.tree(new Wishes(next))));
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

    /** The file that a profile of this name has, or a new one: two names that look alike to a file system get two files. */
    private <T> Path file(String kind, Shelf<T> shelf, String name) {
        String plain = FileNames.plain(name.toLowerCase(Locale.ROOT), "-");
        if (plain.replace("-", "").isEmpty()) {
            throw new BadInputException("name", "\"" + Printable.line(name) + "\" has no letter in it", "a name");
        }
        Optional<Path> own = shelf.kept().stream()
                .filter(k -> k.name().equals(name))
                .map(Kept::file)
                .findFirst();
        Path place = folder.resolve(kind);
        Path file = place.resolve(plain + ".json");
        for (int number = 2; own.isEmpty() && Files.exists(file); number++) {
            file = place.resolve(plain + "-" + number + ".json");
        }
        return own.orElse(file);
    }

    private <T> Shelf<T> shelf(String kind, BiFunction<String, String, T> parse, Function<T, String> name) {
        Path place = folder.resolve(kind);
        List<Kept<T>> kept = new ArrayList<>();
        List<String> broken = new ArrayList<>();
        if (!Files.isDirectory(place)) {
            return new Shelf<>(kept, broken);
        }
        List<Path> files;
        try (Stream<Path> there = Files.list(place)) {
            files = there.filter(f -> f.toString().endsWith(".json")).sorted().toList();
        } catch (IOException e) {
            throw new UncheckedIOException(place + " cannot be read", e);
        }
        for (Path file : files) {
            try {
                T profile = parse.apply(TextFiles.read(file, "a profile"), kind + "/" + file.getFileName());
                kept.add(new Kept<>(file, name.apply(profile), profile));
            } catch (BadInputException e) {
                broken.add(e.getMessage());
            }
        }
        return new Shelf<>(kept, broken);
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
