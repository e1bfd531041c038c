package app.ironside.journal;

import java.time.Instant;
import java.util.OptionalDouble;

/**
 * What the weather station tells of the air at the telescope; empty is what it has no sensor for.
 *
 * @param temperatureC of the air
 * @param humidityPercent relative
 * @param windMetresPerSecond as the station averages it
 * @param skyColderByK how much colder the sky is than the air
 */
public record AirMeasured(
        Instant time,
        String text,
        OptionalDouble temperatureC,
        OptionalDouble humidityPercent,
        OptionalDouble windMetresPerSecond,
        OptionalDouble skyColderByK,
        boolean raining)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
