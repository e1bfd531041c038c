package app.ironside.journal;

import java.time.Instant;

/** The knobs of the base were turned, by so many turns as were asked for. */
public record KnobsTurned(Instant time, String text, double altitudeTurns, double azimuthTurns) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.POLAR;
    }
}
