package app.ironside.star;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.QRDecomposition;

/**
 * The light of a frame's stars by the profile that they share. A wide aperture gathers a bright star's light whole, but of a faint one
 * mostly noise, and in a crowd the neighbours' light. So all stars are fitted together, each above what the others leave; what the fit
 * counts is brought to the aperture's scale by the bright ones, place by place, and each star has the two weighed by their errors.
 *
 * @see "Stetson 1987, PASP 99, 191 (stars fitted together, small fitting radius)"
 * @see "Naylor 1998, MNRAS 296, 339 (weighing by the profile against an aperture)"
 */
final class StarFluxes {
    private static final int ROUNDS = 5;
    private static final int SKY_AFTER = 2;

    /** Share of its light by which a star may still change. */
    private static final double SETTLED = 0.002;

    /** A star's light is subtracted from its neighbours' as far as it stands above this share of the noise. */
    private static final double DRAWN_TO_SIGMAS = 0.1;

    private static final double MOST_RADIUS_PX = 30;

    /** Radius of the fit over the width at half peak. */
    private static final double FIT_SHARE = 1.1;

    /** Aperture over the half-flux radius. */
    private static final double APERTURE_SHARE = 4.5;

    private static final double SMALLEST_APERTURE_PX = 4;

    /** What the shared profile is wrong by at any one star. */
    private static final double PROFILE_ERROR = 0.015;

    /** One that is wider than this many times the field's is no star, or several. */
    private static final double WIDE = 1.6;

    /** Over the width at half peak, within which a neighbour of this share of the light moves a star's centroid. */
    private static final double CROWDED = 3;

    private static final double LEAST_NEIGHBOUR = 0.02;
    private static final double HALF_PX = 0.25;
    private static final double BRIGHT_SNR = 50;
    private static final int FEWEST_BRIGHT = 8;
    private static final int ENOUGH_FOR_A_SURFACE = 40;
    private static final int MOST_BRIGHT = 300;

    private final float[] left;
    private final int width;
    private final int height;
    private final double noise;
    private final double gain;
    private final SharedProfile profile;
    private final Workers workers;
    private final SharedProfile.Drawn drawn;
    private final double aperture;
    private final List<Star> stars;
    private final boolean[] point;
    private final double[] xs;
    private final double[] ys;
    private final double[] peak;
    private final double[] squares;

    /** Whose light changed hardly any more. */
    private final boolean[] settled;

    private StarFluxes(
            float[] left,
            int width,
            int height,
            double noise,
            double gain,
            SharedProfile profile,
            List<Star> stars,
            Workers workers) {
        this.workers = workers;
        this.left = left;
        this.width = width;
        this.height = height;
        this.noise = noise;
        this.gain = gain;
        this.profile = profile;
        this.stars = stars;
        aperture = Math.max(SMALLEST_APERTURE_PX, APERTURE_SHARE * profile.halfFluxRadiusPx());
        drawn = profile.new Drawn(MOST_RADIUS_PX + 2);
        point = new boolean[stars.size()];
        for (int i = 0; i < point.length; i++) {
            Star star = stars.get(i);
            point[i] = !star.saturated() && star.halfFluxRadiusPx() < WIDE * profile.halfFluxRadiusPx();
        }
        xs = stars.stream().mapToDouble(s -> s.x() - 1).toArray();
        ys = stars.stream().mapToDouble(s -> s.y() - 1).toArray();
        settled = new boolean[stars.size()];
        peak = new double[stars.size()];
        squares = new double[stars.size()];
    }

    /**
     * The same stars, those that are points with their light measured so.
     *
     * @param stars brightest first
     * @param flat the picture above its background; used up
     * @param gain electrons for an ADU; 0 if it is not known
     */
    static List<Star> of(
            List<Star> stars,
            float[] flat,
            int width,
            int height,
            double noise,
            double gain,
            SharedProfile profile,
            Workers workers) {
        return new StarFluxes(flat, width, height, noise, gain, profile, stars, workers).measured();
    }

    private List<Star> measured() {
        for (int i = 0; i < peak.length; i++) {
            peak[i] = isPoint(i) || stars.get(i).saturated() ? stars.get(i).fluxAdu() / unitLight() : 0;
            add(i, -peak[i]);
        }
        boolean[] crowded = crowded();
        for (int round = 0; round < ROUNDS; round++) {
            if (round == SKY_AFTER) {
                subtractSky();
            }
            for (int i = 0; i < peak.length; i++) {
                if (isPoint(i) && (round <= SKY_AFTER || !settled[i])) {
                    fit(i, crowded[i] && round > 0);
                }
            }
        }
        double[] byAperture = new double[peak.length];
        for (int i = 0; i < peak.length; i++) {
            byAperture[i] = isPoint(i) ? apertureLight(i) : 0;
        }
        Scale scale = scale(byAperture);
        if (scale == null) {
            return stars;
        }
        List<Star> out = new ArrayList<>(stars.size());
        for (int i = 0; i < peak.length; i++) {
            out.add(isPoint(i) && peak[i] > 0 ? weighed(i, byAperture[i], scale) : stars.get(i));
        }
        return out;
    }

