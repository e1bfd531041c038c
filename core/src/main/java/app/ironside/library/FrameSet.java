package app.ironside.library;

import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * Frames that belong together: of one kind, and alike in all that matters for calibrating. What no header of them tells is empty.
 *
 * @param id by which a library knows it, the same each time the same folders are read
 * @param temperatureC of the sensor, the median of the set
 * @param telescope as the header calls it; Ironside writes the kit there
 * @param night local date of the evening, for frames that saw light
 * @param files in time, as far as they tell it
 * @param rotatorDeg median
 * @param combined frames behind a master
 */
public record FrameSet(
        String id,
        FrameKind kind,
        Optional<String> target,
        Optional<String> filter,
        OptionalDouble exposureS,
        OptionalDouble gain,
        OptionalDouble offset,
        OptionalDouble temperatureC,
        OptionalInt binning,
        int widthPx,
        int heightPx,
        int planes,
        Optional<String> bayer,
        Optional<String> camera,
        Optional<String> telescope,
        Optional<LocalDate> night,
        OptionalDouble rotatorDeg,
        OptionalInt combined,
        List<Path> files) {
    public FrameSet {
        files = List.copyOf(files);
    }

    /** Frames that its noise comes from: those in it, or behind a master. */
    public int depth() {
        return kind.isMaster() ? combined.orElse(1) : files.size();
    }

    /** What is made of it for another exposure, under a name of its own. */
    public FrameSet ofExposure(String name, double seconds) {
        return new FrameSet(
                name,
                kind,
                target,
                filter,
                OptionalDouble.of(seconds),
                gain,
                offset,
                temperatureC,
                binning,
                widthPx,
                heightPx,
                planes,
                bayer,
                camera,
                telescope,
                night,
                rotatorDeg,
                combined,
                files);
    }

    /** "20 darks of 180 s, gain 100, -10 °C". */
    String words() {
        StringBuilder words = new StringBuilder();
        if (kind.isMaster()) {
            words.append(kind.word().replace('-', ' '))
                    .append(combined.isPresent() ? " of " + combined.getAsInt() : "");
        } else {
            words.append(files.size()).append(' ').append(plural());
        }
        String joint = kind.isMaster() && combined.isPresent() ? ", " : " of ";
        if (exposureS.isPresent()) {
            words.append(joint).append(Numbers.of(exposureS.getAsDouble())).append(" s");
        }
        filter.ifPresent(f -> words.append(", ").append(f));
        if (gain.isPresent()) {
            words.append(", gain ").append(Numbers.of(gain.getAsDouble()));
        }
        if (temperatureC.isPresent()) {
            words.append(", ").append(Numbers.celsius(temperatureC.getAsDouble()));
        }
        night.ifPresent(n -> words.append(", night of ").append(n));
        return words.toString();
    }

    private String plural() {
        String one =
                switch (kind) {
                    case LIGHT -> "light";
                    case DARK -> "dark";
                    case BIAS -> "bias frame";
                    case FLAT -> "flat";
                    case FLAT_DARK -> "flat dark";
                    default -> "frame";
                };
        return files.size() == 1 ? one : one + "s";
    }
}
