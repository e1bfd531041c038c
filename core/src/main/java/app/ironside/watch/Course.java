package app.ironside.watch;

import app.ironside.journal.GuideFigures;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.Trouble;
import app.ironside.judge.Cause;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.IntPredicate;
import java.util.function.IntToDoubleFunction;
import java.util.function.ToDoubleFunction;

/**
 * The latest subs of a target with what each is against the better ones before it. Ratios are NaN where they cannot be told.
 *
 * <p>A yardstick is taken from the better part of what came before, not from its middle: so it stands through a trouble that lasts.
 */
final class Course {
    private static final double UNKNOWN = Double.NEGATIVE_INFINITY;
    private static final double BETTER = 0.2;
    private static final int FEWEST_BEFORE = 2;

    /** Twice as long as wide: no optics does it over the whole field. */
    private static final double DRAWN_OUT = 0.87;

    /** A guide star is only a yardstick while the main camera's stars have their light. */
    private static final double CLEAR = 0.93;

    /** A sky that is so much noisier makes every star's signal-to-noise less. */
    private static final double SAME_SKY = 1.12;

    /** So near, in the turn of the sky, what a telescope may touch is the likelier cause. */
    private static final double NEAR_CONTACT_DEG = 12;

    /** What is asked for again and again. */
    private enum Feature {
        SIZE,
        SKY_NOISE,
        SKY,
        LIGHT_STEP,
        UNEVENNESS,
        GUIDE_STAR,
        SHAKE,
        CALM,
        SWING,
        DEC_ERROR
    }

    private final Map<Feature, double[]> known = new EnumMap<>(Feature.class);
    final List<Watched> subs;
    final int last;

    Course(List<Watched> subs) {
        this.subs = subs;
        this.last = subs.size() - 1;
    }

    /** Works a feature out once for each sub. */
    private double kept(Feature feature, int i, IntToDoubleFunction of) {
        double[] values = known.computeIfAbsent(feature, f -> {
            double[] unknown = new double[subs.size()];
            Arrays.fill(unknown, UNKNOWN);
            return unknown;
        });
        if (values[i] == UNKNOWN) {
            values[i] = of.applyAsDouble(i);
        }
        return values[i];
    }

    Watched sub(int i) {
        return subs.get(i);
    }

    private OptionalDouble sign(int i, java.util.function.Function<Signs, OptionalDouble> part) {
        return subs.get(i).signs().map(part).orElse(OptionalDouble.empty());
    }

    /** Share of the stars' light against the best of the series, without the air's part. */
    double light(int i) {
        return subs.get(i).grade().sub().light().isPresent()
                        && subs.get(i).grade().transparency() > 0
                ? subs.get(i).grade().transparency()
                : Double.NaN;
    }

    private static double value(OptionalDouble v) {
        return v.isPresent() ? v.getAsDouble() : Double.NaN;
    }

    private String series(int i) {
        return subs.get(i).grade().sub().series();
    }

    /** A quantile of what the subs before one showed that a test picks; NaN if those are too few. */
    private double before(int i, double quantile, IntPredicate which, ToDoubleFunction<Integer> measure) {
        double[] values = new double[i];
        int n = 0;
        for (int k = 0; k < i; k++) {
            double v = which.test(k) ? measure.applyAsDouble(k) : Double.NaN;
            if (!Double.isNaN(v)) {
                values[n++] = v;
            }
        }
        if (n < FEWEST_BEFORE) {
            return Double.NaN;
        }
        Arrays.sort(values, 0, n);
        return values[(int) Math.round(quantile * (n - 1))];
    }

    /** Width across the long axis against the better ones of the same series before it. */
    double size(int i) {
        return kept(Feature.SIZE, i, this::sizeOf);
    }

    private double sizeOf(int i) {
        double px = width(i);
        return px / before(i, BETTER, k -> series(k).equals(series(i)), this::width);
    }

    private double width(int i) {
        var s = subs.get(i).grade().sub();
        return s.fwhmPx() <= 0 ? Double.NaN : s.fwhmPx() * Math.pow(1 - s.eccentricity() * s.eccentricity(), 0.25);
    }

    /** Noise of the background against the darkest of the same series before it. */
    double skyNoise(int i) {
        return kept(Feature.SKY_NOISE, i, this::skyNoiseOf);
    }

    private double skyNoiseOf(int i) {
        return noise(i) / before(i, 0.2, k -> series(k).equals(series(i)), this::noise);
    }

    private double noise(int i) {
        double n = subs.get(i).grade().sub().noiseAdu();
        return n > 0 ? n : Double.NaN;
    }

    /** Level of the sky against what was usual in the series before it. */
    double sky(int i) {
        return kept(Feature.SKY, i, this::skyOf);
    }

    private double skyOf(int i) {
        return skyAdu(i) / before(i, 0.5, k -> series(k).equals(series(i)), this::skyAdu);
    }

    /** What the sky gave to those of the series before it that have stars; empty of too few. */
    OptionalDouble usualSkyAdu(int i) {
        double usual = before(i, 0.5, k -> series(k).equals(series(i)) && !Double.isNaN(light(k)), this::skyAdu);
        return Double.isNaN(usual) ? OptionalDouble.empty() : OptionalDouble.of(usual);
    }

    double skyAdu(int i) {
        return value(sign(i, Signs::skyAdu));
    }

