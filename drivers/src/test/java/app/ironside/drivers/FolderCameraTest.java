package app.ironside.drivers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;

import app.ironside.contract.CameraContract;
import app.ironside.device.Camera;
import app.ironside.device.Camera.FrameKind;
import app.ironside.device.DeviceDriver.Setup;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import app.ironside.device.Hands;
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
import java.util.Arrays;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A folder as a camera, filled by another program: as time goes by, each waiting exposure gets its file. */
class FolderCameraTest extends CameraContract {
    private static final DateTimeFormatter FITS_TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HH:mm:ss.SSS");

    @TempDir
    Path disk;

    private final Hands hands = mock(Hands.class);
    private Path folder;
    private Camera camera;
    private Instant now = Instant.parse("2026-11-14T20:00:00Z");
    private int written;
    private boolean shooting = true;

    @BeforeEach
    void aFolder() throws IOException {
        folder = Files.createDirectory(disk.resolve("frames"));
        Files.createFile(folder.resolve("yesterday.fits"));
        camera = (Camera) new FolderDriver()
                .device(DeviceRole.CAMERA, new Setup(null, null, folder.toString(), clock(), hands, false));
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
        write(name, 2, now.minusSeconds(2), "Light", 0);
    }

    /** A ramp, with a value of its own in the last corner. */
    private void write(String name, double seconds, Instant began, String kind, int mark) {
        Header header = Header.EMPTY
                .with("EXPTIME", seconds)
                .with("DATE-OBS", FITS_TIME.format(began.atOffset(ZoneOffset.UTC)))
                .with("IMAGETYP", kind)
                .with("CCD-TEMP", -4.5);
        float[] pixels = new float[60 * 40];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = i % 60 + 100 * (i / 60);
        }
        pixels[pixels.length - 1] = mark;
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
    void aFrameThatNeverComesIsSaidAfterAWhileAndGivenUpAfterALongOne() throws Exception {
        camera.connect();
        shooting = false;
        Operation exposing = camera.start(exposure());
        exposing.state();
        pass(Duration.ofMinutes(2), exposing);
        assertThat(camera.remarks()).isEmpty();
        pass(Duration.ofMinutes(2), exposing);
        assertThat(camera.remarks())
                .singleElement()
                .asString()
                .startsWith("No frame has come into " + folder + " for 3 minutes: look whether the camera has power");
        pass(Duration.ofMinutes(10), exposing);
        assertThat(camera.remarks()).as("said once").isEmpty();
        assertThatThrownBy(() -> exposing.await(clock))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("the wait for a frame in " + folder);
    }

    private void pass(Duration time, Operation exposing) throws Exception {
        for (Instant end = now.plus(time); now.isBefore(end); ) {
            clock.await(Duration.ofSeconds(5));
            exposing.state();
        }
    }

    @Test
    void aFileThatIsNoFrameIsNamedAndTheNextIsTaken() throws Exception {
        camera.connect();
        shooting = false;
        Operation exposing = camera.start(exposure());
        Files.writeString(folder.resolve("a.fits"), "not a frame");
        pass(Duration.ofSeconds(10), exposing);
        assertThat(camera.remarks()).as("it may still be written").isEmpty();
        pass(Duration.ofSeconds(30), exposing);
        assertThat(camera.remarks())
                .singleElement()
                .asString()
                .contains("a.fits")
                .endsWith("It is left aside, and the next frame that comes is taken.");
        write("b.fits");
        exposing.state();
        assertThat(exposing.await(clock)).isEqualTo(Operation.State.DONE);
    }

    /** Written in two pieces with a pause between, as over a slow card or network. */
    @Test
    void aFileThatGrowsIsTakenWhenItIsWhole() throws Exception {
        camera.connect();
        shooting = false;
        write("elsewhere.fits");
        byte[] whole = Files.readAllBytes(folder.resolve("elsewhere.fits"));
        camera.disconnect();
        FolderCamera late = camera(FolderCamera.Shutter.BY_ITSELF);
        late.connect();
        Operation exposing = late.start(exposure());
        Path growing = folder.resolve("IMG 0042 (copy).FTS");
        Files.write(growing, Arrays.copyOf(whole, 4000));
        pass(Duration.ofSeconds(8), exposing);
        assertThat(exposing.state()).isEqualTo(Operation.State.UNDER_WAY);
        now = now.minusSeconds(8);
        Files.write(growing, whole);
        exposing.state();
        assertThat(exposing.state()).isEqualTo(Operation.State.DONE);
        assertThat(late.download().pixels()[61]).isEqualTo(101);
        assertThat(late.remarks()).isEmpty();
    }

    private FolderCamera camera(FolderCamera.Shutter shutter) {
        return new FolderCamera(
                "camera", folder, say -> new Incoming(Optional.of(new Incoming.Size(60, 40)), say), clock, shutter);
    }

