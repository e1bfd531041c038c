package app.ironside.library;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What a frame was taken for. */
public enum FrameKind {
    LIGHT("light"),
    DARK("dark"),
    BIAS("bias"),
    FLAT("flat"),
    FLAT_DARK("flat-dark"),
    MASTER_DARK("master-dark"),
    MASTER_BIAS("master-bias"),
    MASTER_FLAT("master-flat"),
    /** Nothing says it, or it is a finished picture. */
    UNKNOWN("unknown");

    private final String word;

    FrameKind(String word) {
        this.word = word;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }

    /** Whether it is the sum of many frames. */
    public boolean isMaster() {
        return this == MASTER_DARK || this == MASTER_BIAS || this == MASTER_FLAT;
    }

    /** Whether light fell on it through a filter. */
    public boolean sawLight() {
        return this == LIGHT || this == FLAT || this == MASTER_FLAT;
    }

    /** The master that frames of this kind make; a flat's dark makes a dark. */
    public FrameKind master() {
        return switch (this) {
            case DARK, FLAT_DARK -> MASTER_DARK;
            case BIAS -> MASTER_BIAS;
            case FLAT -> MASTER_FLAT;
            default -> this;
        };
    }

    /** By the words that programs write into a header: "Light Frame", "dark", "FLAT", "Dark Flat", "Master Bias", "zero". */
    static Optional<FrameKind> ofWords(String words) {
        List<String> all = Arrays.asList(words.toLowerCase(Locale.ROOT)
                .replaceAll("(flat|dark|light|bias|master)", " $1 ")
                .strip()
                .split("[^a-z]+"));
        boolean master = all.contains("master");
        // What was made already lies in "lights-developed" and the like.
        if (all.contains("stack")
                || all.contains("stacked")
                || all.contains("integration")
                || all.contains("developed")) {
            return Optional.of(UNKNOWN);
        }
        if (all.contains("flat") && (all.contains("dark") || all.contains("darks"))) {
            return Optional.of(master ? MASTER_DARK : FLAT_DARK);
        }
        Optional<FrameKind> plain = all.contains("flat") || all.contains("flats") || all.contains("flatfield")
                ? Optional.of(FLAT)
                : all.contains("dark") || all.contains("darks")
                        ? Optional.of(DARK)
                        : all.contains("bias")
                                        || all.contains("offset")
                                        || all.contains("zero")
                                        || all.contains("biases")
                                ? Optional.of(BIAS)
                                : all.contains("light")
                                                || all.contains("lights")
                                                || all.contains("object")
                                                || all.contains("science")
                                        ? Optional.of(LIGHT)
                                        : Optional.empty();
        if (master) {
            // A master light is a finished picture.
            return plain.map(kind -> kind == LIGHT ? UNKNOWN : kind.master());
        }
        return plain;
    }
}
