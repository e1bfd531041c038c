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
 */
public record TargetPlan(
        String name,
        Equatorial position,
        List<String> filters,
        int subsPerFilter,
        double subSeconds,
        Optional<LocalTime> from,
        Optional<LocalTime> until,
        Optional<Integer> mostSubs) {
    public TargetPlan {
        filters = List.copyOf(filters);
        Check.atLeast("filters of " + name, filters.size(), 1);
        Check.atLeast("subsPerFilter", subsPerFilter, 1);
        Check.inRange("subSeconds", subSeconds, 0.1, 3600);
    }

    /** The filter of the next sub when {@code taken} subs of this target are done. */
    public String filterAfter(int taken) {
        return filters.get(taken / subsPerFilter % filters.size());
    }
}
