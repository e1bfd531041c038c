package app.ironside.star;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.ToDoubleFunction;

/**
 * Finds and measures the stars of a frame: background mesh, matched filter, groups of pixels above the threshold, division of
 * groups that hold several stars, measurement. Stars far out of focus are found in a smaller picture.
 *
 * <p>Frames from a Bayer mosaic (BAYERPAT in the header) have their four colours brought to one level first. A header value
 * SATURATE takes the place of the setting.
 */
public final class StarFinder implements StarSearch {
    private static final int BAND_ROWS = 64;
    private static final int LARGEST_BLOB_PX = 12_000;

    /** A star in the middle of a pixel shows up to 1.7 times the peak of one at a corner, in the sharpest fields. */
    private static final double SHARPEST = 2.5;

    /** Of the second mesh: narrow against nebulae, wide against sharp stars. */
    private static final int NEBULA_CELL_PX = 24;

    private static final int FEWEST_CELLS = 8;

    /** Pixels of a cell by which it is told whether there is a structure; the level of each is then known to a tenth of the noise. */
    private static final int LOOK_SAMPLES = 90;

    /** Of the wider filter there: a star's light is mostly narrower, a nebula's knots are wider. */
    private static final double WIDE_SIGMA_PX = 3;

    /** Scatter of that mesh over the noise of a pixel. An even sky's is a twentieth. */
    private static final double STRUCTURED = 0.3;

    /** Half-flux radius over the field's from which a blob is looked at again, and from which it is no star. */
    private static final double WIDE = 1.6;

    private static final double NO_STAR = 3;

    /** The same where the field's stars are surely known: corners of a tilted or curved field stay below it. */
    private static final double SURELY_NO_STAR = 2.3;

    /** A fainter star's radius is mostly noise. */
    private static final double SURELY_WIDE_SNR = 10;

    private static final double SURE_SNR = 20;
    private static final int ENOUGH_TO_JUDGE = 10;

    /** A peak that no knot of a nebula has, and so many of them tell what a star of the field is like. */
    private static final double PROMINENT_SIGMAS = 10;

    private static final int ENOUGH_PROMINENT = 6;

    /** A blob this much longer than wide is a trail of something that crossed, not a star. */
    private static final double TRAIL_ECCENTRICITY = 0.992;

    private final DetectSettings settings;
    private final Workers workers;

    public StarFinder(DetectSettings settings, Workers workers) {
        this.settings = settings;
        this.workers = workers;
    }

    StarFinder withoutProfiles() {
        return settings.profiles() ? new StarFinder(settings.withoutProfiles(), workers) : this;
    }

    @Override
    public StarField find(Frame original) {
        boolean mosaic = isMosaic(original);
        Frame frame = mosaic ? levelled(original) : original;
        BackgroundMap background = BackgroundMap.of(frame, workers);
        float[] flat = subtract(frame, background);
        List<Contrast> peaks = HotPixels.darken(flat, frame.width(), frame.height(), background, mosaic, workers);
        return SwollenStars.find(frame, flat, background, peaks, this)
                .orElseGet(() -> findAboveNebulae(frame, background, flat));
    }

    /** Where the sky itself has a structure, smaller than the mesh sees, what is left of it is taken away too. */
    private StarField findAboveNebulae(Frame frame, BackgroundMap background, float[] flat) {
        if (Math.min(frame.width(), frame.height()) < FEWEST_CELLS * NEBULA_CELL_PX) {
            return find(frame, background, flat);
        }
        Frame above = new Frame(frame.width(), frame.height(), flat, frame.header());
        if (BackgroundMap.of(above, NEBULA_CELL_PX, LOOK_SAMPLES, workers).structure() < STRUCTURED) {
            return find(frame, background, flat);
        }
        BackgroundMap nebula = BackgroundMap.of(above, NEBULA_CELL_PX, workers);
        return find(frame, background.over(nebula), subtract(above, nebula), true);
    }

    /**
     * The stars of a frame at its own size, however wide they are.
     *
     * @param cellPx of the background's mesh
     */
    StarField findAtThisSize(Frame frame, int cellPx) {
        BackgroundMap background = BackgroundMap.of(frame, cellPx, workers);
        return find(frame, background, subtract(frame, background));
    }

    private StarField find(Frame frame, BackgroundMap background, float[] flat) {
        return find(frame, background, flat, false);
    }

