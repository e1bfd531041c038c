package app.ironside.plan;

import app.ironside.kit.Kit;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * What a remote shutter, or any camera that counts by itself, is set to for one filter without a pause: so many frames of one length with one gap.
 * None of its frames lies over the flip.
 *
 * @param gapSeconds between two frames: the read-out, in whole seconds and one more
 */
public record ShutterRun(
        String target, String filter, Instant from, int frames, double seconds, int gapSeconds, boolean afterFlip) {
    /** From pointing to the first frame, as long as a whole start takes. */
    private static final Duration START = Duration.ofMinutes(5);

    /** When its last frame ends. */
    public Instant until() {
        return from.plusMillis(Math.round(1000 * (frames * seconds + (frames - 1.0) * gapSeconds)));
    }

    /** Of a plan, in time. */
    public static List<ShutterRun> of(NightPlan plan, Kit kit) {
        int gap = (int) Math.ceil(kit.sensor().readoutSeconds()) + 1;
        List<ShutterRun> runs = new ArrayList<>();
        for (PlannedBlock block : plan.blocks()) {
            Instant at = block.span().from().plus(START);
            boolean flipped = block.flip().isEmpty();
            for (Map.Entry<String, Integer> filter : block.byFilter().entrySet()) {
                double seconds = block.target().goals().stream()
                        .filter(g -> g.filter().equals(filter.getKey()))
                        .mapToDouble(FilterGoal::subSeconds)
                        .findFirst()
                        .orElse(block.target().longestSubSeconds());
                int left = filter.getValue();
                if (!flipped) {
                    int before = Math.min(left, fit(at, block.flip().get(), seconds, gap));
                    at = add(runs, block, filter.getKey(), at, before, seconds, gap, false);
                    left -= before;
                    if (left > 0) {
                        at = block.flip().get().plus(START);
                        flipped = true;
                    }
                }
                int rest = Math.min(left, fit(at, block.span().until(), seconds, gap));
                at = add(
                        runs,
                        block,
                        filter.getKey(),
                        at,
                        rest,
                        seconds,
                        gap,
                        block.flip().isPresent() && flipped);
            }
        }
        return runs;
    }

    private static int fit(Instant from, Instant until, double seconds, int gap) {
        double room = Duration.between(from, until).toMillis() / 1000.0;
        return (int) Math.max(0, Math.floor((room + gap) / (seconds + gap)));
    }

    private static Instant add(
            List<ShutterRun> runs,
            PlannedBlock block,
            String filter,
            Instant at,
            int frames,
            double seconds,
            int gap,
            boolean afterFlip) {
        if (frames == 0) {
            return at;
        }
        ShutterRun run = new ShutterRun(block.target().name(), filter, at, frames, seconds, gap, afterFlip);
        runs.add(run);
        return run.until().plusSeconds(gap);
    }
}
