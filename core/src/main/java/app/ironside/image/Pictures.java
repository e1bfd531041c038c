package app.ironside.image;

import java.awt.Transparency;
import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.WritableRaster;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;

/** Writes stretched frames as 16-bit pictures, grey or coloured, top row first. */
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

    /**
     * Writes red, green and blue as a picture of three times 16 bits, all by one curve, atomically.
     *
     * @param format "png" or "tiff"
     * @param planes three of one size
     */
    public static void writeColour(Path file, String format, List<Frame> planes, Stretch stretch) {
        int width = planes.get(0).width();
        int height = planes.get(0).height();
        ColorModel model = new ComponentColorModel(
                ColorSpace.getInstance(ColorSpace.CS_sRGB), false, false, Transparency.OPAQUE, DataBuffer.TYPE_USHORT);
        WritableRaster raster = model.createCompatibleWritableRaster(width, height);
        for (int c = 0; c < 3; c++) {
            Frame plane = planes.get(c);
            int[] row = new int[width];
            for (int y = 1; y <= height; y++) {
                for (int x = 1; x <= width; x++) {
                    row[x - 1] = (int) Math.round(65_535 * stretch.apply(plane.at(x, y)));
                }
                raster.setSamples(0, height - y, width, 1, c, row);
            }
        }
        AtomicFile.write(file, out -> encode(new BufferedImage(model, raster, false, null), format, out));
    }

    /** By the writers that come with Java, which know 16 bits of each colour; others that are on the class path may not. */
    private static void encode(BufferedImage image, String format, OutputStream out) throws IOException {
        Iterator<ImageWriter> writers = ImageIO.getImageWritersByFormatName(format);
        while (writers.hasNext()) {
            ImageWriter writer = writers.next();
            if (writer.getOriginatingProvider().getClass().getName().startsWith("com.sun.imageio.")) {
                try (ImageOutputStream stream = ImageIO.createImageOutputStream(out)) {
                    writer.setOutput(stream);
                    writer.write(image);
                } finally {
                    writer.dispose();
                }
                return;
            }
        }
        throw new IOException("this Java has no writer for 16-bit " + format);
    }
}
