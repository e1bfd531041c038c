package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.star.TrailCause.Cause;
import app.ironside.star.TrailCause.Evidence;
import app.ironside.star.TrailCause.SubShape;
import java.time.Instant;
import java.util.List;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Patterns of a night as common practice describes them (seed 2). */
class TrailCauseTest {
    private static final Instant START = Instant.parse("2026-11-14T19:00:00Z");

    private static List<SubShape> subs(int count, IntToDoubleFunction elongation, IntToDoubleFunction angle) {
        Random random = new Random(2);
        return IntStream.range(0, count)
                .mapToObj(i -> new SubShape(
                        START.plusSeconds(190L * i),
                        Math.max(0, elongation.applyAsDouble(i) + 0.02 * random.nextGaussian()),
                        angle.applyAsDouble(i),
                        2 + 0.03 * random.nextGaussian(),
                        -45 + 0.8 * i))
                .toList();
    }

    private static Cause first(List<SubShape> subs, OptionalDouble worm) {
        List<Evidence> evidence = TrailCause.of(subs, worm);
        assertThat(evidence).isNotEmpty();
        return evidence.get(0).cause();
    }

    @Test
    void roundSubsNeedNoCause() {
        assertThat(TrailCause.of(subs(40, i -> 0.05, i -> 10), OptionalDouble.empty()))
                .isEmpty();
    }

    @Test
    void allAlongOneDirectionIsPolarAlignment() {
        List<SubShape> subs = subs(40, i -> 0.45, i -> 75);
        assertThat(first(subs, OptionalDouble.empty())).isEqualTo(Cause.POLAR_ALIGNMENT);
        assertThat(TrailCause.of(subs, OptionalDouble.empty()).get(0).sentence())
                .contains("all along 75°");
    }

    /** A gear of 478 s against subs 190 s apart: every 2.5 subs. */
    @Test
    void againAndAgainIsPeriodicError() {
        List<SubShape> subs = subs(60, i -> 0.25 + 0.22 * Math.cos(2 * Math.PI * 190 * i / 478.0), i -> 5);
        assertThat(first(subs, OptionalDouble.empty())).isEqualTo(Cause.PERIODIC_ERROR);
        assertThat(first(subs, OptionalDouble.of(478))).isEqualTo(Cause.PERIODIC_ERROR);
    }

    @Test
    void risingTowardTheMeridianIsACable() {
        assertThat(first(subs(55, i -> 0.05 + 0.01 * i, i -> 40), OptionalDouble.empty()))
                .isEqualTo(Cause.CABLE_OR_CONTACT);
    }

    @Test
    void oneSubIsWind() {
        assertThat(first(subs(40, i -> i == 17 ? 0.6 : 0.05, i -> 40), OptionalDouble.empty()))
                .isEqualTo(Cause.WIND_OR_KNOCK);
    }

    @Test
    void swollenAndRoundIsFocusOrDew() {
        List<SubShape> subs = subs(30, i -> 0.05, i -> 0).stream()
                .map(s -> new SubShape(
                        s.middle(),
                        s.elongation(),
                        s.angleDeg(),
                        s.halfFluxRadiusPx() * (s.hourAngleDeg() > -30 ? 1.8 : 1),
                        s.hourAngleDeg()))
                .toList();
        assertThat(first(subs, OptionalDouble.empty())).isEqualTo(Cause.FOCUS_OR_DEW);
    }

    @Test
    void fewSubsTellNothing() {
        assertThat(TrailCause.of(subs(5, i -> 0.6, i -> 0), OptionalDouble.empty()))
                .isEmpty();
    }

    /** By hand: ranks 0 1 2 against 2 1 0. */
    @Test
    void rankCorrelation() {
        assertThat(TrailCause.rankCorrelation(new double[] {1, 2, 3}, new double[] {9, 4, 1}))
                .isCloseTo(-1, within(1e-12));
    }
}
