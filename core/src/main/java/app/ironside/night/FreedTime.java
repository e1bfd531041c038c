package app.ironside.night;

import app.ironside.kit.Kit;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Site;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What is done with time that nobody planned for: a target that ended early, was skipped or given up leaves it, and the target that gathers most
 * light in it takes it.
 */
final class FreedTime {
    /** Less is not worth a slew, a focus run and a settling. */
    private static final Duration WORTH_IT = Duration.ofMinutes(12);

    private final Site site;
    private final Kit kit;
    private final Program program;
    private final NightPlanner.Outlook outlook;

    FreedTime(Site site, Kit kit, Program program) {
        this.site = site;
        this.kit = kit;
        this.program = program;
        this.outlook = NightPlanner.Outlook.of(site, program.date(), program.minimumAltitudeDeg());
    }

    /**
     * The blocks to come with the free time before them filled; empty if it is too short or nothing is up.
     *
     * @param left as they were planned
     * @param taken subs by target and filter
     * @param givenUp names of targets that are not taken again
     */
    Optional<List<PlannedBlock>> filled(
            List<PlannedBlock> left, Instant now, Map<String, Map<String, Integer>> taken, Set<String> givenUp) {
        Instant until = left.stream().findFirst().map(b -> b.span().from()).orElseGet(this::lightsOut);
        if (Duration.between(now, until).compareTo(WORTH_IT) < 0) {
            return Optional.empty();
        }
        return best(program.targets(), left, now, until, taken, givenUp)
                .or(() -> best(program.standIns(), left, now, until, taken, givenUp));
    }

    private Optional<List<PlannedBlock>> best(
            List<TargetPlan> candidates,
            List<PlannedBlock> left,
            Instant now,
            Instant until,
            Map<String, Map<String, Integer>> taken,
            Set<String> givenUp) {
        List<PlannedBlock> best = left;
        double most = light(left);
        for (TargetPlan candidate : candidates) {
            boolean next = !left.isEmpty() && left.get(0).target().name().equals(candidate.name());
            boolean later =
                    !next && left.stream().anyMatch(b -> b.target().name().equals(candidate.name()));
            if (givenUp.contains(candidate.name()) || later) {
                continue;
            }
            List<TargetPlan> targets = new ArrayList<>();
            Instant end = next ? left.get(0).span().until() : until;
            targets.add(candidate.at(Optional.empty(), Optional.of(local(end))));
            left.stream().skip(next ? 1 : 0).map(PlannedBlock::target).forEach(targets::add);
            NightPlan plan = NightPlanner.plan(
                    site,
                    kit,
                    program.withTargets(program.date(), targets),
                    outlook,
                    new NightPlanner.Progress(
                            now,
                            targets.stream()
                                    .map(t -> taken.getOrDefault(t.name(), Map.of()))
                                    .toList()));
            if (light(plan.blocks()) > most + candidate.longestSubSeconds() / 3600) {
                most = light(plan.blocks());
                best = plan.blocks();
            }
        }
        return best == left ? Optional.empty() : Optional.of(best);
    }

    /** When a person wants the lights to end: at the latest time that they gave a target, or with the night. */
    private Instant lightsOut() {
        Instant night = outlook.times().night().until();
        if (program.targets().stream().anyMatch(t -> t.until().isEmpty())) {
            return night;
        }
        return program.targets().stream()
                .map(t -> at(t.until().orElseThrow()))
                .filter(t -> t.isBefore(night))
                .max(Instant::compareTo)
                .orElse(night);
    }

    private Instant at(LocalTime time) {
        LocalDate day = time.isBefore(LocalTime.NOON) ? program.date().plusDays(1) : program.date();
        return day.atTime(time).atZone(site.zone()).toInstant();
    }

    private static double light(List<PlannedBlock> blocks) {
        return blocks.stream().mapToDouble(PlannedBlock::hoursOfLight).sum();
    }

    private LocalTime local(Instant time) {
        ZoneId zone = site.zone();
        return time.atZone(zone).toLocalTime();
    }
}
