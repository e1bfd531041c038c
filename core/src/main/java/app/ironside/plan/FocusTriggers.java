package app.ironside.plan;

import app.ironside.Check;
import app.ironside.focus.FocusRun;
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
 * @param points of a sweep: 9, or 7 or 5 where they suffice
 * @param compensate whether the focuser follows the tube's temperature between runs, once the kit's record carries that
 */
public record FocusTriggers(
        Optional<Double> growth,
        Optional<Integer> everySubs,
        Optional<Integer> everyMinutes,
        boolean onFilter,
        boolean afterFlip,
        boolean skipFresh,
        int points,
        boolean compensate) {
    public static final FocusTriggers USUAL = new FocusTriggers(
            Optional.empty(), Optional.empty(), Optional.empty(), false, false, true, FocusRun.USUAL_POINTS, false);

    public FocusTriggers {
        growth.ifPresent(g -> Check.inRange("growth", g, 0.02, 2));
        everySubs.ifPresent(n -> Check.atLeast("everySubs", n, 1));
        everyMinutes.ifPresent(n -> Check.inRange("everyMinutes", n, 5, 1440));
        Check.inRange("points", points, 5, 21);
    }

    public FocusTriggers withGrowth(Optional<Double> other) {
        return new FocusTriggers(other, everySubs, everyMinutes, onFilter, afterFlip, skipFresh, points, compensate);
    }

    public FocusTriggers withEverySubs(Optional<Integer> other) {
        return new FocusTriggers(growth, other, everyMinutes, onFilter, afterFlip, skipFresh, points, compensate);
    }

    public FocusTriggers withEveryMinutes(Optional<Integer> other) {
        return new FocusTriggers(growth, everySubs, other, onFilter, afterFlip, skipFresh, points, compensate);
    }

    public FocusTriggers withOnFilter(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, other, afterFlip, skipFresh, points, compensate);
    }

    public FocusTriggers withAfterFlip(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, onFilter, other, skipFresh, points, compensate);
    }

    public FocusTriggers withSkipFresh(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, onFilter, afterFlip, other, points, compensate);
    }

    public FocusTriggers withPoints(int other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, onFilter, afterFlip, skipFresh, other, compensate);
    }

    public FocusTriggers withCompensate(boolean other) {
        return new FocusTriggers(growth, everySubs, everyMinutes, onFilter, afterFlip, skipFresh, points, other);
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
