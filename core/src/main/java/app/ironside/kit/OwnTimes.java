package app.ironside.kit;

import app.ironside.Check;
import java.util.Optional;

/**
 * What a kit's own nights showed that things take besides light, seconds; what is empty is reckoned as usual.
 *
 * @param ditherSeconds until guiding has settled after a shift
 * @param focusRunSeconds a focus run between subs, guiding begun anew after it
 * @param flipSeconds a meridian flip, from sub to sub
 */
public record OwnTimes(Optional<Double> ditherSeconds, Optional<Double> focusRunSeconds, Optional<Double> flipSeconds) {
    /** Nothing is known of it. */
    public static final OwnTimes UNKNOWN = new OwnTimes(Optional.empty(), Optional.empty(), Optional.empty());

    private static final double LONGEST_SECONDS = 3600;

    public OwnTimes {
        ditherSeconds.ifPresent(s -> Check.inRange("ditherSeconds", s, 0, LONGEST_SECONDS));
        focusRunSeconds.ifPresent(s -> Check.inRange("focusRunSeconds", s, 0, LONGEST_SECONDS));
        flipSeconds.ifPresent(s -> Check.inRange("flipSeconds", s, 0, LONGEST_SECONDS));
    }
}