    /** A series that runs by itself has an exposure under way when another direction is looked at: that one does not count. */
    @Test
    void aFrameThatBeganBeforeItWasWantedIsNotTheAnswer() throws Exception {
        camera.connect();
        shooting = false;
        now = now.plusSeconds(60);
        Operation exposing = camera.start(exposure());
        now = now.plusSeconds(5);
        write("before.fit", 60, now.minusSeconds(60), "Light", 0);
        pass(Duration.ofSeconds(10), exposing);
        assertThat(exposing.state()).isEqualTo(Operation.State.UNDER_WAY);
        write("since.fit", 10, now.minusSeconds(10), "Light", 1);
        pass(Duration.ofSeconds(10), exposing);
        assertThat(exposing.state()).isEqualTo(Operation.State.DONE);
        assertThat(camera.download().header().text("EXPTIME")).contains("10.0");
    }

    @Test
    void whatIsNotWhatWasWantedIsLeftAsideWithItsReason() throws Exception {
        camera.connect();
        shooting = false;
        Operation exposing =
                camera.start(exposure().lasting(Duration.ofSeconds(60)).ofKind(FrameKind.DARK));
        now = now.plusSeconds(61);
        write("flat.fit", 60, now.minusSeconds(60), "FLAT", 0);
        write("short.fit", 30, now.minusSeconds(30), "Dark Frame", 1);
        write("dark.fit", 60, now.minusSeconds(60), "Dark Frame", 2);
        pass(Duration.ofSeconds(10), exposing);
        assertThat(exposing.state()).isEqualTo(Operation.State.DONE);
        Operation again =
                camera.start(exposure().lasting(Duration.ofSeconds(60)).ofKind(FrameKind.DARK));
        Files.copy(folder.resolve("dark.fit"), folder.resolve("dark (1).fit"));
        pass(Duration.ofSeconds(10), again);
        assertThat(again.state()).isEqualTo(Operation.State.UNDER_WAY);
        assertThat(camera.remarks())
                .containsExactlyInAnyOrder(
                        "flat.fit says that it is a flat, and a dark is wanted. It is left aside.",
                        "short.fit was exposed for 30 s, and a dark of 60 s is wanted. It is left aside.",
                        "dark (1).fit holds the same frame as dark.fit. It is left aside.");
        FolderCamera ofAnotherSize = new FolderCamera(
                "camera",
                folder,
                say -> new Incoming(Optional.of(new Incoming.Size(6000, 4000)), say),
                clock,
                FolderCamera.Shutter.BY_ITSELF);
        ofAnotherSize.connect();
        Operation other = ofAnotherSize.start(exposure());
        write("small.fit");
        pass(Duration.ofSeconds(10), other);
        assertThat(ofAnotherSize.remarks())
                .singleElement()
                .asString()
                .startsWith("small.fit has 60 x 40 px and the sensor of the kit 6000 x 4000 px: switch binning");
    }

    /** Left at summer's hour: the frame's time is put right, and the other is kept beside it. */
    @Test
    void aClockThatIsAnHourAheadIsPutRight() throws Exception {
        camera.connect();
        shooting = false;
        Operation exposing = camera.start(exposure());
        now = now.plusSeconds(20);
        Instant began = now.minusSeconds(17);
        write("a.fit", 10, began.plusSeconds(3600), "Light", 0);
        pass(Duration.ofSeconds(6), exposing);
        assertThat(exposing.state()).isEqualTo(Operation.State.DONE);
        assertThat(camera.download().header().start()).contains(began);
        assertThat(camera.download().header().text("DATE-CAM"))
                .contains(FITS_TIME.format(began.plusSeconds(3600).atOffset(ZoneOffset.UTC)));
        assertThat(camera.remarks())
                .containsExactlyInAnyOrder(
                        "Frames of 10 s come where 2 s were asked for: they count as what they are.",
                        "The camera's clock is 1 h ahead: the times of its frames are put right by that.");
    }

    @Test
    void whoMovesTheShutterIsToldWhatIsWanted() throws Exception {
        FolderCamera asked = (FolderCamera) new FolderDriver.Asked()
                .device(DeviceRole.CAMERA, new Setup(null, null, folder.toString(), clock(), hands, false));
        asked.connect();
        asked.start(exposure().lasting(Duration.ofSeconds(8))).abort();
        verify(hands).expose(exposure().lasting(Duration.ofSeconds(8)));
        verify(hands).exposed();
    }

    @Test
    void anAddressThatIsNoneIsSaid() {
        assertThatThrownBy(() ->
                        new FolderDriver().device(DeviceRole.CAMERA, new Setup(null, null, " ", clock(), null, false)))
                .hasMessageContaining("Give the folder");
    }
}
