package app.ironside.point;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.ironside.Examples;
import app.ironside.Mocks;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.Correction;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.Wcs;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A mount that points wrong and a camera that shows real star positions; nothing else is simulated. */
class CenteringTest {
    private static final StarCatalogue STARS = StarCatalogue.hipparcos();
    private static final Kit KIT = Examples.kit("lark");
    private static final Equatorial TARGET = new Equatorial(300, 36);
    private static final int WIDTH = KIT.sensor().widthPx() / 2;
    private static final int HEIGHT = KIT.sensor().heightPx() / 2;

    private final Mount mount = Mocks.device(Mount.class);
    private final Camera camera = Mocks.device(Camera.class);
    private final NightClock clock = mock(NightClock.class);
    private double offRa = 0.9;
    private double offDec = -0.4;
    private Equatorial sentTo = TARGET;
    private boolean capped;
    private Centering centering;

    @BeforeEach
    void wire() throws InterruptedException {
        when(clock.now()).thenReturn(Instant.parse("2026-11-14T20:00:00Z"));
        doAnswer(call -> {
                    sentTo = call.getArgument(1);
                    return null;
                })
                .when(mount)
                .slewAndWait(any(), any(), any());
        doAnswer(call -> {
                    // Told the truth, it errs by a tenth of what it did.
                    offRa *= 0.1;
                    offDec *= 0.1;
                    return null;
                })
                .when(mount)
                .sync(any());
        when(camera.expose(any(), any())).thenAnswer(call -> frame());
        centering = of(KIT);
    }

