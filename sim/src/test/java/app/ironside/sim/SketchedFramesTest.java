package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Devices;
import app.ironside.device.Mount;
import app.ironside.image.Frame;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.FocuserSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.kit.Optics;
import app.ironside.kit.Sensor;
import app.ironside.sky.Equatorial;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.ToDoubleFunction;
import org.hipparchus.stat.inference.KolmogorovSmirnovTest;
import org.junit.jupiter.api.Test;

/** What is said of a frame without pixels, held against the same frame drawn and measured. */
class SketchedFramesTest {
    private static final Kit KIT = TestNight.kit(900, 675);
    private static final int SCENES = 20;

    /** Two samples of one distribution differ by more in one test of so many. */
    private static final double LEVEL = 0.01;

    /** One frame of a sky of a seed, drawn or sketched. */
    private static StarField measured(SimulatedObservatory.Frames frames, long seed, long noise)
            throws InterruptedException {
        Random random = new Random(seed);
        double seeing = 2.9 * Math.exp(0.3 * random.nextGaussian());
        Equatorial toward = new Equatorial(20 + 60 * random.nextDouble(), 20 + 40 * random.nextDouble());
        int aside = (int) Math.round(60 * Math.abs(random.nextGaussian()));
        long seconds = 4 + random.nextInt(60);
        SimSettings settings =
                SimSettings.DEFAULT.withPolarError(0.3, 0.2).withSeed(noise).withAir(seeing, 0.3, 11, 2);
        SteppedClock clock = new SteppedClock(TestNight.NIGHT);
        SimulatedObservatory observatory = new SimulatedObservatory(
                TestNight.SITE, KIT, settings, TestNight.SKY, clock, TestNight.SUNSET, frames, Workers.ALL_CORES);
        Devices devices = observatory.devices();
        devices.mount().unpark();
        devices.mount().slewAndWait(clock, toward, Mount.PierSide.EAST);
        int focus = (int) Math.round(observatory.bestFocusSteps()) + aside;
        devices.focuser().moveAndWait(clock, focus + 60);
        devices.focuser().moveAndWait(clock, focus);
        Frame frame = devices.camera().expose(clock, Camera.Exposure.light(Duration.ofSeconds(seconds)));
        return observatory.gauge().search(DetectSettings.DEFAULT).find(frame);
    }

    private static double[] values(List<StarField> fields, ToDoubleFunction<StarField> value) {
        return fields.stream().mapToDouble(value).toArray();
    }

    private static void sameDistribution(
            String what, List<StarField> drawn, List<StarField> sketched, ToDoubleFunction<StarField> value) {
        double p = new KolmogorovSmirnovTest().kolmogorovSmirnovTest(values(drawn, value), values(sketched, value));
        assertThat(p).as("%s: two samples of one distribution", what).isGreaterThan(LEVEL);
        for (int i = 0; i < drawn.size(); i++) {
            double of = value.applyAsDouble(drawn.get(i));
            // The same scene with other noise; crowds and the pixels' own errors leave a sixth.
            assertThat(value.applyAsDouble(sketched.get(i)))
                    .as("%s of scene %d", what, i)
                    .isCloseTo(of, within(0.16 * Math.abs(of) + 0.02));
        }
    }

    @Test
    void measuringThePixelsGivesWhatIsSaidWithoutThem() throws InterruptedException {
        List<StarField> drawn = new ArrayList<>();
        List<StarField> sketched = new ArrayList<>();
        for (int i = 0; i < SCENES; i++) {
            drawn.add(measured(SimulatedObservatory.Frames.DRAWN, i, 100 + i));
            sketched.add(measured(SimulatedObservatory.Frames.SKETCHED, i, 500 + i));
        }
        sameDistribution("half-flux radius", drawn, sketched, f -> f.medianHalfFluxRadiusPx()
                .orElseThrow());
        sameDistribution("width", drawn, sketched, f -> f.medianFwhmPx().orElseThrow());
        sameDistribution("count of stars", drawn, sketched, f -> f.stars().size());
        sameDistribution("background", drawn, sketched, StarField::backgroundAdu);
        sameDistribution("noise", drawn, sketched, StarField::noiseAdu);
    }

