package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.Kit;
import java.time.Duration;
import java.util.List;

/**
 * What a number of darks costs and gives: a master of few puts its own noise into every light.
 *
 * @param darks in a set
 * @param takes all sets of the program
 * @param noiseShare by which the stack's noise is more than with a master that has none
 */
public record DarkCount(int darks, Duration takes, double noiseShare) {
    /** Schools of practitioners: 15 to 25 suffice, or 50 (common practice). */
    public static final List<Integer> SCHOOLS = List.of(15, 25, 50);

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

    /**
     * For a number of darks. Between two dithers the master's noise falls on the same pixels of the picture and adds up; after a dither it
     * falls on others and averages: the variance of a stack of M lights, D of them at one place, is (s² + D d²/N) / M, with s the noise of a
     * light, d that of a dark, N the darks.
     */
    public static DarkCount of(int darks, Kit kit, Program program, Lights lights) {
        Check.atLeast("darks", darks, 1);
        double read = kit.sensor().readNoiseElectrons();
        double dark = read * read + kit.sensor().darkElectronsPerSecondAt(lights.sensorC()) * lights.seconds();
        int atOnePlace = Math.min(lights.subs(), program.ditherEvery());
        double added = atOnePlace * dark / darks / (lights.noiseElectrons() * lights.noiseElectrons());
        Calibrations wanted = program.calibrations();
        Duration takes = CalibrationPlan.of(program.withCalibrations(new Calibrations(darks, 0, 0, wanted.flatLevel())))
                .duration(kit);
        return new DarkCount(darks, takes, Math.sqrt(1 + added) - 1);
    }
}
