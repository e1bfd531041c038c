package app.ironside.image;

import app.ironside.BadInputException;
import java.nio.file.Path;
import java.util.Locale;

/** Frames in whatever open format a camera's program writes. */
public final class FrameFiles {
    private static final String FITS = ".*\\.(fits?|fts)(\\.gz|\\.fz)?";
    private static final String TIFF = ".*\\.tiff?";
    private static final String JPEG = ".*\\.jpe?g";

    private FrameFiles() {}

    /** Whether a file, by its name, is a FITS or TIFF image; hidden ones are some program's own. */
    public static boolean isFrame(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        return !lower.startsWith(".") && (lower.matches(FITS) || lower.matches(TIFF));
    }

    /** Whether a file, by its name, is a FITS file. */
    public static boolean isFits(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        return !lower.startsWith(".") && lower.matches(FITS);
    }

    /** Whether a file, by its name, is a TIFF file. */
    public static boolean isTiff(Path file) {
        return file.getFileName().toString().toLowerCase(Locale.ROOT).matches(TIFF);
    }

    /** Whether a file, by its name, is a frame or a picture that shows where a camera looks. */
    public static boolean isPicture(String name) {
        return isFrame(name) || isJpeg(name);
    }

    /** Whether a file is of eight bits and a curve of its own: where it looks can be found, its light not be counted. */
    public static boolean isJpeg(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        return !lower.startsWith(".") && lower.matches(JPEG);
    }

    /** Whether the time in a file is that of the camera's own clock, of whatever zone; FITS tells UTC. */
    public static boolean isByCamerasClock(Path file) {
        String lower = file.getFileName().toString().toLowerCase(Locale.ROOT);
        return lower.matches(TIFF) || lower.matches(JPEG);
    }

    /**
     * Reads a frame, or a picture of which only the stars' places and shapes are wanted.
     *
     * @throws BadInputException as {@link #read}
     */
    public static Frame readPicture(Path file) {
        return isJpeg(file.getFileName().toString()) ? JpegFiles.read(file) : read(file);
    }

    /**
     * Reads a frame.
     *
     * @throws BadInputException if it is missing, truncated or holds no image; the message names the file
     */
    public static Frame read(Path file) {
        return isTiff(file) ? TiffFiles.read(file) : FitsFiles.read(file);
    }
}
