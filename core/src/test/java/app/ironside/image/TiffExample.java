package app.ironside.image;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Writes a grey 16-bit TIFF with an Exif directory, by TIFF revision 6.0 and Exif 2.3 alone: no code is shared with what reads it. */
public final class TiffExample {
    private static final int SHORT = 3;
    private static final int LONG = 4;
    private static final int RATIONAL = 5;
    private static final int ASCII = 2;
    private static final int MAIN = 9;
    private static final int EXIF = 3;
    private static final int DIRECTORIES = 8;
    private static final int RATIONAL_AT = 200;
    private static final int DATE_AT = 208;
    private static final int PIXELS_AT = 232;

    private TiffExample() {}

    /**
     * Writes it, rows from the top as TIFF has them.
     *
     * @param date as cameras write it, "2026:10:11 21:00:00"
     */
    public static void write(Path file, Frame frame, double seconds, int iso, String date) throws IOException {
        int width = frame.width();
        int height = frame.height();
        ByteBuffer out = ByteBuffer.allocate(PIXELS_AT + 2 * width * height);
        out.put((byte) 'M').put((byte) 'M').putShort((short) 42).putInt(DIRECTORIES);
        int exifAt = DIRECTORIES + 2 + 12 * MAIN + 4;
        out.putShort((short) MAIN);
        entry(out, 256, LONG, 1, width);
        entry(out, 257, LONG, 1, height);
        entry(out, 258, SHORT, 1, 16 << 16);
        entry(out, 259, SHORT, 1, 1 << 16);
        entry(out, 262, SHORT, 1, 1 << 16);
        entry(out, 273, LONG, 1, PIXELS_AT);
        entry(out, 278, LONG, 1, height);
        entry(out, 279, LONG, 1, 2 * width * height);
        entry(out, 34_665, LONG, 1, exifAt);
        out.putInt(0);
        out.putShort((short) EXIF);
        entry(out, 33_434, RATIONAL, 1, RATIONAL_AT);
        entry(out, 34_855, SHORT, 1, iso << 16);
        entry(out, 36_867, ASCII, 20, DATE_AT);
        out.putInt(0);
        out.position(RATIONAL_AT);
        out.putInt((int) Math.round(seconds * 1000)).putInt(1000);
        out.put(date.getBytes(StandardCharsets.US_ASCII)).put((byte) 0);
        out.position(PIXELS_AT);
        for (int row = height - 1; row >= 0; row--) {
            for (int column = 0; column < width; column++) {
                out.putShort((short) Math.round(frame.pixels()[row * width + column]));
            }
        }
        Files.write(file, out.array());
    }

    private static void entry(ByteBuffer out, int tag, int type, int count, int value) {
        out.putShort((short) tag).putShort((short) type).putInt(count).putInt(value);
    }
}
