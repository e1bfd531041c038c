package app.ironside.stack;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.Mosaic;
import app.ironside.solve.PlaneTransform;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.LongAdder;

/** Reads, calibrates, resamples, levels, rejects and averages, band by band. */
final class Combiner {
    /** Of what is left: a band is on its way three times over where it is read and resampled. */
    private static final double BAND_SHARE = 0.3;

    /** Stars, catalogues, the machine's own. */
    private static final long BESIDE = 64L << 20;

    private static final int FEWEST_ROWS = 8;

    /** Red, green, blue, and what they are together. */
    private static final int COLOUR_PLANES = 4;

    /** What maps take while they are gathered, as many times as a plane of the stack. */
    private static final int MAP_PLANES = 2;

    private final Workers workers;
    private final StackSettings settings;
    private final List<Placed> placed;
    private final int width;
    private final int height;
    private final LongAdder offered = new LongAdder();
    private final LongAdder used = new LongAdder();
    private final Optional<StackMaps> maps;
    private final Optional<Drizzler> drizzler;

    /**
     * @param width pixels of the stack
     */
    Combiner(Workers workers, StackSettings settings, List<Placed> placed, int width, int height) {
        this.workers = workers;
        this.settings = settings;
        this.placed = placed;
        this.width = width;
        this.height = height;
        this.drizzler = settings.drizzle().map(how -> new Drizzler(workers, how, placed, width, height));
        this.maps = settings.maps() ? Optional.of(new StackMaps(width, height)) : Optional.empty();
    }

    /** What every pixel is made of, if it was asked for. */
    Optional<StackMaps> maps() {
        return maps;
    }

    /** By drops onto a finer grid, if it was asked for. */
    Optional<Drizzler> drizzler() {
        return drizzler;
    }

    /**
     * A plane of the stack; NaN where no sub reaches.
     *
     * @param finer the same by drops, on its own grid
     */
    record Plane(float[] pixels, Optional<float[]> finer) {}

    Plane plane(Mosaic.Plane plane, int index, Progress progress) {
        float[] out = new float[width * height];
        Optional<float[]> finer = drizzler.map(d -> new float[d.width() * d.height()]);
        maps.ifPresent(StackMaps::begin);
        int rows = rows();
        int margin = drizzler.map(Drizzler::margin).orElse(0);
        float[][] band = new float[placed.size()][];
        for (int first = 0; first < height; first += rows) {
            int from = first;
            int count = Math.min(rows, height - first);
            int bandFrom = Math.max(0, from - margin);
            int bandRows = Math.min(height, from + count + margin) - bandFrom;
            progress.step("stacking rows " + (first + 1) + " to " + (first + count), (double) first / height);
            workers.forEach(placed.size(), i -> band[i] = resampled(placed.get(i), plane, index, bandFrom, bandRows));
            workers.forEach(bandRows, row -> {
                boolean own = bandFrom + row >= from && bandFrom + row < from + count;
                row(band, row, own ? Optional.of(out) : Optional.empty(), bandFrom);
            });
            drizzler.ifPresent(d -> d.fill(
                    plane,
                    index,
                    new Drizzler.Band(band, bandFrom, bandRows),
                    from,
                    count,
                    finer.orElseThrow(),
                    progress));
        }
        return new Plane(out, finer);
    }

    /** How many rows of every sub are in memory at one time: what the stack itself leaves, a part of it for the raw rows being read. */
    private int rows() {
        int planes = placed.get(0).sub().mosaic().isPresent() ? COLOUR_PLANES : 1;
        double finer = settings.drizzle().map(d -> d.scale() * d.scale()).orElse(0.0);
        double stack =
                (double) width * height * Float.BYTES * (planes * (1 + finer) + (settings.maps() ? MAP_PLANES : 0));
        double left = BAND_SHARE * (settings.maxMemoryBytes() - BESIDE - stack);
        return (int) Math.max(FEWEST_ROWS, Math.min(height, left / (width * Float.BYTES * placed.size())));
    }

