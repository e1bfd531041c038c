package app.ironside.sim;

import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Photometry;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SkyBrightness;
import app.ironside.sky.SunAndMoon;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** Air, cloud, light of the sky and temperature, as functions of time. */
final class Surroundings {
    private static final double COOLING_HOURS = 5;
    private static final double EVENING_HUMIDITY = 0.60;
    private static final double HUMIDITY_PER_C = 0.031;
    private static final double WET = 0.97;

    /** The Sun moves by no more than a twelfth of a degree in it, in which twilight changes by less than 0.1 mag. */
    private static final long LIGHTS_SECONDS = 20;

    /** Brightness of the zenith in twilight by the Sun's altitude, magnitudes per square arcsecond (Patat et al. 2006, A&A 455, 385, figure 2, from memory). */
    private static final double[][] TWILIGHT = {{-18, 23.5}, {-15, 21.2}, {-12, 18.6}, {-9, 15.6}, {-6, 12.6}, {0, 6.5}
    };

    private final Site site;
    private final SimSettings settings;
    private final Faults faults;
    private final Observer observer;
    private final SunAndMoon bodies;
    private final Instant sunset;
    private volatile Optional<Lights> lights = Optional.empty();

    Surroundings(Site site, SimSettings settings, Instant sunset) {
        this.site = site;
        this.settings = settings;
        this.faults = new Faults(settings.faults(), site.zone(), sunset);
        this.observer = Observer.at(site);
        this.bodies = new SunAndMoon(observer);
        this.sunset = sunset;
    }

    /** What goes wrong. */
    Faults faults() {
        return faults;
    }

    Observer observer() {
        return observer;
    }

    /** Air temperature, which the tube follows, °C. */
    double temperatureC(Instant time) {
        double hours = Math.max(0, Duration.between(sunset, time).toMillis() / 3_600_000.0);
        return settings.morningC() + (settings.eveningC() - settings.morningC()) * Math.exp(-hours / COOLING_HOURS);
    }

    /** Relative humidity, 0 to 1. It rises as the air cools, since the water in it stays; where dew, frost or fog come it is all but full. */
    double humidity(Instant time) {
        double cooled = settings.eveningC() - temperatureC(time);
        return faults.isWet(time) ? WET : Math.min(WET, EVENING_HUMIDITY + HUMIDITY_PER_C * cooled);
    }

    /** Share of light that passes air and cloud. */
    double transparency(Horizontal seen, Instant time) {
        double airmass = SkyBrightness.airmass(seen.altitudeDeg());
        double air = Math.pow(10, -0.4 * SkyBrightness.EXTINCTION_MAG_PER_AIRMASS * airmass);
        return air * cloud(time) * faults.air(time, seen);
    }

    /** Share of light that passes cloud that covers all of the sky. */
    double cloud(Instant time) {
        double minutes = Duration.between(sunset, time).toMillis() / 60_000.0;
        return settings.clouds().stream()
                        .filter(c -> minutes >= c.from() && minutes < c.until())
                        .mapToDouble(SimSettings.Cloud::transparency)
                        .min()
                        .orElse(1)
                * faults.air(time);
    }

    /** Width of star images from the air alone, long exposure, arcseconds. */
    double seeingArcsec(Horizontal seen) {
        // Fried's parameter goes as airmass to the −3/5: seeing as the +3/5.
        return settings.seeingArcsec() * Math.pow(SkyBrightness.airmass(Math.max(10, seen.altitudeDeg())), 0.6);
    }

    /** Electrons a second that the sky leaves in a pixel. */
    double skyElectronsPerSecond(Equatorial toward, Horizontal seen, Instant time, Kit kit, FilterSpec filter) {
        Lights now = lights(time);
        double separation = now.moonAmongStars().separationDeg(toward);
        double nanoLamberts = SkyBrightness.darkSkyNanoLamberts(site.skyMagPerArcsec2(), seen.altitudeDeg())
                + SkyBrightness.moonNanoLamberts(
                        now.moonPhaseDeg(), separation, now.moonAltitudeDeg(), seen.altitudeDeg())
                + SkyBrightness.nanoLamberts(twilight(now.sunAltitudeDeg()));
        return faults.sky(time, seen)
                * Photometry.electronsPerSecondPerPixel(SkyBrightness.magPerArcsec2(nanoLamberts), kit, filter);
    }

    /** Where Sun and Moon stand; good for a few seconds, in which a guide camera asks again and again. */
    private record Lights(
            long of, double sunAltitudeDeg, double moonAltitudeDeg, double moonPhaseDeg, Equatorial moonAmongStars) {}

    private Lights lights(Instant time) {
        long step = Math.floorDiv(time.getEpochSecond(), LIGHTS_SECONDS);
        Optional<Lights> known = lights.filter(l -> l.of() == step);
        if (known.isEmpty()) {
            Instant middle = Instant.ofEpochSecond(step * LIGHTS_SECONDS + LIGHTS_SECONDS / 2);
            Horizontal moon = bodies.moon(middle);
            known = Optional.of(new Lights(
                    step,
                    bodies.sun(middle).altitudeDeg(),
                    moon.altitudeDeg(),
                    bodies.moonPhaseAngleDeg(middle),
                    observer.catalogue(moon, middle)));
            lights = known;
        }
        return known.get();
    }

    private static double twilight(double sunAltitudeDeg) {
        if (sunAltitudeDeg <= TWILIGHT[0][0]) {
            return 30;
        }
        for (int i = 1; i < TWILIGHT.length; i++) {
            if (sunAltitudeDeg <= TWILIGHT[i][0]) {
                double share = (sunAltitudeDeg - TWILIGHT[i - 1][0]) / (TWILIGHT[i][0] - TWILIGHT[i - 1][0]);
                return TWILIGHT[i - 1][1] + share * (TWILIGHT[i][1] - TWILIGHT[i - 1][1]);
            }
        }
        return 6;
    }

    /** Distance of a direction from the Sun, degrees. */
    double sunSeparationDeg(Equatorial target, Instant time) {
        return observer.catalogue(bodies.sun(time), time).separationDeg(target);
    }
}
