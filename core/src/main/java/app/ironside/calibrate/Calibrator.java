package app.ironside.calibrate;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * Calibrates lights: (light − dark) / flat + pedestal, or with the bias in place of the dark. Nothing is cut off at zero; the
 * pedestal keeps values positive for whoever stores them as integers.
 *
 * @param pedestalAdu added to every pixel and written to the header as PEDESTAL
 */
public record Calibrator(Masters masters, double pedestalAdu) {
    /** A flat darker than this share of its mean is a dead pixel or the edge of the field, not a brightness to divide by. */
    private static final float DARKEST_FLAT = 0.05f;

    public Calibrator {
        Check.inRange("pedestalAdu", pedestalAdu, 0, 65_535);
    }

    /** A pedestal is this many standard deviations of the background high, less what the sky itself gives. */
    private static final double PEDESTAL_SIGMAS = 8;

    /**
     * A calibrator whose pedestal keeps the background of lights like these above zero, by the first of them that holds anything.
     *
     * @throws BadInputException if none has a pixel with a value, or a master has another size
     */
    public static Calibrator withPedestalFor(List<Path> lights, Masters masters) {
        for (Path light : lights) {
            Optional<Calibrator> made = withPedestalFor(FitsFiles.read(light), masters);
            if (made.isPresent()) {
                return made.get();
            }
        }
        throw new BadInputException(lights.get(0).toString(), "has no pixel with a value", "a light");
    }

    /** By one light; empty if it holds no value. */
    static Optional<Calibrator> withPedestalFor(Frame light, Masters masters) {
        float[] sample = Statistics.sample(new Calibrator(masters, 0).calibrated(light), 100_000);
        if (sample.length == 0) {
            return Optional.empty();
        }
        Statistics.Spread sky = Statistics.robust(sample);
        return Optional.of(
                new Calibrator(masters, Math.max(0, Math.ceil(PEDESTAL_SIGMAS * sky.sigma() - sky.centre()))));
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

    private static void mustFit(String name, Optional<Frame> master, int width, int height) {
        master.filter(m -> m.width() != width || m.height() != height).ifPresent(m -> {
            throw new BadInputException(
                    "master " + name,
                    "is " + m.width() + " x " + m.height() + " pixels",
                    width + " x " + height + " like the lights (same camera and binning)");
        });
    }

    /**
     * Calibrates a band of rows in place.
     *
     * @param values {@code rows * width} pixels of a light; overwritten
     * @param firstRow which row of the sensor the band begins with, from 0
     */
    public void apply(float[] values, int width, int firstRow) {
        float[] base = masters.dark().or(masters::bias).map(Frame::pixels).orElse(null);
        float[] flat = masters.flat().map(Frame::pixels).orElse(null);
        int offset = firstRow * width;
        for (int i = 0; i < values.length; i++) {
            float v = base == null ? values[i] : values[i] - base[offset + i];
            if (flat != null) {
                float f = flat[offset + i];
                v = f > DARKEST_FLAT ? v / f : Float.NaN;
            }
            values[i] = (float) (v + pedestalAdu);
        }
    }

    /** A calibrated copy of a light. */
    public Frame calibrated(Frame light) {
        mustFit(light.width(), light.height());
        float[] values = light.pixels().clone();
        apply(values, light.width(), 0);
        Header header = light.header().with("PEDESTAL", pedestalAdu);
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
        if (pedestalAdu > 0) {
            steps.add("added pedestal of " + pedestalAdu + " ADU");
        }
        return steps;
    }
}
