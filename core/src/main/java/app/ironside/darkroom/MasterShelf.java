package app.ironside.darkroom;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.DarkScaling;
import app.ironside.calibrate.MasterBuilder;
import app.ironside.calibrate.MasterKind;
import app.ironside.calibrate.MasterPixels;
import app.ironside.calibrate.MasterVerdict;
import app.ironside.calibrate.Masters;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.library.FrameKind;
import app.ironside.library.FrameSet;
import app.ironside.library.Match;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/** The masters of a folder of results: each is made once, and again only when what it is made of has changed. */
final class MasterShelf {
    private final Workers workers;
    private final Path out;
    private final Recipe recipe;
    private final ResultNames names;
    private final Consumer<String> failed;
    private final Map<String, Development.MasterFile> files = new LinkedHashMap<>();
    private final Map<String, MasterPixels> pixels = new HashMap<>();

    /**
     * @param failed told of a master that cannot be made
     */
    MasterShelf(Workers workers, Path out, Recipe recipe, ResultNames names, Consumer<String> failed) {
        this.workers = workers;
        this.out = out;
        this.recipe = recipe;
        this.names = names;
        this.failed = failed;
    }

    /** Those made or found, as they came. */
    List<Development.MasterFile> files() {
        return List.copyOf(files.values());
    }

    /**
     * Makes what some lights need.
     *
     * @param scaling whether a dark of another exposure may be scaled
     */
    void make(Match match, boolean scaling, Progress step) {
        match.dark().ifPresent(s -> make(s, Optional.empty(), step));
        match.bias().ifPresent(s -> make(s, Optional.empty(), step));
        match.flatDark().ifPresent(s -> make(s, Optional.empty(), step));
        match.flat().ifPresent(s -> make(s, match.flatDark().or(match::bias), step));
        if (scaling && match.darkToScale().isPresent()) {
            scale(match, step);
        }
    }

    /** Makes a dark of the lights' exposure; whether it may be used the frames themselves tell. */
    private void scale(Match match, Progress step) {
        FrameSet from = match.darkToScale().orElseThrow();
        FrameSet to = ofExposure(from, match.lights());
        if (files.containsKey(to.id())) {
            return;
        }
        make(from, Optional.empty(), step);
        Optional<MasterPixels> dark = pixels(from);
        Optional<MasterPixels> bias = match.bias().flatMap(this::pixels);
        if (dark.isEmpty() || bias.isEmpty()) {
            return;
        }
        List<Path> lights = match.lights().files();
        Path light = lights.get(lights.size() / 2);
        step.step("scaling " + from.id() + " for " + light.getFileName(), 0.9);
        Path file = names.in(Destination.folder(out.resolve("masters"), "the folder for results"), to.id(), ".fits");
        double factor = match.darkScale().orElseThrow();
        List<Path> inputs = new ArrayList<>(from.files());
        inputs.addAll(match.bias().orElseThrow().files());
        inputs.add(light);
        String digest = Recipe.digest(inputs, List.of("scaled", Double.toString(factor)));
        Optional<Recipe.MasterFacts> known = recipe.stillTrue(file, digest).flatMap(Recipe.Entry::master);
        Recipe.MasterFacts facts;
        try {
            facts = known.orElseGet(() -> {
                DarkScaling scaling = DarkScaling.judged(dark.get(), bias.get(), light, factor);
                FitsFiles.write(file, scaling.dark(dark.get(), bias.get()), FitsFiles.Encoding.FLOAT_32);
                Recipe.MasterFacts found = new Recipe.MasterFacts(scaling.isSound(), scaling.sentences());
                recipe.madeMaster(file, digest, found);
                return found;
            });
        } catch (BadInputException e) {
            failed.accept("master " + to.id() + ": " + e.getMessage());
            return;
        }
        files.put(to.id(), new Development.MasterFile(file, to, known.isEmpty(), facts.sound(), facts.sentences()));
    }

    private static FrameSet ofExposure(FrameSet dark, FrameSet lights) {
        return dark.ofExposure(
                "scaled " + dark.id() + " for " + lights.id(),
                lights.exposureS().orElseThrow());
    }

    /** A scaled dark that was made and does not speak against itself. */
    private Optional<MasterPixels> scaled(Match match) {
        return match.darkToScale()
                .map(d -> ofExposure(d, match.lights()))
                .filter(s -> Optional.ofNullable(files.get(s.id()))
                        .filter(Development.MasterFile::sound)
                        .isPresent())
                .flatMap(this::pixels);
    }

    /** What fits some lights, of what could be made. */
    Masters of(Match match) {
        return new Masters(
                match.bias().flatMap(this::pixels),
                match.dark().flatMap(this::pixels).or(() -> scaled(match)),
                match.flat().flatMap(this::pixels));
    }

    /** Pixels are read again when they are asked for. */
    void letGo() {
        pixels.clear();
    }

    /** Makes a set's master, or takes the one that is there. */
    private void make(FrameSet set, Optional<FrameSet> under, Progress step) {
        if (set.kind().isMaster() || files.containsKey(set.id())) {
            return;
        }
        MasterKind kind = kind(set.kind());
        Path file = names.in(Destination.folder(out.resolve("masters"), "the folder for results"), set.id(), ".fits");
        List<Path> inputs = new ArrayList<>(set.files());
        under.ifPresent(u -> inputs.addAll(u.files()));
        String digest = Recipe.digest(inputs, List.of("master", kind.word()));
        Optional<Recipe.MasterFacts> known = recipe.stillTrue(file, digest).flatMap(Recipe.Entry::master);
        boolean made = known.isEmpty();
        Recipe.MasterFacts facts;
        try {
            facts = known.orElseGet(() -> made(kind, set, under, file, digest, step));
        } catch (BadInputException e) {
            failed.accept("master " + set.id() + ": " + e.getMessage());
            return;
        }
        files.put(set.id(), new Development.MasterFile(file, set, made, facts.sound(), facts.sentences()));
    }

    private Recipe.MasterFacts made(
            MasterKind kind, FrameSet set, Optional<FrameSet> under, Path file, String digest, Progress step) {
        Optional<MasterPixels> subtract = kind == MasterKind.FLAT ? under.flatMap(this::pixels) : Optional.empty();
        Frame frame = new MasterBuilder(workers).build(kind, set.files(), subtract, step);
        FitsFiles.write(file, frame, FitsFiles.Encoding.FLOAT_32);
        MasterVerdict verdict = MasterVerdict.of(kind, set.files(), frame, subtract);
        Recipe.MasterFacts facts = new Recipe.MasterFacts(verdict.isSound(), verdict.sentences());
        recipe.madeMaster(file, digest, facts);
        return facts;
    }

    private static MasterKind kind(FrameKind kind) {
        return switch (kind) {
            case BIAS -> MasterKind.BIAS;
            case FLAT -> MasterKind.FLAT;
            case FLAT_DARK -> MasterKind.FLAT_DARK;
            default -> MasterKind.DARK;
        };
    }

    /** A set's master: made here, or brought along. */
    private Optional<MasterPixels> pixels(FrameSet set) {
        Path file = Optional.ofNullable(files.get(set.id()))
                .map(Development.MasterFile::file)
                .orElse(set.kind().isMaster() ? set.files().get(0) : null);
        return Optional.ofNullable(file).map(f -> pixels.computeIfAbsent(set.id(), k -> MasterPixels.in(f)));
    }
}
