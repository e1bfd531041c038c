package app.ironside.library;

import java.util.List;
import java.util.Optional;

/**
 * The calibration frames for a set of lights.
 *
 * @param lights whose they are
 * @param why a sentence for each kind: which was taken or why none fits
 */
public record Match(
        FrameSet lights,
        Optional<FrameSet> dark,
        Optional<FrameSet> bias,
        Optional<FrameSet> flat,
        Optional<FrameSet> flatDark,
        List<String> why) {
    public Match {
        why = List.copyOf(why);
    }
}
