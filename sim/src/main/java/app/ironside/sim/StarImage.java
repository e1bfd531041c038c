package app.ironside.sim;

import java.util.Arrays;
import java.util.List;

/**
 * The image of a point of light on the sensor: a Moffat profile of the air and the optics, spread over the annulus of defocus and
 * along the path that the mount strayed during the exposure. Finely sampled and summed up, so that the flux in any pixel, for
 * any place of the star, takes four look-ups.
 *
 * @see "Moffat 1969, A&A 3, 455; Trujillo et al. 2001, MNRAS 328, 977: β near 3 to 4.8"
 */
final class StarImage {
    private static final int FINE = 5;
    private static final double BETA = 3;
    private static final int RING_POINTS = 72;

    /** A path that keeps within this share of the disc's radius is not seen in it. */
    private static final double STILL_SHARE = 0.1;

    /** Where the star strayed, pixels from its mean place. */
    record Stray(double dx, double dy) {}

    private final int reach;
    private final int size;
    private final float[] summed;

    /**
     * @param fwhmPx of the Moffat profile
     * @param discRadiusPx of the blur by defocus
     * @param obstruction inner over outer radius of that blur
     * @param path places through the exposure, equally long at each
     */
    StarImage(double fwhmPx, double discRadiusPx, double obstruction, List<Stray> path) {
        double[][] spread = spread(discRadiusPx, obstruction, path);
        double furthest = 0;
        for (double[] p : spread) {
            furthest = Math.max(furthest, Math.max(Math.abs(p[0]), Math.abs(p[1])));
        }
        reach = (int) Math.min(70, Math.ceil(furthest + 6 * fwhmPx + 2));
        int cells = (2 * reach + 1) * FINE;
        size = cells + 1;
        double alpha = fwhmPx / (2 * Math.sqrt(Math.pow(2, 1 / BETA) - 1));
        double inverse = 1 / (alpha * alpha);
        summed = new float[size * size];
        float[] xs = new float[cells];
        for (int i = 0; i < cells; i++) {
            xs[i] = (float) ((i + 0.5) / FINE - reach - 0.5);
        }
        float[] values = new float[cells];
        double[] line = new double[size];
        double[] above = new double[size];
        for (int j = 0; j < cells; j++) {
            double y = (j + 0.5) / FINE - reach - 0.5;
            Arrays.fill(values, 0);
            for (double[] p : spread) {
                addMoffat(values, xs, (float) p[0], (float) (1 + (y - p[1]) * (y - p[1]) * inverse), (float) inverse);
            }
            double run = 0;
            for (int i = 0; i < cells; i++) {
                run += values[i];
                line[i + 1] = above[i + 1] + run;
            }
            for (int i = 0; i < size; i++) {
                summed[(j + 1) * size + i] = (float) line[i];
                above[i] = line[i];
            }
        }
        float total = summed[size * size - 1];
        for (int i = 0; i < summed.length; i++) {
            summed[i] /= total;
        }
    }

    /** A row of a Moffat profile with β = 3; a loop that the compiler turns into vectors, since this is most of a rehearsal's time. */
    private static void addMoffat(float[] values, float[] xs, float x0, float across, float inverse) {
        for (int i = 0; i < values.length; i++) {
            float dx = xs[i] - x0;
            float t = across + dx * dx * inverse;
            values[i] += 1f / (t * t * t);
        }
    }

    /** Offsets of all combinations of defocus and path; a path far shorter than the disc is wide only shifts it. */
    private static double[][] spread(double radius, double obstruction, List<Stray> strayed) {
        Stray mean = new Stray(
                strayed.stream().mapToDouble(Stray::dx).average().orElse(0),
                strayed.stream().mapToDouble(Stray::dy).average().orElse(0));
        boolean still = strayed.stream()
                .allMatch(s -> Math.hypot(s.dx() - mean.dx(), s.dy() - mean.dy()) < STILL_SHARE * radius);
        List<Stray> path = still ? List.of(mean) : strayed;
        boolean sharp = radius < 0.15;
        int ring = sharp ? 1 : Math.max(12, Math.min(RING_POINTS, (int) (radius * 24)));
        double[][] out = new double[ring * path.size()][];
        int n = 0;
        for (int i = 0; i < ring; i++) {
            // A sunflower spiral covers the annulus evenly.
            double share = sharp ? 0 : (i + 0.5) / ring;
            double r = radius * Math.sqrt(obstruction * obstruction + share * (1 - obstruction * obstruction));
            double angle = i * 2.399963;
            for (Stray stray : path) {
                out[n++] = new double[] {
                    (sharp ? 0 : r * Math.cos(angle)) + stray.dx(), (sharp ? 0 : r * Math.sin(angle)) + stray.dy()
                };
            }
        }
        return out;
    }

    /** Pixels from the centre beyond which there is nothing. */
    int reachPx() {
        return reach;
    }

    /** Share of the flux in the pixel whose centre is (dx, dy) from the star. */
    float inPixel(double dx, double dy) {
        double left = (dx + reach) * FINE;
        double bottom = (dy + reach) * FINE;
        return sum(left + FINE, bottom + FINE)
                - sum(left, bottom + FINE)
                - sum(left + FINE, bottom)
                + sum(left, bottom);
    }

    /**
     * Adds a row of pixels of the star.
     *
     * @param from first index in {@code light}, {@code until} the one after the last
     * @param dx of the first pixel's centre from the star
     */
    void addRow(float[] light, int from, int until, double dx, double dy, float electrons) {
        double bottom = (dy + reach) * FINE;
        double left = (dx + reach) * FINE;
        float before = sum(left, bottom + FINE) - sum(left, bottom);
        for (int i = from; i < until; i++) {
            left += FINE;
            float after = sum(left, bottom + FINE) - sum(left, bottom);
            light[i] += electrons * (after - before);
            before = after;
        }
    }

    private float sum(double u, double v) {
        double a = u < 0 ? 0 : u > size - 1.001 ? size - 1.001 : u;
        double b = v < 0 ? 0 : v > size - 1.001 ? size - 1.001 : v;
        int i = (int) a;
        int j = (int) b;
        float x = (float) (a - i);
        float y = (float) (b - j);
        int at = j * size + i;
        float low = summed[at] + x * (summed[at + 1] - summed[at]);
        float high = summed[at + size] + x * (summed[at + size + 1] - summed[at + size]);
        return low + y * (high - low);
    }
}