    /** @param narrowly whether what is wider than a star is filtered out */
    private StarField find(Frame frame, BackgroundMap background, float[] flat, boolean narrowly) {
        int width = frame.width();
        int height = frame.height();
        double[] kernel = kernel(settings.kernelSigmaPx());
        double[] wide = narrowly ? kernel(WIDE_SIGMA_PX) : new double[] {0};
        double noiseFactor = noiseFactor(kernel, wide);
        float[] filtered = new float[flat.length];
        float[] widely = new float[narrowly ? flat.length : 0];
        int bands = (height + BAND_ROWS - 1) / BAND_ROWS;
        int[][] bandAbove = new int[bands][];
        workers.forEach(bands, band -> {
            int first = band * BAND_ROWS;
            int last = Math.min(height, first + BAND_ROWS);
            convolve(flat, width, height, kernel, first, last, filtered);
            if (narrowly) {
                convolve(flat, width, height, wide, first, last, widely);
                for (int i = first * width; i < last * width; i++) {
                    filtered[i] -= widely[i];
                }
            }
            bandAbove[band] = above(filtered, background, width, height, first, last, noiseFactor);
        });
        int[] above = Arrays.stream(bandAbove).flatMapToInt(Arrays::stream).toArray();
        int count = above.length;
        List<Star> stars = measure(frame, background, flat, filtered, above, count, noiseFactor, narrowly);
        return new StarField(width, height, stars, background.level(), background.noise());
    }

    /**
     * Leaves out what is sharper than air and optics leave any star: a particle that struck the sensor lights two or three pixels and
     * nothing around them. Judged by the share of the light in the brightest pixel against that of the field's stars.
     */
    private static List<Star> asWideAsTheField(List<Star> found, double noise) {
        Yardsticks field = Yardsticks.of(found, noise);
        if (field.areFew()) {
            return found;
        }
        double limit = SHARPEST * field.median(s -> s.peakAdu() / s.fluxAdu());
        return found.stream()
                .filter(s -> s.saturated() || s.peakAdu() - 3 * noise < limit * s.fluxAdu())
                .toList();
    }

    /**
     * What a field's stars are like.
     *
     * @param stars whole and sure ones
     * @param known whether they were told from knots of a nebula or galaxy that outnumber them and are far wider: hardly one of those has a
     *     pixel that stands out of the noise by itself
     */
    private record Yardsticks(List<Star> stars, boolean known) {
        static Yardsticks of(List<Star> found, double noise) {
            List<Star> sure = found.stream()
                    .filter(s -> !s.saturated() && s.snr() >= SURE_SNR)
                    .toList();
            List<Star> prominent = sure.stream()
                    .filter(s -> s.peakAdu() > PROMINENT_SIGMAS * noise)
                    .toList();
            boolean knots = prominent.size() >= ENOUGH_PROMINENT
                    && new Yardsticks(sure, false).median(Star::halfFluxRadiusPx)
                            > WIDE * new Yardsticks(prominent, true).median(Star::halfFluxRadiusPx);
            return knots ? new Yardsticks(prominent, true) : new Yardsticks(sure, false);
        }

        boolean areFew() {
            return !known && stars.size() < ENOUGH_TO_JUDGE;
        }

        double median(ToDoubleFunction<Star> of) {
            return Statistics.median(stars.stream().mapToDouble(of).toArray());
        }
    }

    private List<Star> measure(
            Frame frame,
            BackgroundMap background,
            float[] flat,
            float[] filtered,
            int[] above,
            int count,
            double noiseFactor,
            boolean narrowly) {
        int width = frame.width();
        int height = frame.height();
        double saturation = frame.header().number("SATURATE").orElse(settings.saturationAdu()) - background.level();
        double gain = frame.header().number("EGAIN").orElse(0);
        StarMeasure measure = new StarMeasure(flat, width, height, saturation, gain, settings.profiles());
        Blobs blobs = new Blobs(filtered, width);
        List<int[]> groups = brightest(blobs.group(above, count), filtered);
        Found[][] found = new Found[groups.size()][];
        workers.forEach(groups.size(), i -> {
            int[] group = groups.get(i);
            if (group.length < settings.minAreaPx() || group.length > LARGEST_BLOB_PX) {
                found[i] = new Found[0];
                return;
            }
            double sigma = background.sigmaAt(group[0] % width, group[0] / width, width, height);
            double filteredSigma = sigma * noiseFactor;
            List<int[]> parts = blobs.split(group, settings.thresholdSigma() * filteredSigma, filteredSigma);
            found[i] = parts.stream()
                    .flatMap(blob -> (narrowly
                                    ? measure.measureAboveSurroundings(blob, sigma, gap(blob, parts, measure))
                                    : measure.measure(blob, sigma, gap(blob, parts, measure)))
                            .map(star -> new Found(star, blob, sigma, parts.size() == 1)).stream())
                    .toArray(Found[]::new);
        });
        List<Found> all = Arrays.stream(found).flatMap(Arrays::stream).toList();
        List<Star> brightestFirst =
                asWideAsTheField(likeTheField(all, measure, background.noise(), narrowly), background.noise()).stream()
                        .filter(s -> s.eccentricity() < TRAIL_ECCENTRICITY)
                        .sorted(Comparator.comparingDouble(Star::fluxAdu).reversed())
                        .toList();
        List<Star> whole = SharedProfile.of(brightestFirst, measure::profile)
                .map(profile -> {
                    System.arraycopy(flat, 0, filtered, 0, flat.length);
                    return StarFluxes.of(
                            brightestFirst, filtered, width, height, background.noise(), gain, profile, workers);
                })
                .orElse(brightestFirst);
        return HalfPeakWidth.of(
                whole.stream()
                        .sorted(Comparator.comparingDouble(Star::fluxAdu).reversed())
                        .toList(),
                measure::profile);
    }

