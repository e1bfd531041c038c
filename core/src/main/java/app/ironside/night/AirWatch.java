package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.WeatherStation;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import java.time.Duration;
import java.time.Instant;

/** Reads the weather station while the night goes on and writes down what it tells. Drops stop the night before they do harm. */
public final class AirWatch implements WatchedClock.Watch {
    private static final Duration FELT_EVERY = Duration.ofMinutes(1);
    private static final Duration TOLD_EVERY = Duration.ofMinutes(10);

    private final WeatherStation station;
    private final NightRecord record;
    private final NightControl control;
    private Instant felt = Instant.MIN;
    private Instant told = Instant.MIN;
    private boolean silent;
    private boolean stopped;

    /**
     * @param control is told to stop the night where it is when drops are felt
     */
    public AirWatch(WeatherStation station, NightRecord record, NightControl control) {
        this.station = station;
        this.record = record;
        this.control = control;
    }

    @Override
    public void look(Instant now) {
        if (now.isBefore(due(felt, FELT_EVERY))) {
            return;
        }
        felt = now;
        try {
            read(now);
            silent = false;
        } catch (DeviceException e) {
            if (!silent) {
                silent = true;
                record.fault(Stage.RUN, e, "Until then nobody tells of rain.");
            }
        }
    }

    private static Instant due(Instant last, Duration every) {
        return last.equals(Instant.MIN) ? last : last.plus(every);
    }

    private void read(Instant now) {
        boolean raining = station.isRaining();
        if (!now.isBefore(due(told, TOLD_EVERY)) || raining && !stopped) {
            told = now;
            record.tell(AirMeasured.told(
                    now,
                    station.temperatureC(),
                    station.humidityPercent(),
                    station.windMetresPerSecond(),
                    station.skyColderByK(),
                    raining));
        }
        if (raining && !stopped) {
            stopped = true;
            record.fault(
                    Stage.RUN,
                    "The weather station feels drops: the night stops here and the mount is to park. Cover the telescope; how the"
                            + " night goes on is for you to decide.");
            control.give(new Command.ParkNow(), "The weather station", "drops are felt", now);
        }
    }
}
