package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.FilterSpec;
import app.ironside.sky.Equatorial;
import java.util.List;

/**
 * A picture that is gathered over one night or several.
 *
 * @param priority what an effective hour of it is worth compared with the others
 * @param goals what is still wanted, by filter
 */
public record Project(String name, Equatorial position, double priority, List<Goal> goals) {
    public Project {
        Check.positive("priority of " + name, priority);
        goals = List.copyOf(goals);
        Check.atLeast("goals of " + name, goals.size(), 1);
    }

    /**
     * What is wanted in one filter.
     *
     * @param subsLeft still wanted; a large number for "as many as fit"
     * @param subSeconds length of a sub
     * @param moonLimitMag the filter is used while the Moon brightens the sky at the target by no more than this, magnitudes per square
     *     arcsecond (common practice: broad light only without the Moon, narrow filters under a half Moon)
     * @param light the sky and the camera's own noise behind the filter
     */
    public record Goal(FilterSpec filter, int subsLeft, double subSeconds, double moonLimitMag, NightGrid.Light light) {
        /** As many subs as fit. */
        public static final int ENDLESS = 1_000_000;

        public Goal {
            Check.atLeast("subsLeft in " + filter.name(), subsLeft, 0);
            Check.inRange("subSeconds in " + filter.name(), subSeconds, 0.1, 3600);
            Check.inRange("moonLimitMag", moonLimitMag, 0, 20);
        }
    }

    int subsLeft() {
        return (int)
                Math.min(Goal.ENDLESS, goals.stream().mapToLong(Goal::subsLeft).sum());
    }

    /** Seconds of light still wanted. */
    double secondsLeft() {
        return goals.stream().mapToDouble(g -> g.subsLeft() * g.subSeconds()).sum();
    }

    /** The mean length of a sub while filters take turns, seconds. */
    double meanSubSeconds() {
        return goals.stream()
                .filter(g -> g.subsLeft() > 0)
                .mapToDouble(Goal::subSeconds)
                .average()
                .orElse(goals.get(0).subSeconds());
    }

    /** The longest sub, which must not run into the meridian's limit, seconds. */
    double longestSubSeconds() {
        return goals.stream().mapToDouble(Goal::subSeconds).max().orElseThrow();
    }
}
