package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Pictures;
import app.ironside.image.Stretch;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveHints;
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
    private final NightSoFar before;

    StackStage(NightContext night, NightSoFar before) {
        this.night = night;
        this.before = before;
    }

    private record SetKey(String target, String filter, double seconds) {
        String name() {
            return FrameArchive.plainName(target) + "_" + FrameArchive.plainName(filter) + "_"
                    + FrameArchive.seconds(seconds);
        }
    }

    /** Returns whether every set with enough subs was stacked. */
    boolean run() {
        night.record().stage(Stage.STACK);
        int wanted = 0;
        int done = 0;
        for (Map.Entry<SetKey, List<Path>> set : sets().entrySet()) {
            if (set.getValue().size() < FEWEST_SUBS) {
                continue;
            }
            wanted++;
            try {
                if (!before.stacksDone().contains(set.getKey().name())) {
                    stack(set.getKey(), set.getValue());
                }
                done++;
            } catch (BadInputException e) {
                night.record().fault(Stage.STACK, e.getMessage());
            }
        }
        return night.record()
                .gate(new Gate(
                        Stage.STACK,
                        done,
                        wanted,
                        "stacks",
                        false,
                        done == wanted
                                ? done + " sets are stacked."
                                : (wanted - done) + " sets could not be stacked."));
    }

    /** Kept subs of a set that were read out in the middle only, as rehearsals do to save time; they cannot be stacked. */
    private long partial(SetKey set) {
        return SubVerdicts.applied(night.record().events()).stream()
                .filter(e -> e.kind() == EventKind.SUB && e.isTrue("keep") && !e.isTrue("full"))
                .filter(e -> e.text("target").orElse("").equals(set.target())
                        && e.text("filter").orElse("").equals(set.filter())
                        && e.number("seconds").orElse(0) == set.seconds())
                .count();
    }

    private Map<SetKey, List<Path>> sets() {
        Map<SetKey, List<Path>> sets = new LinkedHashMap<>();
        for (NightEvent event : SubVerdicts.applied(night.record().events())) {
            if (event.kind() == EventKind.SUB && event.isTrue("keep") && event.isTrue("full")) {
                SetKey key = new SetKey(
                        event.text("target").orElseThrow(),
                        event.text("filter").orElseThrow(),
                        event.number("seconds").orElseThrow());
                sets.computeIfAbsent(key, k -> new ArrayList<>())
                        .add(night.archive().resolve(event.text("file").orElseThrow()));
            }
        }
        return sets;
    }

    private void stack(SetKey set, List<Path> files) {
        night.record()
                .doing(Stage.STACK, "Stacking " + files.size() + " subs of " + set.name(), Duration.ofSeconds(20));
        Masters masters = new Masters(
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
        Map<String, Object> facts = facts(
                "set", set.name(),
                "target", set.target(),
                "filter", set.filter(),
                "file", night.archive().relative(fits),
                "frames", result.kept().size() + result.rejected().size(),
                "kept", result.kept().size(),
                "partial", partial(set),
                "seconds", set.seconds() * result.kept().size(),
                "noiseAdu", result.noiseAdu(),
                "subNoiseAdu", result.subNoiseAdu(),
                "snrGain", result.gain().measured(),
                "snrGainPossible", result.gain().possible(),
                "snrGainError", result.gain().error(),
                "hfrPx", stars.medianHalfFluxRadiusPx().orElse(0),
                "subHfrPx", result.medianSubHfrPx(),
                "rejectedPixelFraction", result.rejectedPixelFraction(),
                "reference", night.archive().relative(result.reference()));
        place.ifPresent(p -> facts.put("wcs", p.wcs().toKeywords()));
        night.record()
                .event(
                        EventKind.STACK,
                        String.format(
                                Locale.ROOT,
                                "%s: %d subs stacked, %.1f times better than one, of %.1f possible.%s",
                                set.name(),
                                result.kept().size(),
                                result.gain().measured(),
                                result.gain().possible(),
                                partial(set) > 0
                                        ? " " + partial(set)
                                                + " more were read out in the middle only and are left out."
                                        : ""),
                        facts);
    }

    private Optional<Frame> master(String name) {
        Path file = night.archive().derived("masters", name);
        return Files.exists(file) ? Optional.of(FitsFiles.read(file)) : Optional.empty();
    }

    private Optional<PlateSolution> place(SetKey set, StarField stars) {
        return night.program().targets().stream()
                .filter(t -> t.name().equals(set.target()))
                .findFirst()
                .map(t -> night.solver()
                        .solve(
                                stars,
                                SolveHints.NONE
                                        .withNear(t.position(), 1)
                                        .withScale(night.kit().arcsecPerPixel(), 0.02)))
                .filter(PlateSolution.class::isInstance)
                .map(PlateSolution.class::cast);
    }
}
