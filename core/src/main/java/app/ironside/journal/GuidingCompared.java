package app.ironside.journal;

import app.ironside.guide.GuideComparison;
import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.List;

/**
 * Two ways of guiding were tried in turns at one place in the sky: as it was, changed, as it was, changed.
 *
 * @param what was changed, in words
 * @param before the runs as it was
 * @param after the runs with the change
 * @param rmsRatio of the changed over the other, both axes together
 * @param low95 of its confidence interval of 95 %
 * @param verdict of the change
 * @param minutesForTenPercent that each side would have to last for a difference of a tenth to show, by how these runs scattered
 */
public record GuidingCompared(
        Instant time,
        String text,
        String what,
        List<Interval> before,
        List<Interval> after,
        double rmsRatio,
        double low95,
        double high95,
        double pValue,
        GuideComparison.Verdict verdict,
        double minutesForTenPercent)
        implements NightEvent {
    public GuidingCompared {
        before = List.copyOf(before);
        after = List.copyOf(after);
    }

    @Override
    public Stage station() {
        return Stage.GUIDE;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
