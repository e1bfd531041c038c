package app.ironside.device;

import java.util.OptionalDouble;

/** Tells of the air at the telescope. */
public interface WeatherStation extends Device {
    /** Temperature of the air, °C. */
    OptionalDouble temperatureC();

    /** Relative humidity, percent. */
    OptionalDouble humidityPercent();

    /** Speed of the wind, metres a second. */
    OptionalDouble windMetresPerSecond();

    /** How much colder the sky is than the air, kelvins: below about 10 it is clouded (common practice). */
    OptionalDouble skyColderByK();

    /** Whether drops are felt. */
    boolean isRaining();

    @Override
    default String name() {
        return "weather station";
    }
}
