package app.ironside.darkroom;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.CalibrationProof;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.judge.BlockNoise;
import app.ironside.library.FrameSet;
import app.ironside.library.HeadShelf;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.library.Told;
import app.ironside.solve.Registration;
import app.ironside.solve.Wcs;
import app.ironside.stack.Drizzle;
import app.ironside.stack.Rejection;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.nio.file.Path;
import java.util.ArrayList;
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
     * @param drizzle by drops onto a finer grid; empty for interpolation
     */
    public record Settings(
            Rejection rejection,
            boolean keepAll,
            Map<Path, Boolean> byHand,
            long maxMemoryBytes,
            List<List<String>> combinations,
            Set<Extra> extras,
            Optional<Drizzle> drizzle) {
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
            this(rejection, keepAll, byHand, maxMemoryBytes, combinations, Set.of(), Optional.empty());
        }
    }

    /** What can be made beside the stacks. */
    public enum Extra {
        /** All stacks of a target cut to one rectangle that nearly all their lights reach; pictures are made of these. */
        CROP,
        /** What every pixel of a stack is made of. */
        MAPS,
        /** Where no dark has the lights' exposure, one of another is scaled, as far as the frames themselves allow it. */
        SCALED_DARKS
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
        return new DevelopRun(workers, finder, placer, settings, library, results, progress).run();
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
                        List.of(),
                        Set.of(),
                        settings.drizzle()));
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
        shelf.make(match, settings.extras().contains(Extra.SCALED_DARKS), part(progress, 0, 0.7));
        if (!failed.isEmpty()) {
            throw new BadInputException(match.lights().id(), failed.get(0), "calibration frames that can be read");
        }
        List<Path> files = match.lights().files();
        Path light = files.get(files.size() / 2);
        progress.step("holding the masters against " + light.getFileName(), 0.8);
        Masters masters = shelf.of(match);
        Calibrator calibrator = Calibrator.withPedestalFor(List.of(light), masters);
        Frame raw = FrameFiles.read(light);
        Frame calibrated = calibrator.calibrated(raw);
        return new Proven(
                light, raw, calibrated, CalibrationProof.of(raw, masters, calibrated, calibrator.pedestalAdu()));
    }

    static Path folder(Path folder) {
        return Destination.folder(folder, "the folder for results");
    }

    static Progress part(Progress progress, double from, double share) {
        return (what, done) -> progress.report(what, from + share * done);
    }
}
