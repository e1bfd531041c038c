package app.ironside.calibrate;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Combines a set of frames into a master: the mean of each pixel over the set, without what lies further than
 * {@value #KAPPA} sigma from the rest (cosmic rays). Streams bands of rows; the set is never in memory whole.
 */
public final class MasterBuilder {
    /** Clipping limit: a set of 20 loses one good value in 1,700 to it. */
    static final double KAPPA = 3.5;

    private static final long BAND_VALUES = 24_000_000;

    private final Workers workers;

    public MasterBuilder(Workers workers) {
        this.workers = workers;
    }

    /**
     * Combines darks or bias frames as they are, or flats after {@code subtract} has been taken off and each has been brought to a
     * mean of 1.
     *
     * @param subtract master bias or flat dark, for flats only
     * @throws BadInputException if a file differs in size or is no whole FITS image
     */
    public Frame build(MasterKind kind, List<Path> files, Optional<Frame> subtract, Progress progress) {
        Check.atLeast("files", files.size(), 1);
        List<FitsBands> sources = new ArrayList<>();
        try {
            for (Path file : files) {
                sources.add(FitsBands.open(file));
                mustMatch(sources.get(0), sources.get(sources.size() - 1));
            }
            FitsBands first = sources.get(0);
            subtract.ifPresent(s -> mustMatch(first, s));
            double[] scale = kind == MasterKind.FLAT ? levels(sources, subtract, progress) : ones(sources.size());
            float[] out = new float[first.width() * first.height()];
            int rows = (int) Math.max(1, BAND_VALUES / ((long) first.width() * sources.size()));
            for (int row = 0; row < first.height(); row += rows) {
                progress.step("combining " + files.size() + " frames", (double) row / first.height());
                band(sources, row, Math.min(rows, first.height() - row), subtract, scale, out);
            }
            return new Frame(first.width(), first.height(), out, header(kind, first.header(), files, scale));
        } finally {
            sources.forEach(FitsBands::close);
        }
    }

    private static double[] ones(int n) {
        double[] ones = new double[n];
        java.util.Arrays.fill(ones, 1);
        return ones;
    }

    private static void mustMatch(FitsBands a, FitsBands b) {
        if (a.width() != b.width() || a.height() != b.height()) {
            throw sizes(b.file().toString(), b.width(), b.height(), a);
        }
    }

    private static void mustMatch(FitsBands a, Frame b) {
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

    /** Mean level of each flat, from its middle third, where vignetting is least. */
    private static double[] levels(List<FitsBands> sources, Optional<Frame> subtract, Progress progress) {
        double[] levels = new double[sources.size()];
        for (int i = 0; i < levels.length; i++) {
            progress.step("levelling flats", (double) i / levels.length);
            FitsBands source = sources.get(i);
            int from = source.height() / 3;
            float[] middle = source.rows(from, Math.max(1, source.height() / 3));
            subtract.ifPresent(s -> {
                for (int k = 0; k < middle.length; k++) {
                    middle[k] -= s.pixels()[from * s.width() + k];
                }
            });
            levels[i] = Statistics.median(middle);
            if (!(levels[i] > 0)) {
                throw new BadInputException(
                        source.file().toString(), "has no light in it", "a flat well above its bias");
            }
        }
        return levels;
    }

    private void band(
            List<FitsBands> sources, int firstRow, int rows, Optional<Frame> subtract, double[] scale, float[] out) {
        int n = sources.size();
        float[][] values = new float[n][];
        for (int i = 0; i < n; i++) {
            values[i] = sources.get(i).rows(firstRow, rows);
        }
        int width = sources.get(0).width();
        workers.forEach(rows, row -> {
            float[] column = new float[n];
            for (int x = 0; x < width; x++) {
                int at = (firstRow + row) * width + x;
                float base = subtract.isPresent() ? subtract.get().pixels()[at] : 0;
                for (int i = 0; i < n; i++) {
                    column[i] = (float) ((values[i][row * width + x] - base) / scale[i]);
                }
                out[at] = (float) clippedMean(column);
            }
        });
    }

    /** Mean without outliers; the spread of fewer than five values is too uncertain to clip by. */
    private static double clippedMean(float[] values) {
        if (values.length < 5) {
            double sum = 0;
            for (float v : values) {
                sum += v;
            }
            return sum / values.length;
        }
        return Statistics.clipped(values, KAPPA).centre();
    }

    private static Header header(MasterKind kind, Header first, List<Path> files, double[] scale) {
        Header header = first.with("IMAGETYP", "Master " + kind.word()).with("NCOMBINE", files.size());
        if (kind == MasterKind.FLAT) {
            header = header.with("FLATLEVL", scale[0]);
        }
        for (Path file : files) {
            header = header.withHistory("combined " + file.getFileName());
        }
        return header;
    }
}