    /** A galaxy that fills the field of a long telescope: its arms are no stars, and the few stars before it tell the size. */
    @Test
    void aGalaxyThatFillsTheFieldIsNotMeasured() throws InterruptedException {
        StarField drawn = longTelescope(SimulatedObservatory.Frames.DRAWN);
        StarField sketched = longTelescope(SimulatedObservatory.Frames.SKETCHED);
        double size = sketched.medianHalfFluxRadiusPx().orElseThrow();
        assertThat(drawn.medianHalfFluxRadiusPx().orElseThrow()).isCloseTo(size, within(0.16 * size));
        assertThat(drawn.medianEccentricity().orElseThrow()).isLessThan(0.45);
        assertThat(drawn.stars().size())
                .isBetween(sketched.stars().size() / 2, 2 * sketched.stars().size() + 10);
    }

    /** A minute of M 33 with 1.4 m of focal length, in focus. */
    private static StarField longTelescope(SimulatedObservatory.Frames frames) throws InterruptedException {
        Kit kit = new Kit(
                "long",
                new Optics(203, 1420, 0.38, 0.82, 1.6),
                new Sensor(1200, 900, 4.63, 0.25, 600, 14, 1.8, 20_000, 0.8, 0.03, 0, 6, true, 1),
                List.of(new FilterSpec("L", 270, 550, 0)),
                new FocuserSpec(4, 5000, 2600, 16),
                new MountSpec(3, 3, 0.5, 4),
                new GuiderSpec(40, 160, 640, 480, 3.75));
        SimSettings settings =
                SimSettings.DEFAULT.withPolarError(0.1, 0.1).withSeed(7).withAir(2.4, 0.2, 11, 2);
        SteppedClock clock = new SteppedClock(TestNight.NIGHT);
        SimulatedObservatory observatory = new SimulatedObservatory(
                TestNight.SITE, kit, settings, TestNight.SKY, clock, TestNight.SUNSET, frames, Workers.ALL_CORES);
        Devices devices = observatory.devices();
        devices.mount().unpark();
        devices.mount().slewAndWait(clock, new Equatorial(23.4621, 30.6602), Mount.PierSide.EAST);
        int focus = (int) Math.round(observatory.bestFocusSteps());
        devices.focuser().moveAndWait(clock, focus + 60);
        devices.focuser().moveAndWait(clock, focus);
        Frame frame = devices.camera().expose(clock, Camera.Exposure.light(Duration.ofSeconds(20)));
        return observatory.gauge().search(DetectSettings.DEFAULT).find(frame);
    }

    /** The brightest stars are where they are drawn: the same ones, to a fraction of a pixel. */
    @Test
    void theStarsAreInTheirPlaces() throws InterruptedException {
        StarField drawn = measured(SimulatedObservatory.Frames.DRAWN, 3, 8);
        StarField sketched = measured(SimulatedObservatory.Frames.SKETCHED, 3, 8);
        List<Star> bright =
                drawn.stars().stream().filter(s -> !s.saturated()).limit(20).toList();
        // Some are galaxies, which are left out, or have a neighbour whose light is measured with theirs.
        assertThat(bright.stream().filter(star -> sketched.stars().stream()
                        .anyMatch(s -> Math.hypot(s.x() - star.x(), s.y() - star.y()) < 0.1
                                && Math.abs(s.fluxAdu() / star.fluxAdu() - 1) < 0.06)))
                .hasSizeGreaterThanOrEqualTo(14);
    }

    /**
     * Published: the light of a Moffat profile within r is 1 − (1 + r²/α²)^(1 − β) (Moffat 1969, A&A 3, 455), so that with β = 3 half
     * of it lies within 0.6436 α and the width at half maximum is 1.0196 α.
     */
    @Test
    void theSpreadOfAPointHoldsItsLightAsTheProfileSays() {
        PointSpread spread = new PointSpread(6, 0, 0, List.of(new StarImage.Stray(0, 0)), 1);
        double alpha = 6 / 1.0196;
        for (double r : new double[] {1.5, 3, 5, 8}) {
            double within = 1 - Math.pow(1 + r * r / (alpha * alpha), -2);
            assertThat(spread.within(r)).isCloseTo(within, within(0.025));
        }
        // An aperture of 4.5 half-flux radii holds 98.9 % of the light, which makes the half of it a hundredth
        // narrower.
        assertThat(spread.halfFluxRadiusPx()).isCloseTo(0.6436 * alpha, within(0.03 * alpha));
    }
}
