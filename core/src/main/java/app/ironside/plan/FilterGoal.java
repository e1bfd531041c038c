package app.ironside.plan;

import app.ironside.Check;
import java.util.Optional;

/**
 * What is wanted of a target in one filter.
 *
 * @param subSeconds length of a sub
 * @param subs wanted this night; empty for as many as fit
 * @param gathered what is wanted over all nights; empty for no end
 */
public record FilterGoal(
        String filter, double subSeconds, Optional<Integer> subs, Optional<Gathered> gathered, MoonRule moon) {
    private static final double SECONDS_PER_HOUR = 3600;

    /**
     * Light over many nights.
     *
     * @param hoursWanted in all
     * @param hoursKept by the nights before
     */
    public record Gathered(double hoursWanted, double hoursKept) {
        public Gathered {
            Check.inRange("hoursWanted", hoursWanted, 0.01, 10_000);
            Check.inRange("hoursKept", hoursKept, 0, 1e6);
        }

        public double hoursLeft() {
            return Math.max(0, hoursWanted - hoursKept);
        }
    }

    public FilterGoal {
        Check.name("the filter of a goal", filter);
        Check.inRange("subSeconds", subSeconds, 0.1, 3600);
        subs.ifPresent(n -> Check.atLeast("subs wanted in " + filter, n, 1));
    }

    /** As many as fit, under the Moon that the filter's width suggests. */
    public FilterGoal(String filter, double subSeconds) {
        this(filter, subSeconds, Optional.empty(), Optional.empty(), MoonRule.BY_FILTER);
    }

    public FilterGoal withSeconds(double seconds) {
        return new FilterGoal(filter, seconds, subs, gathered, moon);
    }

    public FilterGoal withSubs(Optional<Integer> wanted) {
        return new FilterGoal(filter, subSeconds, wanted, gathered, moon);
    }

    public FilterGoal withGathered(Optional<Gathered> other) {
        return new FilterGoal(filter, subSeconds, subs, other, moon);
    }

    public FilterGoal withMoon(MoonRule rule) {
        return new FilterGoal(filter, subSeconds, subs, gathered, rule);
    }

    /** Whether nothing is said but filter and length. */
    public boolean saysNoMore() {
        return subs.isEmpty() && gathered.isEmpty() && moon == MoonRule.BY_FILTER;
    }

    /** Subs wanted this night: the fewer of what is wanted tonight and what is left of all; empty for as many as fit. */
    public Optional<Integer> wanted() {
        Optional<Integer> left =
                gathered.map(g -> (int) Math.ceil(g.hoursLeft() * SECONDS_PER_HOUR / subSeconds - 1e-9));
        return subs.map(n -> Math.min(n, left.orElse(n))).or(() -> left);
    }

    boolean isFilled(int taken) {
        return wanted().map(most -> taken >= most).orElse(false);
    }
}
