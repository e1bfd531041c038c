package app.ironside.image;

import app.ironside.BadInputException;
import java.nio.file.Path;
import java.util.Locale;

/** Frames in whatever open format a camera's program writes. */
public final class FrameFiles {
    private static final String FITS = ".*\\.(fits?|fts)(\\.gz)?";
    private static final String TIFF = ".*\\.tiff?";

    private FrameFiles() {}

    /** Whether a file, by its name, is a FITS or TIFF image; hidden ones are some program's own. */
    public static boolean isFrame(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        return !lower.startsWith(".") && (lower.matches(FITS) || lower.matches(TIFF));
    }

    /**
     * Reads a frame.
     *
     * @throws BadInputException if it is missing, truncated or holds no image; the message names the file
     */
    public static Frame read(Path file) {
        return file.getFileName().toString().toLowerCase(Locale.ROOT).matches(TIFF)
                ? TiffFiles.read(file)
                : FitsFiles.read(file);
    }
}
