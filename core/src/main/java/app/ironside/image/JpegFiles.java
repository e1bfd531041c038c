package app.ironside.image;

import app.ironside.BadInputException;
import com.twelvemonkeys.imageio.metadata.Directory;
import com.twelvemonkeys.imageio.metadata.jpeg.JPEG;
import com.twelvemonkeys.imageio.metadata.jpeg.JPEGSegment;
import com.twelvemonkeys.imageio.metadata.jpeg.JPEGSegmentUtil;
import com.twelvemonkeys.imageio.metadata.tiff.TIFFReader;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/**
 * JPEG pictures from a camera, of eight bits and a curve of the camera's own: good for finding where it looks and how its stars are
 * shaped, and for nothing that counts light.
 */
final class JpegFiles {
    private static final String EXIF = "Exif";

    /** Before the directory stand the name and two zeros, one of which ends the name. */
    private static final int LEFT_OUT = 1;

    private JpegFiles() {}

    /**
     * Reads the brightness.
     *
     * @return with EXPTIME, DATE-OBS and GAIN in its header as far as they are told; the date is the camera's own
     * @throws BadInputException if it is missing, damaged or no JPEG; the message names the file
     */
    static Frame read(Path file) {
        Rasters.mustBeFile(file);
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            Header header = header(in);
            in.seek(0);
            ImageReader reader = ImageIO.getImageReadersByFormatName("jpeg").next();
            try {
                reader.setInput(in);
                Rasters.mustBeOfSensibleSize(file, reader);
                return Rasters.frame(reader.read(0).getRaster(), header);
            } finally {
                reader.dispose();
            }
        } catch (IOException | RuntimeException e) {
            if (e instanceof BadInputException bad) {
                throw bad;
            }
            throw new BadInputException(
                    file.toString(), "is damaged, still being written, or no JPEG picture", "a whole JPEG file", e);
        }
    }

    private static Header header(ImageInputStream in) throws IOException {
        List<JPEGSegment> told = JPEGSegmentUtil.readSegments(in, JPEG.APP1, EXIF);
        if (told.isEmpty()) {
            return Header.EMPTY;
        }
        try (InputStream data = told.get(0).data()) {
            byte[] bytes = data.readAllBytes();
            Directory main = new TIFFReader()
                    .read(ImageIO.createImageInputStream(
                            new ByteArrayInputStream(bytes, LEFT_OUT, bytes.length - LEFT_OUT)));
            return TiffFiles.header(main);
        } catch (IOException | RuntimeException e) {
            return Header.EMPTY; // what is told beside the picture may be missing or broken; the picture is there
        }
    }
}
