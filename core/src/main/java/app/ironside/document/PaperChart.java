package app.ironside.document;

import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.function.Consumer;
import javax.imageio.ImageIO;

/** Drawing for paper: black on white, as PNG. */
final class PaperChart {
    /** Three dots for each point of a line 182 mm wide: sharp in print. */
    static final int WIDTH = 1548;

    static final Color INK = new Color(0x11, 0x11, 0x11);
    static final Color FAINT = new Color(0xBB, 0xBB, 0xBB);

    private PaperChart() {}

    static byte[] png(int height, int fontSize, Consumer<Graphics2D> drawing) {
        BufferedImage image = new BufferedImage(WIDTH, height, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        g.setRenderingHint(RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
        g.setColor(Color.WHITE);
        g.fillRect(0, 0, WIDTH, height);
        g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, fontSize));
        drawing.accept(g);
        g.dispose();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            ImageIO.write(image, "png", out);
        } catch (IOException e) {
            throw new UncheckedIOException("a picture in memory cannot fail to be written", e);
        }
        return out.toByteArray();
    }
}
