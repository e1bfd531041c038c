package app.ironside.drivers;

import app.ironside.BadInputException;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.device.Operation;
import app.ironside.image.FitsFiles;
import app.ironside.image.FolderWatch;
import app.ironside.image.Frame;
import app.ironside.kit.CameraSettings;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Supplier;

/**
 * A camera whose shutter another program moves: the next FITS file that comes into a folder is the frame. Binning and regions are made
 * here of what came.
 */
final class FolderCamera implements Camera {
    private static final Abilities ABILITIES =
            new Abilities(4, true, Optional.empty(), Optional.empty(), List.of(), false, false);

    /** For a person or a program to notice what is asked for, and to download. */
    private static final Duration PATIENCE = Duration.ofMinutes(3);

    private final String name;
    private final Path folder;
    private Link link = Link.CLOSED;
    private Optional<FolderWatch> watch = Optional.empty();
    private Exposure exposure = Exposure.light(Duration.ZERO);
    private Optional<Frame> came = Optional.empty();
    private double sensorC = Double.NaN;

    FolderCamera(String name, Path folder) {
        this.name = name;
        this.folder = folder;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public Link link() {
        return link;
    }

    @Override
    public void connect() {
        if (!Files.isDirectory(folder)) {
            link = link == Link.CLOSED ? Link.CLOSED : Link.LOST;
            throw new DeviceException(
                    name,
                    "the folder " + folder + " is not there",
                    "Make it, or plug in the disk that holds it; its address is set at Site and kit.");
        }
        link = Link.CONNECTED;
    }

    @Override
    public void disconnect() {
        link = Link.CLOSED;
    }

    private void mustAnswer() {
        if (link == Link.CONNECTED && !Files.isDirectory(folder)) {
            link = Link.LOST;
        }
        if (link != Link.CONNECTED) {
            throw new DeviceLost(name);
        }
    }

    @Override
    public Abilities abilities() {
        return ABILITIES;
    }

    @Override
    public void use(CameraSettings settings) {
        if (!settings.equals(CameraSettings.AS_IT_IS)) {
            throw new DeviceException(
                    name,
                    "it cannot be told " + settings.words(),
                    "Set that in the program that takes the frames, and leave it open in the kit.");
        }
    }

    @Override
    public Operation start(Exposure wanted) {
        mustAnswer();
        watch = Optional.of(watch(() -> new FolderWatch(folder)));
        came = Optional.empty();
        exposure = wanted;
        return new Waiting(wanted.length().plus(PATIENCE));
    }

    @Override
    public void stop() {
        // The shutter is another program's.
    }

    /** Waits for the file. */
    private final class Waiting implements Operation {
        private final Duration limit;
        private boolean aborted;
        private boolean over;

        Waiting(Duration limit) {
            this.limit = limit;
        }

        @Override
        public String device() {
            return name;
        }

        @Override
        public String what() {
            return "the wait for a frame in " + folder;
        }

        @Override
        public State state() {
            if (!aborted && !over) {
                mustAnswer();
                over = look();
            }
            return aborted ? State.ABORTED : over ? State.DONE : State.UNDER_WAY;
        }

        @Override
        public Optional<Duration> remaining() {
            return aborted || over ? Optional.of(Duration.ZERO) : Optional.empty();
        }

        @Override
        public Duration limit() {
            return limit;
        }

        @Override
        public void abort() {
            aborted = !over;
        }
    }

    /** Takes the frame that has come; false if none has yet. */
    private boolean look() {
        Optional<Path> next = watch(() -> watch.orElseThrow().next()).stream().findFirst();
        try {
            came = next.map(file -> made(FitsFiles.read(file)));
        } catch (BadInputException e) {
            throw new DeviceException(name, e.getMessage(), "The next file that comes is taken.");
        }
        return came.isPresent();
    }

    /** A folder that cannot be looked into is a device that does not answer. */
    private <T> T watch(Supplier<T> look) {
        try {
            return look.get();
        } catch (UncheckedIOException e) {
            link = Link.LOST;
            throw new DeviceLost(name);
        }
    }

    private Frame made(Frame whole) {
        whole.header().number("CCD-TEMP").ifPresent(c -> sensorC = c);
        Frame part = exposure.region().map(r -> cut(whole, r)).orElse(whole);
        return exposure.binning() == 1 ? part : binned(part, exposure.binning());
    }

    private static Frame cut(Frame frame, Region region) {
        int width = Math.min(region.width(), frame.width() - region.left());
        int height = Math.min(region.height(), frame.height() - region.bottom());
        if (width < 1 || height < 1) {
            throw new DeviceException(
                    "camera",
                    "a frame of " + frame.width() + " x " + frame.height() + " px came, smaller than the kit says",
                    "Look at the sensor's size in the kit, and at binning in the program that takes the frames.");
        }
        float[] pixels = new float[width * height];
        for (int row = 0; row < height; row++) {
            System.arraycopy(
                    frame.pixels(),
                    (row + region.bottom()) * frame.width() + region.left(),
                    pixels,
                    row * width,
                    width);
        }
        return new Frame(width, height, pixels, frame.header());
    }

    private static Frame binned(Frame frame, int n) {
        int width = frame.width() / n;
        int height = frame.height() / n;
        float[] pixels = new float[width * height];
        for (int row = 0; row < height * n; row++) {
            for (int column = 0; column < width * n; column++) {
                pixels[row / n * width + column / n] += frame.pixels()[row * frame.width() + column];
            }
        }
        return new Frame(
                width, height, pixels, frame.header().with("XBINNING", n).with("YBINNING", n));
    }

    @Override
    public Frame download() {
        mustAnswer();
        return came.orElseThrow(() -> new DeviceException(name, "no frame has come", "Start an exposure first."));
    }

    @Override
    public void coolTo(double temperatureC) {
        // The cooler is another program's.
    }

    @Override
    public void warmUp() {
        // The cooler is another program's.
    }

    /** As the last frame tells it. */
    @Override
    public double sensorTemperatureC() {
        mustAnswer();
        return sensorC;
    }

    @Override
    public OptionalDouble coolerPower() {
        return OptionalDouble.empty();
    }
}
