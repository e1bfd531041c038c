package app.ironside.drivers;

import app.ironside.BadInputException;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.image.FolderWatch;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.kit.CameraSettings;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;

/**
 * A camera whose shutter another program or a person moves: the next FITS or TIFF file that comes into a folder, and that was exposed
 * since it was wanted, is the frame. Binning and regions are made here of what came.
 */
final class FolderCamera implements Camera {
    private static final Abilities ABILITIES =
            new Abilities(4, true, Optional.empty(), Optional.empty(), List.of(), false, false);

    /** For a person or a program to notice what is wanted, and to download; after it something is said. */
    private static final Duration PATIENCE = Duration.ofMinutes(3);

    /** A battery is changed meanwhile, a program started anew; after it the night does something else. */
    private static final Duration LONGEST = Duration.ofMinutes(30);

    /** A file that is no frame may be one whose writer pauses; after so long it is damaged. */
    private static final Duration STILL_WRITTEN = Duration.ofSeconds(20);

    private final String name;
    private final Path folder;
    private final NightClock clock;
    private final Shutter shutter;
    private final Incoming incoming;
    private Link link = Link.CLOSED;
    private Optional<FolderWatch> watch = Optional.empty();

    /** Files that were not looked at yet. */
    private final Deque<Path> arrived = new ArrayDeque<>();

    private final Map<Path, Unreadable> unreadable = new LinkedHashMap<>();

    private final List<String> remarks = new ArrayList<>();
    private Optional<Frame> came = Optional.empty();
    private double sensorC = Double.NaN;

    /** Of a file that cannot be read, or not yet. */
    private record Unreadable(String why, Instant since) {}

    /** Whoever is asked to expose. */
    interface Shutter {
        /** Frames come by themselves. */
        Shutter BY_ITSELF = new Shutter() {
            @Override
            public void wanted(Exposure exposure) {
                // Another program's series runs.
            }

            @Override
            public void over() {
                // As above.
            }
        };

        void wanted(Exposure exposure);

        /** The frame has come, or is no longer waited for. */
        void over();
    }

    /**
     * @param incoming picks the frames, and says to the consumer that it is made with what a person should know
     */
    FolderCamera(
            String name,
            Path folder,
            Function<Consumer<String>, Incoming> incoming,
            NightClock clock,
            Shutter shutter) {
        this.name = name;
        this.folder = folder;
        this.clock = clock;
        this.shutter = shutter;
        this.incoming = incoming.apply(remarks::add);
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
        if (watch.isEmpty()) {
            watch = Optional.of(watch(() -> new FolderWatch(folder)));
        }
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
        came = Optional.empty();
        shutter.wanted(wanted);
        return new Waiting(wanted, clock.now());
    }

    @Override
    public void stop() {
        // The shutter is another program's.
    }

    @Override
    public List<String> remarks() {
        List<String> said = List.copyOf(remarks);
        remarks.clear();
        return said;
    }

    /** Waits for the file. */
    private final class Waiting implements Operation {
        private final Exposure wanted;
        private final Instant since;
        private boolean aborted;
        private boolean over;
        private boolean said;

        Waiting(Exposure wanted, Instant since) {
            this.wanted = wanted;
            this.since = since;
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
                look();
            }
            return aborted ? State.ABORTED : over ? State.DONE : State.UNDER_WAY;
        }

        private void look() {
            Instant now = clock.now();
            came = taken(wanted, since);
            over = came.isPresent();
            Duration waited = Duration.between(since, now);
            if (over) {
                shutter.over();
            } else if (!said && waited.compareTo(wanted.length().plus(PATIENCE)) > 0) {
                said = true;
                remarks.add("No frame has come into " + folder + " for " + waited.toMinutes()
                        + " minutes: look whether the camera has power, its card room, and the program that takes the frames goes on."
                        + " The next frame that comes is taken.");
            }
        }

        @Override
        public Optional<Duration> remaining() {
            return aborted || over ? Optional.of(Duration.ZERO) : Optional.empty();
        }

        @Override
        public Duration limit() {
            return wanted.length().plus(LONGEST);
        }

        @Override
        public void abort() {
            if (!over && !aborted) {
                aborted = true;
                shutter.over();
            }
        }
    }

    /** The first frame that came and is what was wanted; what came with it is looked at the next time. */
    private Optional<Frame> taken(Exposure wanted, Instant since) {
        arrived.addAll(watch(() -> watch.orElseThrow().next()));
        while (!arrived.isEmpty()) {
            Path file = arrived.removeFirst();
            Optional<Frame> right = read(file)
                    .flatMap(frame ->
                            incoming.judge(folder.relativize(file).toString(), frame, wanted, since, clock.now()));
            if (right.isPresent()) {
                return right.map(frame -> made(frame, wanted));
            }
        }
        layAsideWhatIsDamaged();
        return Optional.empty();
    }

    /** Empty if it is no frame, or not yet one: if it is written further, it comes again. */
    private Optional<Frame> read(Path file) {
        try {
            Frame frame = FrameFiles.read(file);
            unreadable.remove(file);
            return Optional.of(frame);
        } catch (BadInputException e) {
            unreadable.put(file, new Unreadable(e.getMessage(), clock.now()));
            return Optional.empty();
        }
    }

    private void layAsideWhatIsDamaged() {
        Instant now = clock.now();
        unreadable.values().removeIf(file -> {
            boolean damaged = Duration.between(file.since(), now).compareTo(STILL_WRITTEN) > 0;
            if (damaged) {
                remarks.add(file.why() + ". It is left aside, and the next frame that comes is taken.");
            }
            return damaged;
        });
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

    private Frame made(Frame whole, Exposure exposure) {
        whole.header().number("CCD-TEMP").ifPresent(c -> sensorC = c);
        Frame part = exposure.region().map(r -> cut(whole, r)).orElse(whole);
        return exposure.binning() == 1 ? part : binned(part, exposure.binning());
    }

    private Frame cut(Frame frame, Region region) {
        int width = Math.min(region.width(), frame.width() - region.left());
        int height = Math.min(region.height(), frame.height() - region.bottom());
        if (width < 1 || height < 1) {
            throw new DeviceException(
                    name,
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
