package app.ironside.image;

import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * The colours of a sensor whose pixels see one colour each.
 *
 * @param pattern four letters: the first two pixels of the first row of the file, then those of the second: "RGGB"
 */
public record Mosaic(String pattern) {
    /** The words that programs use for the pattern. */
    private static final List<String> KEYWORDS = List.of("BAYERPAT", "CFA_PAT", "CFAPAT", "COLORTYP", "MOSAIC");

    private static final List<String> OTHERS = List.of("XBAYROFF", "YBAYROFF", "ROWORDER");

    /** What a plane of a picture shows. */
    public enum Plane {
        /** Everything: of a sensor without a mosaic. */
        GREY,
        RED,
        GREEN,
        BLUE
    }

    public Mosaic {
        if (!pattern.matches("[RGB]{4}")) {
            throw new IllegalArgumentException(
                    "pattern is \"" + pattern + "\"; expected four of the letters R, G and B");
        }
    }

    /** As a header tells it, moved by the offsets that a cut-out has; empty for a sensor of one colour. */
    public static Optional<Mosaic> of(Header header) {
        int right = (int) header.number("XBAYROFF").orElse(0);
        int up = (int) header.number("YBAYROFF").orElse(0);
        return KEYWORDS.stream()
                .flatMap(k -> header.text(k).stream())
                .map(w -> w.toUpperCase(Locale.ROOT))
                .filter(w -> w.matches("[RGB]{4}"))
                .findFirst()
                .map(p -> new Mosaic(moved(p, Math.floorMod(right, 2), Math.floorMod(up, 2))));
    }

    private static String moved(String pattern, int right, int up) {
        StringBuilder moved = new StringBuilder();
        for (int i = 0; i < 4; i++) {
            moved.append(pattern.charAt((i / 2 + up) % 2 * 2 + (i % 2 + right) % 2));
        }
        return moved.toString();
    }

    /** Whether a keyword tells of a mosaic; a picture whose colours have planes of their own has none of them. */
    public static boolean isKeyword(String keyword) {
        return KEYWORDS.contains(keyword) || OTHERS.contains(keyword);
    }

    /** The colour of a pixel, column and row from 0 in the file. */
    public Plane at(int column, int row) {
        return switch (pattern.charAt(row % 2 * 2 + column % 2)) {
            case 'R' -> Plane.RED;
            case 'G' -> Plane.GREEN;
            default -> Plane.BLUE;
        };
    }

    /**
     * One colour at every pixel: where the sensor saw it, as it was seen; elsewhere the mean of the nearest that did.
     *
     * @param raw rows of a frame
     * @param firstRow which row of the frame they begin with, from 0
     * @return as many rows; NaN where no neighbour has a value
     */
    public float[] plane(float[] raw, int width, int firstRow, Plane colour) {
        int rows = raw.length / width;
        float[] out = new float[raw.length];
        for (int row = 0; row < rows; row++) {
            for (int column = 0; column < width; column++) {
                int at = row * width + column;
                out[at] = at(column, firstRow + row) == colour
                        ? raw[at]
                        : neighbours(raw, width, rows, column, row, firstRow, colour);
            }
        }
        return out;
    }

    private float neighbours(float[] raw, int width, int rows, int column, int row, int firstRow, Plane colour) {
        float near = 0;
        int nearCount = 0;
        float far = 0;
        int farCount = 0;
        for (int dy = -1; dy <= 1; dy++) {
            int y = row + dy;
            if (y < 0 || y >= rows) {
                continue;
            }
            for (int dx = -1; dx <= 1; dx++) {
                int x = column + dx;
                if (x < 0 || x >= width || at(x, firstRow + y) != colour) {
                    continue;
                }
                float v = raw[y * width + x];
                if (Float.isNaN(v)) {
                    continue;
                }
                if (dx == 0 || dy == 0) {
                    near += v;
                    nearCount++;
                } else {
                    far += v;
                    farCount++;
                }
            }
        }
        return nearCount > 0 ? near / nearCount : farCount > 0 ? far / farCount : Float.NaN;
    }
}