    private Frame frame() {
        Random random = new Random(6);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (600 + 6 * random.nextGaussian());
        }
        double scale = 2 * KIT.arcsecPerPixel() / 3600;
        Wcs wcs = new Wcs(
                new Equatorial(sentTo.raDeg() + offRa, sentTo.decDeg() + offDec),
                (WIDTH + 1) / 2.0,
                (HEIGHT + 1) / 2.0,
                -scale,
                0,
                0,
                scale);
        for (CatalogueStar star : capped ? List.<CatalogueStar>of() : STARS.within(wcs.reference(), 12)) {
            wcs.toPixel(star.position()).ifPresent(p -> add(pixels, p, 3e6 * Math.pow(10, -0.4 * star.magnitude())));
        }
        return new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY);
    }

    private static void add(float[] pixels, double[] p, double flux) {
        for (int row = (int) p[1] - 6; row <= p[1] + 5; row++) {
            for (int column = (int) p[0] - 6; column <= p[0] + 5; column++) {
                if (row >= 0 && column >= 0 && row < HEIGHT && column < WIDTH) {
                    double d = Math.pow(column + 1 - p[0], 2) + Math.pow(row + 1 - p[1], 2);
                    pixels[row * WIDTH + column] += (float) (flux / (2 * Math.PI * 1.7) * Math.exp(-d / 3.4));
                }
            }
        }
    }

    @Test
    void eachRoundComesNearer() throws InterruptedException {
        CenteringResult result = centering.centre(
                TARGET, Mount.PierSide.WEST, Duration.ofSeconds(5), 30, (frame, stars, answer, offset) -> {});
        assertThat(result.centred()).isTrue();
        // By construction: 1.0° off the sky at first, then a tenth each time.
        assertThat(result.offsetsArcsec().get(0)).isBetween(2900.0, 3100.0);
        assertThat(result.offsetsArcsec()).isSortedAccordingTo(java.util.Comparator.reverseOrder());
        verify(mount, times(result.offsetsArcsec().size() - 1)).sync(any());
    }

    private CenteringResult centre(Centering by) throws InterruptedException {
        return by.centre(TARGET, Mount.PierSide.WEST, Duration.ofSeconds(5), 30, (frame, stars, answer, offset) -> {});
    }

    private Centering of(Kit kit) {
        return new Centering(
                mount,
                camera,
                clock,
                new StarFinder(DetectSettings.BRIGHTEST, Workers.SERIAL),
                new PlateSolver(STARS, Workers.SERIAL),
                kit);
    }

    /** A mount with a model of its own keeps its belief: it is asked for a place shifted by what it missed, and next time at once. */
    @Test
    void aMountCanBeCorrectedByOffset() throws InterruptedException {
        MountSpec spec = new MountSpec(3, 3, 0.5, 4, Optional.of(Correction.OFFSET));
        Centering byOffset = of(new Kit(
                KIT.name(),
                KIT.optics(),
                KIT.sensor(),
                KIT.filters(),
                KIT.motorFocuser(),
                spec,
                KIT.guideOptics(),
                KIT.equipment()));
        CenteringResult first = centre(byOffset);
        assertThat(first.centred()).isTrue();
        assertThat(first.offsetsArcsec()).hasSize(2);
        // By construction the mount looks 0.9° further east in right ascension and 0.4° further south than it is sent.
        assertThat(sentTo.raDeg()).isCloseTo(300 - 0.9, within(0.02));
        assertThat(sentTo.decDeg()).isCloseTo(36.4, within(0.02));
        assertThat(centre(byOffset).offsetsArcsec())
                .as("the shift is known now")
                .hasSize(1);
        verify(mount, never()).sync(any());
    }

    /** Errors of the two index terms as they are: the first slew is true. Another error later: the model is named stale and left. */
    @Test
    void aModelPointsUntilAFrameContradictsIt() throws InterruptedException {
        Observer observer = Observer.at(new Site("test", 44.05, 8.2, 740, ZoneOffset.UTC, 21, Horizon.FLAT));
        PointingModel model = new PointingModel(
                List.of(
                        new PointingModel.Term(PointingModel.Kind.HOUR_ANGLE_INDEX, -0.9 * 3600, 5),
                        new PointingModel.Term(PointingModel.Kind.DECLINATION_INDEX, -0.4 * 3600, 5)),
                3000,
                8,
                9,
                20,
                clock.now());
        centering.use(model, observer);
        CenteringResult first = centre(centering);
        assertThat(first.offsetsArcsec()).hasSize(1);
        assertThat(first.staleModel()).isEmpty();
        offDec = 0.4;
        CenteringResult moved = centre(centering);
        assertThat(moved.staleModel().orElseThrow())
                .contains("The model is stale")
                .contains("48.0′");
        assertThat(moved.centred()).isTrue();
        assertThat(centre(centering).staleModel()).as("it is not used again").isEmpty();
    }

    @Test
    void aCapIsNamedAfterLongerAndLongerExposures() {
        capped = true;
        assertThatThrownBy(() -> centering.look(TARGET, Duration.ofSeconds(5), (frame, stars, answer, offset) -> {}))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("the frame could not be recognised")
                .hasMessageContaining("look for cloud, a cap or a far-off focus");
    }

    /** Points that cannot be reached or seen are explained and left out; a cancel leaves the rest untaken. */
    @Test
    void aModelRunGoesOnAfterAFailure() throws InterruptedException {
        when(mount.pierSide()).thenReturn(Mount.PierSide.WEST);
        SkyPoints.Place good = new SkyPoints.Place(TARGET, Mount.PierSide.WEST);
        SkyPoints.Place refused = new SkyPoints.Place(new Equatorial(10, 10), Mount.PierSide.WEST);
        doThrow(new DeviceException("mount", "it does not move", "Look at the clutches."))
                .when(mount)
                .slewAndWait(clock, refused.place(), Mount.PierSide.WEST);
        ModelRun run = new ModelRun(mount, clock, centering);
        ModelRun.Outcome outcome =
                run.take(List.of(refused, good), Duration.ofSeconds(5), (f, s, a, o) -> {}, Progress.NONE);
        assertThat(outcome.failures()).hasSize(1);
        assertThat(outcome.failures().get(0).reason()).contains("Look at the clutches.");
        assertThat(outcome.points()).hasSize(1);
        assertThat(outcome.points().get(0).believed()).isEqualTo(TARGET);
        assertThatThrownBy(
                        () -> run.take(List.of(good), Duration.ofSeconds(5), (f, s, a, o) -> {}, (what, done) -> false))
                .isInstanceOf(CancellationException.class);
    }
}
