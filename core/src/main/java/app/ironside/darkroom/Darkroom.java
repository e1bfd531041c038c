package app.ironside.darkroom;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.CalibrationProof;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.colour.ColourFiles;
import app.ironside.colour.ColourPicture;
import app.ironside.colour.Combination;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.judge.BlockNoise;
import app.ironside.library.FrameSet;
import app.ironside.library.HeadShelf;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.library.Told;
import app.ironside.solve.Registration;
import app.ironside.solve.Wcs;
import app.ironside.stack.Crop;
import app.ironside.stack.NothingToStack;
import app.ironside.stack.Rejection;
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
import java.util.function.Predicate;

/**
 * Develops folders of raw frames: masters of every calibration set that fits some lights, one stack for each target and filter over all its
 * nights, all filters of a target on one grid, colour pictures of those that are asked for. What a file or a set is wrong in is told and the
 * rest is done.
 */
public final class Darkroom {
    /**
     * How to develop.
     *
     * @param byHand lights that a person keeps or leaves out
     * @param combinations filters of each colour picture: three for red, green and blue; four with the luminance first; two, of which the
     *     second is green and blue
     * @param extras what is made beside the stacks
     */
    public record Settings(
            Rejection rejection,
            boolean keepAll,
            Map<Path, Boolean> byHand,
            long maxMemoryBytes,
            List<List<String>> combinations,
            Set<Extra> extras) {
        public Settings {
            byHand = Map.copyOf(byHand);
            combinations = List.copyOf(combinations);
            extras = Set.copyOf(extras);
        }

        /** Stacks and pictures only. */
        public Settings(
                Rejection rejection,
                boolean keepAll,
                Map<Path, Boolean> byHand,
                long maxMemoryBytes,
                List<List<String>> combinations) {
            this(rejection, keepAll, byHand, maxMemoryBytes, combinations, Set.of());
        }
    }

    /** What can be made beside the stacks. */
    public enum Extra {
        /** All stacks of a target cut to one rectangle that nearly all their lights reach; pictures are made of these. */
        CROP,
        /** What every pixel of a stack is made of. */
        MAPS
    }

    /** Finds where a picture lies in the sky. */
    @FunctionalInterface
    public interface Placer {
        Optional<Wcs> place(Frame picture);
    }

    private final Workers workers;
    private final StarSearch finder;
    private final Placer placer;
    private final Settings settings;

    public Darkroom(Workers workers, StarSearch finder, Placer placer, Settings settings) {
        this.workers = workers;
        this.finder = finder;
        this.placer = placer;
        this.settings = settings;
    }

    /**
     * Reads and develops folders.
     *
     * @param out for results; what lies there is no input
     * @param told what a person said beside the headers
     * @param heads that were read before
     * @throws BadInputException if a folder is not there or {@code out} takes no files
     */
    public Development develop(List<Path> folders, Path out, Told told, HeadShelf heads, Progress progress) {
        Path results = folder(out).toAbsolutePath().normalize();
        Library library =
                Library.read(folders, path -> path.startsWith(results), told, heads, workers, part(progress, 0, 0.05));
        return develop(library, results, part(progress, 0.05, 0.95));
    }

    /** Develops what is known already. */
    public Development develop(Library library, Path out, Progress progress) {
        Path results = folder(out).toAbsolutePath().normalize();
        return new Run(library, results, progress).run();
    }

    /**
     * Stacks the lights of one target and filter twice: by the verdicts, and all of them. Each goes to a folder of its own.
     *
     * @throws BadInputException if one of them cannot be made, with the reason
     */
    public StacksCompared compare(Library library, FrameSet of, Path out, Progress progress) {
        Library only = only(library, m -> isAlike(m.lights(), of));
        Path results = folder(out);
        return held(
                new StacksCompared.Words("By the verdicts", "All", "Keeping all"),
                one(with(false).develop(only, results.resolve("by-verdict"), part(progress, 0, 0.48)), of),
                one(with(true).develop(only, results.resolve("all"), part(progress, 0.48, 0.48)), of),
                progress);
    }

    /**
     * Stacks the lights of one target and filter twice: without one of their nights, and with it. Each goes to a folder of its own.
     *
     * @param night lights of the night that is weighed
     * @throws BadInputException if there is no other night, or one of the stacks cannot be made, with the reason
     */
    public StacksCompared weigh(Library library, FrameSet night, Path out, Progress progress) {
        Library others = only(
                library, m -> isAlike(m.lights(), night) && !m.lights().night().equals(night.night()));
        if (others.matches().isEmpty() || night.night().isEmpty()) {
            throw new BadInputException(
                    night.id(), "there is no other night of it to compare with", "lights of two nights or more");
        }
        Path results = folder(out);
        String date = night.night().get().toString();
        return held(
                new StacksCompared.Words("Without " + date, "With it", "With it the stack"),
                one(with(false).develop(others, results.resolve("without " + date), part(progress, 0, 0.48)), night),
                one(
                        with(false)
                                .develop(
                                        only(library, m -> isAlike(m.lights(), night)),
                                        results.resolve("with all nights"),
                                        part(progress, 0.48, 0.48)),
                        night),
                progress);
    }

