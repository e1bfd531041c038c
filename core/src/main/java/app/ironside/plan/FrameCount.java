package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.Kit;
import app.ironside.kit.Sensor;
import app.ironside.plan.CalibrationPlan.Kind;
import java.time.Duration;
import java.util.List;
import java.util.TreeSet;

/**
 * What a number of calibration frames costs and gives: a master of few puts its own noise into every light.
 *
 * @param frames in a set
 * @param takes all sets of the kind that the program wants
 * @param noiseShare by which the stack's noise is more than with a master that has none
 */
public record FrameCount(Kind kind, int frames, Duration takes, double noiseShare) {
    /**
     * What lights are, of which one shall be as another.
     *
     * @param noiseElectrons of a background pixel of one, electrons
     * @param seconds of exposure
     * @param sensorC temperature
     * @param subs in the stack
     */
    public record Lights(double noiseElectrons, double seconds, double sensorC, int subs) {
        public Lights {
            Check.positive("noiseElectrons", noiseElectrons);
            Check.positive("seconds", seconds);
            Check.atLeast("subs", subs, 1);
        }
    }

    /** Schools of practitioners (common practice): 15 to 25 darks or 50, 25 flats a filter or 50, 25 to 50 bias frames or 200. */
    public static List<Integer> schools(Kind kind) {
        return switch (kind) {
            case DARK -> List.of(15, 25, 50);
            case FLAT -> List.of(25, 50);
            case BIAS -> List.of(25, 50, 200);
        };
    }

    /** The schools and the number in use, ascending. */
    public static List<Integer> choices(Kind kind, Calibrations inUse) {
        TreeSet<Integer> counts = new TreeSet<>(schools(kind));
        counts.add(inUse.of(kind));
        counts.remove(0);
        return List.copyOf(counts);
    }

    /**
     * For a number of frames. Between two dithers the master's noise falls on the same pixels of the picture and adds up; after a dither it
     * falls on others and averages: the variance of a stack of M lights, D of them at one place, is (s² + D m²) / M, with s the noise of a
     * light and m what the master puts into it. Of N darks of noise d that is d² / N. N flats of e electrons differ from pixel to pixel by
     * (e + read²) / N e², which the light's sky is divided by. Bias frames are taken from flats, and from lights where there are no darks.
     */
    public static FrameCount of(Kind kind, int frames, Kit kit, Program program, Lights lights) {
        Check.atLeast("frames", frames, 1);
        int atOnePlace = Math.min(lights.subs(), program.ditherEvery());
        double into = into(kind, kit.sensor(), program.calibrations(), lights) / frames;
        double added = atOnePlace * into / (lights.noiseElectrons() * lights.noiseElectrons());
        Calibrations only = new Calibrations(0, 0, 0, program.calibrations().flatLevel()).with(kind, frames);
        Duration takes = CalibrationPlan.of(program.withCalibrations(only)).duration(kit);
        return new FrameCount(kind, frames, takes, Math.sqrt(1 + added) - 1);
    }

    /** Variance that a master of one frame puts into a light, electrons². */
    private static double into(Kind kind, Sensor sensor, Calibrations wanted, Lights lights) {
        double read2 = sensor.readNoiseElectrons() * sensor.readNoiseElectrons();
        double dark = read2 + sensor.darkElectronsPerSecondAt(lights.sensorC()) * lights.seconds();
        double sky = Math.max(0, lights.noiseElectrons() * lights.noiseElectrons() - dark);
        double flat = flatElectrons(sensor, wanted.flatLevel());
        return switch (kind) {
            case DARK -> dark;
            case FLAT -> sky * sky * (flat + read2) / (flat * flat);
            case BIAS -> (wanted.flatsPerFilter() > 0 ? sky * sky * read2 / (flat * flat) : 0)
                    + (wanted.darks() == 0 ? read2 : 0);
        };
    }

    /** Electrons in a pixel of a flat. */
    private static double flatElectrons(Sensor sensor, double level) {
        double adu = level * (Math.pow(2, sensor.bitDepth()) - 1) - sensor.offsetAdu();
        return Math.max(1, adu * sensor.gainElectronsPerAdu());
    }
}
