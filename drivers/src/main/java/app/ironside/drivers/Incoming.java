package app.ironside.drivers;

import app.ironside.device.Camera.Exposure;
import app.ironside.device.Camera.FrameKind;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/** Decides which of the frames that come is the one that is waited for, and puts right what it says of its time. */
final class Incoming {
    /** A series that another program takes goes on while a frame is measured: so much earlier than asked is not too early. */
    private static final Duration EARLY = Duration.ofSeconds(10);

    /** For a trial whatever comes will do. */
    private static final Duration ANY_TIME = Duration.ofDays(36_500);

    /** Darks of another length than the lights are of no use; a shutter's own steps are not another length. */
    private static final double SAME_LENGTH = 0.03;

    /** Shutters of cameras without a bulb setting go by thirds of a stop. */
    private static final double SAME_FLAT = 0.3;

    private static final double LONGEST_BIAS_SECONDS = 0.1;

    private static final DateTimeFormatter FITS_TIME = DateTimeFormatter.ofPattern(
                    "uuuu-MM-dd'T'HH:mm:ss.SSS", Locale.ROOT)
            .withZone(ZoneOffset.UTC);

    private final Optional<Size> size;
    private final Duration early;
    private final Consumer<String> say;
    private final CameraClock clock;

    /** What came before, content and time of each, with its file's name. */
    private final Map<List<Object>, String> before = new HashMap<>();

    private double unlikeSeconds = Double.NaN;

    /** Of a sensor, pixels. */
    record Size(int width, int height) {
        @Override
        public String toString() {
            return width + " x " + height + " px";
        }
    }

    /** Takes whatever comes. */
    static Incoming ofTrial(Consumer<String> say) {
        return new Incoming(Optional.empty(), ANY_TIME, say);
    }

    /**
     * @param say takes what a person should know of frames that are left aside or put right
     */
    Incoming(Optional<Size> size, Consumer<String> say) {
        this(size, EARLY, say);
    }

    private Incoming(Optional<Size> size, Duration early, Consumer<String> say) {
        this.size = size;
        this.early = early;
        this.say = say;
        this.clock = new CameraClock(say);
    }

    /**
     * Looks at a frame.
     *
     * @param file its name, for people
     * @param wanted what is waited for
     * @param since when that began
     * @param now when the file was there
     * @return the frame with the time of its exposure put right; empty if it is not the one
     */
    Optional<Frame> judge(String file, Frame frame, Exposure wanted, Instant since, Instant now) {
        Header header = frame.header();
        String same = before.putIfAbsent(
                List.of(
                        Arrays.hashCode(frame.pixels()),
                        header.start().map(Instant::toString).orElse("")),
                file);
        if (same != null) {
            // A file that some program only touched again is no news.
            return same.equals(file) ? Optional.empty() : aside(file + " holds the same frame as " + same);
        }
        Size own = new Size(frame.width(), frame.height());
        if (size.isPresent() && !size.get().equals(own)) {
            return aside(
                    file + " has " + own + " and the sensor of the kit " + size.get()
                            + ": switch binning and cropping off in the program that takes the frames, or set the sensor at Site and kit");
        }
        Optional<FrameKind> kind = kind(header);
        if (kind.isPresent() && kind.get() != FrameKind.LIGHT && kind.get() != wanted.kind()) {
            return aside(
                    file + " says that it is a " + word(kind.get()) + ", and a " + word(wanted.kind()) + " is wanted");
        }
        double asked = wanted.length().toMillis() / 1000.0;
        double seconds = header.exposureSeconds().orElse(asked);
        if (!fits(wanted.kind(), seconds, asked)) {
            return aside(String.format(
                    Locale.ROOT,
                    "%s was exposed for %s s, and a %s of %s s is wanted",
                    file,
                    number(seconds),
                    word(wanted.kind()),
                    number(asked)));
        }
        Instant began = clock.began(header.start(), Duration.ofMillis(Math.round(1000 * seconds)), now);
        if (began.isBefore(since.minus(early))) {
            // Not a word: a series that runs by itself always has one under way when something new is wanted.
            return Optional.empty();
        }
        tellOfLength(seconds, asked, wanted.kind());
        return Optional.of(frame.withHeader(header(header, began, seconds)));
    }

    private Optional<Frame> aside(String what) {
        say.accept(what + ". It is left aside.");
        return Optional.empty();
    }

    private static boolean fits(FrameKind kind, double seconds, double asked) {
        return switch (kind) {
            case LIGHT -> true;
            case DARK -> Math.abs(seconds - asked) <= SAME_LENGTH * asked;
            case FLAT -> Math.abs(seconds - asked) <= SAME_FLAT * asked;
            case BIAS -> seconds <= LONGEST_BIAS_SECONDS;
        };
    }

    /** Lights count as what they are; said once for each length that is not the one that was asked for. */
    private void tellOfLength(double seconds, double asked, FrameKind kind) {
        if (kind != FrameKind.LIGHT || Math.abs(seconds - asked) <= SAME_LENGTH * asked || seconds == unlikeSeconds) {
            return;
        }
        unlikeSeconds = seconds;
        say.accept("Frames of " + number(seconds) + " s come where " + number(asked)
                + " s were asked for: they count as what they are.");
    }

    private static Header header(Header told, Instant began, double seconds) {
        boolean asTold = told.start().filter(began::equals).isPresent();
        Header right = asTold
                ? told
                : told.with("DATE-CAM", told.text("DATE-OBS").orElse(null)).with("DATE-OBS", FITS_TIME.format(began));
        return right.exposureSeconds().isPresent() ? right : right.with("EXPTIME", seconds);
    }

    /** By the words that programs write to IMAGETYP: "Light Frame", "dark", "FLAT". */
    private static Optional<FrameKind> kind(Header header) {
        String word = header.text("IMAGETYP").orElse("").toLowerCase(Locale.ROOT);
        return Arrays.stream(FrameKind.values())
                .filter(kind -> word.contains(word(kind)))
                .findFirst();
    }

    private static String word(FrameKind kind) {
        return kind.word().toLowerCase(Locale.ROOT);
    }

    private static String number(double seconds) {
        return String.format(Locale.ROOT, seconds < 1 ? "%.4f" : "%.1f", seconds)
                .replaceFirst("\\.?0+$", "");
    }
}
