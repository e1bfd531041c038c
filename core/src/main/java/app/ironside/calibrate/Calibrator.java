package app.ironside.calibrate;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.image.FitsBands;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.image.PixelNoise;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Calibrates lights: (light − dark) / flat + pedestal, or with the bias in place of the dark. Nothing is cut off at zero; the
 * pedestal keeps values positive for whoever stores them as integers. Hot and dead pixels, as the masters show them, get the value of
 * their neighbours.
 */
public final class Calibrator {
    /** A flat darker than this share of its mean is a dead pixel or the edge of the field, not a brightness to divide by. */
    private static final float DARKEST_FLAT = 0.05f;

    /** A pedestal is this many standard deviations of the background high, less what the sky itself gives. */
    private static final double PEDESTAL_SIGMAS = 8;

    /** The darkest part of a light is looked for in so many cells along each side. */
    private static final int CELLS = 12;

    private static final double MOST_PEDESTAL = 65_535;

    /** Of masters on the disk so many rows are in memory. */
    private static final int ROWS_AT_A_TIME = 256;

    private final Masters masters;
    private final double pedestalAdu;
    private final BadPixels bad;
    private final boolean mosaic;

    /**
     * @param pedestalAdu added to every pixel, and to PEDESTAL in the header; 0 to 65535
     */
    public Calibrator(Masters masters, double pedestalAdu) {
        this(masters, Check.inRange("pedestalAdu", pedestalAdu, 0, 65_535), BadPixels.of(masters), false);
    }

    private Calibrator(Masters masters, double pedestalAdu, BadPixels bad, boolean mosaic) {
        this.masters = masters;
        this.pedestalAdu = pedestalAdu;
        this.bad = bad;
        this.mosaic = mosaic;
    }

    /** The same for lights whose neighbouring pixels see other colours. */
    public Calibrator forMosaic() {
        return new Calibrator(masters, pedestalAdu, bad, true);
    }

    /** What it calibrates with. */
    public Masters masters() {
        return masters;
    }

    public double pedestalAdu() {
        return pedestalAdu;
    }

    /**
     * A calibrator whose pedestal keeps the background of lights like these above zero: by the first, the middle and the last of them that
     * hold anything.
     *
     * @throws BadInputException if none has a pixel with a value, one has another size than a master, or the background lies so deep that
     *     no pedestal would help; naming the light
     */
    public static Calibrator withPedestalFor(List<Path> lights, Masters masters) {
        Calibrator bare = new Calibrator(masters, 0);
        for (Path light : lights) {
            bare.mustFit(light);
        }
        double pedestal = Double.NaN;
        for (int i = 0; i < lights.size(); i++) {
            boolean asked = i == 0 || i == lights.size() / 2 || i == lights.size() - 1 || Double.isNaN(pedestal);
            OptionalDouble needed = asked ? bare.pedestalFor(FrameFiles.read(lights.get(i))) : OptionalDouble.empty();
            if (needed.isPresent() && needed.getAsDouble() > MOST_PEDESTAL) {
                throw new BadInputException(
                        lights.get(i).toString(),
                        String.format(
                                java.util.Locale.ROOT,
                                "lies %.4g ADU below zero when calibrated",
                                needed.getAsDouble()),
                        "lights whose background is above their masters, in ADU");
            }
            if (needed.isPresent()) {
                pedestal = Double.isNaN(pedestal) ? needed.getAsDouble() : Math.max(pedestal, needed.getAsDouble());
            }
        }
        if (Double.isNaN(pedestal)) {
            throw new BadInputException(lights.get(0).toString(), "has no pixel with a value", "a light");
        }
        return new Calibrator(masters, pedestal, bare.bad, false);
    }

    /** By one light; empty if it holds no value. */
    OptionalDouble pedestalFor(Frame light) {
        Frame calibrated = calibrated(light);
        if (Statistics.sample(calibrated, 1000).length == 0
                && Statistics.sample(calibrated, Integer.MAX_VALUE).length == 0) {
            return OptionalDouble.empty();
        }
        double deepest = PEDESTAL_SIGMAS * PixelNoise.of(calibrated, true) - darkest(calibrated);
        return OptionalDouble.of(Math.max(0, Math.ceil(deepest)));
    }

    /** The lowest median of a cell and colour. */
    private static double darkest(Frame frame) {
        double lowest = Double.POSITIVE_INFINITY;
        int cellWidth = Math.max(2, frame.width() / CELLS);
        int cellHeight = Math.max(2, frame.height() / CELLS);
        for (int top = 0; top < frame.height(); top += cellHeight) {
            for (int left = 0; left < frame.width(); left += cellWidth) {
                for (int phase = 0; phase < 4; phase++) {
                    float[] values = cell(frame, left + phase % 2, top + phase / 2, cellWidth, cellHeight);
                    lowest = values.length == 0 ? lowest : Math.min(lowest, Statistics.median(values));
                }
            }
        }
        return Double.isInfinite(lowest) ? 0 : lowest;
    }

