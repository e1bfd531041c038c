package app.ironside.calibrate;

import app.ironside.Check;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.FlatPanel;
import app.ironside.device.NightClock;
import app.ironside.kit.Sensor;
import app.ironside.star.FrameGauge;
import java.time.Duration;

/**
 * Finds the exposure that brings a flat to its level.
 *
 * @param exposure of one flat
 * @param brightness of the panel, 0 to 1
 * @param levelAdu median reached
 * @param tries frames taken
 */
public record FlatExposure(Duration exposure, double brightness, double levelAdu, int tries) {
    /** Shorter flats show the shutter and the panel's flicker (common practice). */
    private static final double SHORTEST_SECONDS = 0.05;

    private static final double LONGEST_SECONDS = 30;
    private static final double WITHIN = 0.02;
    private static final int MOST_TRIES = 12;

    /**
     * Searches, dimming the panel rather than going below the shortest exposure.
     *
     * @param gauge tells the level of each trial frame
     * @param levelShare wanted level as a share of full range, 0.33 to 0.5 in one school
     */
    public static FlatExposure search(
            Camera camera, FlatPanel panel, NightClock clock, FrameGauge gauge, Sensor sensor, double levelShare)
            throws InterruptedException {
        Check.inRange("levelShare", levelShare, 0.05, 0.9);
        double target = sensor.offsetAdu() + levelShare * (sensor.fullScaleAdu() - sensor.offsetAdu());
        double seconds = 0.5;
        double brightness = 0.5;
        for (int attempt = 1; attempt <= MOST_TRIES; attempt++) {
            panel.light(brightness).await(clock);
            Duration length = Duration.ofMillis(Math.round(seconds * 1000));
            Camera.Exposure exposure = Camera.Exposure.light(length).ofKind(Camera.FrameKind.FLAT);
            double level = gauge.level(camera.expose(clock, exposure)).centre();
            if (Math.abs(level / target - 1) <= WITHIN) {
                return new FlatExposure(length, brightness, level, attempt);
            }
            boolean saturated = level > 0.95 * sensor.fullScaleAdu();
            double light = Math.max(1, level - sensor.offsetAdu());
            double factor = saturated ? 0.1 : Math.min(20, (target - sensor.offsetAdu()) / light);
            double wanted = seconds * factor;
            if (wanted < SHORTEST_SECONDS) {
                brightness = Math.max(0.001, brightness * wanted / (2 * SHORTEST_SECONDS));
                wanted = 2 * SHORTEST_SECONDS;
            } else if (wanted > LONGEST_SECONDS && brightness < 1) {
                double brighter = Math.min(1, brightness * 4);
                wanted = wanted * brightness / brighter;
                brightness = brighter;
            }
            seconds = Math.min(wanted, LONGEST_SECONDS);
        }
        throw new DeviceException(
                "flat panel",
                "no exposure from 0.05 to 30 s reaches " + Math.round(target) + " ADU",
                "Check that the panel is lit and covers the telescope, or change its brightness.");
    }
}
