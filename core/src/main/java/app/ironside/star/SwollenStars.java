package app.ironside.star;

import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/**
 * Stars far out of focus. At full size a wide faint disc falls apart into grains of noise, each of which looks like a small sharp
 * star; in a picture a quarter as large, with a sixteenth of the pixels' noise power, it is one star again.
 */
final class SwollenStars {
    private static final int BIN = 4;
    private static final int SMALLEST_SIDE_PX = 400;

    /** Half-flux radius, in pixels of the frame, from which stars are measured in the smaller picture. */
    private static final double SWOLLEN_HFR_PX = 7;

    /** Of the background's mesh in the smaller picture: wide against the stars, narrow against vignetting. */
    private static final int CELL_PX = 32;

    private static final int FEWEST = 5;
    private static final int LOOKED_AT = 60;

    /** A sharp star, even one of a crowd that the small picture runs together, holds more of the light than this in its core. */
    private static final double CORE_SHARE = 0.2;

    private static final double CORE_RADIUS_PX = 3;

    /** A peak above the ring of pixels around it that noise does not make. */
    private static final double PROMINENT_SIGMAS = 10;

    /** A star's neighbours hold light; those of a hot pixel that is left do not. */
    private static final double LIT_SIGMAS = 3;

    private static final double LIT_SHARE = 0.1;

    /** Within so many pixels of a peak its light is looked at, above that of the next few. */
    private static final int NEAR_PX = 10;

    private static final int RING_PX = 4;

    /** Even light there has 7; a star that is not swollen has less than this. */
    private static final double SHARP_HFR_PX = 4.7;

    private static final double NORMAL = 1.4826;

    /** Spread of the stars' radii over their middle. */
    private static final double UNLIKE_SHARE = 0.5;

    /**
     * Of the light within twice the core's radius, an even disc has a quarter in the core and a soft blob a third; a sharp star has nearly
     * all, also one of so many that run together in the small picture that it holds little of their light.
     */
    private static final double CORE_OF_SURROUNDINGS = 0.6;

    private final int width;
    private final int height;
    private final float[] flat;
    private final StarField coarse;

    private SwollenStars(Frame frame, float[] flat, StarField coarse) {
        this.width = frame.width();
        this.height = frame.height();
        this.flat = flat;
        this.coarse = coarse;
    }

    /**
     * The stars of a frame whose stars are swollen, in its own pixels; empty if they are not.
     *
     * @param flat the frame's pixels above its background
     * @param peaks of {@code flat}: where they are sharp stars, what is wide in the smaller picture are nebulae
     * @param finder looks at the smaller picture
     */
    static Optional<StarField> find(
            Frame frame, float[] flat, BackgroundMap background, List<Contrast> peaks, StarFinder finder) {
        if (Math.min(frame.width(), frame.height()) < SMALLEST_SIDE_PX) {
            return Optional.empty();
        }
        Frame small = smaller(frame, background);
        StarField look = finder.withoutProfiles().findAtThisSize(small, CELL_PX);
        boolean large = look.good().size() >= FEWEST
                && BIN * look.medianHalfFluxRadiusPx().orElse(0) >= SWOLLEN_HFR_PX
                && alike(look);
        if (!large) {
            return Optional.empty();
        }
        SwollenStars stars = new SwollenStars(frame, flat, finder.findAtThisSize(small, CELL_PX));
        return stars.haveCores() || stars.areSharp(peaks)
                ? Optional.empty()
                : Optional.of(stars.atFullSize(background));
    }

    /** Swollen stars are as wide as one another, whatever their brightness; knots of a galaxy or a nebula are not. */
    private static boolean alike(StarField look) {
        double[] radii =
                look.good().stream().mapToDouble(Star::halfFluxRadiusPx).toArray();
        double middle = Statistics.median(radii.clone());
        double[] off = Arrays.stream(radii).map(r -> Math.abs(r - middle)).toArray();
        return NORMAL * Statistics.median(off) < UNLIKE_SHARE * middle;
    }

    /** Whether the frame's most prominent peaks are stars by themselves, whatever they stand on. */
    private boolean areSharp(List<Contrast> peaks) {
        double[] radii = peaks.stream()
                .filter(p -> p.above() > PROMINENT_SIGMAS * p.sigma()
                        && p.around() > Math.max(LIT_SIGMAS * p.sigma(), LIT_SHARE * p.above()))
                .sorted(Comparator.comparingDouble(Contrast::above).reversed())
                .limit(LOOKED_AT)
                .mapToDouble(this::halfFluxAboveRing)
                .toArray();
        return radii.length >= FEWEST && Statistics.median(radii) < SHARP_HFR_PX;
    }

