package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.journal.Stage;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** While cloud covers a target: which of the others that are up has a clear sky. A frame of it proves it. */
final class Elsewhere {
    /** More looks take longer than most clouds. */
    private static final int MOST_LOOKS = 3;

    /** With this share of its light a sub is worth three quarters of a clear one's time and more. */
    private static final double CLEAR = 0.75;

    /** Long enough to be worth the way; then the one that was left comes first again. */
    private static final Duration STAY = Duration.ofMinutes(90);

    /** What cannot begin by then is not up yet. */
    private static final Duration AT_ONCE = Duration.ofMinutes(10);

    private static final int FEWEST_SUBS = 3;

    private final NightContext night;
    private final Flipping flipping;
    private final SubTaker subs;
    private final NightPlans plans;
    private final Map<String, NightPlanner.Outlook> outlooks = new HashMap<>();

    Elsewhere(NightContext night, Flipping flipping, SubTaker subs, NightPlans plans) {
        this.night = night;
        this.flipping = flipping;
        this.subs = subs;
        this.plans = plans;
    }

    /** Whether there is anything to go to, and a motor that goes there. */
    boolean isPossible(Leg leg, Set<String> not) {
        return night.kit().equipment().goTo() && others(leg, not).findAny().isPresent();
    }

    private Stream<TargetPlan> others(Leg leg, Set<String> not) {
        return night.program().mayTake().stream()
                .filter(t -> !t.name().equals(leg.target.name()) && !not.contains(t.name()))
                .filter(t -> t.position().separationDeg(leg.target.position()) >= Program.STAND_IN_APART_DEG);
    }

    /**
     * Points at what is up, the most light first, until one is clear. The telescope is left where it looked last.
     *
     * @param filter in the beam
     * @param not names of targets that are not taken again
     * @return what can be taken of it
     */
    Optional<PlannedBlock> look(Leg leg, String filter, Set<String> not) throws InterruptedException {
        Instant now = night.clock().now();
        Instant until = leg.until.isBefore(now.plus(STAY)) ? leg.until : now.plus(STAY);
        List<PlannedBlock> up = others(leg, not)
                .map(t -> t.at(Optional.empty(), Optional.of(local(until))))
                .distinct()
                .flatMap(t -> block(t, now).stream())
                .sorted(Comparator.comparingDouble(PlannedBlock::hoursOfLight)
                        .reversed()
                        .thenComparing(b -> -altitudeDeg(b.target())))
                .limit(MOST_LOOKS)
                .toList();
        for (PlannedBlock each : up) {
            if (isClear(each.target(), filter)) {
                return Optional.of(each);
            }
        }
        return Optional.empty();
    }

    private Optional<PlannedBlock> block(TargetPlan target, Instant now) {
        Program program = night.program();
        NightPlanner.Outlook outlook = outlooks.computeIfAbsent(
                program.date() + " " + program.minimumAltitudeDeg(),
                key -> NightPlanner.Outlook.of(night.site(), program.date(), program.minimumAltitudeDeg()));
        Map<String, Integer> taken = plans.taken(program).getOrDefault(target.name(), Map.of());
        return NightPlanner.plan(
                        night.site(),
                        night.kit(),
                        program.withTargets(program.date(), List.of(target)),
                        outlook,
                        new NightPlanner.Progress(now, List.of(taken)))
                .blocks()
                .stream()
                .findFirst()
                .filter(b -> b.subs() >= FEWEST_SUBS && b.span().from().isBefore(now.plus(AT_ONCE)));
    }

    private boolean isClear(TargetPlan target, String filter) throws InterruptedException {
        FilterGoal first = target.goals().get(0);
        Optional<Mount.PierSide> side = flipping.freeSide(target, first);
        if (side.isEmpty()) {
            return false;
        }
        try {
            night.devices().mount().slewTo(target.position(), side.get()).await(night.clock());
            return subs.isClear(target, filter, CLEAR);
        } catch (DeviceException e) {
            night.record().fault(Stage.RUN, e);
            return false;
        }
    }

    private double altitudeDeg(TargetPlan target) {
        return night.observer().observed(target.position(), night.clock().now()).altitudeDeg();
    }

    private LocalTime local(Instant time) {
        return time.atZone(night.site().zone()).toLocalTime();
    }
}
