package app.ironside.sim;

import app.ironside.Check;
import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * A picture of invented stars with known truth, for measuring how well stars are measured: Moffat profiles integrated over the pixels,
 * on a sloping background, with the noise of background, stars and read-out.
 *
 * @param stars what was put in
 * @param noiseAdu standard deviation of the background in the middle of the frame
 */
public record InventedField(Frame frame, List<Truth> stars, double noiseAdu) {
    /** Beyond this many half widths a star is below a thousandth of its peak. */
    private static final double REACH = 9;

    private static final int FINE = 5;
    private static final double GAIN = 1.2;
    private static final double READ_NOISE_ADU = 3;

    /**
     * A star as it was put in.
     *
     * @param x FITS pixel
     * @param snr of the best possible measurement against background noise: flux / (σ √(1 / Σp²)), p being the profile's pixels
     */
    public record Truth(double x, double y, double fluxAdu, double snr) {}

    /**
     * What to invent.
     *
     * @param fwhmPx of the profiles
     * @param beta of the Moffat profiles
     * @param axisRatio short over long axis
     * @param angleDeg of the long axis, from +x toward +y
     * @param faintestSnr stars are spread evenly in magnitude between this and 3000
     */
    public record Settings(
            int width,
            int height,
            int stars,
            double fwhmPx,
            double beta,
            double axisRatio,
            double angleDeg,
            double faintestSnr,
            long seed) {
        public static final Settings DEFAULT = new Settings(2000, 1500, 400, 3, 3, 1, 0, 4, 1);

        public Settings {
            Check.positive("fwhmPx", fwhmPx);
            Check.inRange("axisRatio", axisRatio, 0.1, 1);
        }

        public Settings withSize(int newWidth, int newHeight, int newStars) {
            return new Settings(newWidth, newHeight, newStars, fwhmPx, beta, axisRatio, angleDeg, faintestSnr, seed);
        }

        public Settings withFwhmPx(double px) {
            return new Settings(width, height, stars, px, beta, axisRatio, angleDeg, faintestSnr, seed);
        }

        public Settings withFaintestSnr(double snr) {
            return new Settings(width, height, stars, fwhmPx, beta, axisRatio, angleDeg, snr, seed);
        }

        public Settings withShape(double ratio, double angle) {
            return new Settings(width, height, stars, fwhmPx, beta, ratio, angle, faintestSnr, seed);
        }

        public Settings withSeed(long other) {
            return new Settings(width, height, stars, fwhmPx, beta, axisRatio, angleDeg, faintestSnr, other);
        }
    }

    public InventedField {
        stars = List.copyOf(stars);
    }

    /** Invents a field; the same settings give the same pixels. */
    public static InventedField of(Settings s, Workers workers) {
        Random random = new Random(s.seed());
        double alpha = s.fwhmPx() / 2 / Math.sqrt(Math.pow(2, 1 / s.beta()) - 1);
        double level = 900;
        double noise = Math.sqrt(level / GAIN + READ_NOISE_ADU * READ_NOISE_ADU);
        double profilePixels = effectivePixels(s, alpha);
        List<Truth> stars = new ArrayList<>();
        for (int i = 0; i < s.stars(); i++) {
            double snr = s.faintestSnr() * Math.pow(3000 / s.faintestSnr(), Math.pow(random.nextDouble(), 1.6));
            stars.add(new Truth(
                    6 + (s.width() - 11) * random.nextDouble(),
                    6 + (s.height() - 11) * random.nextDouble(),
                    snr * noise * Math.sqrt(profilePixels),
                    snr));
        }
        float[] light = new float[s.width() * s.height()];
        for (int row = 0; row < s.height(); row++) {
            for (int column = 0; column < s.width(); column++) {
                light[row * s.width() + column] = (float) background(level, column, row, s);
            }
        }
        stars.forEach(star -> add(light, s, alpha, star));
        long seed = random.nextLong();
        workers.forEach(s.height(), row -> {
            Random own = new Random(seed + row * 0x9E3779B97F4A7C15L);
            for (int i = row * s.width(); i < (row + 1) * s.width(); i++) {
                double sigma = Math.sqrt(light[i] / GAIN + READ_NOISE_ADU * READ_NOISE_ADU);
                light[i] = Math.round(Math.min(65_535, light[i] + sigma * own.nextGaussian()));
            }
        });
        Header header = Header.EMPTY.with("EGAIN", GAIN);
        return new InventedField(new Frame(s.width(), s.height(), light, header), stars, noise);
    }

