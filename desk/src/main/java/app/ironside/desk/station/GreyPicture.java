package app.ironside.desk.station;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import javax.imageio.ImageIO;

/**
 * A picture in grey.
 *
 * @param grey 0 to 255 each, top row first
 */
record GreyPicture(int width, int height, byte[] grey, String caption) {
    private static final int MOST_PX = 900;

    /** Reads a picture; empty if the file is no longer there, or is none. */
    static Optional<GreyPicture> read(Path file, String caption) {
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            BufferedImage image = ImageIO.read(file.toFile());
            return image == null ? Optional.empty() : Optional.of(of(image, caption));
        } catch (IOException damaged) {
            return Optional.empty();
        }
    }

    private static GreyPicture of(BufferedImage image, String caption) {
        int step = Math.max(1, (int) Math.ceil(Math.max(image.getWidth(), image.getHeight()) / (double) MOST_PX));
        int width = image.getWidth() / step;
        int height = image.getHeight() / step;
        byte[] grey = new byte[width * height];
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                grey[y * width + x] = (byte) mean(image, x * step, y * step, step);
            }
        }
        return new GreyPicture(width, height, grey, caption);
    }

    private static int mean(BufferedImage image, int left, int top, int step) {
        int sum = 0;
        for (int y = top; y < top + step; y++) {
            for (int x = left; x < left + step; x++) {
                int rgb = image.getRGB(x, y);
                sum += ((rgb >> 16 & 0xff) + (rgb >> 8 & 0xff) + (rgb & 0xff)) / 3;
            }
        }
        return sum / (step * step);
    }
}
