package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Pictures;
import app.ironside.image.Stretch;
import app.ironside.journal.Gate;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveHints;
import app.ironside.stack.NothingToStack;
import app.ironside.stack.StackResult;
import app.ironside.stack.StackSettings;
import app.ironside.stack.Stacker;
import app.ironside.star.StarField;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Stacks every set of the night: subs that share target, filter and exposure. */
final class StackStage {
    private static final int FEWEST_SUBS = 3;

    private final NightContext night;

    private final Conduct conduct;

    StackStage(NightContext night, Conduct conduct) {
        this.night = night;
        this.conduct = conduct;
    }

    private record SetKey(String target, String filter, double seconds) {
        static SetKey of(SubTaken sub) {
            return new SetKey(sub.target(), sub.filter(), sub.seconds());
        }

        String name() {
            return FrameArchive.plainName(target) + "_" + FrameArchive.plainName(filter) + "_"
                    + FrameArchive.seconds(seconds);
        }
    }

    /** Returns whether every set with enough subs was stacked. */
    boolean run() throws InterruptedException {
        night.record().stage(Stage.STACK);
        int wanted = 0;
        int done = 0;
        tellOfMissing();
        for (Map.Entry<SetKey, List<Path>> set : sets().entrySet()) {
            if (set.getValue().size() < FEWEST_SUBS) {
                continue;
            }
            wanted++;
            conduct.announce("after this stack", Duration.ofSeconds(20));
            conduct.safePoint(Stage.STACK);
            try {
                if (!isDone(set.getKey())) {
                    stack(set.getKey(), set.getValue());
                }
                done++;
            } catch (BadInputException | NothingToStack e) {
                night.record().fault(Stage.STACK, e.getMessage());
            }
        }
        return night.record()
                .gate(
                        Gate.atLeast(Stage.STACK, done, wanted, "stacks"),
                        done == wanted ? done + " sets are stacked." : (wanted - done) + " sets could not be stacked.");
    }

    /** Whether a set's stack is finished: of a night that was stopped, it is not made again. */
    private boolean isDone(SetKey set) {
        return night.record().state().all(StackMade.class).stream()
                .anyMatch(s -> s.set().equals(set.name()));
    }

    /** Whoever moves frames away while a night runs is told what that costs. */
    private void tellOfMissing() {
        List<String> missing = night.record().state().subs().stream()
                .filter(s -> s.kept() && s.full())
                .map(SubTaken::file)
                .filter(f -> !Files.exists(night.archive().resolve(f)))
                .toList();
        if (!missing.isEmpty()) {
            night.record()
                    .fault(
                            Stage.STACK,
                            missing.size()
                                    + " kept subs are not on the disk and are left out of the stacks, the first of them "
                                    + missing.get(0) + ".");
        }
    }

    /** Kept subs of a set that were read out in the middle only, as rehearsals do to save time; they cannot be stacked. */
    private int partial(SetKey set) {
        return (int) night.record().state().subs().stream()
                .filter(s -> s.kept() && !s.full() && SetKey.of(s).equals(set))
                .count();
    }

    private Map<SetKey, List<Path>> sets() {
        Map<SetKey, List<Path>> sets = new LinkedHashMap<>();
        for (SubTaken sub : night.record().state().subs()) {
            Path file = night.archive().resolve(sub.file());
            if (sub.kept() && sub.full() && Files.exists(file)) {
                sets.computeIfAbsent(SetKey.of(sub), k -> new ArrayList<>()).add(file);
            }
        }
        return sets;
    }

    private void stack(SetKey set, List<Path> files) {
        night.record()
                .doing(Stage.STACK, "Stacking " + files.size() + " subs of " + set.name(), Duration.ofSeconds(20));
        Masters masters = Masters.of(
                master("bias.fits"),
                master(CalibrateStage.darkMaster(set.seconds())),
                master(CalibrateStage.flatMaster(set.filter())));
        Calibrator calibrator = Calibrator.withPedestalFor(files, masters);
        StackResult result = new Stacker(night.shapeFinder(), night.workers(), StackSettings.DEFAULT)
                .stack(files, calibrator, Progress.NONE);
        StarField stars = night.finder().find(result.picture());
        Optional<PlateSolution> place = place(set, stars);
        Frame picture =
                place.map(p -> Stacker.withWcs(result.picture(), p.wcs())).orElse(result.picture());
        Path fits = night.archive().derived("stacks", set.name() + ".fits");
        Stretch stretch = Stretch.automatic(picture);
        FitsFiles.write(fits, picture, FitsFiles.Encoding.FLOAT_32);
        Pictures.writeTiff(night.archive().derived("stacks", set.name() + ".tif"), picture, stretch);
        Pictures.writePng(night.archive().derived("stacks", set.name() + ".png"), picture, stretch);
        night.record().frame(Stage.STACK, set.name(), picture, Optional.of(stars));
        int partial = partial(set);
        night.record()
                .tell(new StackMade(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "%s: %d subs stacked, %.1f times better than one, of %.1f possible.%s",
                                set.name(),
                                result.kept().size(),
                                result.gain().measured(),
                                result.gain().possible(),
                                partial > 0
                                        ? " " + partial + " more were read out in the middle only and are left out."
                                        : ""),
                        set.name(),
                        set.target(),
                        set.filter(),
                        night.archive().relative(fits),
                        result.kept().size() + result.rejected().size(),
                        result.kept().size(),
                        partial,
                        Duration.ofMillis(
                                Math.round(1000 * set.seconds() * result.kept().size())),
                        result.noiseAdu(),
                        result.subNoiseAdu(),
                        Optional.of(new StackMade.Gain(
                                result.gain().measured(),
                                result.gain().possible(),
                                result.gain().error())),
                        stars.medianHalfFluxRadiusPx(),
                        result.medianSubHfrPx(),
                        result.rejectedPixelFraction(),
                        night.archive().relative(result.reference()),
                        place.map(PlateSolution::wcs)));
    }

    private Optional<Frame> master(String name) {
        Path file = night.archive().derived("masters", name);
        return Files.exists(file) ? Optional.of(FitsFiles.read(file)) : Optional.empty();
    }

    private Optional<PlateSolution> place(SetKey set, StarField stars) {
        return night.program().mayTake().stream()
                .filter(t -> t.name().equals(set.target()))
                .findFirst()
                .map(t -> night.solver()
                        .solve(
                                stars,
                                SolveHints.NONE.withNear(t.position(), 1).withScale(night.scaleArcsecPerPixel(), 0.02)))
                .filter(PlateSolution.class::isInstance)
                .map(PlateSolution.class::cast);
    }
}
