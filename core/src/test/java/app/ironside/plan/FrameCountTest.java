package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.Examples;
import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.kit.Sensor;
import app.ironside.sky.DeepSkyCatalogue;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Against hand and against a stack that is really made, of normal noise. */
class FrameCountTest {
    private static final NightFile NIGHT = Examples.night(DeepSkyCatalogue.load());

    private static FrameCount of(int darks, int ditherEvery, FrameCount.Lights lights) {
        return FrameCount.of(
                CalibrationPlan.Kind.DARK, darks, NIGHT.kit(), NIGHT.program().withDitherEvery(ditherEvery), lights);
    }

    private static double darkNoise(FrameCount.Lights lights) {
        double read = NIGHT.kit().sensor().readNoiseElectrons();
        return Math.sqrt(
                read * read + NIGHT.kit().sensor().darkElectronsPerSecondAt(lights.sensorC()) * lights.seconds());
    }

    @Test
    void asOftenAsNotADarkPerLightAddsItsVariance() {
        // By hand: lights as noisy as a dark, one dark, each light at its own place: twice the variance.
        FrameCount.Lights lights =
                new FrameCount.Lights(darkNoise(new FrameCount.Lights(1, 180, -10, 1)), 180, -10, 20);
        assertThat(of(1, 1, lights).noiseShare()).isCloseTo(Math.sqrt(2) - 1, within(1e-9));
        assertThat(of(25, 1, lights).noiseShare()).isCloseTo(Math.sqrt(1 + 1 / 25.0) - 1, within(1e-9));
        // Not shifted before the last, twenty lights share the error of one master.
        assertThat(of(25, 100, lights).noiseShare()).isCloseTo(Math.sqrt(1 + 20 / 25.0) - 1, within(1e-9));
    }

    /** 30 lights with 15 darks, shifted after each third: what is left in the stack is what is said. */
    @Test
    void aStackThatIsMadeHasThatNoise() {
        FrameCount.Lights lights = new FrameCount.Lights(6, 180, -10, 30);
        double d = darkNoise(lights);
        SplittableRandom random = new SplittableRandom(3);
        int pixels = 40_000;
        double[] master = new double[pixels];
        for (int i = 0; i < pixels; i++) {
            for (int k = 0; k < 15; k++) {
                master[i] += d * random.nextGaussian() / 15;
            }
        }
        double squares = 0;
        for (int i = 0; i < pixels; i++) {
            double sum = 0;
            for (int sub = 0; sub < 30; sub++) {
                sum += 6 * random.nextGaussian() - master[(i + 7 * (sub / 3)) % pixels];
            }
            squares += sum / 30 * sum / 30;
        }
        double measured = Math.sqrt(squares / pixels) / (6 / Math.sqrt(30)) - 1;
        assertThat(of(15, 3, lights).noiseShare()).isCloseTo(measured, within(0.01));
    }

    @Test
    void moreDarksTakeLonger() {
        FrameCount.Lights lights = new FrameCount.Lights(20, 180, -10, 30);
        // By hand: every length of the program takes its darks.
        assertThat(of(50, 1, lights).takes().toSeconds())
                .isCloseTo(2 * of(25, 1, lights).takes().toSeconds(), within(2L));
    }

    /**
     * By hand: a light of noise 20 on a sensor that reads 0 and has no dark current shows 400 electrons of sky; flats of 20 000 electrons
     * differ by 0.7 % a frame, 2.8 electrons of that sky: 16 of them, at one place with 16 lights, add a variance of 8 to 400.
     */
    @Test
    void flatsOfFewPhotonsAddWhatTheyDifferBy() {
        Sensor sensor = mock(Sensor.class);
        Kit kit = mock(Kit.class);
        when(kit.sensor()).thenReturn(sensor);
        when(sensor.bitDepth()).thenReturn(16);
        when(sensor.gainElectronsPerAdu()).thenReturn(20_000 / (0.5 * 65_535));
        Program program = NIGHT.program().withDitherEvery(16).withCalibrations(new Calibrations(10, 10, 16, 0.5));
        FrameCount.Lights lights = new FrameCount.Lights(20, 60, -10, 16);
        FrameCount flats = FrameCount.of(CalibrationPlan.Kind.FLAT, 16, kit, program, lights);
        assertThat(flats.noiseShare()).isCloseTo(Math.sqrt(1 + 8.0 / 400) - 1, within(1e-6));
        // Without read noise bias frames are all alike.
        assertThat(FrameCount.of(CalibrationPlan.Kind.BIAS, 10, kit, program, lights)
                        .noiseShare())
                .isZero();
    }
}
