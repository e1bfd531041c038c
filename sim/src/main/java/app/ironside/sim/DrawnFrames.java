package app.ironside.sim;

import app.ironside.image.Frame;
import app.ironside.kit.Sensor;
import java.util.Arrays;

/** Frames with all their pixels. */
final class DrawnFrames implements FrameMaker {
    private final Exposer exposer;
    private final Sensor sensor;

    DrawnFrames(Exposer exposer, Sensor sensor) {
        this.exposer = exposer;
        this.sensor = sensor;
    }

    @Override
    public Frame make(Shot shot) {
        Exposer.Window window = shot.window();
        float[] adu = exposer.read(light(shot), window, shot.seconds(), shot.temperatureC(), shot.seed());
        shot.sky()
                .ifPresent(scene -> Arrays.fill(adu, scene.marks().firstLost(window) * window.width(), adu.length, 0));
        Frame frame = new Frame(window.width(), window.height(), adu, shot.header());
        return shot.binning() == 1 ? frame : binned(frame, shot.binning(), sensor.fullScaleAdu());
    }

    private float[] light(Shot shot) {
        if (shot.sky().isPresent()) {
            float[] light = exposer.light(shot.sky().get(), shot.window());
            Streaks.draw(light, shot);
            return light;
        }
        return shot.evenElectrons() == 0 ? new float[0] : exposer.even(shot.evenElectrons(), shot.window());
    }

    private static Frame binned(Frame frame, int n, int fullScale) {
        int width = frame.width() / n;
        int height = frame.height() / n;
        float[] out = new float[width * height];
        for (int row = 0; row < height; row++) {
            for (int column = 0; column < width; column++) {
                float sum = 0;
                for (int j = 0; j < n; j++) {
                    for (int i = 0; i < n; i++) {
                        sum += frame.pixels()[(row * n + j) * frame.width() + column * n + i];
                    }
                }
                out[row * width + column] = Math.min(fullScale, sum);
            }
        }
        return new Frame(width, height, out, frame.header());
    }
}
