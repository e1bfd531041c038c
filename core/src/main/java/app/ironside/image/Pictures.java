package app.ironside.image;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import javax.imageio.ImageIO;
import javax.imageio.stream.ImageOutputStream;

/** Writes stretched frames as 16-bit grey pictures, top row first. */
public final class Pictures {
    private Pictures() {}

    /** Writes a 16-bit PNG, atomically. */
    public static void writePng(Path file, Frame frame, Stretch stretch) {
        write(file, "png", frame, stretch);
    }

    /** Writes a 16-bit TIFF, atomically. */
    public static void writeTiff(Path file, Frame frame, Stretch stretch) {
        write(file, "tiff", frame, stretch);
    }

    private static void write(Path file, String format, Frame frame, Stretch stretch) {
        BufferedImage image = new BufferedImage(frame.width(), frame.height(), BufferedImage.TYPE_USHORT_GRAY);
        for (int y = 1; y <= frame.height(); y++) {
            for (int x = 1; x <= frame.width(); x++) {
                int grey = (int) Math.round(65_535 * stretch.apply(frame.at(x, y)));
                image.getRaster().setSample(x - 1, frame.height() - y, 0, grey);
            }
        }
        AtomicFile.write(file, out -> encode(image, format, out));
    }

    private static void encode(BufferedImage image, String format, OutputStream out) throws IOException {
        try (ImageOutputStream stream = ImageIO.createImageOutputStream(out)) {
            if (!ImageIO.write(image, format, stream)) {
                throw new IOException("this Java has no writer for 16-bit " + format);
            }
        }
    }
}