    /** The sky once more, without the stars: in a crowd their wings had lifted it, everywhere alike. */
    private void subtractSky() {
        float sky = (float) BackgroundMap.of(new Frame(width, height, left, Header.EMPTY), workers)
                .level();
        for (int i = 0; i < left.length; i++) {
            left[i] -= sky;
        }
    }

    private boolean isPoint(int i) {
        return point[i];
    }

    /** Light of a profile of peak 1, an integral of Moffat's function over the plane; only where the rounds begin. */
    private double unitLight() {
        Moffat m = profile.moffat();
        return Math.PI * m.alphaPx() * m.alphaPx() / (m.beta() - 1);
    }

    /** Fits the peak, and in a crowd the place: a neighbour draws the centroid of what is between them toward itself. */
    private void fit(int i, boolean place) {
        double x = xs[i];
        double y = ys[i];
        double radius = Math.max(1.5, FIT_SHARE * profile.moffat().fwhmPx());
        double up = 0;
        double down = 0;
        double[] slope = new double[4];
        for (int r = Math.max(0, (int) (y - radius)); r <= Math.min(height - 1, (int) (y + radius) + 1); r++) {
            for (int c = Math.max(0, (int) (x - radius)); c <= Math.min(width - 1, (int) (x + radius) + 1); c++) {
                double dx = c - x;
                double dy = r - y;
                if (dx * dx + dy * dy <= radius * radius) {
                    double p = drawn.at(dx, dy);
                    double residual = left[r * width + c];
                    up += p * residual;
                    down += p * p;
                    if (place) {
                        double px = (drawn.at(dx - HALF_PX, dy) - drawn.at(dx + HALF_PX, dy)) / (2 * HALF_PX);
                        double py = (drawn.at(dx, dy - HALF_PX) - drawn.at(dx, dy + HALF_PX)) / (2 * HALF_PX);
                        slope[0] += px * residual;
                        slope[1] += px * px;
                        slope[2] += py * residual;
                        slope[3] += py * py;
                    }
                }
            }
        }
        if (down > 0) {
            squares[i] = down;
            double change = Math.max(-peak[i], up / down);
            settled[i] = Math.abs(change) < SETTLED * peak[i];
            peak[i] += change;
            add(i, -change);
        }
        if (place && peak[i] > 0 && slope[1] > 0 && slope[3] > 0) {
            add(i, peak[i]);
            xs[i] = stars.get(i).x() - 1 + held(xs[i] - stars.get(i).x() + 1 + slope[0] / slope[1] / peak[i]);
            ys[i] = stars.get(i).y() - 1 + held(ys[i] - stars.get(i).y() + 1 + slope[2] / slope[3] / peak[i]);
            add(i, -peak[i]);
        }
    }

    private double held(double moved) {
        double most = profile.moffat().fwhmPx() / 2;
        return Math.max(-most, Math.min(most, moved));
    }

    /** Which stars have one so near that their places are fitted with them. */
    private boolean[] crowded() {
        double reach = CROWDED * profile.moffat().fwhmPx();
        Integer[] byRow = new Integer[peak.length];
        Arrays.setAll(byRow, i -> i);
        Arrays.sort(byRow, Comparator.comparingDouble(i -> ys[i]));
        boolean[] crowded = new boolean[peak.length];
        for (int a = 0; a < byRow.length; a++) {
            for (int b = a + 1; b < byRow.length && ys[byRow[b]] - ys[byRow[a]] < reach; b++) {
                int i = byRow[a];
                int j = byRow[b];
                if (Math.hypot(xs[i] - xs[j], ys[i] - ys[j]) < reach) {
                    crowded[i] |= peak[j] > LEAST_NEIGHBOUR * peak[i];
                    crowded[j] |= peak[i] > LEAST_NEIGHBOUR * peak[j];
                }
            }
        }
        return crowded;
    }

