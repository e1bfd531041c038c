package app.ironside.sim;

import app.ironside.star.Moffat;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.concurrent.ConcurrentHashMap;

/**
 * What measuring a star's image gives, without drawing it: the image of {@link StarImage}, a Moffat profile with β = 3 spread over the
 * annulus of defocus and along a path, as a set of distances from its middle that each hold the same share of the light.
 *
 * @see "Moffat 1969, A&A 3, 455: the flux within r is 1 − (1 + r²/α²)^(1 − β)"
 */
final class PointSpread {
    private static final double BETA = 3;

    /** Rings of equal light. */
    private static final int RINGS = 48;

    /** As far out as profiles are fitted to drawn stars. */
    private static final double MOST_PROFILE_PX = 12;

    private static final int MOST_SAMPLES = 600;

    /** Places on the annulus, and in the profile, that a table is summed from. */
    private static final int PLACES = 80;

    private static final double GOLDEN_RAD = 2.399963;

    /** A disc below this many widths of the profile is a point, pixels. */
    private static final double SHARP_PX = 0.15;

    /** Half-flux radius squared of a Gaussian over its variance. */
    private static final double HFR_SQUARED = 2 * Math.log(2);

    /** Of light that is spread evenly over a pixel, each axis. */
    private static final double PIXEL_VARIANCE = 1.0 / 12;

    /** By which pixels widen the peaked image of a star beyond what its measure takes off for them, from drawn frames. */
    private static final double PIXEL_HFR_SQUARED = 0.19;

    /** Apertures in which stars are measured reach this many half-flux radii. */
    private static final double APERTURE = 4.5;

    /** Tables by obstruction, then by the disc's radius in widths, in steps. */
    private static final Map<Double, Map<Integer, float[]>> TABLES = new ConcurrentHashMap<>();

    /** Fitted widths by what a spread is made of, in steps of a hundredth: fitting takes longer than all else. */
    private static final Map<Shape, Double> WIDTHS = new ConcurrentHashMap<>();

    private static final double WIDTH_STEP_LOG = Math.log(1.01);

    /**
     * What the fitted width hangs on, in steps.
     *
     * @param discAndOne the disc's radius in widths, and one, so that none has a logarithm
     */
    private record Shape(double obstruction, int fwhm, int discAndOne, int hfr) {}

    private static final double STEP_LOG = Math.log(1.2);
    private static final double FIRST_DISC = 0.02;

    private final double fwhm;
    private final double disc;
    private final double obstruction;
    private final double[] distances;
    private final double xx;
    private final double yy;
    private final double xy;
    private final double hfr;

    /**
     * @param fwhmPx of the profile
     * @param discRadiusPx of the blur by defocus
     * @param obstruction inner over outer radius of that blur
     * @param path places through the exposure, equally long at each
     * @param scale by which the path is to be multiplied
     */
    PointSpread(double fwhmPx, double discRadiusPx, double obstruction, List<StarImage.Stray> path, double scale) {
        double[] covariance = covariance(path, scale);
        xx = covariance[0];
        yy = covariance[1];
        xy = covariance[2];
        this.fwhm = fwhmPx;
        this.disc = discRadiusPx < SHARP_PX ? 0 : discRadiusPx;
        this.obstruction = obstruction;
        distances = distances(fwhm, disc, obstruction);
        double round = halfFlux(distances, Double.POSITIVE_INFINITY);
        round = halfFlux(distances, Math.max(4, APERTURE * round));
        hfr = Math.sqrt(round * round + PIXEL_HFR_SQUARED + HFR_SQUARED * (xx + yy) / 2);
    }

    private static double[] covariance(List<StarImage.Stray> path, double scale) {
        double x = 0;
        double y = 0;
        double xx = 0;
        double yy = 0;
        double xy = 0;
        for (StarImage.Stray stray : path) {
            x += stray.dx();
            y += stray.dy();
            xx += stray.dx() * stray.dx();
            yy += stray.dy() * stray.dy();
            xy += stray.dx() * stray.dy();
        }
        double n = Math.max(1, path.size());
        double squared = scale * scale;
        return new double[] {
            squared * Math.max(0, xx / n - x * x / n / n),
            squared * Math.max(0, yy / n - y * y / n / n),
            squared * (xy / n - x * y / n / n)
        };
    }

    private static double[] distances(double fwhmPx, double discRadiusPx, double obstruction) {
        double disc = discRadiusPx / fwhmPx;
        Map<Integer, float[]> tables = TABLES.computeIfAbsent(obstruction, o -> new ConcurrentHashMap<>());
        double place = disc <= FIRST_DISC ? 0 : Math.log(disc / FIRST_DISC) / STEP_LOG + 1;
        int low = (int) place;
        float[] a = tables.computeIfAbsent(low, k -> table(discOf(k), obstruction));
        float[] b = tables.computeIfAbsent(low + 1, k -> table(discOf(k), obstruction));
        double share = place - low;
        double[] out = new double[RINGS];
        for (int i = 0; i < RINGS; i++) {
            out[i] = fwhmPx * (a[i] + share * (b[i] - a[i]));
        }
        return out;
    }

    private static double discOf(int step) {
        return step == 0 ? 0 : FIRST_DISC * Math.exp((step - 1) * STEP_LOG);
    }

