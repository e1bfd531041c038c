package app.ironside.image;

import app.ironside.BadInputException;
import com.twelvemonkeys.imageio.metadata.Directory;
import com.twelvemonkeys.imageio.metadata.Entry;
import com.twelvemonkeys.imageio.metadata.exif.EXIF;
import com.twelvemonkeys.imageio.metadata.tiff.TIFF;
import com.twelvemonkeys.imageio.metadata.tiff.TIFFReader;
import com.twelvemonkeys.imageio.plugins.tiff.TIFFImageReaderSpi;
import java.awt.image.Raster;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
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

    /** Exif calls it PhotographicSensitivity. */
    private static final int ISO = 34_855;

    private static final int BITS = 16;

    private TiffFiles() {}

    /**
     * The first image of a file. Of a colour picture the brightness is taken, as a mosaic would gather it: one part red, two green, one
     * blue.
     *
     * @return with EXPTIME, DATE-OBS and GAIN (the sensitivity) in its header, as far as they are told; the date is the camera's own, of
     *     whatever zone its clock stands at
     * @throws BadInputException if it is missing, truncated, or of fewer than 16 bits; the message names the file
     */
    static Frame read(Path file) {
        return opened(file, (reader, header) -> {
            Raster raster = reader.readRaster(0, null);
            mustBeDeep(file, raster.getSampleModel().getSampleSize(0));
            return Rasters.frame(raster, header);
        });
    }

    /**
     * What a file tells without its pixels.
     *
     * @throws BadInputException if it is missing, damaged, or of fewer than 16 bits; the message names the file
     */
    static FrameHead head(Path file) {
        return opened(file, (reader, header) -> {
            mustBeDeep(file, reader.getRawImageType(0).getSampleModel().getSampleSize(0));
            return new FrameHead(reader.getWidth(0), reader.getHeight(0), 1, header);
        });
    }

    /** Takes something from an open file whose size is sensible. */
    @FunctionalInterface
    private interface Taken<T> {
        T from(ImageReader reader, Header header) throws IOException;
    }

    private static <T> T opened(Path file, Taken<T> taken) {
        Rasters.mustBeFile(file);
        // Chosen by name: the reader that comes with Java knows no 16-bit differences, which raw converters write.
        ImageReader reader = new TIFFImageReaderSpi().createReaderInstance(null);
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            Header header = header(new TIFFReader().read(in));
            in.seek(0);
            reader.setInput(in);
            Rasters.mustBeOfSensibleSize(file, reader);
            return taken.from(reader, header);
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

    private static void mustBeDeep(Path file, int bits) {
        if (bits != BITS) {
            throw new BadInputException(
                    file.toString(),
                    "has " + bits + " bits a pixel",
                    "16: with fewer the faint light is gone, so let the raw converter write 16-bit TIFF, untouched");
        }
    }

    /** What a camera tells of an exposure beside its picture. */
    static Header header(Directory main) {
        Optional<Directory> exif = value(Optional.of(main), TIFF.TAG_EXIF_IFD, Directory.class);
        OptionalDouble seconds = number(exif, EXIF.TAG_EXPOSURE_TIME);
        OptionalDouble iso = number(exif, ISO);
        Optional<String> date = value(exif, EXIF.TAG_DATE_TIME_ORIGINAL, String.class)
                .or(() -> value(Optional.of(main), TIFF.TAG_DATE_TIME, String.class));
        return Header.EMPTY
                .with("EXPTIME", seconds.isPresent() ? seconds.getAsDouble() : null)
                .with("GAIN", iso.isPresent() ? iso.getAsDouble() : null)
                .with("DATE-OBS", date.flatMap(TiffFiles::fitsDate).orElse(null));
    }

    private static OptionalDouble number(Optional<Directory> directory, int tag) {
        return value(directory, tag, Number.class)
                .map(n -> OptionalDouble.of(n.doubleValue()))
                .filter(n -> Double.isFinite(n.getAsDouble()))
                .orElse(OptionalDouble.empty());
    }

    private static <T> Optional<T> value(Optional<Directory> directory, int tag, Class<T> kind) {
        return directory
                .map(d -> d.getEntryById(tag))
                .map(Entry::getValue)
                .filter(kind::isInstance)
                .map(kind::cast);
    }

    private static Optional<String> fitsDate(String exif) {
        try {
            return Optional.of(FITS_DATE.format(LocalDateTime.parse(exif.strip(), EXIF_DATE)));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