    /**
     * Rejects and averages a row. Where drops fall afterwards, what was left out is NaN in the band then.
     *
     * @param out empty for a row of another band, which is only looked at here
     */
    private void row(float[][] band, int row, Optional<float[]> out, int from) {
        long[] packed = new long[placed.size()];
        float[] sorted = new float[placed.size()];
        long kept = 0;
        long there = 0;
        for (int x = 0; x < width; x++) {
            int n = 0;
            for (int i = 0; i < band.length; i++) {
                float v = band[i][row * width + x];
                if (!Float.isNaN(v)) {
                    packed[n++] = pack(v, i);
                }
            }
            Arrays.sort(packed, 0, n);
            for (int k = 0; k < n; k++) {
                sorted[k] = value(packed[k]);
            }
            long range = settings.rejection().belonging(sorted, n);
            double sum = 0;
            double weights = 0;
            for (int k = Rejection.low(range); k < Rejection.high(range); k++) {
                double w = placed.get((int) packed[k]).weight();
                sum += w * sorted[k];
                weights += w;
            }
            if (drizzler.isPresent()) {
                for (int k = 0; k < n; k++) {
                    if (k < Rejection.low(range) || k >= Rejection.high(range)) {
                        band[(int) packed[k]][row * width + x] = Float.NaN;
                    }
                }
            }
            if (out.isEmpty()) {
                continue;
            }
            out.get()[(from + row) * width + x] = n == 0 ? Float.NaN : (float) (sum / weights);
            int count = Rejection.high(range) - Rejection.low(range);
            if (maps.isPresent()) {
                maps.get().add((from + row) * width + x, n, n - count, weights);
            }
            kept += count;
            there += n;
        }
        offered.add(there);
        used.add(kept);
    }

    /** A number that sorts as the value does, with the sub's place behind it (IEEE 754: floats sort as their bits, but for the sign). */
    private static long pack(float value, int index) {
        int bits = Float.floatToRawIntBits(value);
        int sortable = bits ^ (bits >> 31 & 0x7fffffff);
        return (long) sortable << 32 | index;
    }

    private static float value(long packed) {
        int sortable = (int) (packed >> 32);
        return Float.intBitsToFloat(sortable ^ (sortable >> 31 & 0x7fffffff));
    }

    /** Share of all values that the rejection left out. */
    double rejectedFraction() {
        return offered.sum() == 0 ? 0 : 1 - (double) used.sum() / offered.sum();
    }

    /** One sub's contribution to a band of the stack; reads just the rows of the sub that fall into it. */
    private float[] resampled(Placed one, Mosaic.Plane plane, int index, int firstRow, int rows) {
        float[] out = aligned(one, plane, firstRow, rows);
        for (int row = 0; row < rows; row++) {
            one.levellings().get(index).apply(out, row * width, firstRow + row + 1);
        }
        return out;
    }

    private float[] aligned(Placed one, Mosaic.Plane plane, int firstRow, int rows) {
        PlaneTransform t = one.transform();
        if (t.equals(PlaneTransform.IDENTITY)) {
            return one.sub().rows(firstRow, rows, plane);
        }
        int sourceWidth = one.sub().source().width();
        int sourceHeight = one.sub().source().height();
        double[] lies = t.rows(1, width, firstRow + 1.0, firstRow + rows);
        float[] out = new float[rows * width];
        int from = (int) Math.max(0, Math.floor(lies[0]) - 1 - Lanczos.REACH);
        int to = (int) Math.min(sourceHeight, Math.ceil(lies[1]) + Lanczos.REACH + 1);
        if (to - from < 2 * Lanczos.REACH) {
            Arrays.fill(out, Float.NaN);
            return out;
        }
        float[] source = one.sub().rows(from, to - from, plane);
        Resampling.band(source, sourceWidth, to - from, from, t, out, width, firstRow, rows);
        return out;
    }
}