    private static boolean isAlike(FrameSet one, FrameSet other) {
        return one.target().equals(other.target()) && one.filter().equals(other.filter());
    }

    private static Library only(Library library, Predicate<Match> which) {
        return new Library(
                library.frames(),
                library.unusable(),
                library.sets(),
                library.matches().stream().filter(which).toList(),
                library.gaps());
    }

    private StacksCompared held(
            StacksCompared.Words words, Development.StackFile less, Development.StackFile more, Progress progress) {
        progress.step("measuring both", 0.97);
        List<Frame> planes = FitsFiles.readPlanes(less.file());
        Frame left = planes.get(0);
        Frame right = FitsFiles.readPlanes(more.file()).get(0);
        StarField inLeft = finder.find(left);
        StarField inRight = finder.find(right);
        int block = planes.size() > 1 ? BlockNoise.MOSAIC_BLOCK_PX : BlockNoise.BLOCK_PX;
        double quieter = BlockNoise.of(left, inLeft, block).noiseAdu()
                / BlockNoise.of(right, inRight, block).noiseAdu();
        return new StacksCompared(
                words,
                less,
                more,
                left,
                right,
                inLeft.medianFwhmPx().orElse(Double.NaN),
                inRight.medianFwhmPx().orElse(Double.NaN),
                Registration.of(inLeft, inRight)
                        .map(r -> 2.5 * Math.log10(r.fluxRatio() * quieter))
                        .orElse(Double.NaN));
    }

    private Darkroom with(boolean keepAll) {
        return new Darkroom(
                workers,
                finder,
                placer,
                new Settings(
                        settings.rejection(),
                        keepAll,
                        keepAll ? Map.of() : settings.byHand(),
                        settings.maxMemoryBytes(),
                        List.of()));
    }

    private static Development.StackFile one(Development made, FrameSet of) {
        if (made.stacks().isEmpty()) {
            throw new BadInputException(
                    of.id(),
                    made.failed().isEmpty() ? "gives no stack" : made.failed().get(0),
                    "lights of one field that can be aligned");
        }
        return made.stacks().get(0);
    }

    /**
     * What masters make of a light.
     *
     * @param light the one in the middle of its set
     */
    public record Proven(Path light, Frame raw, Frame calibrated, CalibrationProof proof) {}

    /**
     * Holds the masters that were found for some lights against the one in the middle of them. They are made if they are not there.
     *
     * @throws BadInputException if a master or the light cannot be read, or there is nothing to calibrate with
     */
    public Proven prove(Match match, Path out, Progress progress) {
        if (match.dark().isEmpty() && match.bias().isEmpty() && match.flat().isEmpty()) {
            throw new BadInputException(
                    match.lights().id(),
                    "has neither dark, bias nor flat that fits",
                    "calibration frames in these folders");
        }
        Path results = folder(out).toAbsolutePath().normalize();
        List<String> failed = new ArrayList<>();
        MasterShelf shelf = new MasterShelf(workers, results, Recipe.in(results), new ResultNames(), failed::add);
        shelf.make(match, part(progress, 0, 0.7));
        if (!failed.isEmpty()) {
            throw new BadInputException(match.lights().id(), failed.get(0), "calibration frames that can be read");
        }
        List<Path> files = match.lights().files();
        Path light = files.get(files.size() / 2);
        progress.step("holding the masters against " + light.getFileName(), 0.8);
        Masters masters = shelf.of(match);
        Calibrator calibrator = Calibrator.withPedestalFor(List.of(light), masters);
        Frame raw = FitsFiles.read(light);
        Frame calibrated = calibrator.calibrated(raw);
        return new Proven(
                light, raw, calibrated, CalibrationProof.of(raw, masters, calibrated, calibrator.pedestalAdu()));
    }

    private static Path folder(Path folder) {
        return Destination.folder(folder, "the folder for results");
    }

    private static Progress part(Progress progress, double from, double share) {
        return (what, done) -> progress.report(what, from + share * done);
    }

    /** One run. */
    private final class Run {
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

        Run(Library library, Path out, Progress progress) {
            this.library = library;
            this.out = out;
            this.progress = progress;
            this.recipe = Recipe.in(out);
            this.masters = new MasterShelf(workers, out, recipe, names, failed::add);
        }

