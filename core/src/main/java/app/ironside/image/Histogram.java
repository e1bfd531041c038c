package app.ironside.image;

/**
 * How often each level occurs in a frame as it was read out, before any stretch.
 *
 * @param counts pixels in equal steps from {@code least} to {@code most}
 * @param least the lowest finite level, ADU
 * @param most the highest
 * @param atTop pixels at the very highest level: a clipped frame has many there
 * @param finite pixels that have a level
 */
public record Histogram(int[] counts, double least, double most, int atTop, int finite) {
    private static final int STEPS = 160;

    /** Of a few pixels at the top stars are the cause, and they are meant to be. */
    private static final double CLIPPED_SHARE = 1e-3;

    private static final int FEW = 16;

    /** Counts a frame's pixels. */
    public static Histogram of(Frame frame) {
        float[] pixels = frame.pixels();
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        int finite = 0;
        for (float pixel : pixels) {
            if (Float.isFinite(pixel)) {
                least = Math.min(least, pixel);
                most = Math.max(most, pixel);
                finite++;
            }
        }
        int[] counts = new int[STEPS];
        int atTop = 0;
        double perStep = STEPS / Math.max(1e-12, most - least);
        for (float pixel : pixels) {
            if (Float.isFinite(pixel)) {
                counts[(int) Math.min(STEPS - 1, (pixel - least) * perStep)]++;
                atTop += pixel == most ? 1 : 0;
            }
        }
        return new Histogram(counts, finite == 0 ? 0 : least, finite == 0 ? 0 : most, atTop, finite);
    }

    /** The share of pixels at the top, 0 to 1. */
    public double topShare() {
        return finite == 0 ? 0 : (double) atTop / finite;
    }

    /** Whether more than stars is cut off at the top. */
    public boolean isClipped() {
        return atTop > FEW && topShare() > CLIPPED_SHARE && most > least;
    }

    /** Whether every pixel is alike: a cap, or a camera that gives nothing. */
    public boolean isFlat() {
        return finite > 0 && most <= least;
    }
}