    /** The stars' light against what was usual in the series before it. */
    double lightStep(int i) {
        return kept(Feature.LIGHT_STEP, i, this::lightStepOf);
    }

    private double lightStepOf(int i) {
        return rawLight(i) / before(i, 0.5, k -> series(k).equals(series(i)), this::rawLight);
    }

    private double rawLight(int i) {
        return value(subs.get(i).grade().sub().light());
    }

    /** How much of the light that the sky gained lies on one side. */
    double unevenness(int i) {
        return kept(Feature.UNEVENNESS, i, this::unevennessOf);
    }

    private double unevennessOf(int i) {
        double slope = value(sign(i, Signs::slopeAdu))
                - before(i, BETTER, k -> series(k).equals(series(i)), k -> value(sign(k, Signs::slopeAdu)));
        double gained = skyAdu(i) - before(i, BETTER, k -> series(k).equals(series(i)), this::skyAdu);
        return gained > 0 ? slope / gained : Double.NaN;
    }

    /** The guide star's signal-to-noise against what it was on the same star; NaN under a brighter sky. */
    double guideStar(int i) {
        return kept(Feature.GUIDE_STAR, i, this::guideStarOf);
    }

    private double guideStarOf(int i) {
        if (skyNoise(i) > SAME_SKY) {
            return Double.NaN;
        }
        int star = subs.get(i).signs().map(Signs::guideStar).orElse(0);
        return value(sign(i, Signs::starSnr))
                / before(
                        i,
                        1 - BETTER,
                        k -> subs.get(k).signs().map(Signs::guideStar).orElse(0) == star && light(k) > CLEAR,
                        k -> value(sign(k, Signs::starSnr)));
    }

    /** How the guide star jumps about from exposure to exposure, against calm ones. */
    double shake(int i) {
        return kept(Feature.SHAKE, i, this::shakeOf);
    }

    private double shakeOf(int i) {
        return value(sign(i, Signs::shakeArcsec)) / before(i, 0.5, k -> true, k -> value(sign(k, Signs::shakeArcsec)));
    }

    /** As {@link #shake}, against the calmest before it. */
    double calm(int i) {
        return kept(Feature.CALM, i, this::calmOf);
    }

    private double calmOf(int i) {
        return shakeArcsec(i) / before(i, 0.1, k -> true, this::shakeArcsec);
    }

    /** How far the guide star swings in right ascension about its mean, against what was usual. */
    double swing(int i) {
        return kept(Feature.SWING, i, this::swingOf);
    }

    private double swingOf(int i) {
        return swingArcsec(i) / before(i, 0.5, k -> true, this::swingArcsec);
    }

    private double swingArcsec(int i) {
        return value(sign(i, s -> s.guiding()
                .effort()
                .map(e -> OptionalDouble.of(e.raSwingArcsec()))
                .orElse(OptionalDouble.empty())));
    }

    double shakeArcsec(int i) {
        return value(sign(i, Signs::shakeArcsec));
    }

    double raPull(int i) {
        return value(sign(i, Signs::raPullMs));
    }

    double decPull(int i) {
        return value(sign(i, Signs::decPullMs));
    }

    /** RMS of guiding in declination against the better ones before it. */
    double decError(int i) {
        return kept(Feature.DEC_ERROR, i, this::decErrorOf);
    }

    private double decErrorOf(int i) {
        return dec(i) / before(i, BETTER, k -> true, this::dec);
    }

    private double dec(int i) {
        return subs.get(i)
                .signs()
                .flatMap(s -> s.guiding().about())
                .map(GuideFigures.Spread::rmsDecArcsec)
                .orElse(Double.NaN);
    }

    /** How the cooler stood at a sub, where it did not hold its set point. */
    Optional<SubCircumstances.Cooling> offSetPoint(int i) {
        return subs.get(i).signs().flatMap(Signs::cooling).filter(c -> !c.holds());
    }

    /** Whether the stars of a sub are drawn out as they are not by themselves. */
    boolean trails(int i) {
        return subs.get(i).grade().cause() == Cause.TRAILED
                || subs.get(i).grade().sub().eccentricity() > DRAWN_OUT;
    }

    boolean kept(int i) {
        return subs.get(i).grade().keep();
    }

    /** Near where something comes close it is likely that; elsewhere the mount itself. */
    Trouble standsStill() {
        OptionalDouble left = sub(last).signs().map(Signs::toContactDeg).orElse(OptionalDouble.empty());
        boolean west = sub(last).signs().filter(Signs::west).isPresent();
        return west && left.isPresent() && left.getAsDouble() < NEAR_CONTACT_DEG ? Trouble.CONTACT : Trouble.MOUNT;
    }

    /** The first of the subs up to the last of which each shows something. */
    int from(IntPredicate shows) {
        int from = last;
        while (from > 0 && shows.test(from - 1)) {
            from--;
        }
        return from;
    }

    /** Middle of a sub's exposure. */
    Instant time(int i) {
        return subs.get(i).time();
    }

    double minutes(int from, int until) {
        return Duration.between(time(from), time(until)).toMillis() / 60_000.0;
    }

    /** What is wrong since a sub. */
    Finding found(int from, Trouble trouble, double certainty, String sentence) {
        int lost = 0;
        for (int i = from; i <= last; i++) {
            lost += kept(i) ? 0 : 1;
        }
        return new Finding(time(from), trouble, certainty, sentence, lost, !kept(last));
    }

    static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }
}
