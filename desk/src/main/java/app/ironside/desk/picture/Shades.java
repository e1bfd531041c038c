package app.ironside.desk.picture;

import java.nio.ByteBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.paint.Color;

/** Grey pictures in the palette's tint, from black on: under the Red palette they are red only. */
public final class Shades {
    private Shades() {}

    /**
     * An image of brightness values.
     *
     * @param grey 0 to 255 each, top row first
     */
    public static WritableImage image(int width, int height, byte[] grey, Color tint) {
        WritableImage image = new WritableImage(width, height);
        image.getPixelWriter().setPixels(0, 0, width, height, of(tint), grey, 0, width);
        return image;
    }

    private static PixelFormat<ByteBuffer> of(Color tint) {
        int[] shades = new int[256];
        for (int i = 0; i < 256; i++) {
            int r = (int) Math.round(i * tint.getRed());
            int gr = (int) Math.round(i * tint.getGreen());
            int b = (int) Math.round(i * tint.getBlue());
            shades[i] = 0xff000000 | r << 16 | gr << 8 | b;
        }
        return PixelFormat.createByteIndexedInstance(shades);
    }
}