        Development run() {
            List<List<Match>> wanted = stacksWanted();
            for (int i = 0; i < wanted.size(); i++) {
                for (Match match : wanted.get(i)) {
                    Progress step = part(progress, 0.4 * i / wanted.size(), 0.4 / wanted.size());
                    masters.make(match, step);
                }
            }
            Map<String, Stacker.Grid> grids = new HashMap<>();
            for (int i = 0; i < wanted.size(); i++) {
                List<Match> one = wanted.get(i);
                Progress step = part(progress, 0.4 + 0.5 * i / wanted.size(), 0.5 / wanted.size());
                try {
                    stack(one, grids, step);
                } catch (BadInputException | NothingToStack e) {
                    failed.add(nameOf(one) + ": " + e.getMessage());
                }
            }
            if (settings.extras().contains(Extra.CROP)) {
                crop(grids, part(progress, 0.88, 0.02));
            }
            colour(part(progress, 0.9, 0.1));
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
            Path folder = folder(out.resolve("stacks"));
            Path file = names.in(folder, nameOf(group), ".fits");
            List<Path> files =
                    group.stream().flatMap(m -> m.lights().files().stream()).toList();
            List<String> how = new ArrayList<>(List.of(settings.rejection().word(), "" + settings.keepAll()));
            Path maps = file.resolveSibling(plain(file) + " maps.fits");
            boolean mapped = settings.extras().contains(Extra.MAPS);
            List<Path> inputs = new ArrayList<>(files);
            for (Match m : group) {
                java.util.stream.Stream.of(m.dark(), m.bias(), m.flat(), m.flatDark())
                        .flatMap(Optional::stream)
                        .forEach(s -> {
                            inputs.addAll(s.files());
                            how.add(s.id());
                        });
            }
            files.forEach(
                    f -> Optional.ofNullable(settings.byHand().get(f)).ifPresent(keep -> how.add(f + " " + keep)));
            Optional<Stacker.Grid> grid = Optional.ofNullable(grids.get(target(group)));
            grid.ifPresent(g -> how.add(g.name()));
            String digest = Recipe.digest(inputs, how);
            Optional<Recipe.StackFacts> before = recipe.stillTrue(file, digest)
                    .filter(e -> !mapped || recipe.stillTrue(maps, digest).isPresent())
                    .flatMap(Recipe.Entry::stack);
            if (before.isPresent()) {
                List<Frame> planes = FitsFiles.readPlanes(file);
                grids.computeIfAbsent(
                        target(group), t -> new Stacker.Grid(before.get().reference(), finder.find(planes.get(0))));
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
                                    mapped))
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
                    result.footprints());
            recipe.madeStack(file, digest, facts);
            grids.putIfAbsent(target(group), result.grid());
            masters.letGo();
            stacks.add(told(group, file, facts, true, planes.size()));
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
                    Optional.empty());
        }

        /** Of a colour camera's stack. */
        private void pictureOf(Development.StackFile stack) {
            Path file = stack.best();
            write(stack.target(), plain(stack.file()), "R,G,B", List.of(file), "", () -> {
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

        private void write(
                String target,
                String name,
                String channels,
                List<Path> from,
                String how,
                java.util.function.Supplier<ColourPicture> make) {
            Path folder = folder(out.resolve("pictures"));
            Path tiff = names.in(folder, name, ".tif");
            Path png = names.in(folder, name, ".png");
            String digest = Recipe.digest(from, List.of("picture", channels, how));
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
            stacks.forEach(s ->
                    targets.computeIfAbsent(s.target(), t -> new ArrayList<>()).add(s));
            targets.forEach((target, files) -> {
                step.step("cutting the edges of " + target, 0);
                StarField grid = grids.get(target).field();
                Crop.of(files.stream().map(Development.StackFile::footprints).toList(), grid.width(), grid.height())
                        .ifPresentOrElse(
                                crop -> files.forEach(stack -> cropped(crop, stack)),
                                () -> failed.add(
                                        "crop of " + target + ": there is no rectangle that its filters share"));
            });
        }

        private void cropped(Crop crop, Development.StackFile stack) {
            Path file = names.in(folder(out.resolve("cropped")), plain(stack.file()), ".fits");
            String digest = Recipe.digest(List.of(stack.file()), List.of("crop", crop.toString()));
            if (recipe.stillTrue(file, digest).isEmpty()) {
                FitsFiles.writePlanes(
                        file,
                        FitsFiles.readPlanes(stack.file()).stream()
                                .map(crop::of)
                                .toList());
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
            List<String> targets = stacks.stream()
                    .map(Development.StackFile::target)
                    .distinct()
                    .toList();
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
            String channels =
                    String.join(",", filters.stream().map(String::strip).toList());
            write(target, target + " " + channels.replace(',', ' '), channels, files, "", () -> new Combination(finder)
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
}
