package app.ironside.image;

import app.ironside.BadInputException;
import java.awt.image.Raster;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageReader;

/** What reading pictures of any format has in common. */
final class Rasters {
    /** No sensor has more; a damaged file may promise anything. */
    private static final long MOST_PIXELS = 200_000_000;

    private Rasters() {}

    static void mustBeFile(Path file) {
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of an image");
        }
    }

    static void mustBeOfSensibleSize(Path file, ImageReader reader) throws IOException {
        if ((long) reader.getWidth(0) * reader.getHeight(0) > MOST_PIXELS) {
            throw new BadInputException(
                    file.toString(),
                    "promises " + reader.getWidth(0) + " x " + reader.getHeight(0) + " px",
                    "at most " + MOST_PIXELS / 1_000_000 + " million");
        }
    }

    /** The brightness; of colours as a mosaic would gather them, one part red, two green, one blue. */
    static Frame frame(Raster raster, Header header) {
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
