package app.ironside.plan;

import app.ironside.kit.Kit;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** When somebody has to go out and put another filter in, for a kit whose filters lie in a box. */
final class FilterWalks {
    private FilterWalks() {}

    /** A filter that is put in. */
    record Change(Instant at, String filter) {}

    /**
     * All changes of a night in order, the first filter's too; none for a kit with a wheel.
     *
     * @param ditherEvery subs between shifts, for the time that passes
     */
    static List<Change> of(NightPlan plan, Kit kit, int ditherEvery) {
        List<Change> changes = new ArrayList<>();
        if (!Overheads.filtersFromABox(kit)) {
            return changes;
        }
        Overheads overheads = Overheads.of(kit);
        String present = "";
        for (PlannedBlock block : plan.blocks()) {
            Map<String, Integer> taken = new HashMap<>(block.done());
            Instant at = block.span().from();
            for (int i = 0; i < block.subs(); i++) {
                Optional<FilterGoal> goal = block.target().next(taken, g -> true);
                if (goal.isEmpty()) {
                    break;
                }
                if (!goal.get().filter().equals(present)) {
                    present = goal.get().filter();
                    changes.add(new Change(at, present));
                    at = at.plusMillis(Math.round(1000 * overheads.perFilterByHand()));
                }
                taken.merge(present, 1, Integer::sum);
                at = at.plusMillis(
                        Math.round(1000 * overheads.secondsOf(goal.get().subSeconds(), ditherEvery)));
            }
        }
        return changes;
    }

    /** How often at least: each target's filters one after the other, beginning with the one that is in. */
    static int fewest(NightPlan plan) {
        int changes = 0;
        List<String> before = List.of();
        for (PlannedBlock block : plan.blocks()) {
            List<String> filters = block.target().filters();
            boolean goesOn = before.stream().anyMatch(filters::contains);
            changes += filters.size() - (goesOn ? 1 : 0);
            before = filters;
        }
        return changes;
    }
}
