package app.ironside.journal;

import java.time.Instant;
import java.util.List;

/**
 * How the kit stood when it was set down, beside other nights: how far the marks hold on which it is put.
 *
 * @param station where it was seen: the axis at Polar, the first frame at Point
 * @param nowArcmin off, before anything was corrected
 * @param earlierArcmin the same of other nights
 */
public record PlacementCompared(Instant time, String text, Stage station, double nowArcmin, List<Double> earlierArcmin)
        implements NightEvent {
    public PlacementCompared {
        earlierArcmin = List.copyOf(earlierArcmin);
    }
}
