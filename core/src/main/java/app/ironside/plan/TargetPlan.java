package app.ironside.plan;

import app.ironside.Check;
import app.ironside.sky.Equatorial;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;

/**
 * What to do with one target.
 *
 * @param filters in the order they are used
 * @param subsPerFilter subs in one filter before the next takes its turn
 * @param subSeconds length of a sub
 * @param from not before this local time
 * @param until not after this local time
 * @param mostSubs stop after so many
 * @param angleDeg position angle that the camera should have; empty for as it is
 */
public record TargetPlan(
        String name,
        Equatorial position,
        List<String> filters,
        int subsPerFilter,
        double subSeconds,
        Optional<LocalTime> from,
        Optional<LocalTime> until,
        Optional<Integer> mostSubs,
        Optional<Double> angleDeg) {
    public TargetPlan {
        Check.name("the name of a target", name);
        filters = List.copyOf(filters);
        Check.atLeast("filters of " + name, filters.size(), 1);
        Check.atLeast("subsPerFilter", subsPerFilter, 1);
        Check.inRange("subSeconds", subSeconds, 0.1, 3600);
        mostSubs.ifPresent(most -> Check.atLeast("mostSubs of " + name, most, 1));
        angleDeg.ifPresent(angle -> Check.inRange("angleDeg of " + name, angle, -360, 360));
    }

    /** Whenever it is up, with the camera as it is. */
    public TargetPlan(String name, Equatorial position, List<String> filters, int subsPerFilter, double subSeconds) {
        this(
                name,
                position,
                filters,
                subsPerFilter,
                subSeconds,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /** At another time; empty for whenever it is up. */
    public TargetPlan at(Optional<LocalTime> otherFrom, Optional<LocalTime> otherUntil) {
        return new TargetPlan(
                name, position, filters, subsPerFilter, subSeconds, otherFrom, otherUntil, mostSubs, angleDeg);
    }

    /** Stopping after so many subs; empty for when its time is over. */
    public TargetPlan withMostSubs(Optional<Integer> subs) {
        return new TargetPlan(name, position, filters, subsPerFilter, subSeconds, from, until, subs, angleDeg);
    }

    public TargetPlan withFilters(List<String> others) {
        return new TargetPlan(name, position, others, subsPerFilter, subSeconds, from, until, mostSubs, angleDeg);
    }

    /** With another number of subs in one filter before the next takes its turn. */
    public TargetPlan withTurn(int subs) {
        return new TargetPlan(name, position, filters, subs, subSeconds, from, until, mostSubs, angleDeg);
    }

    public TargetPlan withSubSeconds(double seconds) {
        return new TargetPlan(name, position, filters, subsPerFilter, seconds, from, until, mostSubs, angleDeg);
    }

    /** With another middle of the frame and another camera angle. */
    public TargetPlan framed(Equatorial centre, double angle) {
        return new TargetPlan(
                name, centre, filters, subsPerFilter, subSeconds, from, until, mostSubs, Optional.of(angle));
    }

    /** The filter of the next sub when {@code taken} subs of this target are done. */
    public String filterAfter(int taken) {
        return filters.get(taken / subsPerFilter % filters.size());
    }
}
