package app.ironside.star;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;

/**
 * What a night measures its frames with. Usually that is done on the pixels; a rehearsal may leave them out and know what measuring them
 * would have given.
 */
public interface FrameGauge {
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
        };
    }

    /** A search for stars. */
    StarSearch search(DetectSettings settings);

    /** Median of a frame's pixels, ADU, and how far they spread about it. */
    Statistics.Spread level(Frame frame);
}