    /**
     * @param blob the pixels in which it was found
     * @param sigma noise of the background there
     * @param alone whether nothing else was told apart from it: a faint star beside a bright one looks wide
     */
    private record Found(Star star, int[] blob, double sigma, boolean alone) {}

    /**
     * What is much wider than the field's stars is looked at once more as one of them, at its brightest pixel: a blob of several stars that
     * could not be told apart holds at least the brightest. What is wider still is, among nebulae, a knot of them.
     */
    private static List<Star> likeTheField(List<Found> found, StarMeasure measure, double noise, boolean nebulae) {
        Yardsticks field = Yardsticks.of(found.stream().map(Found::star).toList(), noise);
        if (field.areFew()) {
            return found.stream().map(Found::star).toList();
        }
        double typical = field.median(Star::halfFluxRadiusPx);
        List<Star> out = new ArrayList<>(found.size());
        for (Found f : found) {
            Star star = f.star;
            if (f.alone && !star.saturated() && star.halfFluxRadiusPx() > WIDE * typical) {
                star = measure.measurePeak(f.blob, f.sigma, typical)
                        .filter(s -> s.halfFluxRadiusPx() < f.star.halfFluxRadiusPx())
                        .orElse(f.star);
            }
            if (!nebulae && !field.known()
                    || !f.alone
                    || star.saturated()
                    || star.snr() < SURELY_WIDE_SNR
                    || star.halfFluxRadiusPx() < (field.known() ? SURELY_NO_STAR : NO_STAR) * typical) {
                out.add(star);
            }
        }
        return out;
    }

    private List<int[]> brightest(List<int[]> groups, float[] filtered) {
        if (groups.size() <= settings.most()) {
            return groups;
        }
        record Bright(int[] group, double light) {}
        return groups.stream()
                .filter(g -> g.length >= settings.minAreaPx() && g.length <= LARGEST_BLOB_PX)
                .map(g -> new Bright(
                        g, Arrays.stream(g).mapToDouble(p -> filtered[p]).sum()))
                .sorted(Comparator.comparingDouble(Bright::light).reversed())
                .limit(settings.most())
                .map(Bright::group)
                .toList();
    }

    /** Distance from a part of a group to its nearest sibling. */
    private static double gap(int[] part, List<int[]> parts, StarMeasure measure) {
        double[] here = measure.middle(part);
        double nearest = Double.POSITIVE_INFINITY;
        for (int[] other : parts) {
            if (other != part) {
                double[] there = measure.middle(other);
                nearest = Math.min(nearest, Math.hypot(here[0] - there[0], here[1] - there[1]));
            }
        }
        return nearest;
    }

    private float[] subtract(Frame frame, BackgroundMap background) {
        int width = frame.width();
        float[] pixels = frame.pixels();
        float[] out = new float[pixels.length];
        workers.forEach((frame.height() + BAND_ROWS - 1) / BAND_ROWS, band -> {
            float[] level = new float[width];
            for (int row = band * BAND_ROWS; row < Math.min(frame.height(), (band + 1) * BAND_ROWS); row++) {
                background.levelOfRow(row, width, frame.height(), level);
                int at = row * width;
                for (int column = 0; column < width; column++) {
                    out[at + column] = pixels[at + column] - level[column];
                }
                for (int i = at; i < at + width; i++) {
                    if (Float.isNaN(out[i])) {
                        out[i] = 0;
                    }
                }
            }
        });
        return out;
    }

    /** Noise left of a pixel's in a picture filtered with one kernel less the same filtered with a wider one. */
    private static double noiseFactor(double[] kernel, double[] wide) {
        double both = 0;
        int off = wide.length / 2 - kernel.length / 2;
        for (int i = Math.max(0, -off); i < kernel.length && i + off < wide.length; i++) {
            both += kernel[i] * wide[i + off];
        }
        double one = Arrays.stream(kernel).map(k -> k * k).sum();
        double other = Arrays.stream(wide).map(k -> k * k).sum();
        return Math.sqrt(one * one - 2 * both * both + other * other);
    }