    /**
     * How well stars were measured.
     *
     * @param completeness found share of the stars above the counted ratio; of two closer than a half width only the brighter counts
     * @param purity share of the measured stars above the counted ratio that are there
     * @param centroidOverLimit robust scatter of the centroids an axis, over the limit of photon and background noise
     * @param halfFluxBias median of measured over true half-flux radius, less 1, of the isolated stars above a ratio of 30
     */
    public record Score(double completeness, double purity, double centroidOverLimit, double halfFluxBias) {}

    /**
     * Holds measured stars against the truth.
     *
     * @param measured x, y, half-flux radius and signal-to-noise ratio of each
     * @param countedSnr stars below it do not count
     */
    public Score score(Settings s, List<double[]> measured, double countedSnr) {
        double near = s.fwhmPx();
        Places truth =
                new Places(stars.stream().map(t -> new double[] {t.x(), t.y()}).toList(), near);
        Places found = new Places(measured, near);
        int counted = 0;
        int seen = 0;
        List<Double> off = new ArrayList<>();
        List<Double> sizes = new ArrayList<>();
        double trueHalf = halfFluxRadiusPx(s);
        for (int i = 0; i < stars.size(); i++) {
            Truth t = stars.get(i);
            double neighbour = Double.MAX_VALUE;
            boolean behind = false;
            for (int k : truth.within(t.x(), t.y(), 8 * s.fwhmPx())) {
                if (k != i) {
                    double d = Math.hypot(stars.get(k).x() - t.x(), stars.get(k).y() - t.y());
                    double share = stars.get(k).fluxAdu() / t.fluxAdu();
                    behind |= share > 0.3 && d < near * (1 + Math.log10(Math.max(1, share)));
                    neighbour = share > 0.003 ? Math.min(neighbour, d) : neighbour;
                }
            }
            if (behind || t.snr() < countedSnr) {
                continue;
            }
            counted++;
            int at = found.nearest(t.x(), t.y(), near);
            if (at < 0) {
                continue;
            }
            seen++;
            double[] m = measured.get(at);
            if (neighbour > 7 * s.fwhmPx() && t.snr() > 30) {
                double limit = centroidLimitPx(s, t);
                off.add((m[0] - t.x()) / limit);
                off.add((m[1] - t.y()) / limit);
                sizes.add(m[2] / trueHalf - 1);
            }
        }
        long claimed = measured.stream().filter(m -> m[3] >= countedSnr).count();
        long real = measured.stream()
                .filter(m -> m[3] >= countedSnr && truth.nearest(m[0], m[1], 1.5 * near) >= 0)
                .count();
        return new Score(
                (double) seen / Math.max(1, counted),
                (double) real / Math.max(1, claimed),
                off.isEmpty() ? 0 : Statistics.noise(array(off)),
                sizes.isEmpty() ? 0 : Statistics.median(array(sizes)));
    }

    private static double[] array(List<Double> values) {
        return values.stream().mapToDouble(Double::doubleValue).toArray();
    }

    /**
     * The least standard deviation of a centroid an axis (Cramér and Rao): 1 / σ² = Σ (F ∂p/∂x)² / (B + F p/g), over the pixels of the
     * profile p.
     *
     * @see "Winick 1986, J. Opt. Soc. Am. A 3, 1809"
     */
    private double centroidLimitPx(Settings s, Truth t) {
        double alpha = s.fwhmPx() / 2 / Math.sqrt(Math.pow(2, 1 / s.beta()) - 1);
        double unit = Math.PI * alpha * alpha * s.axisRatio() / (s.beta() - 1);
        int reach = (int) Math.ceil(4 * s.fwhmPx());
        double information = 0;
        double h = 0.05;
        for (int r = -reach; r <= reach; r++) {
            for (int c = -reach; c <= reach; c++) {
                double p = pixel(s, alpha, c, r) / unit;
                double slope = (pixel(s, alpha, c + h, r) - pixel(s, alpha, c - h, r)) / unit / (2 * h);
                information +=
                        t.fluxAdu() * slope * t.fluxAdu() * slope / (noiseAdu * noiseAdu + t.fluxAdu() * p / GAIN);
            }
        }
        return 1 / Math.sqrt(information);
    }

