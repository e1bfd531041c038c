package app.ironside.plan;

import app.ironside.Check;
import java.util.Optional;

/**
 * What the night may do by itself when something is wrong. What it does is told; what it may not do it tells a person to.
 *
 * @param refocus focus again when stars swell
 * @param heat switch the heaters on when glass gets wet
 * @param guideAnew begin guiding anew on another star when the guider follows what is none
 * @param recentre point again after a knock, or when the field is another
 * @param nextTarget go to another target that is up when a target is given up
 * @param giveUp when a target without a good sub is given up, and the mount parked if there is no other
 * @param elsewhereAfterMinutes of cloud, in which nothing was kept, it is looked whether the sky is clear at another target; empty for never
 * @param leaveAboveSky a target whose sky is so many times the darkest of its series, twice in a row, is left for this night; empty for never
 */
public record Reactions(
        boolean refocus,
        boolean heat,
        boolean guideAnew,
        boolean recentre,
        boolean nextTarget,
        Patience giveUp,
        Optional<Double> leaveAboveSky,
        Optional<Integer> elsewhereAfterMinutes) {
    /** Everything; bed after an hour and a half in which nothing was kept. */
    public static final Reactions USUAL =
            new Reactions(true, true, true, true, true, Patience.ofMinutes(90), Optional.empty(), Optional.of(20));

    /** Nothing is done but told. */
    public static final Reactions NONE =
            new Reactions(false, false, false, false, false, Patience.ENDLESS, Optional.empty(), Optional.empty());

    public Reactions {
        elsewhereAfterMinutes.ifPresent(m -> Check.inRange("elsewhereAfterMinutes", m, 5, 1440));
        leaveAboveSky.ifPresent(x -> Check.inRange("leaveAboveSky", x, 1.1, 100));
    }

    public Reactions withRefocus(boolean other) {
        return new Reactions(
                other, heat, guideAnew, recentre, nextTarget, giveUp, leaveAboveSky, elsewhereAfterMinutes);
    }

    public Reactions withHeat(boolean other) {
        return new Reactions(
                refocus, other, guideAnew, recentre, nextTarget, giveUp, leaveAboveSky, elsewhereAfterMinutes);
    }

    public Reactions withGuideAnew(boolean other) {
        return new Reactions(refocus, heat, other, recentre, nextTarget, giveUp, leaveAboveSky, elsewhereAfterMinutes);
    }

    public Reactions withRecentre(boolean other) {
        return new Reactions(refocus, heat, guideAnew, other, nextTarget, giveUp, leaveAboveSky, elsewhereAfterMinutes);
    }

    public Reactions withNextTarget(boolean other) {
        return new Reactions(refocus, heat, guideAnew, recentre, other, giveUp, leaveAboveSky, elsewhereAfterMinutes);
    }

    public Reactions withGiveUp(Patience other) {
        return new Reactions(
                refocus, heat, guideAnew, recentre, nextTarget, other, leaveAboveSky, elsewhereAfterMinutes);
    }

    public Reactions withLeaveAboveSky(Optional<Double> other) {
        return new Reactions(refocus, heat, guideAnew, recentre, nextTarget, giveUp, other, elsewhereAfterMinutes);
    }

    public Reactions withElsewhereAfterMinutes(Optional<Integer> other) {
        return new Reactions(refocus, heat, guideAnew, recentre, nextTarget, giveUp, leaveAboveSky, other);
    }
}
