package app.ironside.stack;

import app.ironside.Check;
import app.ironside.image.Header;
import app.ironside.solve.Wcs;
import java.util.List;
import java.util.Locale;

/**
 * A school of laying subs onto one grid: each pixel of a sub falls as a smaller square drop onto a finer grid, and is shared out by area.
 * Where subs are dithered and their stars are narrow against a pixel it keeps what interpolation would smooth away; neighbouring pixels
 * share drops, so that their noise is alike.
 *
 * @param scale pixels of the stack along the side of a sub's pixel, 1 to 4
 * @param drop side of the drop in the sub's pixels, 0.1 to 1
 * @see "Fruchter and Hook 2002, PASP 114, 144"
 */
public record Drizzle(double scale, double drop) {
    /** Values that many subs share stand for a grid that is evenly covered: below this spread of the weights (common practice). */
    public static final double EVEN_SPREAD = 0.2;

    /** By these a pixel's size is told, in micrometres. */
    private static final List<String> PIXEL_SIZES = List.of("XPIXSZ", "YPIXSZ", "PIXSIZE1", "PIXSIZE2");

    public Drizzle {
        Check.inRange("scale", scale, 1, 4);
        Check.inRange("drop", drop, 0.1, 1);
    }

    /** With a drop somewhat larger than the pixels of the stack, so that no holes are left between a dozen dithered subs (common practice). */
    public static Drizzle usual(double scale) {
        return new Drizzle(scale, Math.min(1, Math.max(0.5, 1.4 / scale)));
    }

    /** Pixels of the stack along so many of a sub. */
    public int side(int pixels) {
        return (int) Math.round(pixels * scale);
    }

    /**
     * By how much noise from pixel to pixel is below the noise of large areas, brought to one pixel: what is alike in neighbours does not
     * average out.
     *
     * @see "Fruchter and Hook 2002, section 7: for r = drop over pixel, r / (1 − 1/(3r)) from 1 on, 1 / (1 − r/3) below"
     */
    public double noiseRatio() {
        double r = drop * scale;
        return r >= 1 ? r / (1 - 1 / (3 * r)) : 1 / (1 - r / 3);
    }

    /** As a person says it. */
    public String words() {
        return String.format(Locale.ROOT, "drizzle, %s pixels to one, drops of %.2f", times(), drop);
    }

    /** How many times as fine: "2", "1.5". */
    String times() {
        return String.format(Locale.ROOT, "%.2f", scale).replaceFirst("\\.?0+$", "");
    }

    /** A header of the sub's grid as the finer grid has it: pixels are smaller, and the place in the sky is told by them. */
    Header finer(Header header) {
        Header told = header;
        for (String keyword : PIXEL_SIZES) {
            if (told.number(keyword).isPresent()) {
                told = told.with(keyword, told.number(keyword).getAsDouble() / scale);
            }
        }
        // A polynomial of distortion has another form on another grid; the place is solved again.
        if (told.text("A_ORDER").isPresent() || told.number("A_ORDER").isPresent()) {
            return told.without(Wcs::isWcsKeyword);
        }
        for (String keyword : List.of("CRPIX1", "CRPIX2")) {
            if (told.number(keyword).isPresent()) {
                told = told.with(keyword, (told.number(keyword).getAsDouble() - 0.5) * scale + 0.5);
            }
        }
        for (String keyword : List.of("CD1_1", "CD1_2", "CD2_1", "CD2_2", "CDELT1", "CDELT2")) {
            if (told.number(keyword).isPresent()) {
                told = told.with(keyword, told.number(keyword).getAsDouble() / scale);
            }
        }
        return told;
    }
}
