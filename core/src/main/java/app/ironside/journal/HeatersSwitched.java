package app.ironside.journal;

import java.time.Instant;

/**
 * The dew heaters were switched by the air.
 *
 * @param marginC how far unheated glass stood above the dew point
 */
public record HeatersSwitched(Instant time, String text, boolean on, double marginC) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
