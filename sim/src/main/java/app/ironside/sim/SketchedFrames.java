package app.ironside.sim;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.kit.Kit;
import app.ironside.star.DetectSettings;
import app.ironside.star.FrameGauge;
import app.ironside.star.StarSearch;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Frames without pixels. What falls on the sensor is kept beside the frame, and what measuring the pixels would give is worked out from
 * it when it is asked for: which stars stand out, where, how large, how bright, with the errors that noise makes.
 *
 * <p>Left out: structure of galaxies, hot pixels, dust, trails, cosmic rays, and that the pixels of a camera draw the
 * centre of a star that is narrower than one of them to their middle; stars too close to be told apart are one.
 */
final class SketchedFrames {
    /** By which a frame finds what belongs to it. */
    private static final String KEYWORD = "SKETCH";

    private static final int KEPT = 32;

    private final Map<Long, Sketch> sketches = new LinkedHashMap<>() {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, Sketch> eldest) {
            return size() > KEPT;
        }
    };

    /** One picture of nothing for each size, shared by all frames of that size. */
    private final Map<Integer, float[]> blanks = new HashMap<>();

    private long last;

    /** A frame's own truth. */
    record Sketch(Camera camera, FrameMaker.Shot shot) {}

    /**
     * What forms the pictures of a camera.
     *
     * @param curvatureUm by which the field's corner is out of focus when its middle is in
     */
    record Camera(Kit kit, SkyPatch patch, double curvatureUm) {}

    /** What makes a camera's frames. */
    FrameMaker of(Camera camera) {
        return shot -> {
            int width = shot.window().width() / shot.binning();
            int height = shot.window().height() / shot.binning();
            sketches.put(++last, new Sketch(camera, shot));
            Header header = shot.header().with(KEYWORD, last);
            return new Frame(width, height, blanks.computeIfAbsent(width * height, float[]::new), header);
        };
    }

    /** What such frames are measured with. */
    FrameGauge gauge() {
        return new FrameGauge() {
            @Override
            public StarSearch search(DetectSettings settings) {
                return frame -> measured(frame).field(settings);
            }

            @Override
            public Statistics.Spread level(Frame frame) {
                SketchMeasure m = measured(frame);
                return new Statistics.Spread(m.level(), m.noise(), frame.width() * frame.height());
            }

            @Override
            public double slopeAdu(Frame frame) {
                return measured(frame).slopeAdu();
            }
        };
    }

    private SketchMeasure measured(Frame frame) {
        Sketch sketch = Optional.ofNullable(
                        sketches.get((long) frame.header().number(KEYWORD).orElse(-1)))
                .orElseThrow(() -> new IllegalArgumentException(
                        "the frame is not one of the last " + KEPT + " that were sketched"));
        return new SketchMeasure(frame, sketch);
    }
}