    /** Adds a star of some peak to what is left of the picture. */
    private void add(int i, double height) {
        if (height == 0) {
            return;
        }
        double x = xs[i];
        double y = ys[i];
        double radius = drawnTo(Math.abs(height));
        for (int r = Math.max(0, (int) (y - radius)); r <= Math.min(this.height - 1, (int) (y + radius) + 1); r++) {
            for (int c = Math.max(0, (int) (x - radius)); c <= Math.min(width - 1, (int) (x + radius) + 1); c++) {
                left[r * width + c] += (float) (height * drawn.at(c - x, r - y));
            }
        }
    }

    /** Where a star of this peak falls below the noise that matters. */
    private double drawnTo(double height) {
        Moffat m = profile.moffat();
        double over = Math.max(2, height / (DRAWN_TO_SIGMAS * Math.max(1e-9, noise)));
        double radius = m.alphaPx() * Math.sqrt(Math.pow(over, 1 / m.beta()) - 1);
        return Math.min(MOST_RADIUS_PX, Math.max(aperture, radius));
    }

    /** Light of a star alone: what is left of the picture with the star in it. */
    private double apertureLight(int i) {
        double x = xs[i];
        double y = ys[i];
        double sum = 0;
        for (int r = Math.max(0, (int) (y - aperture)); r <= Math.min(height - 1, (int) (y + aperture) + 1); r++) {
            for (int c = Math.max(0, (int) (x - aperture)); c <= Math.min(width - 1, (int) (x + aperture) + 1); c++) {
                double inside = Math.max(0, Math.min(1, aperture - Math.hypot(c - x, r - y) + 0.5));
                sum += inside * (left[r * width + c] + peak[i] * drawn.at(c - x, r - y));
            }
        }
        return sum;
    }

    /** Light in the aperture over the fitted peak, as a surface over the frame. */
    private record Scale(double[] terms, int width, int height) {
        double at(Star star) {
            double[] t = terms(star, width, height, terms.length);
            double sum = 0;
            for (int i = 0; i < t.length; i++) {
                sum += t[i] * terms[i];
            }
            return sum;
        }

        static double[] terms(Star star, int width, int height, int count) {
            double u = star.x() / width - 0.5;
            double v = star.y() / height - 0.5;
            return count == 1 ? new double[] {1} : new double[] {1, u, v, u * u, u * v, v * v};
        }
    }

    private Scale scale(double[] byAperture) {
        List<Star> bright = new ArrayList<>();
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i < peak.length && bright.size() < MOST_BRIGHT; i++) {
            if (isPoint(i) && stars.get(i).snr() >= BRIGHT_SNR && peak[i] > 0) {
                bright.add(stars.get(i));
                ratios.add(byAperture[i] / peak[i]);
            }
        }
        if (bright.size() < FEWEST_BRIGHT) {
            return null;
        }
        double[] ratio = ratios.stream().mapToDouble(Double::doubleValue).toArray();
        double middle = Statistics.median(ratio);
        double spread = 1.4826
                * Statistics.median(
                        ratios.stream().mapToDouble(r -> Math.abs(r - middle)).toArray());
        List<double[]> rows = new ArrayList<>();
        List<Double> values = new ArrayList<>();
        for (int i = 0; i < ratio.length; i++) {
            if (Math.abs(ratio[i] - middle) <= 3 * spread) {
                rows.add(Scale.terms(bright.get(i), width, height, 6));
                values.add(ratio[i]);
            }
        }
        if (rows.size() < ENOUGH_FOR_A_SURFACE) {
            return new Scale(new double[] {middle}, width, height);
        }
        double[] surface = new QRDecomposition(MatrixUtils.createRealMatrix(rows.toArray(double[][]::new)))
                .getSolver()
                .solve(MatrixUtils.createRealVector(
                        values.stream().mapToDouble(Double::doubleValue).toArray()))
                .toArray();
        return new Scale(surface, width, height);
    }

    private Star weighed(int i, double byAperture, Scale scale) {
        double perPeak = scale.at(stars.get(i));
        double byProfile = perPeak * peak[i];
        double photons = gain > 0 ? byProfile / gain : 0;
        double apertureVariance = Math.PI * aperture * aperture * noise * noise + photons;
        double profileVariance = perPeak * perPeak * noise * noise / squares[i]
                + photons
                + PROFILE_ERROR * PROFILE_ERROR * byProfile * byProfile;
        double share = profileVariance / (profileVariance + apertureVariance);
        double flux = share * byAperture + (1 - share) * byProfile;
        double error = Math.sqrt(profileVariance * apertureVariance / (profileVariance + apertureVariance));
        return flux > 0
                ? stars.get(i).measuredAgain(xs[i] + 1, ys[i] + 1, flux, Math.max(error, Math.sqrt(photons)))
                : stars.get(i);
    }
}
