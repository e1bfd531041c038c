package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.PowerBox;
import app.ironside.device.WeatherStation;
import app.ironside.journal.HeatersSwitched;
import app.ironside.plan.Dew;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;

/**
 * Switches the heaters by the air: on before the glass gets wet, off again when it is dry for good. Warm glass costs power, and stirs the
 * air before it. Where nothing tells of the air they stay on, as Ready left them.
 */
public final class HeaterWatch implements WatchedClock.Watch {
    private static final Duration LOOKED_AT_EVERY = Duration.ofMinutes(5);

    /** Glass takes some minutes to warm, so that it must begin before it is needed. */
    private static final double ON_BELOW_C = 3;

    /** Further away than where they were switched on, so that they do not go on and off at each gust. */
    private static final double OFF_ABOVE_C = 5;

    private final WeatherStation air;
    private final PowerBox power;
    private final NightRecord record;
    private Instant looked = Instant.MIN;
    private boolean switchedOn;

    public HeaterWatch(WeatherStation air, PowerBox power, NightRecord record) {
        this.air = air;
        this.power = power;
        this.record = record;
    }

    @Override
    public void look(Instant now) {
        if (!looked.equals(Instant.MIN) && now.isBefore(looked.plus(LOOKED_AT_EVERY))) {
            return;
        }
        looked = now;
        try {
            if (air.temperatureC().isPresent()
                    && air.humidityPercent().isPresent()
                    && air.humidityPercent().getAsDouble() > 0) {
                rule(air.temperatureC().getAsDouble(), air.humidityPercent().getAsDouble());
            }
        } catch (DeviceException e) {
            // Who does not answer is told where it is asked for more than this; the heaters stay as they are.
            looked = now;
        }
    }

    private void rule(double temperatureC, double humidityPercent) {
        double margin = Dew.marginC(temperatureC, Math.min(1, humidityPercent / 100));
        // A heater that draws nothing is told at Ready; here it is not switched again and again.
        boolean on = switchedOn || power.heaterWatts() > 0;
        if (on == margin < (on ? OFF_ABOVE_C : ON_BELOW_C)) {
            return;
        }
        power.heat(!on);
        switchedOn = !on;
        String words = String.format(
                Locale.ROOT,
                "The heaters are %s: by %.1f °C and %.0f %% of humidity, glass under the sky is %.1f °C %s the dew point.",
                on ? "off" : "on",
                temperatureC,
                humidityPercent,
                Math.abs(margin),
                margin < 0 ? "below" : "above");
        record.tell(new HeatersSwitched(record.now(), words, !on, margin));
    }
}
