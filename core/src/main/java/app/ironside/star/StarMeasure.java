package app.ironside.star;

import java.util.Arrays;
import java.util.Optional;

/** Measures one star in a background-subtracted picture. */
final class StarMeasure {
    private static final int SUBPIXELS = 5;
    private static final double RADIUS_BIN_PX = 0.05;

    /** Pixels further out than this are not divided. */
    private static final double WHOLE_FROM_PX = 4.5;

    private static final double SMALLEST_RADIUS_PX = 4;
    private static final double LARGEST_RADIUS_PX = 45;
    private static final int CENTROID_ROUNDS = 12;

    /**
     * Width of the centroid's window over that of a Gaussian of the same half-flux radius. A window of the star's own width weighs best,
     * but where a star is hardly wider than a pixel it follows the pixels instead of the star; a fifth wider does neither harm.
     */
    private static final double WINDOW_SHARE = 1.2;

    /** A wider star has enough pixels inside this for its profile. */
    private static final double MOST_PROFILE_PX = 12;

    /** A star beside another is measured this far toward it, as a share of their distance. */
    private static final double SHARE_OF_GAP = 0.6;

    /** Width of the ring around a star by which its surroundings are told. */
    private static final int SURROUNDINGS_PX = 5;

    /**
     * Dividing a pixel's light evenly over it widens the star by another pixel's variance, 1/12 px² an axis; a Gaussian's half-flux
     * radius squared is 2 ln 2 times its variance.
     */
    private static final double PIXEL_HFR_SQUARED = 2 * Math.log(2) / 12;

    /** Mean of a star's eight neighbours over its peak; below this it is a hot pixel or a cosmic ray, not light through optics. */
    private static final double HOT_SHARPNESS = 0.05;

    private final float[] pixels;
    private final int width;
    private final int height;
    private final double saturation;
    private final double gainElectronsPerAdu;
    private final boolean profiles;

    /**
     * @param pixels background subtracted
     * @param saturation as a value above the background
     * @param gainElectronsPerAdu 0 if it is not known
     * @param profiles whether they are fitted
     */
    StarMeasure(
            float[] pixels, int width, int height, double saturation, double gainElectronsPerAdu, boolean profiles) {
        this.profiles = profiles;
        this.gainElectronsPerAdu = gainElectronsPerAdu;
        this.pixels = pixels;
        this.width = width;
        this.height = height;
        this.saturation = saturation;
    }

    /**
     * The star in a blob; empty if the blob is no star (hot pixel, trail, too near the edge, no net light).
     *
     * @param gapPx distance to the nearest star of the same group; infinite if it is alone
     */
    Optional<Star> measure(int[] blob, double noise, double gapPx) {
        double sum = 0;
        double sx = 0;
        double sy = 0;
        double peak = 0;
        int peakAt = blob[0];
        for (int p : blob) {
            double v = Math.max(0, pixels[p]);
            sum += v;
            sx += v * (p % width);
            sy += v * (p / width);
            if (pixels[p] > peak) {
                peak = pixels[p];
                peakAt = p;
            }
        }
        if (sum <= 0 || isHotPixel(peakAt, peak, noise)) {
            return Optional.empty();
        }
        double most = Math.max(2.5, SHARE_OF_GAP * gapPx);
        double radius = Math.min(most, held(2.5 * Math.sqrt(blob.length / Math.PI) + 1));
        return measure(sx / sum, sy / sum, peak, noise, radius, most);
    }

    /**
     * The star at a blob's brightest pixel, taken to be as wide as the field's: of a blob that holds more than a star.
     *
     * @param halfFluxRadiusPx of the field's stars
     */
    Optional<Star> measurePeak(int[] blob, double noise, double halfFluxRadiusPx) {
        int at = blob[0];
        for (int p : blob) {
            at = pixels[p] > pixels[at] ? p : at;
        }
        if (isHotPixel(at, pixels[at], noise)) {
            return Optional.empty();
        }
        int column = at % width;
        int row = at / width;
        double radius = held(4.5 * halfFluxRadiusPx);
        // A brighter neighbour may draw the centroid over to itself.
        return measure(column, row, pixels[at], noise, Math.min(radius, 3 * halfFluxRadiusPx), radius)
                .filter(s -> Math.hypot(s.x() - 1 - column, s.y() - 1 - row) < halfFluxRadiusPx);
    }

