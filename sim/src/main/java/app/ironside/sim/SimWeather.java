package app.ironside.sim;

import app.ironside.plan.WeatherForecast;
import app.ironside.sky.Interval;
import app.ironside.sky.Site;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;

/**
 * A forecast service that invents a plausible night: it foresees the clouds of the settings, blurred by an hour, and the temperatures to
 * a degree. Deterministic for a seed.
 */
public final class SimWeather implements WeatherForecast {
    private final SimSettings settings;
    private final Instant sunset;
    private final Surroundings truth;

    /**
     * @param sunset of the night, from which temperature and clouds count
     */
    public SimWeather(Site site, SimSettings settings, Instant sunset) {
        this.settings = settings;
        this.sunset = sunset;
        this.truth = new Surroundings(site, settings, sunset);
    }

    @Override
    public boolean isInvented() {
        return true;
    }

    @Override
    public List<Hour> hours(Interval span) {
        List<Hour> hours = new ArrayList<>();
        Instant first = span.from().truncatedTo(ChronoUnit.HOURS);
        for (Instant t = first; t.isBefore(span.until()); t = t.plus(1, ChronoUnit.HOURS)) {
            Noise noise = Noise.of(settings.seed(), 71, (int) (t.getEpochSecond() / 3600));
            double temperature = truth.temperatureC(t) + 0.6 * noise.gaussian();
            hours.add(new Hour(t, cover(t, noise), temperature, humidity(t, noise), 1.5 + 1.5 * noise.uniform()));
        }
        return hours;
    }

    private double cover(Instant time, Noise noise) {
        double minutes = Duration.between(sunset, time).toMinutes();
        double cover = 0.04 + 0.08 * noise.uniform();
        for (SimSettings.Cloud cloud : settings.clouds()) {
            double outside = Math.max(0, Math.max(cloud.from() - minutes, minutes - cloud.until()));
            cover += 0.6 * (1 - cloud.transparency()) * Math.exp(-outside / 40);
        }
        return Math.min(1, cover);
    }

    private double humidity(Instant time, Noise noise) {
        return Math.min(1, truth.humidity(time) + 0.02 * noise.uniform());
    }
}