    /** A Gaussian of unit sum in one dimension; squared and summed it gives the noise left in two. */
    private static double[] kernel(double sigma) {
        int reach = Math.max(1, (int) Math.ceil(2.5 * sigma));
        double[] kernel = new double[2 * reach + 1];
        double sum = 0;
        for (int i = -reach; i <= reach; i++) {
            kernel[i + reach] = Math.exp(-0.5 * i * i / (sigma * sigma));
            sum += kernel[i + reach];
        }
        for (int i = 0; i < kernel.length; i++) {
            kernel[i] /= sum;
        }
        return kernel;
    }

    /** Pixels of some rows that stand above the threshold, in raster order. */
    private int[] above(
            float[] filtered,
            BackgroundMap background,
            int width,
            int height,
            int first,
            int last,
            double noiseFactor) {
        int[] found = new int[1024];
        int n = 0;
        float[] limit = new float[width];
        for (int row = first; row < last; row++) {
            background.sigmaOfRow(row, width, height, limit);
            for (int column = 0; column < width; column++) {
                limit[column] *= (float) (settings.thresholdSigma() * noiseFactor);
            }
            int at = row * width;
            for (int column = 0; column < width; column++) {
                if (filtered[at + column] > limit[column] && limit[column] > 0) {
                    if (n == found.length) {
                        found = Arrays.copyOf(found, 2 * n);
                    }
                    found[n++] = at + column;
                }
            }
        }
        return Arrays.copyOf(found, n);
    }

    /** Filters some rows with a symmetric kernel. The edge pixels go on beyond the edge. */
    private static void convolve(float[] in, int width, int height, double[] kernel, int first, int last, float[] out) {
        int reach = kernel.length / 2;
        float[] padded = new float[width + 2 * reach];
        for (int row = first; row < last; row++) {
            scaled(in, row * width, (float) kernel[reach], padded, reach, width);
            for (int j = 1; j <= reach; j++) {
                int above = Math.max(0, row - j) * width;
                int below = Math.min(height - 1, row + j) * width;
                addPair(in, above, below, (float) kernel[reach + j], padded, reach, width);
            }
            Arrays.fill(padded, 0, reach, padded[reach]);
            Arrays.fill(padded, width + reach, padded.length, padded[width + reach - 1]);
            scaled(padded, reach, (float) kernel[reach], out, row * width, width);
            for (int i = 1; i <= reach; i++) {
                addPair(padded, reach - i, reach + i, (float) kernel[reach + i], out, row * width, width);
            }
        }
    }

    // Two loops of this shape are all that the filter does; by themselves they become vector instructions.

    private static void scaled(float[] in, int from, float weight, float[] out, int to, int n) {
        for (int x = 0; x < n; x++) {
            out[to + x] = weight * in[from + x];
        }
    }

    private static void addPair(float[] in, int one, int other, float weight, float[] out, int to, int n) {
        for (int x = 0; x < n; x++) {
            out[to + x] += weight * (in[one + x] + in[other + x]);
        }
    }

    /** A mosaic needs a cell of two by two to be one. */
    private static boolean isMosaic(Frame frame) {
        return Mosaic.of(frame.header()).isPresent() && frame.width() > 1 && frame.height() > 1;
    }

    /** A copy of a mosaic with its four colours shifted to one background level, so that the pattern is not mistaken for stars. */
    private Frame levelled(Frame mosaic) {
        float[] out = mosaic.pixels().clone();
        int width = mosaic.width();
        double[] level = new double[4];
        for (int phase = 0; phase < 4; phase++) {
            Frame colour = colour(mosaic, phase);
            level[phase] = BackgroundMap.of(colour, workers).level();
        }
        double mean = Arrays.stream(level).average().orElse(0);
        for (int i = 0; i < out.length; i++) {
            int phase = (i / width % 2) * 2 + i % width % 2;
            out[i] += (float) (mean - level[phase]);
        }
        return new Frame(width, mosaic.height(), out, mosaic.header());
    }

    private static Frame colour(Frame mosaic, int phase) {
        int width = mosaic.width() / 2;
        int height = mosaic.height() / 2;
        float[] out = new float[width * height];
        for (int row = 0; row < height; row++) {
            for (int column = 0; column < width; column++) {
                out[row * width + column] =
                        mosaic.pixels()[(2 * row + phase / 2) * mosaic.width() + 2 * column + phase % 2];
            }
        }
        return new Frame(width, height, out, mosaic.header());
    }
}
