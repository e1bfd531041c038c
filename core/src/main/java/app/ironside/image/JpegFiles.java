package app.ironside.image;

import app.ironside.BadInputException;
import com.twelvemonkeys.imageio.metadata.Directory;
import com.twelvemonkeys.imageio.metadata.jpeg.JPEG;
import com.twelvemonkeys.imageio.metadata.jpeg.JPEGSegment;
import com.twelvemonkeys.imageio.metadata.jpeg.JPEGSegmentUtil;
import com.twelvemonkeys.imageio.metadata.tiff.TIFFReader;
import java.awt.image.Raster;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.ImageIO;
import javax.imageio.stream.ImageInputStream;

/**
 * JPEG pictures from a camera, of eight bits and a curve of the camera's own: good for finding where it looks and how its stars are
 * shaped, and for nothing that counts light.
 */
final class JpegFiles {
    private static final String EXIF = "Exif";

    /** Before the directory stand the name and two zeros, one of which ends the name. */
    private static final int LEFT_OUT = 1;

    private static final long MOST_PIXELS = 200_000_000;

    private JpegFiles() {}

    /**
     * Reads the brightness.
     *
     * @return with EXPTIME, DATE-OBS and GAIN in its header as far as they are told; the date is the camera's own
     * @throws BadInputException if it is missing, damaged or no JPEG; the message names the file
     */
    static Frame read(Path file) {
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of an image");
        }
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            Header header = header(in);
            in.seek(0);
            var readers = ImageIO.getImageReadersByFormatName("jpeg");
            var reader = readers.next();
            try {
                reader.setInput(in);
                if ((long) reader.getWidth(0) * reader.getHeight(0) > MOST_PIXELS) {
                    throw new BadInputException(
                            file.toString(),
                            "promises " + reader.getWidth(0) + " x " + reader.getHeight(0) + " px",
                            "at most " + MOST_PIXELS / 1_000_000 + " million");
                }
                return frame(reader.read(0).getRaster(), header);
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

    private static Frame frame(Raster raster, Header header) {
        int width = raster.getWidth();
        int height = raster.getHeight();
        int bands = raster.getNumBands();
        float[] pixels = new float[width * height];
        int[] row = new int[width * bands];
        for (int y = 0; y < height; y++) {
            raster.getPixels(raster.getMinX(), raster.getMinY() + y, width, 1, row);
            // A picture begins at the top, a frame at the bottom.
            int to = (height - 1 - y) * width;
            for (int x = 0; x < width; x++) {
                int at = x * bands;
                pixels[to + x] = bands < 3 ? row[at] : (row[at] + 2f * row[at + 1] + row[at + 2]) / 4;
            }
        }
        return new Frame(width, height, pixels, header);
    }
}
