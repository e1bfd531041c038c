package app.ironside.star;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;

/**
 * What a night measures its frames with. Usually that is done on the pixels; a rehearsal may leave them out and know what measuring them
 * would have given.
 */
public interface FrameGauge {
    /** So many pixels tell a side's level to a hundredth of their noise. */
    int SAMPLES = 10_000;

    /** Measures pixels. */
    static FrameGauge ofPixels(Workers workers) {
        return new FrameGauge() {
            @Override
            public StarSearch search(DetectSettings settings) {
                return new StarFinder(settings, workers);
            }

            @Override
            public Statistics.Spread level(Frame frame) {
                return Statistics.robust(Statistics.sample(frame, 20_000));
            }

            @Override
            public double slopeAdu(Frame frame) {
                double across = third(frame, 2, true) - third(frame, 0, true);
                double up = third(frame, 2, false) - third(frame, 0, false);
                return Math.hypot(across, up);
            }

            private double third(Frame frame, int which, boolean across) {
                int left = across ? which * frame.width() / 3 : 0;
                int bottom = across ? 0 : which * frame.height() / 3;
                int right = across ? (which + 1) * frame.width() / 3 : frame.width();
                int top = across ? frame.height() : (which + 1) * frame.height() / 3;
                int step = Math.max(1, (int) Math.sqrt((right - left) * (double) (top - bottom) / SAMPLES));
                int rows = Math.max(0, (top - bottom + step - 1) / step);
                int columns = Math.max(0, (right - left + step - 1) / step);
                float[] values = new float[rows * columns];
                for (int i = 0; i < values.length; i++) {
                    int x = left + i % columns * step;
                    int y = bottom + i / columns * step;
                    values[i] = frame.pixels()[y * frame.width() + x];
                }
                return values.length == 0 ? 0 : Statistics.median(values);
            }
        };
    }

    /** A search for stars. */
    StarSearch search(DetectSettings settings);

    /** Median of a frame's pixels, ADU, and how far they spread about it. */
    Statistics.Spread level(Frame frame);

    /**
     * By how much the background is brighter on one side of a frame than on the other, ADU: between the medians of its outer thirds, across and
     * up added in squares.
     */
    double slopeAdu(Frame frame);
}