    /** Distances in widths of the profile, sorted, each the middle of a share of the light. */
    private static float[] table(double disc, double obstruction) {
        double alpha = 1 / (2 * Math.sqrt(Math.pow(2, 1 / BETA) - 1));
        float[] all = new float[PLACES * PLACES];
        int n = 0;
        for (int i = 0; i < PLACES; i++) {
            double u = (i + 0.5) / PLACES;
            double radius = alpha * Math.sqrt(Math.pow(1 - u, 1 / (1 - BETA)) - 1);
            double x = radius * Math.cos(i * GOLDEN_RAD);
            double y = radius * Math.sin(i * GOLDEN_RAD);
            for (int k = 0; k < PLACES; k++) {
                double share = (k + 0.5) / PLACES;
                double r = disc * Math.sqrt(obstruction * obstruction + share * (1 - obstruction * obstruction));
                all[n++] = (float) Math.hypot(x + r * Math.cos(k * GOLDEN_RAD), y + r * Math.sin(k * GOLDEN_RAD));
            }
        }
        Arrays.sort(all);
        float[] rings = new float[RINGS];
        for (int i = 0; i < RINGS; i++) {
            rings[i] = all[(int) ((i + 0.5) / RINGS * all.length)];
        }
        return rings;
    }

    /** Radius that holds half of the light within an aperture. */
    private static double halfFlux(double[] sorted, double aperture) {
        int inside = 0;
        while (inside < sorted.length && sorted[inside] < aperture) {
            inside++;
        }
        if (inside < 2) {
            return aperture / Math.sqrt(2);
        }
        double middle = (inside - 1) / 2.0;
        int low = (int) middle;
        return sorted[low] + (middle - low) * (sorted[low + 1] - sorted[low]);
    }

    /** Half-flux radius as it is measured, pixels. */
    double halfFluxRadiusPx() {
        return hfr;
    }

    /** Share of the light that lies within a radius. */
    double within(double radiusPx) {
        int place = Arrays.binarySearch(distances, radiusPx);
        return (place < 0 ? -place - 1 : place) / (double) RINGS;
    }

    /**
     * Light in a square pixel in the middle, smoothed with a Gaussian.
     *
     * @param sigmaPx 0 for the pixel alone
     */
    double density(double sigmaPx) {
        double variance = sigmaPx * sigmaPx + PIXEL_VARIANCE + (xx + yy) / 2;
        double sum = 0;
        for (double r : distances) {
            sum += Math.exp(-r * r / (2 * variance));
        }
        return sum / RINGS / (2 * Math.PI * variance);
    }

    /**
     * Full width of the star's image at half of its peak as a fitted profile tells it, pixels; empty if none fits. The pixel's own width and
     * the mount's motion are taken in as a Gaussian's.
     */
    OptionalDouble halfPeakWidthPx() {
        Shape shape = new Shape(obstruction, steps(fwhm), steps(1 + disc / fwhm), steps(hfr));
        double factor = WIDTHS.computeIfAbsent(shape, PointSpread::fittedWidth);
        if (Double.isNaN(factor)) {
            return OptionalDouble.empty();
        }
        double gaussian = PIXEL_VARIANCE + (xx + yy) / 2;
        return OptionalDouble.of(Math.sqrt(factor * factor * fwhm * fwhm + 8 * Math.log(2) * gaussian));
    }

    private static int steps(double value) {
        return (int) Math.round(Math.log(value) / WIDTH_STEP_LOG);
    }

    private static double ofSteps(int steps) {
        return Math.exp(steps * WIDTH_STEP_LOG);
    }

    /** Width of the profile fitted to a spread, over the width that it was made with; NaN if none fits. */
    private static double fittedWidth(Shape shape) {
        double fwhm = ofSteps(shape.fwhm());
        double hfr = ofSteps(shape.hfr());
        double[] distances =
                distances(fwhm, Math.max(0, fwhm * (ofSteps(shape.discAndOne()) - 1)), shape.obstruction());
        double reach = Math.min(MOST_PROFILE_PX, 3.2 * hfr + 1);
        float[] squared = new float[MOST_SAMPLES];
        float[] values = new float[MOST_SAMPLES];
        int n = 0;
        for (int i = 1; i < RINGS && distances[i] <= reach; i++) {
            double area = Math.PI * (distances[i] * distances[i] - distances[i - 1] * distances[i - 1]);
            // A ring counts for as many pixels as it holds.
            for (int pixel = 0; pixel < Math.max(1, Math.round(area)) && n < MOST_SAMPLES; pixel++) {
                squared[n] = (float) ((distances[i] * distances[i] + distances[i - 1] * distances[i - 1]) / 2);
                values[n++] = (float) (1 / Math.max(1e-6, area));
            }
        }
        return Moffat.fit(squared, values, n, hfr).map(m -> m.fwhmPx() / fwhm).orElse(Double.NaN);
    }

    /** Second moments xx, yy, xy as they are measured under a window and freed of it, pixels squared; and by how much that grows their errors. */
    double[] moments() {
        double window = Math.max(1, 1.5 * hfr);
        double wide = window * window;
        double sum = 0;
        double raw = 0;
        for (double r : distances) {
            double weight = Math.exp(-r * r / (2 * wide));
            sum += weight;
            raw += weight * r * r / 2;
        }
        raw = raw / sum + PIXEL_VARIANCE;
        double freed = 1 / raw - 1 / wide;
        double round = freed > 1e-4 ? 1 / freed : raw;
        return new double[] {round + xx, round + yy, xy, round / raw};
    }
}
