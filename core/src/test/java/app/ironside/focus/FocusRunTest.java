package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.Mocks;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Focuser;
import app.ironside.device.NightClock;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.FocuserSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.kit.Optics;
import app.ironside.kit.Sensor;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A sweep on invented stars whose width is a hyperbola of the position, with best focus at 2462. */
class FocusRunTest {
    private static final Kit KIT = new Kit(
            "Wren",
            new Optics(90, 432, 0, 0.9, 3.6),
            new Sensor(2800, 2100, 6.3, 0.9, 500, 16, 4.5, 55_000, 0.75, 0.08, 0, 6, true, 1.5),
            List.of(new FilterSpec("L", 270, 550, 0)),
            new FocuserSpec(4, 5000, 2600, 16),
            new MountSpec(3, 3, 0.5, 4),
            new GuiderSpec(40, 160, 1280, 960, 3.75));

    private final Focuser focuser = Mocks.device(Focuser.class);
    private final Camera camera = Mocks.device(Camera.class);
    private final NightClock clock = mock(NightClock.class);
    private final List<Integer> moves = new ArrayList<>();
    private int position = 2500;
    private int stars = 12;

    @BeforeEach
    void wire() throws InterruptedException {
        when(clock.now()).thenReturn(Instant.parse("2026-11-14T18:00:00Z"));
        when(focuser.maxSteps()).thenReturn(5000);
        when(focuser.positionSteps()).thenAnswer(call -> position);
        doAnswer(call -> {
                    position = call.getArgument(1);
                    moves.add(position);
                    return null;
                })
                .when(focuser)
                .moveAndWait(any(), anyInt());
        when(camera.expose(any(), any())).thenAnswer(call -> frame());
    }

    private Frame frame() {
        double sigma = Math.hypot(0.95, 0.025 * (position - 2462));
        Random random = new Random(position);
        float[] pixels = new float[240 * 200];
        for (int i = 0; i < pixels.length; i++) {
            double light = 0;
            for (int k = 0; k < stars; k++) {
                double d = Math.pow(i % 240 - 30 - 60 * (k % 4), 2) + Math.pow(i / 240 - 30 - 65 * (k / 4.0), 2);
                light += d < 900 ? 60_000 / (2 * Math.PI * sigma * sigma) * Math.exp(-d / (2 * sigma * sigma)) : 0;
            }
            pixels[i] = (float) (800 + light + 6 * random.nextGaussian());
        }
        return new Frame(240, 200, pixels, Header.EMPTY.with("SATURATE", 1e6));
    }

    private FocusRun run() {
        return new FocusRun(focuser, camera, clock, new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL), KIT);
    }

    /** By hand: 1.1 px, ends 3.2 times as wide: √(3.2² − 1) × 1.1 × 6.3 µm × 4.8 / 0.3536 / 4 / 4 µm = 17.9 steps. */
    @Test
    void theStepFollowsFromTheOptics() {
        assertThat(FocusRun.stepFor(KIT, 1.1)).isEqualTo(18);
    }

    @Test
    void aFineSweepEndsInFocusAndComesFromOutside() throws InterruptedException {
        FocusRun.Result result = run().fine(FocusRun.Frames.usual(Duration.ofSeconds(6)), 1.1, shot -> {});
        assertThat(result.verdict().accepted()).isTrue();
        assertThat(result.verdict().bestPosition()).isCloseTo(2462, within(2.0));
        assertThat(result.samples()).hasSize(9);
        assertThat(position).isCloseTo(2462, within(2));
        // Backlash: the last movement is inward.
        assertThat(moves.get(moves.size() - 2))
                .isGreaterThan(position + KIT.focuser().backlashSteps());
    }

    @Test
    void aRoughSweepFindsFocusFromFarOut() throws InterruptedException {
        position = 2600;
        List<Integer> shots = new ArrayList<>();
        run().rough(Duration.ofSeconds(4), shot -> shots.add(shot.positionSteps()));
        assertThat(position).isCloseTo(2462, within(12));
        assertThat(shots).as("the minimum is inside the first sweep").hasSize(9);
    }

    @Test
    void aRoughSweepThatMissesFocusMovesOn() throws InterruptedException {
        position = 2720;
        List<Integer> shots = new ArrayList<>();
        run().rough(Duration.ofSeconds(4), shot -> shots.add(shot.positionSteps()));
        assertThat(position).isCloseTo(2462, within(12));
        assertThat(shots).as("the first sweep ends before the minimum").hasSizeBetween(18, 27);
    }

    /** A frame at the end is as the curve says, until the drawtube slips by thirty steps of four microns. */
    @Test
    void aFrameAtTheEndProvesIt() throws InterruptedException {
        FocusRun run = run();
        FocusRun.Result result = run.fine(FocusRun.Frames.usual(Duration.ofSeconds(6)), 1.1, shot -> {});
        assertThat(run.unconfirmed(result, FocusRun.Frames.usual(Duration.ofSeconds(6)), shot -> {}))
                .isEmpty();
        position += 60;
        assertThat(run.unconfirmed(result, FocusRun.Frames.usual(Duration.ofSeconds(6)), shot -> {})
                        .orElseThrow())
                .contains("px, where")
                .contains("something moved");
        stars = 0;
        assertThat(run.unconfirmed(result, FocusRun.Frames.usual(Duration.ofSeconds(6)), shot -> {})
                        .orElseThrow())
                .contains("hardly a star");
    }

    /** A sweep that ends before the minimum is refused; the wider one after it goes on to where the sizes fell. */
    @Test
    void aWiderSweepGoesOnToTheFocus() throws InterruptedException {
        position = 2640;
        FocusRun run = run();
        FocusRun.Result refused = run.fine(FocusRun.Frames.usual(Duration.ofSeconds(6)), 1.1, shot -> {});
        assertThat(refused.verdict().accepted()).isFalse();
        assertThat(position).as("where it stood before").isEqualTo(2640);
        FocusRun.Result wider = run.wider(refused, FocusRun.Frames.usual(Duration.ofSeconds(6)), shot -> {});
        assertThat(wider.stepSteps()).isEqualTo(Math.round(1.7 * refused.stepSteps()));
        assertThat(wider.verdict().accepted()).isTrue();
        assertThat(position).isCloseTo(2462, within(6));
        assertThat(wider.stars()).isGreaterThanOrEqualTo(8);
    }

    @Test
    void withoutStarsItSaysWhatToLookFor() {
        stars = 0;
        assertThatThrownBy(() -> run().fine(FocusRun.Frames.usual(Duration.ofSeconds(6)), 1.1, shot -> {}))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("only 0 of 9 frames showed stars")
                .hasMessageContaining("cloud or a cap");
    }
}
