package app.ironside.colour;

import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Pictures;
import app.ironside.image.Stretch;
import java.nio.file.Path;
import java.util.Locale;

/** Writes colour pictures: as they are, or stretched for the eye. */
public final class ColourFiles {
    private ColourFiles() {}

    /** Whether a file's ending names a format that can be written. */
    public static boolean isPossible(Path file) {
        return ending(file).matches("fits?|fts|tiff?|png");
    }

    /** Writes by the file's ending: 32-bit FITS cube, 16-bit TIFF or PNG. */
    public static void write(Path file, ColourPicture picture) {
        switch (ending(file)) {
            case "png" -> Pictures.writeColour(file, "png", picture.planes(), stretch(picture));
            case "tif", "tiff" -> Pictures.writeColour(file, "tiff", picture.planes(), stretch(picture));
            default -> FitsFiles.writePlanes(file, picture.planes());
        }
    }

    /** One curve for all channels, by their mean. */
    private static Stretch stretch(ColourPicture picture) {
        float[] grey = new float[picture.red().pixels().length];
        for (int i = 0; i < grey.length; i++) {
            grey[i] = (picture.red().pixels()[i]
                            + picture.green().pixels()[i]
                            + picture.blue().pixels()[i])
                    / 3;
        }
        return Stretch.automatic(new Frame(
                picture.red().width(),
                picture.red().height(),
                grey,
                picture.red().header()));
    }

    private static String ending(Path file) {
        return file.getFileName().toString().toLowerCase(Locale.ROOT).replaceFirst(".*\\.", "");
    }
}
