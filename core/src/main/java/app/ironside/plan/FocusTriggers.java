package app.ironside.plan;

import app.ironside.Check;
import java.util.Optional;

/**
 * When focus is looked for again, besides the change of the tube's temperature that a program names; practitioners differ, and each way
 * has its price.
 *
 * @param growth when the stars of a filter are larger than just after the last run by this share, altitude taken out
 * @param everySubs after so many subs
 * @param everyMinutes after so long
 * @param onFilter at each change of the filter
 * @param afterFlip after a meridian flip, for a mirror that moves
 * @param skipFresh whether a run is left out where one is younger than a trigger's interval
 */
public record FocusTriggers(
        Optional<Double> growth,
        Optional<Integer> everySubs,
        Optional<Integer> everyMinutes,
        boolean onFilter,
        boolean afterFlip,
        boolean skipFresh) {
    public static final FocusTriggers USUAL =
            new FocusTriggers(Optional.empty(), Optional.empty(), Optional.empty(), false, false, true);

    public FocusTriggers {
        growth.ifPresent(g -> Check.inRange("growth", g, 0.02, 2));
        everySubs.ifPresent(n -> Check.atLeast("everySubs", n, 1));
        everyMinutes.ifPresent(n -> Check.inRange("everyMinutes", n, 5, 1440));
    }

    public FocusTriggers withGrowth(Optional<Double> other) {
        return new FocusTriggers(other, everySubs, everyMinutes, onFilter, afterFlip, skipFresh);
    }

    public FocusTriggers withEverySubs(Optional<Integer> other) {
        return new FocusTriggers(growth, other, everyMinutes, onFilter, afterFlip, skipFresh);
    }

    public FocusTriggers withEveryMinutes(Optional<Integer> other) {
        return new FocusTriggers(growth, everySubs, other, onFilter, afterFlip, skipFresh);
    }

    public FocusTriggers withOnFilter(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, other, afterFlip, skipFresh);
    }

    public FocusTriggers withAfterFlip(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, onFilter, other, skipFresh);
    }

    public FocusTriggers withSkipFresh(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, onFilter, afterFlip, other);
    }

    /**
     * Runs an hour that these add to those of temperature: whichever trigger comes first resets the others, so that the most frequent
     * one counts.
     *
     * @param secondsOfSub with what goes with it
     * @param filters that take turns
     * @param turn subs of a filter before the next
     */
    public double runsAnHour(double secondsOfSub, int filters, int turn) {
        double bySubs = everySubs.map(n -> 3600 / secondsOfSub / n).orElse(0.0);
        double byTime = everyMinutes.map(n -> 60.0 / n).orElse(0.0);
        double byFilter = onFilter && filters > 1 ? 3600 / secondsOfSub / turn : 0;
        return Math.max(byFilter, Math.max(bySubs, byTime));
    }
}
