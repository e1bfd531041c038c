package app.ironside.desk;

import java.awt.image.BufferedImage;
import javafx.scene.Scene;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;

/** Pictures of the interface itself. */
final class Snapshots {
    private Snapshots() {}

    /** What a scene looks like now. Interface thread only. */
    static BufferedImage of(Scene scene) {
        WritableImage image = scene.snapshot(null);
        int width = (int) image.getWidth();
        int height = (int) image.getHeight();
        int[] argb = new int[width * height];
        image.getPixelReader().getPixels(0, 0, width, height, PixelFormat.getIntArgbInstance(), argb, 0, width);
        BufferedImage out = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        out.setRGB(0, 0, width, height, argb, 0, width);
        return out;
    }
}
