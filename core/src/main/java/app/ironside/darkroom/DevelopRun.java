package app.ironside.darkroom;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.colour.ColourFiles;
import app.ironside.colour.ColourPicture;
import app.ironside.colour.Combination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.library.FrameSet;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.solve.Wcs;
import app.ironside.stack.Crop;
import app.ironside.stack.NothingToStack;
import app.ironside.stack.StackMaps;
import app.ironside.stack.StackResult;
import app.ironside.stack.StackSettings;
import app.ironside.stack.Stacker;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;

/** One run of the darkroom: masters, then stacks of each target on one grid, then pictures. */
final class DevelopRun {
    private final Workers workers;
    private final StarSearch finder;
    private final Darkroom.Placer placer;
    private final Darkroom.Settings settings;
    private final Library library;
    private final Path out;
    private final Progress progress;
    private final Recipe recipe;
    private final MasterShelf masters;
    private final List<Development.StackFile> stacks = new ArrayList<>();
    private final List<Development.PictureFile> pictures = new ArrayList<>();
    private final List<String> failed = new ArrayList<>();
    private final ResultNames names = new ResultNames();

    /** Stacks of colour cameras. */
    private final Set<Path> inColour = new HashSet<>();

    /**
     * @param out the folder for results, which is there
     */
    DevelopRun(
            Workers workers,
            StarSearch finder,
            Darkroom.Placer placer,
            Darkroom.Settings settings,
            Library library,
            Path out,
            Progress progress) {
        this.workers = workers;
        this.finder = finder;
        this.placer = placer;
        this.settings = settings;
        this.library = library;
        this.out = out;
        this.progress = progress;
        this.recipe = Recipe.in(out);
        this.masters = new MasterShelf(workers, out, recipe, names, failed::add);
    }

    private boolean scalesDarks() {
        return settings.extras().contains(Darkroom.Extra.SCALED_DARKS);
    }

    Development run() {
        List<List<Match>> wanted = stacksWanted();
        for (int i = 0; i < wanted.size(); i++) {
            for (Match match : wanted.get(i)) {
                Progress step = Darkroom.part(progress, 0.4 * i / wanted.size(), 0.4 / wanted.size());
                masters.make(match, scalesDarks(), step);
            }
        }
        Map<String, Stacker.Grid> grids = new HashMap<>();
        for (int i = 0; i < wanted.size(); i++) {
            List<Match> one = wanted.get(i);
            Progress step = Darkroom.part(progress, 0.4 + 0.5 * i / wanted.size(), 0.5 / wanted.size());
            try {
                stack(one, grids, step);
            } catch (BadInputException | NothingToStack e) {
                failed.add(nameOf(one) + ": " + e.getMessage());
            }
        }
        if (settings.extras().contains(Darkroom.Extra.CROP)) {
            crop(grids, Darkroom.part(progress, 0.88, 0.02));
        }
        colour(Darkroom.part(progress, 0.9, 0.1));
        return new Development(
                masters.files(), stacks, pictures, library.matches(), library.gaps(), library.unusable(), failed);
    }

    /** One for each target, filter and sensor, those with most light first: the first gives its target's grid. */
    private List<List<Match>> stacksWanted() {
        Map<String, List<Match>> groups = new LinkedHashMap<>();
        for (Match match : library.matches()) {
            FrameSet s = match.lights();
            String key = String.join(
                    "\n",
                    s.target().orElse(""),
                    s.filter().orElse(""),
                    s.widthPx() + "x" + s.heightPx() + "x" + s.planes(),
                    s.bayer().orElse(""));
            groups.computeIfAbsent(key, k -> new ArrayList<>()).add(match);
        }
        List<List<Match>> wanted = new ArrayList<>(groups.values());
        wanted.sort(Comparator.comparing((List<Match> g) -> target(g)).thenComparingInt(g -> -frames(g)));
        return wanted;
    }

    private int frames(List<Match> group) {
        return group.stream().mapToInt(m -> m.lights().files().size()).sum();
    }

    private String target(List<Match> group) {
        return group.get(0).lights().target().orElse("unnamed");
    }

    private String filter(List<Match> group) {
        return group.get(0).lights().filter().orElse("");
    }

    private String nameOf(List<Match> group) {
        return (target(group) + " " + filter(group)).strip();
    }