    private static float[] cell(Frame frame, int left, int top, int width, int height) {
        float[] values = new float[(width / 2 + 1) * (height / 2 + 1)];
        int n = 0;
        for (int y = top; y < Math.min(frame.height(), top + height); y += 2) {
            for (int x = left; x < Math.min(frame.width(), left + width); x += 2) {
                float v = frame.pixels()[y * frame.width() + x];
                if (Float.isFinite(v) && n < values.length) {
                    values[n++] = v;
                }
            }
        }
        return Arrays.copyOf(values, n);
    }

    /**
     * Checks that the masters fit lights of a size.
     *
     * @throws BadInputException naming the master that does not
     */
    public void mustFit(int width, int height) {
        mustFit("bias", masters.bias(), width, height);
        mustFit("dark", masters.dark(), width, height);
        mustFit("flat", masters.flat(), width, height);
    }

    private void mustFit(Path light) {
        int width;
        int height;
        try (FitsBands bands = FitsBands.open(light)) {
            width = bands.width();
            height = bands.height();
        }
        try {
            mustFit(width, height);
        } catch (BadInputException e) {
            throw e.in(light.toString());
        }
    }

    private static void mustFit(String name, Optional<MasterPixels> master, int width, int height) {
        master.ifPresent(m -> mustFit(name, m, width, height));
    }

    /**
     * Checks that a master fits lights of a size.
     *
     * @param name bias, dark or flat
     * @throws BadInputException naming it if it does not
     */
    public static void mustFit(String name, MasterPixels master, int width, int height) {
        if (master.width() != width || master.height() != height) {
            throw new BadInputException(
                    "master " + name,
                    "is " + master.width() + " x " + master.height() + " pixels",
                    width + " x " + height + " like the light (same camera and binning)");
        }
    }

    /**
     * Calibrates a band of rows in place.
     *
     * @param values {@code rows * width} pixels of a light; overwritten
     * @param firstRow which row of the sensor the band begins with, from 0
     */
    public void apply(float[] values, int width, int firstRow) {
        int rows = values.length / width;
        Optional<MasterPixels.Rows> base = masters.dark().or(masters::bias).map(MasterPixels::open);
        Optional<MasterPixels.Rows> flat = masters.flat().map(MasterPixels::open);
        try {
            for (int row = 0; row < rows; row += ROWS_AT_A_TIME) {
                int count = Math.min(ROWS_AT_A_TIME, rows - row);
                band(values, width, row, count, firstRow + row, base, flat);
            }
        } finally {
            base.ifPresent(MasterPixels.Rows::close);
            flat.ifPresent(MasterPixels.Rows::close);
        }
        bad.repair(values, firstRow, mosaic);
    }

    private void band(
            float[] values,
            int width,
            int row,
            int rows,
            int sensorRow,
            Optional<MasterPixels.Rows> base,
            Optional<MasterPixels.Rows> flat) {
        float[] b = base.map(m -> m.values(sensorRow, rows)).orElse(null);
        float[] f = flat.map(m -> m.values(sensorRow, rows)).orElse(null);
        int atBase = base.map(m -> m.offset(sensorRow)).orElse(0);
        int atFlat = flat.map(m -> m.offset(sensorRow)).orElse(0);
        int first = row * width;
        for (int i = 0; i < rows * width; i++) {
            float v = b == null ? values[first + i] : values[first + i] - b[atBase + i];
            if (f != null) {
                float share = f[atFlat + i];
                v = share > DARKEST_FLAT ? v / share : Float.NaN;
            }
            values[first + i] = (float) (v + pedestalAdu);
        }
    }

    /** A calibrated copy of a light. */
    public Frame calibrated(Frame light) {
        mustFit(light.width(), light.height());
        float[] values = light.pixels().clone();
        boolean colours = Mosaic.of(light.header()).isPresent();
        (colours ? forMosaic() : this).apply(values, light.width(), 0);
        Header header = light.header()
                .with("PEDESTAL", light.header().number("PEDESTAL").orElse(0) + pedestalAdu);
        for (String step : steps()) {
            header = header.withHistory(step);
        }
        return new Frame(light.width(), light.height(), values, header);
    }

    /** What it does, a line a step, for HISTORY. */
    public java.util.List<String> steps() {
        java.util.List<String> steps = new java.util.ArrayList<>();
        masters.dark()
                .ifPresentOrElse(
                        d -> steps.add("subtracted master dark of "
                                + d.header().text("NCOMBINE").orElse("?") + " frames"),
                        () -> masters.bias()
                                .ifPresent(b -> steps.add("subtracted master bias of "
                                        + b.header().text("NCOMBINE").orElse("?") + " frames")));
        masters.flat()
                .ifPresent(f -> steps.add("divided by master flat of "
                        + f.header().text("NCOMBINE").orElse("?") + " frames"));
        if (bad.count() > 0) {
            steps.add("repaired " + bad.count() + " hot and dead pixels of the masters from their neighbours");
        }
        if (pedestalAdu > 0) {
            steps.add("added pedestal of " + pedestalAdu + " ADU");
        }
        return steps;
    }
}
