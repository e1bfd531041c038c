package app.ironside.plan;

import app.ironside.kit.Kit;
import app.ironside.kit.MeridianRule;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * What the meridian costs a stretch of one target.
 *
 * @param at when the telescope changes sides; empty if it does not within the stretch
 * @param idleSeconds in which neither side of the pier serves
 * @param until when the stretch ends: where too little would be left after a flip, none is made
 */
public record MeridianFlip(Optional<Instant> at, double idleSeconds, Instant until) {
    /**
     * For a stretch.
     *
     * @param transit of the target, nearest the stretch
     * @param worthSeconds less than this after the flip is not worth making it
     */
    public static MeridianFlip in(
            Interval span, Instant transit, Kit kit, double declinationDeg, double subSeconds, double worthSeconds) {
        MeridianRule rule = MeridianRule.of(kit, declinationDeg);
        double begins = hourAngleDeg(span.from(), transit);
        return switch (rule.side(begins, subSeconds)) {
            case AFTER -> new MeridianFlip(Optional.empty(), 0, span.until());
            case NEITHER -> {
                double idle = (rule.flipFromDeg() - begins) / MeridianRule.DEG_PER_SECOND;
                yield new MeridianFlip(
                        Optional.empty(), Math.min(idle, seconds(span.from(), span.until())), span.until());
            }
            case BEFORE -> before(span, transit, rule, subSeconds, worthSeconds);
        };
    }

    private static MeridianFlip before(
            Interval span, Instant transit, MeridianRule rule, double subSeconds, double worthSeconds) {
        Instant act =
                transit.plusMillis(Math.round(1000 * rule.expectedFlipDeg(subSeconds) / MeridianRule.DEG_PER_SECOND));
        double idle = rule.idleSeconds(subSeconds);
        if (!act.isBefore(span.until())) {
            // The stretch may end while neither side serves.
            double lost = Math.max(0, idle - seconds(span.until(), act));
            return new MeridianFlip(Optional.empty(), lost, span.until());
        }
        if (seconds(act, span.until()) < worthSeconds) {
            Instant end = act.minusMillis(Math.round(1000 * idle));
            return new MeridianFlip(Optional.empty(), 0, end.isAfter(span.from()) ? end : span.from());
        }
        return new MeridianFlip(Optional.of(act), idle, span.until());
    }

    private static double hourAngleDeg(Instant time, Instant transit) {
        return seconds(transit, time) * MeridianRule.DEG_PER_SECOND;
    }

    private static double seconds(Instant from, Instant to) {
        return Duration.between(from, to).toMillis() / 1000.0;
    }
}
