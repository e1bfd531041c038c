package app.ironside.calibrate;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * Combines a set of frames into a master: the mean of each pixel over the set, without what lies further than
 * {@value #KAPPA} sigma from the rest (cosmic rays). Streams bands of rows; the set is never in memory whole.
 */
public final class MasterBuilder {
    /**
     * Clipping limit, in standard deviations that outliers hardly move (Huber): of a set of 20 frames of Gaussian noise one good value in
     * some 450 goes, of a set of 5 one in some 90 (simulated, as the tests do).
     */
    public static final double KAPPA = 3.5;

    private static final int FEWEST_TO_CLIP = 5;

    /** Pixels of a mosaic's pattern. */
    private static final int PHASES = 4;

    /** Pixels of all frames that are in memory at one time: a twelfth of it at most. */
    private static final long BAND_VALUES =
            Math.min(24_000_000, Runtime.getRuntime().maxMemory() / (12 * Float.BYTES));

    private final Workers workers;

    public MasterBuilder(Workers workers) {
        this.workers = workers;
    }

    /**
     * Combines darks or bias frames as they are, or flats after {@code subtract} has been taken off and each has been brought to 1 in its
     * middle.
     *
     * @param subtract master bias or flat dark, for flats only
     * @throws BadInputException if a file differs in size or is no whole FITS image
     */
    public Frame build(MasterKind kind, List<Path> files, Optional<MasterPixels> subtract, Progress progress) {
        Check.atLeast("files", files.size(), 1);
        List<FitsBands> sources = new ArrayList<>();
        try {
            for (Path file : files) {
                sources.add(FitsBands.open(file));
                mustMatch(sources.get(0), sources.get(sources.size() - 1));
            }
            FitsBands first = sources.get(0);
            subtract.ifPresent(s -> mustMatch(first, s));
            double[][] scale = kind == MasterKind.FLAT ? levels(sources, subtract, progress) : ones(sources.size());
            float[] out = new float[first.width() * first.height()];
            int rows = (int) Math.max(1, BAND_VALUES / ((long) first.width() * sources.size()));
            for (int row = 0; row < first.height(); row += rows) {
                progress.step("combining " + files.size() + " frames", (double) row / first.height());
                band(sources, row, Math.min(rows, first.height() - row), subtract, scale, out);
            }
            return new Frame(first.width(), first.height(), out, header(kind, sources, scale));
        } finally {
            sources.forEach(FitsBands::close);
        }
    }

    private static double[][] ones(int n) {
        double[][] ones = new double[n][PHASES];
        for (double[] one : ones) {
            Arrays.fill(one, 1);
        }
        return ones;
    }

    private static void mustMatch(FitsBands a, FitsBands b) {
        if (a.width() != b.width() || a.height() != b.height()) {
            throw sizes(b.file().toString(), b.width(), b.height(), a);
        }
    }

    private static void mustMatch(FitsBands a, MasterPixels b) {
        if (a.width() != b.width() || a.height() != b.height()) {
            throw sizes("master to subtract", b.width(), b.height(), a);
        }
    }

    private static BadInputException sizes(String where, int width, int height, FitsBands first) {
        return new BadInputException(
                where,
                "is " + width + " x " + height + " pixels",
                first.width() + " x " + first.height() + " as in "
                        + first.file().getFileName());
    }

    /**
     * Level of each flat: the median of the middle third of its rows and columns, where vignetting is least; of a mosaic one for each pixel of
     * its pattern, so that the colour of the panel or the sky is not taken for that of the sensor.
     */
    private static double[][] levels(List<FitsBands> sources, Optional<MasterPixels> subtract, Progress progress) {
        double[][] levels = new double[sources.size()][];
        for (int i = 0; i < levels.length; i++) {
            progress.step("levelling flats", (double) i / levels.length);
            FitsBands source = sources.get(i);
            boolean mosaic = Mosaic.of(source.header()).isPresent();
            int from = source.height() / 3;
            int rows = Math.max(Math.min(2, source.height()), source.height() / 3);
            int count = Math.min(rows, source.height() - from);
            float[] band = source.rows(from, count);
            float[] under = subtract.map(s -> s.rows(from, count)).orElse(null);
            levels[i] = new double[PHASES];
            for (int phase = 0; phase < PHASES; phase++) {
                levels[i][phase] =
                        mosaic || phase == 0 ? level(source, band, under, mosaic, phase, from) : levels[i][0];
                if (!(levels[i][phase] > 0)) {
                    throw new BadInputException(
                            source.file().toString(), "has no light in it", "a flat well above its bias");
                }
            }
        }
        return levels;
    }

    private static double level(
            FitsBands source, float[] band, float[] under, boolean mosaic, int phase, int firstRow) {
        int width = source.width();
        int left = width / 3;
        int columns = Math.max(Math.min(2, width), width / 3);
        int rows = band.length / width;
        float[] middle = new float[rows * columns];
        int n = 0;
        for (int row = 0; row < rows; row++) {
            for (int column = left; column < Math.min(width, left + columns); column++) {
                int at = row * width + column;
                float base = under == null ? 0 : under[at];
                boolean counts = !mosaic || phase(column, firstRow + row) == phase;
                if (counts && Float.isFinite(band[at] - base)) {
                    middle[n++] = band[at] - base;
                }
            }
        }
        return n == 0 ? Double.NaN : Statistics.median(Arrays.copyOf(middle, n));
    }

    /** Which of the four pixels of a mosaic's pattern. */
    private static int phase(int column, int row) {
        return row % 2 * 2 + column % 2;
    }

    private void band(
            List<FitsBands> sources,
            int firstRow,
            int rows,
            Optional<MasterPixels> subtract,
            double[][] scale,
            float[] out) {
        int n = sources.size();
        float[][] values = new float[n][];
        for (int i = 0; i < n; i++) {
            values[i] = sources.get(i).rows(firstRow, rows);
        }
        float[] under = subtract.map(s -> s.rows(firstRow, rows)).orElse(null);
        int width = sources.get(0).width();
        double quantum = sources.get(0).quantum() / mean(scale);
        workers.forEach(rows, row -> {
            float[] column = new float[n];
            for (int x = 0; x < width; x++) {
                float base = under == null ? 0 : under[row * width + x];
                for (int i = 0; i < n; i++) {
                    column[i] = (float) ((values[i][row * width + x] - base) / scale[i][phase(x, firstRow + row)]);
                }
                out[(firstRow + row) * width + x] = (float) clippedMean(column, quantum);
            }
        });
    }

    /**
     * Mean without outliers; the spread of fewer than five values is too uncertain to clip by.
     *
     * @param values reordered
     */
    private static double clippedMean(float[] values, double quantum) {
        int n = 0;
        for (float v : values) {
            if (Float.isFinite(v)) {
                values[n++] = v;
            }
        }
        if (n < FEWEST_TO_CLIP) {
            double sum = 0;
            for (int i = 0; i < n; i++) {
                sum += values[i];
            }
            return n == values.length ? sum / n : Double.NaN;
        }
        Statistics.sort(values, n);
        return Statistics.clippedMean(values, n, KAPPA, quantum);
    }

    private static double mean(double[][] scale) {
        return Arrays.stream(scale).flatMapToDouble(Arrays::stream).average().orElse(1);
    }

    private static Header header(MasterKind kind, List<FitsBands> sources, double[][] scale) {
        Header header = Header.shared(sources.stream().map(FitsBands::header).toList())
                .with("IMAGETYP", "Master " + kind.word())
                .with("NCOMBINE", sources.size());
        double[] temperatures = sources.stream()
                .flatMapToDouble(s -> s.header().number("CCD-TEMP").stream())
                .toArray();
        if (temperatures.length == sources.size()) {
            header = header.with(
                    "CCD-TEMP", Arrays.stream(temperatures).average().orElseThrow());
        }
        if (kind == MasterKind.FLAT) {
            header = header.with("FLATLEVL", mean(scale));
        }
        for (FitsBands source : sources) {
            header = header.withHistory("combined " + source.file().getFileName());
        }
        return header;
    }
}
