package app.ironside.plan;

import app.ironside.Check;
import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.time.LocalTime;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Predicate;
import java.util.stream.DoubleStream;

/**
 * What to do with one target.
 *
 * @param goals what is wanted by filter, in the order the filters are used, each filter once
 * @param subsPerFilter subs in one filter before the next takes its turn
 * @param from not before this local time
 * @param until not after this local time
 * @param mostSubs stop after so many in all
 * @param angleDeg position angle that the camera should have; empty for as it is
 * @param minimumAltitudeDeg lower than this it is left; empty for the night's rule
 */
public record TargetPlan(
        String name,
        Equatorial position,
        List<FilterGoal> goals,
        int subsPerFilter,
        Optional<LocalTime> from,
        Optional<LocalTime> until,
        Optional<Integer> mostSubs,
        Optional<Double> angleDeg,
        Optional<Double> minimumAltitudeDeg) {
    /** Focusing, dithers, centring and the flip take some of the time. */
    private static final double WITH_OVERHEADS = 1.25;

    private static final double SECONDS_PER_HOUR = 3600;

    public TargetPlan {
        Check.name("the name of a target", name);
        goals = List.copyOf(goals);
        Check.atLeast("filters of " + name, goals.size(), 1);
        for (FilterGoal goal : goals) {
            if (goals.stream().filter(g -> g.filter().equals(goal.filter())).count() > 1) {
                throw new IllegalArgumentException("filter " + goal.filter() + " of " + name + " is there twice");
            }
        }
        Check.atLeast("subsPerFilter", subsPerFilter, 1);
        mostSubs.ifPresent(most -> Check.atLeast("mostSubs of " + name, most, 1));
        angleDeg.ifPresent(angle -> Check.inRange("angleDeg of " + name, angle, -360, 360));
        minimumAltitudeDeg.ifPresent(least -> Check.inRange("minimumAltitudeDeg of " + name, least, 0, 85));
    }

    /** For how long it is followed at most, hours, as far as its times and counts tell; empty if they leave it open. */
    public OptionalDouble mostHours() {
        DoubleStream byTimes = from.isPresent() && until.isPresent()
                ? DoubleStream.of(Math.floorMod(
                                Duration.between(from.get(), until.get()).toSeconds(),
                                Duration.ofDays(1).toSeconds())
                        / SECONDS_PER_HOUR)
                : DoubleStream.empty();
        DoubleStream byCount = mostSubs.isPresent()
                ? DoubleStream.of(WITH_OVERHEADS * mostSubs.get() * longestSubSeconds() / SECONDS_PER_HOUR)
                : DoubleStream.empty();
        DoubleStream byGoals = goals.stream().allMatch(g -> g.wanted().isPresent())
                ? DoubleStream.of(WITH_OVERHEADS
                        * goals.stream()
                                .mapToDouble(g -> g.wanted().get() * g.subSeconds())
                                .sum()
                        / SECONDS_PER_HOUR)
                : DoubleStream.empty();
        return DoubleStream.concat(byTimes, DoubleStream.concat(byCount, byGoals))
                .min();
    }

    /** Whenever it is up, with the camera as it is, as many subs of one length as fit. */
    public TargetPlan(String name, Equatorial position, List<String> filters, int subsPerFilter, double subSeconds) {
        this(name, position, goals(filters, subSeconds), subsPerFilter);
    }

    /** Whenever it is up, with the camera as it is. */
    public TargetPlan(String name, Equatorial position, List<FilterGoal> goals, int subsPerFilter) {
        this(
                name,
                position,
                goals,
                subsPerFilter,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /** Filters with subs of one length, as many as fit. */
    static List<FilterGoal> goals(List<String> filters, double subSeconds) {
        return filters.stream().map(f -> new FilterGoal(f, subSeconds)).toList();
    }

    /** The names of its filters, in the order they are used. */
    public List<String> filters() {
        return goals.stream().map(FilterGoal::filter).toList();
    }

    /** The length of its subs, where all have one. */
    public Optional<Double> subSeconds() {
        double first = goals.get(0).subSeconds();
        return goals.stream().allMatch(g -> g.subSeconds() == first) ? Optional.of(first) : Optional.empty();
    }

    /** The longest of its subs, which sets what the mount must hold. */
    public double longestSubSeconds() {
        return goals.stream().mapToDouble(FilterGoal::subSeconds).max().orElseThrow();
    }

    /** At another time; empty for whenever it is up. */
    public TargetPlan at(Optional<LocalTime> otherFrom, Optional<LocalTime> otherUntil) {
        return new TargetPlan(
                name, position, goals, subsPerFilter, otherFrom, otherUntil, mostSubs, angleDeg, minimumAltitudeDeg);
    }

    /** Stopping after so many subs in all; empty for when its time is over or its goals are filled. */
    public TargetPlan withMostSubs(Optional<Integer> subs) {
        return new TargetPlan(name, position, goals, subsPerFilter, from, until, subs, angleDeg, minimumAltitudeDeg);
    }

    public TargetPlan withGoals(List<FilterGoal> others) {
        return new TargetPlan(
                name, position, others, subsPerFilter, from, until, mostSubs, angleDeg, minimumAltitudeDeg);
    }

    /** With other filters in another order: those it has keep what is wanted of them, new ones get the length of its first. */
    public TargetPlan withFilters(List<String> others) {
        return withGoals(others.stream()
                .map(f -> goal(f).orElseGet(() -> new FilterGoal(f, goals.get(0).subSeconds())))
                .toList());
    }

    private Optional<FilterGoal> goal(String filter) {
        return goals.stream().filter(g -> g.filter().equals(filter)).findFirst();
    }

    /** With another number of subs in one filter before the next takes its turn. */
    public TargetPlan withTurn(int subs) {
        return new TargetPlan(name, position, goals, subs, from, until, mostSubs, angleDeg, minimumAltitudeDeg);
    }

    /** With subs of one length in all filters. */
    public TargetPlan withSubSeconds(double seconds) {
        return withGoals(goals.stream().map(g -> g.withSeconds(seconds)).toList());
    }

    /** Left when it is lower than this; empty for the night's rule. */
    public TargetPlan withMinimumAltitude(Optional<Double> least) {
        return new TargetPlan(name, position, goals, subsPerFilter, from, until, mostSubs, angleDeg, least);
    }

    /** With another camera angle; empty for as it is. */
    public TargetPlan withAngle(Optional<Double> angle) {
        return new TargetPlan(name, position, goals, subsPerFilter, from, until, mostSubs, angle, minimumAltitudeDeg);
    }

    public TargetPlan named(String other) {
        return new TargetPlan(
                other, position, goals, subsPerFilter, from, until, mostSubs, angleDeg, minimumAltitudeDeg);
    }

    /** With another middle of the frame and another camera angle. */
    public TargetPlan framed(Equatorial centre, double angle) {
        return new TargetPlan(
                name, centre, goals, subsPerFilter, from, until, mostSubs, Optional.of(angle), minimumAltitudeDeg);
    }

    /**
     * What the next sub is of: the filter that has had the fewest turns, of those with equally many the first. A filter that has what is
     * wanted of it is passed over, and so is one that may not be used now, until it may.
     *
     * @param taken subs by filter; none where a filter is missing
     * @param allowed whether a filter may be used now
     * @return empty if nothing more is wanted, or nothing is allowed
     */
    public Optional<FilterGoal> next(Map<String, Integer> taken, Predicate<FilterGoal> allowed) {
        return goals.stream()
                .filter(g -> !g.isFilled(taken.getOrDefault(g.filter(), 0)))
                .filter(allowed)
                .min(Comparator.comparingInt(g -> taken.getOrDefault(g.filter(), 0) / subsPerFilter));
    }

    /** Whether all that is wanted is there. */
    public boolean isFilled(Map<String, Integer> taken) {
        int all = taken.values().stream().mapToInt(Integer::intValue).sum();
        return mostSubs.map(most -> all >= most).orElse(false)
                || goals.stream().allMatch(g -> g.isFilled(taken.getOrDefault(g.filter(), 0)));
    }
}
