package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.Command;
import app.ironside.journal.Gate;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightStarted;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Stage;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** What is to be taken, as the night goes: planned at its start, after a stop, after a changed program, and where time is left over. */
final class NightPlans {
    private final NightContext night;
    private final NightRecord record;

    NightPlans(NightContext night) {
        this.night = night;
        this.record = night.record();
    }

    NightPlan started() {
        NightPlan plan = NightPlanner.plan(night.site(), night.kit(), night.program());
        record.tell(new NightStarted(
                record.now(),
                "Night of " + night.program().date() + " at " + night.site().name() + " with "
                        + night.kit().name() + ".",
                night.site().name(),
                night.kit().name(),
                night.program().date(),
                night.provenance()));
        record.stage(Stage.PLAN);
        tellBlocks(plan);
        record.gate(
                Gate.atLeast(Stage.PLAN, plan.subs(), 1, "subs"),
                plan.subs() > 0
                        ? String.format(
                                Locale.ROOT,
                                "%.1f h of darkness, %d subs fit.",
                                plan.times().darkHours(),
                                plan.subs())
                        : "No target is up in the dark tonight.");
        if (plan.subs() == 0) {
            throw new BadInputException(
                    "program",
                    "no target is up in the dark on " + night.program().date(),
                    "another target, date, skyline or minimum altitude");
        }
        return plan;
    }

    /** What is left: the time that the stop took is given back to what was not reached. */
    NightPlan resumed() {
        NightPlan plan = left();
        record.tell(new NightResumed(
                record.now(),
                plan.subs() > 0
                        ? "The night goes on after a stop: " + plan.subs() + " subs still fit."
                        : "The night goes on after a stop; no more subs fit.",
                plan.subs()));
        return plan;
    }

    /** What is left of the night by a changed program. */
    NightPlan revised(Command.Replan replan) {
        NightPlan plan = left();
        record.tell(new ProgramRevised(
                record.now(),
                "The program was changed: " + plan.subs() + " subs still fit.",
                replan.document(),
                plan.subs()));
        tellBlocks(plan);
        return plan;
    }

    /**
     * Time that a target left, or never used, goes to the target that gathers most in it.
     *
     * @param not targets that were given up or left
     */
    void fillFreeTime(Deque<PlannedBlock> blocks, Set<String> not) {
        Program program = night.program();
        if (!program.reactions().nextTarget()) {
            return;
        }
        List<PlannedBlock> before = List.copyOf(blocks);
        new FreedTime(night.site(), night.kit(), program)
                .filled(before, night.clock().now(), taken(program), not)
                .ifPresent(filled -> {
                    blocks.clear();
                    blocks.addAll(filled);
                    PlannedBlock first = filled.get(0);
                    int planned = before.stream()
                            .filter(b -> b.target().name().equals(first.target().name()))
                            .mapToInt(PlannedBlock::subs)
                            .sum();
                    tellBlock(
                            first,
                            first.subs() - planned,
                            "Free time goes to " + first.target().name());
                });
    }

    /** A block to come, with what was taken of its target meanwhile: while it stood in for another. A target with several blocks is told apart by times. */
    PlannedBlock withTaken(PlannedBlock block) {
        String name = block.target().name();
        boolean once = night.program().mayTake().stream()
                        .filter(t -> t.name().equals(name))
                        .count()
                == 1;
        Map<String, Integer> taken = taken(night.program()).getOrDefault(name, Map.of());
        return once
                ? new PlannedBlock(block.target(), block.window(), block.span(), block.flip(), block.byFilter(), taken)
                : block;
    }

    /** Goes to a target that stands in for one that cloud covers. */
    void standsIn(PlannedBlock block) {
        tellBlock(block, block.subs(), "While cloud lasts, " + block.target().name());
    }

    /** Subs by target and filter, of all that a program may take. */
    Map<String, Map<String, Integer>> taken(Program program) {
        Map<String, Map<String, Integer>> taken = new HashMap<>();
        record.state()
                .filtersByTarget()
                .forEach((target, filters) -> filters.forEach(
                        f -> taken.computeIfAbsent(target, t -> new HashMap<>()).merge(f, 1, Integer::sum)));
        program.mayTake().forEach(t -> taken.computeIfAbsent(t.name(), name -> Map.of()));
        return taken;
    }

    /** What the program in force still has for the rest of the night. */
    private NightPlan left() {
        Program program = night.program();
        NightPlanner.Outlook outlook =
                NightPlanner.Outlook.of(night.site(), program.date(), program.minimumAltitudeDeg());
        return NightPlanner.plan(
                night.site(),
                night.kit(),
                program,
                outlook,
                new NightPlanner.Progress(night.clock().now(), done(program)));
    }

    /**
     * How many subs each of a program's targets has by filter, in their order; a target may come twice, and then its blocks are told apart by the
     * times that were planned for them.
     */
    private List<Map<String, Integer>> done(Program program) {
        Map<String, Deque<String>> left = record.state().filtersByTarget();
        Map<String, Deque<BlockPlanned>> planned = new HashMap<>();
        record.state().all(BlockPlanned.class).forEach(b -> planned.computeIfAbsent(b.target(), t -> new ArrayDeque<>())
                .addLast(b));
        List<Map<String, Integer>> done = new ArrayList<>();
        for (int i = 0; i < program.targets().size(); i++) {
            TargetPlan target = program.targets().get(i);
            Deque<String> filters = left.getOrDefault(target.name(), new ArrayDeque<>());
            int have = filters.size();
            boolean last = program.targets().subList(i + 1, program.targets().size()).stream()
                    .noneMatch(t -> t.name().equals(target.name()));
            Optional<BlockPlanned> block = Optional.ofNullable(
                    planned.getOrDefault(target.name(), new ArrayDeque<>()).pollFirst());
            int own = last
                    ? have
                    : Math.min(have, target.mostSubs().orElseGet(() -> block.map(
                                    b -> record.state().subsOf(target.name(), b.span()))
                            .orElse(0)));
            Map<String, Integer> counts = new HashMap<>();
            for (int k = 0; k < own; k++) {
                counts.merge(filters.removeFirst(), 1, Integer::sum);
            }
            done.add(counts);
        }
        return done;
    }

    private void tellBlocks(NightPlan plan) {
        for (PlannedBlock block : plan.blocks()) {
            tellBlock(block, block.subs(), block.target().name());
        }
    }

    /**
     * Tells of a block.
     *
     * @param subs more than were told before
     * @param what begins the sentence
     */
    private void tellBlock(PlannedBlock block, int subs, String what) {
        record.tell(new BlockPlanned(
                record.now(),
                String.format(
                        Locale.ROOT,
                        "%s: %d subs of %s, highest %.0f°.",
                        what,
                        block.subs(),
                        lengths(block.target()),
                        block.window().transitAltitudeDeg()),
                block.target().name(),
                subs,
                block.subs() > 0
                        ? 3600 * block.hoursOfLight() / block.subs()
                        : block.target().longestSubSeconds(),
                block.span(),
                block.flip(),
                block.window().transit(),
                block.window().transitAltitudeDeg(),
                block.window().usableHours(),
                block.window().effectiveHours(),
                block.window().moonSeparationDeg()));
    }

    private static String lengths(TargetPlan target) {
        return target.goals().stream()
                .map(FilterGoal::subSeconds)
                .distinct()
                .map(s -> String.format(Locale.ROOT, "%.0f s", s))
                .collect(Collectors.joining(", "));
    }
}
