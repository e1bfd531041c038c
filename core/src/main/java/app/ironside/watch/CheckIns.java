package app.ironside.watch;

import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * When somebody who sleeps should look: after the first hour and a half (common practice), at each flip and each new target, and at the end. What
 * needs nobody is not looked at.
 */
public final class CheckIns {
    private static final Duration FIRST_LOOK = Duration.ofMinutes(90);
    private static final Duration BEFORE_FLIP = Duration.ofMinutes(5);
    private static final Duration INTO_TARGET = Duration.ofMinutes(10);

    /** Looks that come so close are one. */
    private static final Duration ONE_LOOK = Duration.ofMinutes(25);

    private CheckIns() {}

    /** A time to look, with the reason. */
    public record CheckIn(Instant time, String why) {}

    /** All that are still to come, in time. */
    public static List<CheckIn> of(NightPlan plan, NightState night, Instant now) {
        List<CheckIn> all = new ArrayList<>();
        Optional<Instant> firstLight =
                night.subs().stream().findFirst().map(SubTaken::exposed).map(e -> e.from());
        Instant begins = firstLight.orElseGet(() ->
                plan.blocks().stream().findFirst().map(b -> b.span().from()).orElse(now));
        all.add(new CheckIn(begins.plus(FIRST_LOOK), "1½ h of light"));
        for (int i = 0; i < plan.blocks().size(); i++) {
            PlannedBlock block = plan.blocks().get(i);
            block.flip().ifPresent(f -> all.add(new CheckIn(f.minus(BEFORE_FLIP), "before the flip")));
            if (i > 0) {
                all.add(new CheckIn(
                        block.span().from().plus(INTO_TARGET),
                        "first subs of " + block.target().name()));
            }
        }
        plan.blocks().stream()
                .map(b -> b.span().until())
                .max(Comparator.naturalOrder())
                .ifPresent(end -> all.add(new CheckIn(end, "the lights are over")));
        List<CheckIn> sorted = all.stream()
                .filter(c -> c.time().isAfter(now))
                .sorted(Comparator.comparing(CheckIn::time))
                .toList();
        return merged(sorted);
    }

    private static List<CheckIn> merged(List<CheckIn> sorted) {
        List<CheckIn> looks = new ArrayList<>();
        for (CheckIn next : sorted) {
            CheckIn last = looks.isEmpty() ? null : looks.get(looks.size() - 1);
            boolean same =
                    last != null && Duration.between(last.time(), next.time()).compareTo(ONE_LOOK) <= 0;
            if (same && next.why().startsWith("before the flip")) {
                // A flip waits for nobody.
                looks.set(looks.size() - 1, next);
            } else if (!same) {
                looks.add(next);
            }
        }
        return looks;
    }
}