    private Optional<Star> measure(double column, double row, double peak, double noise, double radius, double most) {
        double[] flux = halfFlux(column, row, radius, 1);
        if (flux[1] <= 0) {
            return Optional.empty();
        }
        double[] centre = windowedCentroid(column, row, Math.max(0.6, WINDOW_SHARE * flux[0] / 1.1774), radius);
        double aperture = Math.min(most, held(4.5 * flux[0]));
        flux = halfFlux(centre[0], centre[1], aperture, SUBPIXELS);
        if (flux[1] <= 0 || !inside(centre[0], centre[1])) {
            return Optional.empty();
        }
        return Optional.of(star(centre, flux, peak, noise, aperture));
    }

    /**
     * As {@link #measure}, above what surrounds the star closely: where a nebula's knots are wider than the star and narrower than any
     * mesh.
     */
    Optional<Star> measureAboveSurroundings(int[] blob, double noise, double gapPx) {
        double[] middle = middle(blob);
        int inner = (int) held(2.5 * Math.sqrt(blob.length / Math.PI) + 2);
        int reach = inner + SURROUNDINGS_PX;
        int left = Math.max(0, (int) middle[0] - reach);
        int top = Math.max(0, (int) middle[1] - reach);
        int wide = Math.min(width, (int) middle[0] + reach + 1) - left;
        int high = Math.min(height, (int) middle[1] + reach + 1) - top;
        float[] patch = new float[wide * high];
        float[] ring = new float[patch.length];
        int n = 0;
        for (int i = 0; i < patch.length; i++) {
            int column = left + i % wide;
            int row = top + i / wide;
            patch[i] = pixels[row * width + column];
            double d = Math.hypot(column - middle[0], row - middle[1]);
            if (d > inner && d <= reach) {
                ring[n++] = patch[i];
            }
        }
        int[] within = Arrays.stream(blob)
                .filter(p -> p % width >= left && p % width < left + wide && p / width >= top && p / width < top + high)
                .map(p -> (p / width - top) * wide + p % width - left)
                .toArray();
        if (n == 0 || within.length == 0) {
            return Optional.empty();
        }
        Arrays.sort(ring, 0, n);
        for (int i = 0; i < patch.length; i++) {
            patch[i] -= ring[n / 2];
        }
        return new StarMeasure(patch, wide, high, saturation, gainElectronsPerAdu, profiles)
                .measure(within, noise, Math.min(gapPx, inner / SHARE_OF_GAP))
                .map(s -> s.movedBy(left, top));
    }

    /** Middle of a blob's light, column and row. */
    double[] middle(int[] blob) {
        double sum = 0;
        double x = 0;
        double y = 0;
        for (int p : blob) {
            double v = Math.max(0, pixels[p]) + 1e-6;
            sum += v;
            x += v * (p % width);
            y += v * (p / width);
        }
        return new double[] {x / sum, y / sum};
    }

    private static double held(double radius) {
        return Math.min(LARGEST_RADIUS_PX, Math.max(SMALLEST_RADIUS_PX, radius));
    }

    private boolean inside(double column, double row) {
        return column >= 1 && row >= 1 && column <= width - 2 && row <= height - 2;
    }

    private boolean isHotPixel(int at, double peak, double noise) {
        int column = at % width;
        int row = at / width;
        if (column < 1 || row < 1 || column > width - 2 || row > height - 2) {
            return true;
        }
        double around = -pixels[at];
        for (int r = -1; r <= 1; r++) {
            for (int c = -1; c <= 1; c++) {
                around += pixels[at + r * width + c];
            }
        }
        // The mean of eight noisy neighbours: allow it one standard deviation.
        return around / 8 < HOT_SHARPNESS * peak - noise / Math.sqrt(8) || around <= 0;
    }

    /**
     * Centroid under a Gaussian window that follows the star.
     *
     * @see "Bertin and Arnouts 1996, A&AS 117, 393; windowed positions as in their later manual: step 2 Σwfδ / Σwf"
     */
    private double[] windowedCentroid(double column, double row, double sigma, double radius) {
        double x = column;
        double y = row;
        int reach = (int) Math.ceil(Math.min(radius, 4 * sigma));
        for (int round = 0; round < CENTROID_ROUNDS; round++) {
            double sum = 0;
            double dx = 0;
            double dy = 0;
            Window window = new Window(x, y, reach, sigma);
            for (int r = window.bottom; r <= window.top; r++) {
                double v = r - y;
                double across = window.rows[r - window.bottom];
                for (int c = window.left; c <= window.right; c++) {
                    double w = across * window.columns[c - window.left] * pixels[r * width + c];
                    sum += w;
                    dx += w * (c - x);
                    dy += w * v;
                }
            }
            if (sum <= 0) {
                break;
            }
            x += 2 * dx / sum;
            y += 2 * dy / sum;
            if (Math.abs(x - column) > radius || Math.abs(y - row) > radius) {
                return new double[] {column, row};
            }
            if (Math.hypot(dx, dy) / sum < 2e-4) {
                break;
            }
        }
        return new double[] {x, y};
    }