    /** Radius that holds half of the light near a peak, above what lies around; of even light it is the most there can be. */
    private double halfFluxAboveRing(Contrast peak) {
        int column = peak.at() % width;
        int row = peak.at() / width;
        int reach = NEAR_PX + RING_PX;
        double[] ring = new double[(2 * reach + 1) * (2 * reach + 1)];
        double[] within = new double[NEAR_PX + 1];
        int[] pixels = new int[NEAR_PX + 1];
        int n = 0;
        for (int r = -reach; r <= reach; r++) {
            for (int c = -reach; c <= reach; c++) {
                double d = Math.sqrt(r * r + c * c);
                if (d <= NEAR_PX) {
                    within[(int) Math.round(d)] += light(column + c, row + r);
                    pixels[(int) Math.round(d)]++;
                } else if (d <= reach) {
                    ring[n++] = light(column + c, row + r);
                }
            }
        }
        double sky = Statistics.median(Arrays.copyOf(ring, n));
        double total = 0;
        for (int d = 0; d <= NEAR_PX; d++) {
            within[d] -= sky * pixels[d];
            total += within[d];
        }
        double sum = 0;
        for (int d = 0; d <= NEAR_PX && total > 0; d++) {
            if (sum + within[d] >= total / 2) {
                return Math.max(0, d - 0.5 + (total / 2 - sum) / Math.max(1e-9, within[d]));
            }
            sum += within[d];
        }
        return NEAR_PX;
    }

    /** Means of squares of pixels, those without a number left out, less the background's trend. A mosaic's four colours weigh alike in each. */
    private static Frame smaller(Frame frame, BackgroundMap background) {
        int width = frame.width() / BIN;
        int height = frame.height() / BIN;
        float[] out = new float[width * height];
        int[] counted = new int[width * height];
        float[] pixels = frame.pixels();
        for (int row = 0; row < height * BIN; row++) {
            int to = row / BIN * width;
            int from = row * frame.width();
            for (int column = 0; column < width; column++) {
                for (int i = from + column * BIN; i < from + (column + 1) * BIN; i++) {
                    if (!Float.isNaN(pixels[i])) {
                        out[to + column] += pixels[i];
                        counted[to + column]++;
                    }
                }
            }
        }
        float[] trend = background.trend(width, height);
        for (int i = 0; i < out.length; i++) {
            out[i] = counted[i] == 0 ? Float.NaN : out[i] / counted[i] - trend[i];
        }
        double gain = frame.header().number("EGAIN").orElse(0);
        return new Frame(width, height, out, frame.header().with("EGAIN", gain * BIN * BIN));
    }

    private boolean haveCores() {
        List<Core> cores =
                coarse.good().stream().limit(LOOKED_AT).map(this::core).toList();
        return median(cores, Core::shareOfAll) > CORE_SHARE
                || median(cores, Core::shareOfSurroundings) > CORE_OF_SURROUNDINGS;
    }

    private static double median(List<Core> cores, ToDoubleFunction<Core> share) {
        return Statistics.median(cores.stream().mapToDouble(share).toArray());
    }

    /**
     * What lies within three pixels of a star's brightest spot at full size.
     *
     * @param shareOfAll of the star's light
     * @param shareOfSurroundings of the light within twice the radius
     */
    private record Core(double shareOfAll, double shareOfSurroundings) {}

    private Core core(Star small) {
        double radius = BIN * small.halfFluxRadiusPx();
        double x = fullX(small.x()) - 1;
        double y = fullX(small.y()) - 1;
        double brightest = Double.NEGATIVE_INFINITY;
        int atX = (int) x;
        int atY = (int) y;
        for (int r = (int) (y - radius); r <= y + radius; r++) {
            for (int c = (int) (x - radius); c <= x + radius; c++) {
                double here = boxLight(c, r, 1);
                if (here > brightest) {
                    brightest = here;
                    atX = c;
                    atY = r;
                }
            }
        }
        double inside = lightWithin(atX, atY, CORE_RADIUS_PX);
        return new Core(inside / (small.fluxAdu() * BIN * BIN), inside / lightWithin(atX, atY, 2 * CORE_RADIUS_PX));
    }

    private double lightWithin(int column, int row, double radius) {
        int reach = (int) radius;
        double sum = 0;
        for (int r = -reach; r <= reach; r++) {
            for (int c = -reach; c <= reach; c++) {
                if (r * r + c * c <= radius * radius) {
                    sum += light(column + c, row + r);
                }
            }
        }
        return sum;
    }

    private double boxLight(int column, int row, int half) {
        double sum = 0;
        for (int r = row - half; r <= row + half; r++) {
            for (int c = column - half; c <= column + half; c++) {
                sum += light(c, r);
            }
        }
        return sum;
    }

    private double light(int column, int row) {
        return column < 0 || row < 0 || column >= width || row >= height ? 0 : flat[row * width + column];
    }

    private static double fullX(double small) {
        return (small - 0.5) * BIN + 0.5;
    }

    private StarField atFullSize(BackgroundMap background) {
        return new StarField(
                width,
                height,
                coarse.stars().stream().map(SwollenStars::atFullSize).toList(),
                background.level(),
                background.noise());
    }

    private static Star atFullSize(Star s) {
        return new Star(
                fullX(s.x()),
                fullX(s.y()),
                s.fluxAdu() * BIN * BIN,
                s.peakAdu(),
                s.halfFluxRadiusPx() * BIN,
                s.fwhmPx() * BIN,
                s.eccentricity(),
                s.angleDeg(),
                s.snr(),
                s.saturated(),
                s.fluxErrorAdu() * BIN * BIN,
                s.profile().map(p -> new Moffat(p.peakAdu(), p.alphaPx() * BIN, p.beta())));
    }
}
