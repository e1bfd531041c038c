package app.ironside.plan;

import app.ironside.kit.FilterSpec;
import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * The night's assignment of time to targets and filters.
 *
 * @param blocks in order of time, without overlap
 * @param value effective hours times priority, overheads taken off
 * @param ideal the same if every piece went to whoever it is worth most to and nothing cost any time: never reached
 */
public record Schedule(List<Block> blocks, double value, double ideal) {
    public Schedule {
        blocks = List.copyOf(blocks);
    }

    /**
     * One target's stretch.
     *
     * @param flip when the telescope changes sides, if that falls inside
     * @param runs subs by filter in the order they are taken
     * @param value what the stretch adds
     * @param why in a sentence
     * @param alternative what the night would be without this choice
     */
    public record Block(
            Project project,
            Interval span,
            Optional<Instant> flip,
            List<Run> runs,
            double value,
            String why,
            Optional<Alternative> alternative) {
        public Block {
            runs = List.copyOf(runs);
        }

        public int subs() {
            return runs.stream().mapToInt(Run::subs).sum();
        }
    }

    /** So many subs in a row in one filter. */
    public record Run(FilterSpec filter, int subs) {}

    /**
     * The best night in which this stretch of this target is not taken.
     *
     * @param instead who would have most of its time; empty if it would stay unused
     * @param loss how much less the night would be worth
     */
    public record Alternative(Optional<String> instead, double loss) {}

    public int subs() {
        return blocks.stream().mapToInt(Block::subs).sum();
    }

    public int flips() {
        return (int) blocks.stream().filter(b -> b.flip().isPresent()).count();
    }
}
