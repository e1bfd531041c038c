package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Devices;
import app.ironside.device.Mount;
import app.ironside.image.Frame;
import app.ironside.kit.Kit;
import app.ironside.kit.Photometry;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.SunAndMoon;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ObservatoryTest {
    private static final Kit KIT = TestNight.kit(800, 600);

    private final SteppedClock clock = new SteppedClock(TestNight.NIGHT);

    private SimulatedObservatory observatory(SimSettings settings) {
        return TestNight.observatory(KIT, settings, clock);
    }

    private Frame flat(Camera camera, double seconds) throws InterruptedException {
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(1000 * seconds)))
                .ofKind(Camera.FrameKind.FLAT);
        return camera.expose(clock, exposure);
    }

    /**
     * Published: the photon-transfer relation (Janesick 2007, Photon Transfer): the variance of the difference of two equal flats,
     * halved, grows with their signal by 1 / gain, from the read noise on. The response of the pixels cancels in the difference.
     */
    @Test
    void photonTransferGivesGainAndReadNoise() throws InterruptedException {
        Devices devices = observatory(SimSettings.DEFAULT).devices();
        devices.panel().light(0.02);
        List<double[]> points = new ArrayList<>();
        for (double seconds : new double[] {0.2, 0.5, 1, 2, 3}) {
            Frame a = flat(devices.camera(), seconds);
            Frame b = flat(devices.camera(), seconds);
            double signal = 0;
            double variance = 0;
            double meanDifference = 0;
            int n = a.pixels().length;
            for (int i = 0; i < n; i++) {
                signal += (a.pixels()[i] + b.pixels()[i]) / 2.0 / n - 500.0 / n;
                meanDifference += (a.pixels()[i] - b.pixels()[i]) / (double) n;
            }
            for (int i = 0; i < n; i++) {
                double d = a.pixels()[i] - b.pixels()[i] - meanDifference;
                variance += d * d / 2 / (n - 1);
            }
            points.add(new double[] {signal, variance});
        }
        double[] line = line(points);
        // Three standard errors of a variance from 480,000 pixels are 0.6 %.
        assertThat(1 / line[1]).isCloseTo(KIT.sensor().gainElectronsPerAdu(), within(0.012 * 0.9));
        Frame bias = devices.camera()
                .expose(clock, Camera.Exposure.light(Duration.ZERO).ofKind(Camera.FrameKind.BIAS));
        Frame other = devices.camera()
                .expose(clock, Camera.Exposure.light(Duration.ZERO).ofKind(Camera.FrameKind.BIAS));
        double squares = 0;
        for (int i = 0; i < bias.pixels().length; i++) {
            squares += Math.pow(bias.pixels()[i] - other.pixels()[i], 2) / 2;
        }
        double readNoise =
                Math.sqrt(squares / bias.pixels().length - 1 / 12.0) * 0.9; // 1/12: rounding to whole numbers
        assertThat(readNoise).isCloseTo(4.5, within(0.05));
    }

    private static double[] line(List<double[]> points) {
        double mx = points.stream().mapToDouble(p -> p[0]).average().orElseThrow();
        double my = points.stream().mapToDouble(p -> p[1]).average().orElseThrow();
        double sxy = points.stream().mapToDouble(p -> (p[0] - mx) * (p[1] - my)).sum();
        double sxx = points.stream().mapToDouble(p -> (p[0] - mx) * (p[0] - mx)).sum();
        return new double[] {my - mx * sxy / sxx, sxy / sxx};
    }

    /** Law: the same seed gives the same pixels, another seed others. */
    private static Frame bias(SimSettings settings, Workers workers) throws InterruptedException {
        SteppedClock clock = new SteppedClock(TestNight.NIGHT);
        return new SimulatedObservatory(TestNight.SITE, KIT, settings, TestNight.SKY, clock, TestNight.SUNSET, workers)
                .devices()
                .camera()
                .expose(clock, Camera.Exposure.light(Duration.ZERO));
    }

    @Test
    void aSeedIsANight() throws InterruptedException {
        Frame a = bias(SimSettings.DEFAULT, Workers.SERIAL);
        Frame b = bias(SimSettings.DEFAULT, Workers.ALL_CORES);
        Frame c = bias(SimSettings.DEFAULT.withSeed(9), Workers.SERIAL);
        assertThat(a.pixels()).isEqualTo(b.pixels());
        assertThat(a.pixels()).isNotEqualTo(c.pixels());
    }

    /** Truth: where the observatory says it looks, the stars of the catalogue are found with the flux of their magnitude. */
    @Test
    void catalogueStarsHaveTheirFlux() throws InterruptedException {
        SimulatedObservatory observatory = observatory(SimSettings.DEFAULT.withPolarError(0, 0));
        Devices devices = observatory.devices();
        devices.mount().unpark();
        Equatorial toward = new Equatorial(56.75, 24.1); // M 45: many catalogue stars in a small field
        devices.mount().slewAndWait(clock, toward, Mount.PierSide.EAST);
        devices.mount().sync(observatory.looksAt());
        devices.mount().slewAndWait(clock, toward, Mount.PierSide.EAST);
        int focus = (int) Math.round(observatory.bestFocusSteps());
        devices.focuser().moveAndWait(clock, focus + 60);
        devices.focuser().moveAndWait(clock, focus);
        Frame frame = devices.camera().expose(clock, Camera.Exposure.light(Duration.ofMillis(100)));
        StarField field = new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL).find(frame);
        List<CatalogueStar> near = StarCatalogue.hipparcos().within(observatory.looksAt(), 0.24).stream()
                .filter(s -> s.magnitude() > 5.5)
                .toList();
        assertThat(near).isNotEmpty();
        for (CatalogueStar star : near) {
            double expected = Photometry.electronsPerSecond(
                            star.magnitude(), KIT, KIT.filters().get(0))
                    * 0.1
                    / 0.9;
            // Extinction and the wings beyond the aperture take their part, colour and vignetting a little.
            assertThat(field.stars()).anyMatch(s -> s.fluxAdu() > 0.55 * expected && s.fluxAdu() < 1.05 * expected);
        }
        assertThat(field.medianHalfFluxRadiusPx().orElseThrow()).isBetween(0.7, 1.6);
    }

    @Test
    void aParkedMountAndTheSunAreRefused() {
        Mount mount = observatory(SimSettings.DEFAULT).devices().mount();
        assertThatThrownBy(() -> mount.slewTo(new Equatorial(35, 42), Mount.PierSide.EAST))
                .isInstanceOf(DeviceException.class)
                .hasMessage("mount: it is parked and does not move. Unpark it, then try again.");
        mount.unpark();
        SunAndMoon bodies = new SunAndMoon(Observer.at(TestNight.SITE));
        Equatorial sun = Observer.at(TestNight.SITE).catalogue(bodies.sun(TestNight.NIGHT), TestNight.NIGHT);
        assertThatThrownBy(() -> mount.slewTo(sun, Mount.PierSide.EAST))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("Never point a telescope toward the Sun");
    }

    /** Law: west and east pulses undo each other; declination gives back less by its slack. */
    @Test
    void guidePulsesAndSlack() throws InterruptedException {
        SimulatedObservatory observatory = observatory(SimSettings.DEFAULT.withPolarError(0, 0));
        Mount mount = observatory.devices().mount();
        mount.unpark();
        mount.slewAndWait(clock, new Equatorial(35, 0), Mount.PierSide.EAST);
        double before = observatory.looksAt().decDeg();
        pulse(mount, Mount.Direction.NORTH);
        double north = observatory.looksAt().decDeg();
        pulse(mount, Mount.Direction.SOUTH);
        double back = observatory.looksAt().decDeg();
        // By hand: 2 s at half the sidereal rate are 15.04″, less 3.5″ of slack when the gear turns round.
        assertThat((north - before) * 3600).isCloseTo(15.04 - 3.5, within(0.8));
        assertThat((north - back) * 3600).isCloseTo(15.04 - 3.5, within(0.8));
    }

    private void pulse(Mount mount, Mount.Direction direction) throws InterruptedException {
        mount.pulse(direction, Duration.ofSeconds(2));
        clock.await(Duration.ofSeconds(2));
    }

    @Test
    void theFocuserRefusesToLeaveItsRange() {
        assertThatThrownBy(() ->
                        observatory(SimSettings.DEFAULT).devices().focuser().moveTo(6000))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("beyond its ends, 0 and 5000");
    }

    /** Law: cooling takes time and stops at what the surroundings allow. */
    @Test
    void theCoolerTakesItsTime() throws InterruptedException {
        Camera camera = observatory(SimSettings.DEFAULT).devices().camera();
        camera.coolTo(-10);
        assertThat(camera.sensorTemperatureC()).isGreaterThan(0);
        clock.await(Duration.ofMinutes(10));
        assertThat(camera.sensorTemperatureC()).isEqualTo(-10);
        camera.coolTo(-80);
        clock.await(Duration.ofHours(1));
        assertThat(camera.sensorTemperatureC()).isGreaterThan(-40);
    }

    /** Published: Allen's Astrophysical Quantities has about 10 stars a square degree brighter than V 10.3 at middle latitudes (from memory, a third). */
    @Test
    void inventedStarsHaveTheCountsOfTheRealSky() {
        List<CatalogueStar> stars = TestNight.SKY.stars(new Equatorial(35, 42), 3, 12);
        double area = Math.PI * 9;
        assertThat(stars.size() / area).isCloseTo(SkySource.countsPerSquareDegree(12), within(12.0));
        assertThat(stars).filteredOn(s -> s.name().equals("invented")).allMatch(s -> s.magnitude() >= 8.7);
        assertThat(TestNight.SKY.stars(new Equatorial(35, 42), 3, 12)).isEqualTo(stars);
    }
}
