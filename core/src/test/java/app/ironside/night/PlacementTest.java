package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.journal.AxisMeasured;
import app.ironside.journal.KnobsTurned;
import app.ironside.journal.NightEvent;
import app.ironside.polar.KnobAdvice;
import app.ironside.polar.KnobGearing;
import app.ironside.polar.PolarError;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** What one night's knobs and marks teach the next. By hand: a base whose altitude knob moves 30′ a turn, its azimuth knob 60′. */
class PlacementTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");
    private static final double ALTITUDE_A_TURN = 30;
    private static final double AZIMUTH_A_TURN = 60;

    private final List<NightEvent> events = new ArrayList<>();

    private void axis(double altitude, double azimuth) {
        Instant time = NINE.plusSeconds(60L * events.size());
        events.add(new AxisMeasured(
                time,
                "",
                altitude,
                azimuth,
                Math.hypot(altitude, azimuth),
                0.1,
                60,
                events.size() / 2,
                false,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                "",
                List.of()));
    }

    private void turned(double altitude, double azimuth) {
        events.add(new KnobsTurned(NINE.plusSeconds(60L * events.size()), "", altitude, azimuth));
    }

    private void aNightOfTwoTurns() {
        axis(-45, 40);
        turned(1, -0.4);
        axis(-45 + ALTITUDE_A_TURN, 40 - 0.4 * AZIMUTH_A_TURN);
        turned(0.4, -0.3);
        axis(-45 + 1.4 * ALTITUDE_A_TURN, 40 - 0.7 * AZIMUTH_A_TURN);
    }

    @Test
    void theKnobsOfOneNightAreKnownOnTheNext() {
        aNightOfTwoTurns();
        KnobGearing gearing = Placement.learned(KnobGearing.UNKNOWN, events).onAnotherNight();
        assertThat(gearing.isLearned()).isTrue();
        KnobAdvice advice = KnobAdvice.toRemove(new PolarError(-15, 12, 0.1, 60), gearing);
        assertThat(advice.altitudeTurns()).isCloseTo(15 / ALTITUDE_A_TURN, within(0.06));
        assertThat(advice.azimuthTurns()).isCloseTo(-12 / AZIMUTH_A_TURN, within(0.03));
        assertThat(advice.sentence()).contains("turn");
        assertThat(gearing.tiltDeg()).isZero();
    }

    @Test
    void nobodyHasTurnedThemYet() {
        axis(-45, 40);
        assertThat(Placement.learned(KnobGearing.UNKNOWN, events).isLearned()).isFalse();
    }

    @Test
    void marksAreComparedBeforeAnythingIsCorrected() {
        aNightOfTwoTurns();
        Placement night = Placement.of(events);
        assertThat(night.axisArcmin().orElseThrow()).isCloseTo(Math.hypot(45, 40), within(1e-9));
        assertThat(night.pointingArcmin()).isEmpty();
        assertThat(Placement.compared("the axis", 12, new double[] {8}))
                .contains("12.0′ off", "8.0′ on one earlier night");
        assertThat(Placement.compared("the axis", 12, new double[] {8, 20, 11}))
                .contains("8.0′ to 20.0′ on 3 earlier nights", "The marks hold");
        assertThat(Placement.compared("the axis", 90, new double[] {8, 20, 11})).contains("The marks were missed");
    }
}
