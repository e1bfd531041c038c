package app.ironside.image;

import app.ironside.BadInputException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import nom.tam.fits.BasicHDU;
import nom.tam.fits.Fits;
import nom.tam.fits.ImageHDU;
import nom.tam.image.compression.hdu.CompressedImageHDU;

/**
 * What a file says of its first picture, without the pixels: thousands are read in the time that one picture takes.
 *
 * @param planes 1, or the colours of a cube
 */
public record FrameHead(int width, int height, int planes, Header header) {
    private static final String EXPECTED = "a FITS file with a picture, not cut short";

    /**
     * Reads a FITS file's head.
     *
     * @throws BadInputException if it is missing, cut short, or holds no picture; the message names the file
     */
    public static FrameHead read(Path file) {
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of a FITS image");
        }
        HeaderClaims.check(file, EXPECTED);
        try (Fits fits = new Fits(file.toFile())) {
            for (BasicHDU<?> hdu = fits.readHDU(); hdu != null; hdu = fits.readHDU()) {
                int[] axes = axes(hdu);
                if (axes.length >= 2) {
                    int planes = 1;
                    for (int i = 0; i + 2 < axes.length; i++) {
                        planes *= axes[i];
                    }
                    return new FrameHead(
                            axes[axes.length - 1], axes[axes.length - 2], planes, FitsFiles.header(hdu.getHeader()));
                }
            }
        } catch (IOException | RuntimeException e) {
            throw new BadInputException(
                    file.toString(), "is not a whole FITS image (" + e.getMessage() + ")", EXPECTED, e);
        }
        throw new BadInputException(file.toString(), "holds no picture", EXPECTED);
    }

    /** Of a packed picture those of the picture, not of the table that holds it (FITS standard 4.0, section 10.1). */
    private static int[] axes(BasicHDU<?> hdu) throws IOException {
        if (hdu instanceof CompressedImageHDU packed) {
            int count = packed.getHeader().getIntValue("ZNAXIS", 0);
            int[] axes = new int[Math.max(0, count)];
            for (int i = 0; i < axes.length; i++) {
                axes[axes.length - 1 - i] = packed.getHeader().getIntValue("ZNAXIS" + (i + 1), 0);
            }
            return axes;
        }
        return hdu instanceof ImageHDU image && image.getAxes() != null ? image.getAxes() : new int[0];
    }
}
