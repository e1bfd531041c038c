package app.ironside.desk.station;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.picture.Shades;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import javax.imageio.ImageIO;

/** Two pictures of one field beside each other, in the palette's tint. */
final class TwoPictures extends DrawnPane {
    private static final double CAPTION = 22;
    private static final int MOST_PX = 900;

    private Optional<Picture> before = Optional.empty();
    private Optional<Picture> now = Optional.empty();

    TwoPictures() {
        setMinHeight(160);
        setPrefHeight(300);
    }

    /**
     * A picture in grey.
     *
     * @param grey 0 to 255 each, top row first
     */
    record Picture(int width, int height, byte[] grey, String caption) {
        /** Reads a picture; empty if the file is no longer there, or is none. */
        static Optional<Picture> read(Path file, String caption) {
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

        private static Picture of(BufferedImage image, String caption) {
            int step = Math.max(1, (int) Math.ceil(Math.max(image.getWidth(), image.getHeight()) / (double) MOST_PX));
            int width = image.getWidth() / step;
            int height = image.getHeight() / step;
            byte[] grey = new byte[width * height];
            for (int y = 0; y < height; y++) {
                for (int x = 0; x < width; x++) {
                    grey[y * width + x] = (byte) mean(image, x * step, y * step, step);
                }
            }
            return new Picture(width, height, grey, caption);
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

    void show(Optional<Picture> first, Optional<Picture> last) {
        before = first;
        now = last;
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        g.setFill(panel());
        g.fillRoundRect(0, 0, width, height, 10, 10);
        g.setTextAlign(TextAlignment.CENTER);
        g.setTextBaseline(VPos.CENTER);
        if (before.isEmpty() && now.isEmpty()) {
            g.setFill(dim());
            g.fillText("No stack of it lies where its night made it.", width / 2, height / 2);
        } else if (before.isEmpty() || now.isEmpty()) {
            draw(g, before.or(() -> now).orElseThrow(), 0, width, height);
        } else {
            draw(g, before.get(), 0, width / 2, height);
            draw(g, now.get(), width / 2, width / 2, height);
        }
    }

    private void draw(GraphicsContext g, Picture picture, double left, double width, double height) {
        double room = height - CAPTION - 8;
        double scale = Math.min((width - 12) / picture.width(), room / picture.height());
        double w = scale * picture.width();
        double h = scale * picture.height();
        g.drawImage(
                Shades.image(picture.width(), picture.height(), picture.grey(), tint()),
                left + (width - w) / 2,
                4 + (room - h) / 2,
                w,
                h);
        g.setFill(text());
        g.fillText(picture.caption(), left + width / 2, height - CAPTION / 2 - 2, width - 12);
    }
}
