package app.ironside.drivers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.contract.CameraContract;
import app.ironside.device.Camera;
import app.ironside.device.DeviceDriver.Setup;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A folder as a camera, filled by another program: as time goes by, each waiting exposure gets its file. */
class FolderCameraTest extends CameraContract {
    private static final DateTimeFormatter FITS_TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HH:mm:ss.SSS");

    @TempDir
    Path disk;

    private Path folder;
    private Camera camera;
    private Instant now = Instant.parse("2026-11-14T20:00:00Z");
    private int written;
    private boolean shooting = true;

    @BeforeEach
    void aFolder() throws IOException {
        folder = Files.createDirectory(disk.resolve("frames"));
        Files.createFile(folder.resolve("yesterday.fits"));
        camera = (Camera)
                new FolderDriver().device(DeviceRole.CAMERA, new Setup(null, null, folder.toString(), clock()));
    }

    @Override
    protected Camera device() {
        return camera;
    }

    private final NightClock clock = new NightClock() {
        @Override
        public Instant now() {
            return now;
        }

        @Override
        public void await(Duration time) {
            now = now.plus(time);
            // The other program takes 2 s and downloads a second.
            if (shooting && now.toEpochMilli() % 4000 < 250 && Files.isDirectory(folder)) {
                write("m33_" + written++ + ".fit");
            }
        }
    };

    private void write(String name) {
        Header header = Header.EMPTY
                .with("EXPTIME", 2.0)
                .with("DATE-OBS", FITS_TIME.format(now.minusSeconds(2).atOffset(ZoneOffset.UTC)))
                .with("CCD-TEMP", -4.5);
        float[] pixels = new float[60 * 40];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = i % 60 + 100 * (i / 60);
        }
        FitsFiles.write(folder.resolve(name), new Frame(60, 40, pixels, header), FitsFiles.Encoding.FLOAT_32);
    }

    @Override
    protected NightClock clock() {
        return clock;
    }

    @Override
    protected void pull(boolean out) throws IOException {
        Path aside = disk.resolve("unplugged");
        Files.move(out ? folder : aside, out ? aside : folder);
    }

    /** By hand: the pixel at column 4, row 8 of a ramp is 4 + 800; of four binned pixels the sum counts. */
    @Test
    void partsAndSumsAreThoseOfTheFrame() throws Exception {
        camera.connect();
        Frame part = camera.expose(clock, exposure().of(new Camera.Region(4, 8, 24, 16)));
        assertThat(part.pixels()[0]).isEqualTo(804);
        Frame binned = camera.expose(clock, exposure().withBinning(2));
        assertThat(binned.pixels()[0]).isEqualTo(0 + 1 + 100 + 101);
        assertThat(camera.sensorTemperatureC()).isEqualTo(-4.5);
    }

    @Test
    void aFrameThatNeverComesIsToldAfterAWhile() {
        camera.connect();
        shooting = false;
        assertThatThrownBy(() -> camera.expose(clock, exposure()))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("the wait for a frame in " + folder);
    }

    @Test
    void aFileThatIsNoFrameIsNamedAndTheNextIsTaken() throws Exception {
        camera.connect();
        shooting = false;
        Operation exposing = camera.start(exposure());
        Files.writeString(folder.resolve("a.fits"), "not a frame");
        assertThat(exposing.state()).isEqualTo(Operation.State.UNDER_WAY);
        assertThatThrownBy(exposing::state).isInstanceOf(DeviceException.class).hasMessageContaining("a.fits");
        write("b.fits");
        exposing.state();
        assertThat(exposing.await(clock)).isEqualTo(Operation.State.DONE);
    }

    @Test
    void anAddressThatIsNoneIsSaid() {
        assertThatThrownBy(() -> new FolderDriver().device(DeviceRole.CAMERA, new Setup(null, null, " ", clock())))
                .hasMessageContaining("Give the folder");
    }
}
