package app.ironside.kit;

import app.ironside.Check;
import java.util.Optional;

/**
 * How a camera is set, in its own numbers; what is empty stays as it is.
 *
 * @param gain its gain setting
 * @param offset its offset setting, which is not the level of an unexposed pixel but what makes it
 * @param readoutMode a name that the camera knows
 */
public record CameraSettings(Optional<Integer> gain, Optional<Integer> offset, Optional<String> readoutMode) {
    /** Everything stays as it is. */
    public static final CameraSettings AS_IT_IS =
            new CameraSettings(Optional.empty(), Optional.empty(), Optional.empty());

    public CameraSettings {
        gain.ifPresent(g -> Check.inRange("gain", g, 0, 100_000));
        offset.ifPresent(o -> Check.inRange("offset", o, 0, 100_000));
        readoutMode.ifPresent(m -> Check.name("readoutMode", m));
    }

    public CameraSettings withGain(int other) {
        return new CameraSettings(Optional.of(other), offset, readoutMode);
    }

    /** In words; empty if nothing is set. */
    public String words() {
        StringBuilder words = new StringBuilder();
        gain.ifPresent(g -> words.append("gain ").append(g));
        offset.ifPresent(
                o -> words.append(words.isEmpty() ? "" : ", ").append("offset ").append(o));
        readoutMode.ifPresent(m ->
                words.append(words.isEmpty() ? "" : ", ").append("read-out ").append(m));
        return words.toString();
    }
}
