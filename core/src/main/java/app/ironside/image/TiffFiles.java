package app.ironside.image;

import app.ironside.BadInputException;
import java.awt.image.Raster;
import java.awt.image.RenderedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Iterator;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.metadata.IIOMetadata;
import javax.imageio.plugins.tiff.BaselineTIFFTagSet;
import javax.imageio.plugins.tiff.ExifParentTIFFTagSet;
import javax.imageio.plugins.tiff.ExifTIFFTagSet;
import javax.imageio.plugins.tiff.TIFFDirectory;
import javax.imageio.plugins.tiff.TIFFField;
import javax.imageio.plugins.tiff.TIFFTag;
import javax.imageio.stream.ImageInputStream;

/**
 * Reads 16-bit TIFF images (TIFF revision 6.0), as raw converters write them, with what their Exif directory tells of the exposure
 * (Exif 2.3, CIPA DC-008: ExposureTime, DateTimeOriginal, PhotographicSensitivity). Nothing here writes over them.
 */
final class TiffFiles {
    /** Exif dates carry no zone; whoever knows how late it is finds the camera's. */
    private static final DateTimeFormatter EXIF_DATE = DateTimeFormatter.ofPattern("uuuu:MM:dd HH:mm:ss", Locale.ROOT);

    private static final DateTimeFormatter FITS_DATE =
            DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm:ss", Locale.ROOT);

    private static final int BITS = 16;

    private TiffFiles() {}

    /**
     * The first image of a file. Of a colour picture the brightness is taken, as a mosaic would gather it: one part red, two green, one
     * blue.
     *
     * @return with EXPTIME, DATE-OBS and GAIN (the sensitivity) in its header, as far as they are told
     * @throws BadInputException if it is missing, truncated, or of fewer than 16 bits; the message names the file
     */
    static Frame read(Path file) {
        if (!Files.isRegularFile(file)) {
            throw new BadInputException(file.toString(), "there is no such file", "the path of an image");
        }
        Iterator<ImageReader> readers = ImageIO.getImageReadersByFormatName("tiff");
        ImageReader reader = readers.next();
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            reader.setInput(in);
            RenderedImage image = reader.readAsRenderedImage(0, null);
            return frame(file, image.getData(), header(reader.getImageMetadata(0)));
        } catch (IOException | RuntimeException e) {
            // A damaged file makes the reader stumble in many ways; all of them mean the same to whoever sent it.
            if (e instanceof BadInputException bad) {
                throw bad;
            }
            throw unreadable(file, e);
        } finally {
            reader.dispose();
        }
    }

    private static BadInputException unreadable(Path file, Exception why) {
        return new BadInputException(
                file.toString(), "is damaged, still being written, or no TIFF image", "a whole 16-bit TIFF file", why);
    }

    private static Frame frame(Path file, Raster raster, Header header) {
        int bits = raster.getSampleModel().getSampleSize(0);
        if (bits != BITS) {
            throw new BadInputException(
                    file.toString(),
                    "has " + bits + " bits a pixel",
                    "16: with fewer the faint light is gone, so let the raw converter write 16-bit TIFF, untouched");
        }
        int width = raster.getWidth();
        int height = raster.getHeight();
        int bands = raster.getNumBands() < 3 ? 1 : 3;
        float[] pixels = new float[width * height];
        int[] row = new int[width * raster.getNumBands()];
        for (int y = 0; y < height; y++) {
            raster.getPixels(raster.getMinX(), raster.getMinY() + y, width, 1, row);
            // TIFF begins at the top, a frame at the bottom.
            int to = (height - 1 - y) * width;
            for (int x = 0; x < width; x++) {
                int at = x * raster.getNumBands();
                pixels[to + x] = bands == 1 ? row[at] : (row[at] + 2f * row[at + 1] + row[at + 2]) / 4;
            }
        }
        return new Frame(width, height, pixels, header);
    }

    private static Header header(IIOMetadata metadata) throws IOException {
        TIFFDirectory main = TIFFDirectory.createFromMetadata(metadata);
        Optional<TIFFDirectory> exif = Optional.ofNullable(main.getTIFFField(ExifParentTIFFTagSet.TAG_EXIF_IFD_POINTER))
                .filter(TIFFField::hasDirectory)
                .map(TIFFField::getDirectory);
        Header header = Header.EMPTY;
        OptionalDouble seconds = number(exif, ExifTIFFTagSet.TAG_EXPOSURE_TIME);
        if (seconds.isPresent()) {
            header = header.with("EXPTIME", seconds.getAsDouble());
        }
        OptionalDouble iso = number(exif, ExifTIFFTagSet.TAG_ISO_SPEED_RATINGS);
        if (iso.isPresent()) {
            header = header.with("GAIN", iso.getAsDouble());
        }
        Optional<String> date = text(exif, ExifTIFFTagSet.TAG_DATE_TIME_ORIGINAL)
                .or(() -> text(Optional.of(main), BaselineTIFFTagSet.TAG_DATE_TIME));
        return header.with("DATE-OBS", date.flatMap(TiffFiles::fitsDate).orElse(null));
    }

    private static OptionalDouble number(Optional<TIFFDirectory> directory, int tag) {
        return directory
                .map(d -> d.getTIFFField(tag))
                .filter(f -> f.getCount() > 0)
                .map(f -> OptionalDouble.of(f.getAsDouble(0)))
                .filter(n -> Double.isFinite(n.getAsDouble()))
                .orElse(OptionalDouble.empty());
    }

    private static Optional<String> text(Optional<TIFFDirectory> directory, int tag) {
        return directory
                .map(d -> d.getTIFFField(tag))
                .filter(f -> f.getCount() > 0 && f.getType() == TIFFTag.TIFF_ASCII)
                .map(f -> f.getAsString(0).strip());
    }

    private static Optional<String> fitsDate(String exif) {
        try {
            return Optional.of(FITS_DATE.format(LocalDateTime.parse(exif, EXIF_DATE)));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
