package app.ironside.plan;

import app.ironside.sky.NightTimes;
import java.util.List;

/** What the program makes of the night. */
public record NightPlan(NightTimes times, List<PlannedBlock> blocks) {
    public NightPlan {
        blocks = List.copyOf(blocks);
    }

    public int subs() {
        return blocks.stream().mapToInt(PlannedBlock::subs).sum();
    }
}