    /**
     * Half-flux radius and total flux inside {@code radius} of a place.
     *
     * @param subpixels into which pixels are divided along each side where the circle's edge matters; 1 for a first look
     */
    private double[] halfFlux(double column, double row, double radius, int subpixels) {
        double[] ring = new double[(int) (radius / RADIUS_BIN_PX) + 2];
        double total = 0;
        int reach = (int) Math.ceil(radius);
        for (int r = (int) row - reach; r <= (int) row + reach + 1; r++) {
            for (int c = (int) column - reach; c <= (int) column + reach + 1; c++) {
                if (r < 0 || c < 0 || r >= height || c >= width || Float.isNaN(pixels[r * width + c])) {
                    continue;
                }
                total += subpixels == 1
                        ? whole(ring, c - column, r - row, radius, pixels[r * width + c])
                        : spread(ring, c - column, r - row, radius, pixels[r * width + c]);
            }
        }
        double sum = 0;
        for (int i = 0; i < ring.length; i++) {
            if (sum + ring[i] >= total / 2) {
                double share = ring[i] > 0 ? (total / 2 - sum) / ring[i] : 0;
                double wide = (i + share) * RADIUS_BIN_PX;
                return new double[] {Math.sqrt(Math.max(0.1, wide * wide - PIXEL_HFR_SQUARED)), total};
            }
            sum += ring[i];
        }
        return new double[] {radius, total};
    }

    /** A pixel counted at its middle: good enough to find out how large a star is. */
    private static double whole(double[] ring, double dx, double dy, double radius, double value) {
        double middle = Math.sqrt(dx * dx + dy * dy);
        if (middle >= radius) {
            return 0;
        }
        ring[(int) (middle / RADIUS_BIN_PX)] += value;
        return value;
    }

    private static double spread(double[] ring, double dx, double dy, double radius, double value) {
        double middle = Math.sqrt(dx * dx + dy * dy);
        if (middle > WHOLE_FROM_PX) {
            // Far out a pixel is thin against its circle, and the half-flux circle of a small star does not come here;
            // of a
            // pixel on the edge, the part inside is nearly that of a straight cut.
            double inside = Math.max(0, Math.min(1, radius - middle + 0.5)) * value;
            ring[(int) (Math.min(middle, radius) / RADIUS_BIN_PX)] += inside;
            return inside;
        }
        double counted = 0;
        double share = value / (SUBPIXELS * SUBPIXELS);
        for (int j = 0; j < SUBPIXELS; j++) {
            double y = dy + (j - (SUBPIXELS - 1) / 2.0) / SUBPIXELS;
            for (int i = 0; i < SUBPIXELS; i++) {
                double x = dx + (i - (SUBPIXELS - 1) / 2.0) / SUBPIXELS;
                double squared = x * x + y * y;
                if (squared < radius * radius) {
                    ring[(int) (Math.sqrt(squared) / RADIUS_BIN_PX)] += share;
                    counted += share;
                }
            }
        }
        return counted;
    }

    /** A Gaussian's weights about a place, as far as the frame goes: the product of those of a pixel's row and of its column. */
    private final class Window {
        private final int left;
        private final int right;
        private final int bottom;
        private final int top;
        private final double[] columns;
        private final double[] rows;

        Window(double x, double y, int reach, double sigma) {
            left = Math.max(0, (int) x - reach);
            right = Math.min(width - 1, (int) x + reach + 1);
            bottom = Math.max(0, (int) y - reach);
            top = Math.min(height - 1, (int) y + reach + 1);
            columns = weights(left, right, x, sigma);
            rows = weights(bottom, top, y, sigma);
        }

        private static double[] weights(int from, int to, double middle, double sigma) {
            double[] out = new double[Math.max(0, to - from + 1)];
            double d = (from - middle) / sigma;
            double weight = Math.exp(-0.5 * d * d);
            // From one pixel to the next a Gaussian changes by a factor that itself changes by a constant one.
            double factor = Math.exp((-d - 0.5 / sigma) / sigma);
            double change = Math.exp(-1 / (sigma * sigma));
            for (int i = 0; i < out.length; i++) {
                out[i] = weight;
                weight *= factor;
                factor *= change;
            }
            return out;
        }
    }

