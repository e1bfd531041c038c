package app.ironside.desk.picture;

import app.ironside.image.Frame;
import app.ironside.image.Histogram;
import app.ironside.image.Statistics;
import app.ironside.image.Stretch;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/**
 * A frame stretched for the eye, at full size and at halves of it, so that a small view averages pixels and stars do not
 * flicker.
 *
 * @param levels brightness 0 to 255, top row first; the first is full size
 * @param raw how often each level occurs in the frame itself
 * @param middleAdu half of its pixels lie below
 */
public record PictureLevels(Shown shown, List<Level> levels, Histogram raw, double middleAdu) {
    /** One size. */
    @SuppressWarnings("ArrayRecordComponent") // made once, handed to one view, never compared
    record Level(int width, int height, byte[] grey) {}

    private static final int SMALLEST = 300;
    private static final int SAMPLED = 20_000;

    public static PictureLevels of(Shown shown) {
        return of(shown, Stretch.automatic(shown.frame()));
    }

    /** By a stretch of somebody's choice, so that pictures can be compared. */
    public static PictureLevels of(Shown shown, Stretch stretch) {
        Frame frame = shown.frame();
        List<Level> levels = new ArrayList<>();
        levels.add(new Level(frame.width(), frame.height(), stretch.toBytes(frame)));
        while (levels.get(levels.size() - 1).width() > 2 * SMALLEST) {
            levels.add(half(levels.get(levels.size() - 1)));
        }
        return new PictureLevels(shown, levels, Histogram.of(frame), middle(frame));
    }

    /** By every so manieth pixel: it is only marked. */
    private static double middle(Frame frame) {
        float[] pixels = frame.pixels();
        int step = Math.max(1, pixels.length / SAMPLED);
        double[] sample = IntStream.range(0, pixels.length / step)
                .mapToDouble(i -> pixels[i * step])
                .filter(Double::isFinite)
                .toArray();
        return sample.length == 0 ? 0 : Statistics.median(sample);
    }

    private static Level half(Level from) {
        int width = from.width() / 2;
        int height = from.height() / 2;
        byte[] grey = new byte[width * height];
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                int at = 2 * y * from.width() + 2 * x;
                int a = from.grey()[at] & 0xff;
                int b = from.grey()[at + 1] & 0xff;
                int c = from.grey()[at + from.width()] & 0xff;
                int d = from.grey()[at + from.width() + 1] & 0xff;
                // Half mean, half brightest: a star of one pixel stays a star.
                int mean = (a + b + c + d + 2) / 4;
                int most = Math.max(Math.max(a, b), Math.max(c, d));
                grey[y * width + x] = (byte) ((2 * mean + most) / 3);
            }
        }
        return new Level(width, height, grey);
    }
}
