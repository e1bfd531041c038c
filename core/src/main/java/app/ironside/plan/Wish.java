package app.ironside.plan;

import app.ironside.Check;
import java.util.List;
import java.util.Optional;

/**
 * What is wanted of targets of one kind, kept under a name to be used again.
 *
 * @param goals by filter, in the order the filters are used
 * @param subsPerFilter subs in one filter before the next takes its turn
 * @param minimumAltitudeDeg lower than this a target is left; empty for the night's rule
 */
public record Wish(String name, List<FilterGoal> goals, int subsPerFilter, Optional<Double> minimumAltitudeDeg) {
    public Wish {
        Check.name("the name of a wish", name);
        goals = List.copyOf(goals);
        Check.atLeast("filters of " + name, goals.size(), 1);
        Check.atLeast("subsPerFilter", subsPerFilter, 1);
    }

    /** What a target's settings are, without what belongs to that target alone: where, when, at what angle, and what it has already. */
    public static Wish of(String name, TargetPlan target) {
        List<FilterGoal> goals = target.goals().stream()
                .map(g -> g.withGathered(g.gathered().map(w -> new FilterGoal.Gathered(w.hoursWanted(), 0))))
                .toList();
        return new Wish(name, goals, target.subsPerFilter(), target.minimumAltitudeDeg());
    }

    /**
     * A target with these settings, as far as a kit has the filters.
     *
     * @return empty if it has none of them
     */
    public Optional<TargetPlan> on(TargetPlan target, List<String> filters) {
        List<FilterGoal> there =
                goals.stream().filter(g -> filters.contains(g.filter())).toList();
        return there.isEmpty()
                ? Optional.empty()
                : Optional.of(target.withGoals(there).withTurn(subsPerFilter).withMinimumAltitude(minimumAltitudeDeg));
    }
}
