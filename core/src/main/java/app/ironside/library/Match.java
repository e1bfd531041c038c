package app.ironside.library;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * The calibration frames for a set of lights.
 *
 * @param lights whose they are
 * @param darkToScale where no dark has their exposure, one that differs in that alone, with a bias to scale it above
 * @param why a sentence for each kind: which was taken or why none fits
 */
public record Match(
        FrameSet lights,
        Optional<FrameSet> dark,
        Optional<FrameSet> darkToScale,
        Optional<FrameSet> bias,
        Optional<FrameSet> flat,
        Optional<FrameSet> flatDark,
        List<String> why) {
    public Match {
        why = List.copyOf(why);
    }

    /** Exposure of the lights over that of the dark that is to be scaled. */
    public OptionalDouble darkScale() {
        return darkToScale.isEmpty()
                ? OptionalDouble.empty()
                : OptionalDouble.of(lights.exposureS().orElseThrow()
                        / darkToScale.get().exposureS().orElseThrow());
    }
}
