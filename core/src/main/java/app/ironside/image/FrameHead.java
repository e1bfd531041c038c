package app.ironside.image;

import app.ironside.BadInputException;
import java.io.EOFException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * What a file says of its first picture, without the pixels: thousands are read in the time that one picture takes.
 *
 * @param planes 1, or the colours of a cube
 */
public record FrameHead(int width, int height, int planes, Header header) {
    private static final String EXPECTED = "a FITS file with a picture, not cut short";

    /**
     * Reads the head of a FITS or TIFF file.
     *
     * @throws BadInputException if it is missing, cut short, or holds no picture; the message names the file
     */
    public static FrameHead read(Path file) {
        if (FrameFiles.isTiff(file)) {
            return TiffFiles.head(file);
        }
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of a FITS image");
        }
        HeaderClaims.check(file, EXPECTED);
        try {
            FrameHead head = HeadScan.of(file)
                    .orElseThrow(() -> new BadInputException(file.toString(), "holds no picture", EXPECTED));
            if (head.width() < 1 || head.height() < 1) {
                throw new BadInputException(file.toString(), "holds an empty image", EXPECTED);
            }
            return head;
        } catch (EOFException e) {
            throw new BadInputException(file.toString(), "ends before its first picture", EXPECTED, e);
        } catch (IOException e) {
            throw new BadInputException(
                    file.toString(), "is not a whole FITS image (" + e.getMessage() + ")", EXPECTED, e);
        }
    }
}
