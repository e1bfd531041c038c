package app.ironside.journal;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
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
    /** As above, with the sentence that says it. */
    public static AirMeasured told(
            Instant time,
            OptionalDouble temperatureC,
            OptionalDouble humidityPercent,
            OptionalDouble windMetresPerSecond,
            OptionalDouble skyColderByK,
            boolean raining) {
        AirMeasured air =
                new AirMeasured(time, "", temperatureC, humidityPercent, windMetresPerSecond, skyColderByK, raining);
        return new AirMeasured(
                time,
                "The air: " + air.words() + ".",
                temperatureC,
                humidityPercent,
                windMetresPerSecond,
                skyColderByK,
                raining);
    }

    /** What was measured, in words: "4.3 °C, wind 1.5 m/s, the sky 21 K colder, dry". */
    public String words() {
        List<String> parts = new ArrayList<>();
        temperatureC.ifPresent(c -> parts.add(String.format(Locale.ROOT, "%.1f °C", c)));
        humidityPercent.ifPresent(p -> parts.add(String.format(Locale.ROOT, "%.0f %% humid", p)));
        windMetresPerSecond.ifPresent(w -> parts.add(String.format(Locale.ROOT, "wind %.1f m/s", w)));
        skyColderByK.ifPresent(k -> parts.add(String.format(Locale.ROOT, "the sky %.0f K colder", k)));
        parts.add(raining ? "drops" : "dry");
        return String.join(", ", parts);
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