    private void stack(List<Match> group, Map<String, Stacker.Grid> grids, Progress step) {
        Path folder = Darkroom.folder(out.resolve("stacks"));
        Path file = names.in(folder, nameOf(group), ".fits");
        List<Path> files =
                group.stream().flatMap(m -> m.lights().files().stream()).toList();
        List<String> how = new ArrayList<>(List.of(settings.rejection().word(), "" + settings.keepAll()));
        settings.drizzle().ifPresent(d -> how.add(d.words()));
        Path maps = file.resolveSibling(plain(file) + " maps.fits");
        boolean mapped = settings.extras().contains(Darkroom.Extra.MAPS);
        List<Path> inputs = new ArrayList<>(files);
        for (Match m : group) {
            Stream.of(
                            m.dark(),
                            scalesDarks() ? m.darkToScale() : Optional.<FrameSet>empty(),
                            m.bias(),
                            m.flat(),
                            m.flatDark())
                    .flatMap(Optional::stream)
                    .forEach(s -> {
                        inputs.addAll(s.files());
                        how.add(s.id());
                    });
        }
        files.forEach(f -> Optional.ofNullable(settings.byHand().get(f)).ifPresent(keep -> how.add(f + " " + keep)));
        Optional<Stacker.Grid> grid = Optional.ofNullable(grids.get(target(group)));
        grid.ifPresent(g -> how.add(g.name()));
        String digest = Recipe.digest(inputs, how);
        Optional<Recipe.StackFacts> before = recipe.stillTrue(file, digest)
                .filter(e -> !mapped || recipe.stillTrue(maps, digest).isPresent())
                .flatMap(Recipe.Entry::stack);
        if (before.isPresent()) {
            List<Frame> planes = FitsFiles.readPlanes(file);
            grids.computeIfAbsent(
                    target(group),
                    t -> new Stacker.Grid(before.get().reference(), finder.find(gridOf(before.get(), planes.get(0)))));
            stacks.add(told(group, file, before.get(), false, planes.size()));
            return;
        }
        List<Stacker.Light> lights = new ArrayList<>();
        for (Match m : group) {
            Calibrator calibrator = Calibrator.withPedestalFor(m.lights().files(), masters.of(m));
            m.lights().files().forEach(f -> lights.add(new Stacker.Light(f, calibrator)));
        }
        StackResult result = new Stacker(
                        finder,
                        workers,
                        new StackSettings(
                                settings.rejection(),
                                settings.keepAll(),
                                settings.byHand(),
                                settings.maxMemoryBytes(),
                                mapped,
                                settings.drizzle()))
                .stack(lights, grid, step);
        Optional<Wcs> place = placer.place(result.picture());
        List<Frame> planes = result.planes().stream()
                .map(p -> place.map(w -> Stacker.withWcs(p, w)).orElse(p))
                .toList();
        FitsFiles.writePlanes(file, planes);
        if (mapped) {
            StackMaps told = result.maps().orElseThrow();
            FitsFiles.writePlanes(maps, StackMaps.NAMES.size(), told::plane);
            recipe.made(maps, digest);
        }
        double seconds = planes.get(0).header().number("TOTALEXP").orElse(0);
        Recipe.StackFacts facts = new Recipe.StackFacts(
                files.size(),
                result.contributions().size(),
                seconds,
                result.noiseAdu(),
                result.gain().measured(),
                result.gain().possible(),
                result.reference().toString(),
                result.rejected().stream()
                        .map(r -> new Recipe.Left(r.file().toString(), r.reason()))
                        .toList(),
                result.footprints(),
                result.drizzled().map(d -> d.words(result.gain())));
        recipe.madeStack(file, digest, facts);
        grids.putIfAbsent(target(group), result.grid());
        masters.letGo();
        stacks.add(told(group, file, facts, true, planes.size()));
    }

    /** What tells the pixels that stacks of a target share: the stack itself, or where it has finer pixels the light it is aligned on. */
    private Frame gridOf(Recipe.StackFacts stack, Frame picture) {
        return settings.drizzle().isPresent() ? FrameFiles.read(Path.of(stack.reference())) : picture;
    }

    private Development.StackFile told(
            List<Match> group, Path file, Recipe.StackFacts facts, boolean made, int planes) {
        if (planes == 3) {
            inColour.add(file);
        }
        return new Development.StackFile(
                file,
                target(group),
                filter(group),
                (int) group.stream().map(m -> m.lights().night()).distinct().count(),
                facts.frames(),
                facts.kept(),
                facts.exposureS(),
                facts.noiseAdu(),
                facts.gain(),
                facts.possible(),
                Path.of(facts.reference()),
                facts.rejected().stream()
                        .map(r -> new StackResult.Rejected(Path.of(r.file()), r.reason()))
                        .toList(),
                made,
                facts.footprints(),
                facts.drizzled(),
                Optional.empty());
    }

    /** Of a colour camera's stack. */
    private void pictureOf(Development.StackFile stack) {
        Path file = stack.best();
        write(stack.target(), plain(stack.file()), "R,G,B", List.of(file), () -> {
            List<Frame> planes = FitsFiles.readPlanes(file);
            return new Combination(finder)
                    .combine(
                            new Combination.Input(file.toString(), planes.get(0)),
                            new Combination.Input(file.toString(), planes.get(1)),
                            new Combination.Input(file.toString(), planes.get(2)),
                            Optional.empty(),
                            List.of());
        });
    }

