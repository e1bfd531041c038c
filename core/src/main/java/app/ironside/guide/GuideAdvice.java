package app.ironside.guide;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.ToDoubleFunction;

/**
 * What another way of answering would have made of minutes that were guided: where the star would have stood had nothing been sent, gone
 * through again with each law and each setting.
 */
public final class GuideAdvice {
    /** A gain smaller than this is not worth a change. */
    private static final double WORTH = 0.08;

    private GuideAdvice() {}

    /**
     * The best rule for an axis.
     *
     * @param tuning what it would have held, against what the rule in force would
     * @param rules with it
     */
    public record Better(GuideTuning tuning, GuideRules rules) {}

    /**
     * For right ascension.
     *
     * @param arcsecPerSecond that a pulse moves the star
     * @param periodSeconds of the gear, if it is known
     * @return empty if too little was seen, or nothing would have been better
     */
    public static Optional<Better> ra(
            List<GuideSample> samples, GuideRules now, double arcsecPerSecond, OptionalDouble periodSeconds) {
        return best(samples, GuideSample::raArcsec, GuideSample::raPulseMs, now.ra(), arcsecPerSecond, periodSeconds)
                .map(t -> new Better(t, now.withRa(t.rule())));
    }

    /** The same for declination. */
    public static Optional<Better> dec(List<GuideSample> samples, GuideRules now, double arcsecPerSecond) {
        return best(
                        samples,
                        GuideSample::decArcsec,
                        GuideSample::decPulseMs,
                        now.dec(),
                        arcsecPerSecond,
                        OptionalDouble.empty())
                .map(t -> new Better(t, now.withDec(t.rule())));
    }

    private static Optional<GuideTuning> best(
            List<GuideSample> samples,
            ToDoubleFunction<GuideSample> axis,
            ToDoubleFunction<GuideSample> pulse,
            AxisRule now,
            double arcsecPerSecond,
            OptionalDouble periodSeconds) {
        if (samples.size() < GuideTuning.FEWEST) {
            return Optional.empty();
        }
        AxisHistory history = history(samples, axis, pulse, arcsecPerSecond);
        double held =
                GuideTuning.of(history, now, periodSeconds, new Slack(0), false).heldArcsec();
        GuideTuning best = null;
        for (GuideLaw law : GuideLaw.values()) {
            GuideTuning tuned = GuideTuning.of(history, now.withLaw(law), periodSeconds, new Slack(0), false);
            if (best == null || tuned.bestArcsec() < best.bestArcsec()) {
                best = tuned;
            }
        }
        return best.bestArcsec() < (1 - WORTH) * held
                ? Optional.of(new GuideTuning(best.rule(), held, best.bestArcsec()))
                : Optional.empty();
    }

    private static AxisHistory history(
            List<GuideSample> samples,
            ToDoubleFunction<GuideSample> axis,
            ToDoubleFunction<GuideSample> pulse,
            double arcsecPerSecond) {
        AxisHistory history = new AxisHistory();
        Instant start = samples.get(0).time();
        for (GuideSample s : samples) {
            history.seen(Duration.between(start, s.time()).toMillis() / 1000.0, axis.applyAsDouble(s));
            // A pulse moves the star by its own sign; what is counted is what is sent back.
            history.ran(-pulse.applyAsDouble(s) / 1000 * arcsecPerSecond);
        }
        return history;
    }
}
