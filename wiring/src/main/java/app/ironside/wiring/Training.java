package app.ironside.wiring;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.device.DeviceException;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.plan.Calibrations;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.Reactions;
import app.ironside.plan.TargetPlan;
import app.ironside.sim.FaultTruth;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.trainer.Debrief;
import app.ironside.trainer.Exercise;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Exercises as nights: with a person's own kit, site and target, under a sky in which something goes wrong, and looked back on. */
public final class Training {
    /** From the beginning of a block to its first sub: pointing, focus, guiding. */
    private static final Duration TO_FIRST_SUB = Duration.ofMinutes(12);

    private static final double LONGEST_SUB = 120;

    /** An axis that is aligned already: an exercise is about what comes afterwards. */
    private static final double POLAR_ERROR_ARCMIN = 0.3;

    private final Wiring wiring;

    public Training(Wiring wiring) {
        this.wiring = wiring;
    }

    /**
     * The night of an exercise.
     *
     * @param base whose kit, site, date and longest block are taken
     * @param seed of its sky
     * @throws BadInputException if the plan has no target that is up
     */
    public static NightFile night(NightFile base, Exercise exercise, long seed) {
        PlannedBlock block = NightPlanner.plan(base.site(), base.kit(), base.program()).blocks().stream()
                .max(Comparator.comparing((PlannedBlock b) -> length(b.span())))
                .orElseThrow(() -> new BadInputException(
                        "the plan", "has no target that is up", "one, added at Plan, for the exercise to be about"));
        ZoneId zone = base.site().zone();
        Instant from = block.span().from();
        Instant until = from.plus(TO_FIRST_SUB).plus(Exercise.LENGTH);
        TargetPlan target = block.target()
                .withGoals(block.target().goals().stream()
                        .map(g -> g.withSeconds(Math.min(LONGEST_SUB, g.subSeconds()))
                                .withSubs(Optional.empty())
                                .withGathered(Optional.empty()))
                        .toList())
                .at(
                        Optional.of(clock(from, zone)),
                        Optional.of(clock(
                                until.isBefore(block.span().until())
                                        ? until
                                        : block.span().until(),
                                zone)))
                .withMostSubs(Optional.empty());
        Program program = base.program()
                .withTargets(base.program().date(), List.of(target))
                .withCalibrations(
                        new Calibrations(0, 0, 0, base.program().calibrations().flatLevel()))
                .withWholeFrames()
                .withReactions(Reactions.NONE);
        SimSettings sky = base.withSeed(seed)
                .observatoryOver(SimSettings.DEFAULT, SimSettings.class)
                .withClouds(List.of())
                .withPolarError(POLAR_ERROR_ARCMIN, POLAR_ERROR_ARCMIN)
                .withFaults(exercise.faultsFrom(clock(from.plus(TO_FIRST_SUB), zone)));
        return base.withProgram(program).withObservatory(sky).asTraining(new NightFile.Training(exercise.id(), seed));
    }

    private static Duration length(Interval span) {
        return Duration.between(span.from(), span.until());
    }

    private static LocalTime clock(Instant time, ZoneId zone) {
        return time.atZone(zone).toLocalTime().withNano(0);
    }

    /**
     * Looks back on an exercise: the same sky is gone through three times more, without pixels.
     *
     * @param night as it was begun
     * @param named what the person says it was
     * @param yours how it went
     */
    public Debrief debrief(
            NightFile night, Exercise exercise, Set<FaultKind> named, NightState yours, Progress progress)
            throws InterruptedException {
        SimSettings sky = night.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        progress.step("The night that nobody looked at", 0);
        NightState untouched = run(night);
        progress.step("The night by the usual policy", 0.35);
        NightState byPolicy =
                run(night.withoutTraining().withProgram(night.program().withReactions(Reactions.USUAL)));
        progress.step("The night in which nothing goes wrong", 0.7);
        NightState faultless = run(night.withObservatory(sky.withFaults(List.of())));
        return Debrief.of(
                exercise,
                happened(night, sky.faults()),
                named,
                yours,
                new Debrief.Nights(untouched, byPolicy, faultless),
                night.site().zone());
    }

    private static List<Debrief.Happened> happened(NightFile night, List<RehearsedFault> faults) {
        Instant sunset =
                NightTimes.of(night.site(), night.program().date()).sunset().orElseThrow();
        List<FaultTruth> truth = FaultTruth.of(faults, night.site().zone(), sunset);
        return java.util.stream.IntStream.range(0, faults.size())
                .mapToObj(i -> new Debrief.Happened(
                        faults.get(i),
                        truth.get(i).from(),
                        truth.get(i).until().equals(truth.get(i).from())
                                ? Instant.MAX
                                : truth.get(i).until()))
                .sorted(Comparator.comparing(Debrief.Happened::from))
                .toList();
    }

    private NightState run(NightFile night) throws InterruptedException {
        SwiftNight swift =
                wiring.swift(night, new JournalInMemory(), SteppedClock::new, NightWatcher.NONE, new NightControl());
        try {
            swift.engine().run();
        } catch (DeviceException | UncheckedIOException e) {
            // A night that could not go on has what it has.
            return swift.state();
        }
        return swift.state();
    }
}
