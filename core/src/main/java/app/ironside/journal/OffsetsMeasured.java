package app.ironside.journal;

import app.ironside.focus.FilterOffsets;
import java.time.Instant;
import java.util.List;

/**
 * The filters' focus was measured against one of them, drift while measuring taken out.
 *
 * @param reference the filter that the others are counted from
 * @param zoneSteps half the critical zone, steps
 * @param drift of focus while it was measured, steps an hour
 */
public record OffsetsMeasured(
        Instant time, String text, String reference, double zoneSteps, double drift, List<FilterOffsets.Offset> offsets)
        implements NightEvent {
    public OffsetsMeasured {
        offsets = List.copyOf(offsets);
    }

    @Override
    public Stage station() {
        return Stage.FOCUS;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
