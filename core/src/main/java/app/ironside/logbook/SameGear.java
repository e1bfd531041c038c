package app.ironside.logbook;

import app.ironside.gear.GearChange;
import app.ironside.gear.GearChange.Voids;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * What of two facts of subs may stand in one chart after the gear was changed: focus positions of before a new zero count from elsewhere,
 * and a line through both would be of no gear at all.
 *
 * @param points that are of the gear as it is now
 * @param leftOut how many are not
 * @param because the changes, the oldest first
 */
public record SameGear(List<SubSearch.Point> points, int leftOut, List<GearChange> because) {
    /** Divides points by the changes of the nights' kits. Over time nothing is left out: there a change is what one looks for. */
    public static SameGear of(
            List<SubSearch.Point> points,
            List<SubSearch.OfNight> nights,
            List<GearChange> changes,
            SubFact x,
            SubFact y) {
        Optional<Voids> voided = x == SubFact.FOCUS || y == SubFact.FOCUS ? Optional.of(Voids.FOCUS) : Optional.empty();
        if (voided.isEmpty() || x == SubFact.DAY || y == SubFact.DAY) {
            return new SameGear(points, 0, List.of());
        }
        Map<Long, SubSearch.OfNight> byNumber =
                nights.stream().collect(Collectors.toMap(SubSearch.OfNight::night, Function.identity(), (a, b) -> a));
        Set<GearChange> because =
                new TreeSet<>(Comparator.comparing(GearChange::on).thenComparing(GearChange::words));
        List<SubSearch.Point> same = new ArrayList<>();
        for (SubSearch.Point point : points) {
            Optional<GearChange> since = Optional.ofNullable(byNumber.get(point.night()))
                    .flatMap(night -> changes.stream()
                            .filter(c -> c.kind().voids().contains(voided.get()))
                            .filter(c -> c.mayConcern(Optional.ofNullable(night.kit())))
                            .filter(c -> night.date().isBefore(c.on()))
                            .reduce((a, b) -> a.on().isAfter(b.on()) ? a : b));
            since.ifPresentOrElse(because::add, () -> same.add(point));
        }
        return new SameGear(List.copyOf(same), points.size() - same.size(), List.copyOf(because));
    }

    /** What was left out and why; empty if nothing was. */
    public Optional<String> sentence() {
        return leftOut == 0
                ? Optional.empty()
                : Optional.of(leftOut + (leftOut == 1 ? " sub of before is" : " subs of before are") + " left out: "
                        + because.stream().map(GearChange::words).collect(Collectors.joining("; ")) + ".");
    }
}