    /** Half-flux radius of the round profile as pixels gather it: Moffat convolved with a pixel, integrated in rings. */
    private static double halfFluxRadiusPx(Settings s) {
        double alpha = s.fwhmPx() / 2 / Math.sqrt(Math.pow(2, 1 / s.beta()) - 1);
        double half = Math.PI * alpha * alpha / (s.beta() - 1) / 2;
        double step = 0.01;
        double sum = 0;
        double r = 0;
        while (sum < half) {
            r += step;
            // The pixel's square makes the profile depend on direction: two directions are enough for its mean.
            double d = (r - step / 2) / Math.sqrt(2);
            sum += 2 * Math.PI * (r - step / 2) * step * (pixel(s, alpha, r - step / 2, 0) + pixel(s, alpha, d, d)) / 2;
        }
        return r;
    }

    /** Points in squares, for finding the near ones. */
    private static final class Places {
        private final java.util.Map<Long, List<Integer>> cells = new java.util.HashMap<>();
        private final List<double[]> points;
        private final double cell;

        Places(List<double[]> points, double cell) {
            this.points = points;
            this.cell = cell;
            for (int i = 0; i < points.size(); i++) {
                cells.computeIfAbsent(key(points.get(i)[0], points.get(i)[1]), k -> new ArrayList<>())
                        .add(i);
            }
        }

        private long key(double x, double y) {
            return (long) Math.floor(x / cell) * 1_000_003L + (long) Math.floor(y / cell);
        }

        List<Integer> within(double x, double y, double radius) {
            List<Integer> inside = new ArrayList<>();
            int reach = (int) Math.ceil(radius / cell);
            for (int i = -reach; i <= reach; i++) {
                for (int j = -reach; j <= reach; j++) {
                    for (int k : cells.getOrDefault(key(x + i * cell, y + j * cell), List.of())) {
                        if (Math.hypot(points.get(k)[0] - x, points.get(k)[1] - y) <= radius) {
                            inside.add(k);
                        }
                    }
                }
            }
            return inside;
        }

        /** The nearest point within a radius; −1 if there is none. */
        int nearest(double x, double y, double radius) {
            int best = -1;
            double least = Double.MAX_VALUE;
            for (int k : within(x, y, radius)) {
                double d = Math.hypot(points.get(k)[0] - x, points.get(k)[1] - y);
                if (d < least) {
                    least = d;
                    best = k;
                }
            }
            return best;
        }
    }

    /** A slope and the darker corners of a lens. */
    private static double background(double level, int column, int row, Settings s) {
        double u = 2.0 * column / s.width() - 1;
        double v = 2.0 * row / s.height() - 1;
        return level * (1 + 0.08 * u - 0.05 * v - 0.06 * (u * u + v * v));
    }

    /** 1 / Σp² of the profile, in pixels: the noise of the best possible measurement is σ times its root. */
    private static double effectivePixels(Settings s, double alpha) {
        double sum = 0;
        double squares = 0;
        int reach = (int) Math.ceil(REACH * s.fwhmPx());
        for (int r = -reach; r <= reach; r++) {
            for (int c = -reach; c <= reach; c++) {
                double p = pixel(s, alpha, c, r);
                sum += p;
                squares += p * p;
            }
        }
        return sum * sum / squares;
    }

    private static void add(float[] light, Settings s, double alpha, Truth star) {
        int reach = (int) Math.ceil(REACH * s.fwhmPx());
        double unit = Math.PI * alpha * alpha * s.axisRatio() / (s.beta() - 1);
        int column0 = (int) star.x() - 1;
        int row0 = (int) star.y() - 1;
        for (int row = Math.max(0, row0 - reach); row <= Math.min(s.height() - 1, row0 + reach); row++) {
            for (int column = Math.max(0, column0 - reach);
                    column <= Math.min(s.width() - 1, column0 + reach);
                    column++) {
                light[row * s.width() + column] +=
                        (float) (star.fluxAdu() / unit * pixel(s, alpha, column + 1 - star.x(), row + 1 - star.y()));
            }
        }
    }

    /** Mean of the profile, of peak 1, over a pixel whose middle is (dx, dy) from the star. */
    private static double pixel(Settings s, double alpha, double dx, double dy) {
        int fine = Math.hypot(dx, dy) < 3 * s.fwhmPx() ? FINE : 1;
        double c = Math.cos(Math.toRadians(s.angleDeg()));
        double n = Math.sin(Math.toRadians(s.angleDeg()));
        double sum = 0;
        for (int j = 0; j < fine; j++) {
            for (int i = 0; i < fine; i++) {
                double x = dx + (i + 0.5) / fine - 0.5;
                double y = dy + (j + 0.5) / fine - 0.5;
                double along = c * x + n * y;
                double across = (-n * x + c * y) / s.axisRatio();
                sum += Math.pow(1 + (along * along + across * across) / (alpha * alpha), -s.beta());
            }
        }
        return sum / (fine * fine);
    }
}
