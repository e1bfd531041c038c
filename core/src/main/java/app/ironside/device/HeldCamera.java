package app.ironside.device;

import app.ironside.image.Frame;
import app.ironside.kit.CameraSettings;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * A camera whose cooler is looked at for as long as it is to hold a temperature. A sensor that drifts away makes darks of another
 * temperature than its subs, and nothing in a picture shows it.
 */
public final class HeldCamera implements Camera {
    private static final Duration LOOKED_AT_EVERY = Duration.ofMinutes(2);
    private static final double REACHED_WITHIN_C = 0.5;

    /** Farther from the set point, the darks taken at it no longer fit: dark current changes by a tenth or more (common practice). */
    public static final double LOST_BEYOND_C = 1;

    /** One reading may be taken while the sensor is read out. */
    private static final int LOST_AFTER = 2;

    private final Camera camera;
    private final NightClock clock;
    private Optional<Double> wantedC = Optional.empty();
    private boolean reached;
    private int off;
    private Instant looked = Instant.MIN;

    public HeldCamera(Camera camera, NightClock clock) {
        this.camera = camera;
        this.clock = clock;
    }

    @Override
    public void coolTo(double temperatureC) {
        camera.coolTo(temperatureC);
        wantedC = Optional.of(temperatureC);
        reached = false;
        off = 0;
    }

    @Override
    public void warmUp() {
        wantedC = Optional.empty();
        camera.warmUp();
    }

    @Override
    public List<String> remarks() {
        List<String> remarks = new ArrayList<>(camera.remarks());
        if (wantedC.isPresent() && abilities().cools() && isDue()) {
            remark(wantedC.get()).ifPresent(remarks::add);
        }
        return remarks;
    }

    private boolean isDue() {
        Instant now = clock.now();
        boolean due = looked.equals(Instant.MIN) || !now.isBefore(looked.plus(LOOKED_AT_EVERY));
        looked = due ? now : looked;
        return due;
    }

    private Optional<String> remark(double wanted) {
        double now;
        try {
            now = camera.sensorTemperatureC();
        } catch (DeviceException e) {
            return Optional.empty(); // that it does not answer is told where it is asked for a frame
        }
        double apart = Math.abs(now - wanted);
        boolean wasLost = off >= LOST_AFTER;
        reached |= apart <= REACHED_WITHIN_C;
        if (!reached) {
            return Optional.empty();
        }
        off = apart > LOST_BEYOND_C ? off + 1 : apart <= REACHED_WITHIN_C ? 0 : off;
        if (!wasLost && off == LOST_AFTER) {
            String power = coolerPower().isPresent()
                    ? String.format(
                            Locale.ROOT,
                            ", its cooler at %.0f %%",
                            100 * coolerPower().getAsDouble())
                    : "";
            return Optional.of(String.format(
                    Locale.ROOT,
                    "The sensor stands at %.1f °C and was held at %.0f%s: look at its supply and fan, or choose a warmer set point. Subs"
                            + " from here on need darks of their own temperature.",
                    now,
                    wanted,
                    power));
        }
        return wasLost && off == 0
                ? Optional.of(String.format(Locale.ROOT, "The sensor is back at %.1f °C.", now))
                : Optional.empty();
    }

    @Override
    public Abilities abilities() {
        return camera.abilities();
    }

    @Override
    public void use(CameraSettings settings) {
        camera.use(settings);
    }

    @Override
    public Operation start(Exposure exposure) {
        return camera.start(exposure);
    }

    @Override
    public void stop() {
        camera.stop();
    }

    @Override
    public Frame download() {
        return camera.download();
    }

    @Override
    public Frame expose(NightClock waiting, Exposure exposure) throws InterruptedException {
        return camera.expose(waiting, exposure);
    }

    @Override
    public double sensorTemperatureC() {
        return camera.sensorTemperatureC();
    }

    @Override
    public OptionalDouble coolerPower() {
        return camera.coolerPower();
    }

    @Override
    public String name() {
        return camera.name();
    }

    @Override
    public Link link() {
        return camera.link();
    }

    @Override
    public void connect() {
        camera.connect();
    }

    @Override
    public void disconnect() {
        camera.disconnect();
    }
}
