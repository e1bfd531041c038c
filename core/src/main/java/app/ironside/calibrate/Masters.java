package app.ironside.calibrate;

import app.ironside.image.Frame;
import java.util.Optional;

/**
 * The masters for a set of lights. A dark of the lights' own exposure holds the bias, so the bias is used only where there is no
 * dark.
 *
 * @param flat 1 in its middle
 */
public record Masters(Optional<MasterPixels> bias, Optional<MasterPixels> dark, Optional<MasterPixels> flat) {
    public static final Masters NONE = new Masters(Optional.empty(), Optional.empty(), Optional.empty());

    /** Masters in memory. */
    public static Masters of(Optional<Frame> bias, Optional<Frame> dark, Optional<Frame> flat) {
        return new Masters(bias.map(MasterPixels::of), dark.map(MasterPixels::of), flat.map(MasterPixels::of));
    }
}
