package app.ironside.sim;

import app.ironside.device.NightClock;
import app.ironside.device.WeatherStation;
import java.util.OptionalDouble;

/** Tells of the simulated air. */
final class SimWeatherStation extends SimDevice implements WeatherStation {
    /** A clear sky is colder than the air by about so much; a closed one by almost nothing (common practice). */
    private static final double CLEAR_SKY_K = 22;

    private final NightClock clock;
    private final Surroundings surroundings;

    SimWeatherStation(NightClock clock, Surroundings surroundings) {
        super("weather station");
        this.clock = clock;
        this.surroundings = surroundings;
    }

    @Override
    public OptionalDouble temperatureC() {
        mustAnswer();
        return OptionalDouble.of(surroundings.temperatureC(clock.now()));
    }

    @Override
    public OptionalDouble humidityPercent() {
        mustAnswer();
        return OptionalDouble.of(100 * surroundings.humidity(clock.now()));
    }

    @Override
    public OptionalDouble windMetresPerSecond() {
        mustAnswer();
        return OptionalDouble.empty();
    }

    @Override
    public OptionalDouble skyColderByK() {
        mustAnswer();
        return OptionalDouble.of(CLEAR_SKY_K * surroundings.cloud(clock.now()));
    }

    @Override
    public boolean isRaining() {
        mustAnswer();
        return false;
    }
}