    private void write(String target, String name, String channels, List<Path> from, Supplier<ColourPicture> make) {
        Path folder = Darkroom.folder(out.resolve("pictures"));
        Path tiff = names.in(folder, name, ".tif");
        Path png = names.in(folder, name, ".png");
        String digest = Recipe.digest(from, List.of("picture", channels, ""));
        boolean there = recipe.stillTrue(tiff, digest).isPresent()
                && recipe.stillTrue(png, digest).isPresent();
        if (!there) {
            ColourPicture picture = make.get();
            ColourFiles.write(tiff, picture);
            recipe.made(tiff, digest);
            ColourFiles.write(png, picture);
            recipe.made(png, digest);
        }
        pictures.add(new Development.PictureFile(tiff, target, channels));
        pictures.add(new Development.PictureFile(png, target, channels));
    }

    /** One rectangle for all filters of a target. */
    private void crop(Map<String, Stacker.Grid> grids, Progress step) {
        Map<String, List<Development.StackFile>> targets = new LinkedHashMap<>();
        stacks.forEach(
                s -> targets.computeIfAbsent(s.target(), t -> new ArrayList<>()).add(s));
        targets.forEach((target, files) -> {
            step.step("cutting the edges of " + target, 0);
            StarField grid = grids.get(target).field();
            int width = settings.drizzle().map(d -> d.side(grid.width())).orElse(grid.width());
            int height = settings.drizzle().map(d -> d.side(grid.height())).orElse(grid.height());
            Crop.of(files.stream().map(Development.StackFile::footprints).toList(), width, height)
                    .ifPresentOrElse(
                            crop -> files.forEach(stack -> cropped(crop, stack)),
                            () -> failed.add("crop of " + target + ": there is no rectangle that its filters share"));
        });
    }

    private void cropped(Crop crop, Development.StackFile stack) {
        Path file = names.in(Darkroom.folder(out.resolve("cropped")), plain(stack.file()), ".fits");
        String digest = Recipe.digest(List.of(stack.file()), List.of("crop", crop.toString()));
        if (recipe.stillTrue(file, digest).isEmpty()) {
            FitsFiles.writePlanes(
                    file,
                    FitsFiles.readPlanes(stack.file()).stream().map(crop::of).toList());
            recipe.made(file, digest);
        }
        stacks.set(stacks.indexOf(stack), stack.withCropped(new Development.Cropped(file, crop)));
    }

    private static String plain(Path stack) {
        return stack.getFileName().toString().replaceFirst("\\.fits$", "");
    }

    private void colour(Progress step) {
        for (Development.StackFile stack : stacks) {
            if (!inColour.contains(stack.file())) {
                continue;
            }
            step.step("colour of " + stack.target(), 0.2);
            try {
                pictureOf(stack);
            } catch (BadInputException e) {
                failed.add("picture " + stack.target() + ": " + e.getMessage());
            }
        }
        List<String> targets =
                stacks.stream().map(Development.StackFile::target).distinct().toList();
        for (List<String> filters : settings.combinations()) {
            for (String target : targets) {
                step.step("combining " + String.join(", ", filters) + " of " + target, 0.5);
                try {
                    combined(target, filters);
                } catch (BadInputException e) {
                    failed.add("picture " + target + " " + String.join(",", filters) + ": " + e.getMessage());
                }
            }
        }
    }

    private void combined(String target, List<String> filters) {
        List<Path> files = new ArrayList<>();
        for (String filter : filters) {
            Optional<Development.StackFile> stack = stacks.stream()
                    .filter(s -> s.target().equals(target) && s.filter().equalsIgnoreCase(filter.strip()))
                    .findFirst();
            if (stack.isEmpty()) {
                failed.add("picture " + target + " " + String.join(",", filters) + ": there is no stack of filter "
                        + filter.strip());
                return;
            }
            files.add(stack.get().best());
        }
        int first = filters.size() == 4 ? 1 : 0;
        int last = files.size() - 1;
        String channels = String.join(",", filters.stream().map(String::strip).toList());
        write(target, target + " " + channels.replace(',', ' '), channels, files, () -> new Combination(finder)
                .combine(
                        input(files.get(first)),
                        input(files.get(first + 1)),
                        input(files.get(last)),
                        filters.size() == 4 ? Optional.of(input(files.get(0))) : Optional.empty(),
                        List.of()));
    }

    private Combination.Input input(Path file) {
        return new Combination.Input(file.toString(), FitsFiles.read(file));
    }
}
