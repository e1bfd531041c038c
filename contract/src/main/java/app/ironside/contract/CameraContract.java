package app.ironside.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.device.Camera;
import app.ironside.device.Operation;
import app.ironside.image.Frame;
import app.ironside.kit.CameraSettings;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What is asked of a camera. */
public abstract class CameraContract extends DeviceContract<Camera> {
    /** An exposure that the device can take quickly. */
    protected Camera.Exposure exposure() {
        return Camera.Exposure.light(Duration.ofSeconds(2));
    }

    @Override
    protected Object ask(Camera camera) throws Exception {
        return camera.start(exposure()).state();
    }

    @Test
    public void aFrameTellsWhenAndHowLongItWasTaken() throws Exception {
        Camera camera = connected();
        Instant before = clock().now();
        done(camera.start(exposure()));
        Frame frame = camera.download();
        assertThat(frame.width()).isPositive();
        assertThat(frame.height()).isPositive();
        assertThat(frame.header().exposureSeconds().orElseThrow())
                .isCloseTo(exposure().length().toMillis() / 1000.0, within(0.1));
        assertThat(frame.header().start().orElseThrow()).isBetween(before.minusSeconds(2), clock().now());
    }

    @Test
    public void binningAndRegionsGiveTheSizesThatWereAskedFor() throws Exception {
        Camera camera = connected();
        Frame whole = camera.expose(clock(), exposure());
        Frame binned = camera.expose(clock(), exposure().withBinning(2));
        assertThat(binned.width()).isEqualTo(whole.width() / 2);
        assertThat(binned.height()).isEqualTo(whole.height() / 2);
        Frame part = camera.expose(clock(), exposure().of(new Camera.Region(4, 8, 24, 16)));
        assertThat(part.width()).isEqualTo(24);
        assertThat(part.height()).isEqualTo(16);
    }

    @Test
    public void anAbortedExposureIsOver() throws Exception {
        Camera camera = connected();
        Operation exposing = camera.start(exposure().lasting(Duration.ofSeconds(30)));
        clock().await(Operation.ASK_EVERY);
        assertThat(exposing.state()).isEqualTo(Operation.State.UNDER_WAY);
        exposing.abort();
        assertThat(exposing.await(clock())).isEqualTo(Operation.State.ABORTED);
        done(camera.start(exposure()));
        assertThat(camera.download().header().exposureSeconds().orElseThrow()).isLessThan(10);
    }

    @Test
    public void settingsThatItHasAreTakenAndOthersRefused() throws Exception {
        Camera camera = connected();
        camera.use(CameraSettings.AS_IT_IS);
        fails(() -> {
            camera.use(new CameraSettings(Optional.empty(), Optional.empty(), Optional.of("no such mode")));
            return "taken";
        });
        camera.abilities().gain().ifPresent(span -> {
            camera.use(new CameraSettings(Optional.of(span.least()), Optional.empty(), Optional.empty()));
            camera.use(new CameraSettings(Optional.of(span.most()), Optional.empty(), Optional.empty()));
        });
        int beyond = camera.abilities().gain().map(s -> s.most() + 1).orElse(1);
        fails(() -> {
            camera.use(new CameraSettings(Optional.of(beyond), Optional.empty(), Optional.empty()));
            return "taken";
        });
    }
}
