package app.ironside.night;

import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** One target's part of the night as it stands, commands included. */
final class Leg {
    final PlannedBlock block;
    TargetPlan target;
    Instant until;
    final Map<String, Integer> taken;
    boolean begun;
    boolean left;

    /** So many subs are taken whatever the time: a sub that was asked for by name is not lost to a dither that took long. */
    private int atLeast;

    /** Subs that were asked for by name. */
    private int extra;

    /** When a sub was last kept, or the first was begun. */
    Instant lastGood;

    Leg(PlannedBlock block) {
        this.block = block;
        this.target = block.target();
        this.until = block.span().until();
        this.taken = new HashMap<>(block.done());
    }

    int subs() {
        return taken.values().stream().mapToInt(Integer::intValue).sum();
    }

    /** What the next sub is of; empty if nothing is wanted, or nothing may be used under this Moon. */
    Optional<FilterGoal> next(NightContext night) {
        return target.next(
                taken,
                NightPlanner.allowed(
                        night.observer(), target, night.kit(), night.clock().now()));
    }

    /** One sub more than was wanted in all, and the time for it. */
    void addOne() {
        target = withOneMore();
        atLeast = subs() + 1;
        extra++;
        until = until.plusMillis(Math.round(1000 * target.longestSubSeconds()));
    }

    /**
     * Whether its time is over at a moment. What was planned and the subs that were asked for besides may take a sub's length longer for
     * each of these: what else was asked for meanwhile took its time too.
     */
    boolean isOverAt(Instant end) {
        Instant late = until.plusMillis(Math.round(1000 * extra * target.longestSubSeconds()));
        boolean owed = subs() < atLeast || subs() < block.subs() + extra && !end.isAfter(late);
        return end.isAfter(until) && !owed;
    }

    /** As many subs as fit until later. */
    void extendBy(Duration time) {
        until = until.plus(time);
        target = endless(target);
    }

    /** One sub more than was wanted in all, in the filter that would be next. */
    private TargetPlan withOneMore() {
        TargetPlan more = target.withMostSubs(target.mostSubs().map(most -> Math.max(most, subs()) + 1));
        if (!more.isFilled(taken)) {
            return more;
        }
        TargetPlan open = endless(more);
        String filter = open.next(taken, g -> true).orElseThrow().filter();
        return more.withGoals(more.goals().stream()
                .map(g -> g.filter().equals(filter)
                        ? g.withSubs(Optional.of(taken.getOrDefault(filter, 0) + 1))
                                .withGathered(Optional.empty())
                        : g)
                .toList());
    }

    /** As many subs as fit. */
    private static TargetPlan endless(TargetPlan target) {
        return target.withMostSubs(Optional.empty())
                .withGoals(target.goals().stream()
                        .map(g -> g.withSubs(Optional.empty()).withGathered(Optional.empty()))
                        .toList());
    }
}