    private Star star(double[] centre, double[] flux, double peak, double noise, double aperture) {
        double hfr = flux[0];
        double window = Math.max(1.0, 1.5 * hfr);
        double[] m = windowedMoments(centre[0], centre[1], window);
        double half = (m[0] + m[1]) / 2;
        double difference = Math.hypot((m[0] - m[1]) / 2, m[2]);
        double major = Math.max(1e-3, half + difference);
        double minor = Math.max(1e-3, half - difference);
        double angle = Math.toDegrees(Math.atan2(2 * m[2], m[0] - m[1]) / 2);
        double discPx = Math.PI * Math.max(1, 1.5 * hfr) * Math.max(1, 1.5 * hfr);
        return new Star(
                centre[0] + 1,
                centre[1] + 1,
                flux[1],
                peak,
                hfr,
                2.3548 * Math.sqrt(Math.sqrt(major * minor)),
                Math.sqrt(1 - Math.min(1, minor / major)),
                angle,
                flux[1] / (Math.max(1e-9, noise) * Math.sqrt(discPx)),
                peak >= saturation,
                fluxError(flux[1], noise, aperture),
                profiles && peak < saturation
                        ? profile(centre[0], centre[1], hfr, aperture, new Shape(minor / major, angle))
                        : Optional.empty());
    }

    /** Background noise over the aperture and photon noise of the star itself (CCD equation, Howell 2006, 4.4). */
    private double fluxError(double flux, double noise, double aperture) {
        double photons = gainElectronsPerAdu > 0 ? Math.max(0, flux) / gainElectronsPerAdu : 0;
        return Math.sqrt(Math.PI * aperture * aperture * noise * noise + photons);
    }

    /** The profile of a star that was measured. */
    Optional<Moffat> profile(Star star) {
        double ratio = 1 - star.eccentricity() * star.eccentricity();
        return profile(
                star.x() - 1,
                star.y() - 1,
                star.halfFluxRadiusPx(),
                held(4.5 * star.halfFluxRadiusPx()),
                new Shape(ratio, star.angleDeg()));
    }

    /**
     * How a star is drawn out.
     *
     * @param ratio of the variances along its short and its long axis
     */
    private record Shape(double ratio, double angleDeg) {}

    /** The profile along the mean of both axes, fitted where the star stands above its surroundings. */
    private Optional<Moffat> profile(double x, double y, double hfr, double aperture, Shape shape) {
        double stretch = Math.sqrt(Math.max(0.05, shape.ratio()));
        double cos = Math.cos(Math.toRadians(shape.angleDeg()));
        double sin = Math.sin(Math.toRadians(shape.angleDeg()));
        double radius = Math.min(aperture, Math.min(MOST_PROFILE_PX, 3.2 * hfr + 1));
        int reach = (int) Math.ceil(radius);
        float[] squared = new float[(2 * reach + 2) * (2 * reach + 2)];
        float[] values = new float[squared.length];
        int n = 0;
        for (int r = Math.max(0, (int) y - reach); r <= Math.min(height - 1, (int) y + reach + 1); r++) {
            for (int c = Math.max(0, (int) x - reach); c <= Math.min(width - 1, (int) x + reach + 1); c++) {
                double along = (c - x) * cos + (r - y) * sin;
                double across = (r - y) * cos - (c - x) * sin;
                double d = along * along * stretch + across * across / stretch;
                if (d <= radius * radius) {
                    squared[n] = (float) d;
                    values[n++] = pixels[r * width + c];
                }
            }
        }
        return Moffat.fit(squared, values, n, hfr);
    }

    /** Second moments xx, yy, xy under a Gaussian window, freed from the window as for a Gaussian star: 1/σ² = 1/m − 1/w². */
    private double[] windowedMoments(double x, double y, double window) {
        double sum = 0;
        double xx = 0;
        double yy = 0;
        double xy = 0;
        Window weights = new Window(x, y, (int) Math.ceil(4 * window), window);
        for (int r = weights.bottom; r <= weights.top; r++) {
            double v = r - y;
            double across = weights.rows[r - weights.bottom];
            for (int c = weights.left; c <= weights.right; c++) {
                double u = c - x;
                double w = across * weights.columns[c - weights.left] * pixels[r * width + c];
                sum += w;
                xx += w * u * u;
                yy += w * v * v;
                xy += w * u * v;
            }
        }
        if (sum <= 0 || xx <= 0 || yy <= 0) {
            return new double[] {1e-3, 1e-3, 0};
        }
        xx /= sum;
        yy /= sum;
        xy /= sum;
        // Invert, subtract the window's inverse covariance, invert back.
        double determinant = Math.max(1e-9, xx * yy - xy * xy);
        double a = yy / determinant - 1 / (window * window);
        double b = xx / determinant - 1 / (window * window);
        double c = -xy / determinant;
        double inverse = a * b - c * c;
        if (a <= 0 || b <= 0 || inverse <= 1e-9) {
            return new double[] {xx, yy, xy};
        }
        return new double[] {b / inverse, a / inverse, -c / inverse};
    }
}
