package app.ironside.night;

import app.ironside.plan.NightPlan;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What the journal says has been done, for going on after a stop.
 *
 * @param subs files of finished subs by target, in order
 * @param subTimes when they ended, by target
 * @param gatesPassed stages whose last gate was passed
 * @param calibrationFrames files by set
 * @param stacksDone sets whose stack is finished
 */
public record NightSoFar(
        boolean started,
        boolean ended,
        Map<String, List<String>> subs,
        Map<String, List<Instant>> subTimes,
        Set<Stage> gatesPassed,
        Map<String, List<String>> calibrationFrames,
        Set<String> stacksDone) {

    /** Reads a journal. */
    public static NightSoFar of(List<NightEvent> events) {
        boolean started = false;
        boolean ended = false;
        Map<String, List<String>> subs = new LinkedHashMap<>();
        Map<String, List<Instant>> times = new LinkedHashMap<>();
        Map<Stage, Boolean> gates = new HashMap<>();
        Map<String, List<String>> calibration = new LinkedHashMap<>();
        Set<String> stacks = new HashSet<>();
        for (NightEvent event : events) {
            switch (event.kind()) {
                case NIGHT_STARTED -> started = true;
                case NIGHT_ENDED -> ended = true;
                case GATE -> gates.put(Stage.valueOf(event.text("stage").orElseThrow()), event.isTrue("passed"));
                case SUB -> {
                    String target = event.text("target").orElseThrow();
                    subs.computeIfAbsent(target, t -> new ArrayList<>())
                            .add(event.text("file").orElseThrow());
                    times.computeIfAbsent(target, t -> new ArrayList<>()).add(event.time());
                }
                case CALIBRATION -> calibration
                        .computeIfAbsent(event.text("set").orElseThrow(), t -> new ArrayList<>())
                        .add(event.text("file").orElseThrow());
                case STACK -> stacks.add(event.text("set").orElseThrow());
                default -> {
                    // The rest is told again or does not matter for going on.
                }
            }
        }
        Set<Stage> passed = new HashSet<>();
        gates.forEach((stage, ok) -> {
            if (ok) {
                passed.add(stage);
            }
        });
        return new NightSoFar(started, ended, subs, times, passed, calibration, stacks);
    }

    /** Subs of a target that were finished within a span: the same target may come twice in a night. */
    public int subsOf(String target, Interval span) {
        return (int) subTimes.getOrDefault(target, List.of()).stream()
                .filter(t -> !t.isBefore(span.from()) && !t.isAfter(span.until()))
                .count();
    }

    /**
     * How many subs each of a program's targets has, in their order; a target may come twice.
     *
     * @param plan what the night was to be, for telling a target's blocks apart by their times
     */
    List<Integer> done(Program program, NightPlan plan) {
        Map<String, Integer> left = new HashMap<>();
        subs.forEach((target, files) -> left.put(target, files.size()));
        List<Integer> done = new ArrayList<>();
        for (int i = 0; i < program.targets().size(); i++) {
            TargetPlan target = program.targets().get(i);
            int have = left.getOrDefault(target.name(), 0);
            boolean last = program.targets().subList(i + 1, program.targets().size()).stream()
                    .noneMatch(t -> t.name().equals(target.name()));
            int own = last
                    ? have
                    : Math.min(have, target.mostSubs().orElseGet(() -> plan.blocks().stream()
                            .filter(b -> b.target().equals(target))
                            .mapToInt(b -> subsOf(target.name(), b.span()))
                            .sum()));
            done.add(own);
            left.put(target.name(), have - own);
        }
        return done;
    }

    public List<String> calibrationSet(String set) {
        return calibrationFrames.getOrDefault(set, List.of());
    }
}
