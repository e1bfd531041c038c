package app.ironside.stack;

import app.ironside.Check;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;

/**
 * How to stack.
 *
 * @param keepAll keep every sub with stars of the field
 * @param byHand subs that a person keeps or leaves out, whatever the rule book says
 * @param maxMemoryBytes for the stack and the pixels of its subs at one time
 * @param maps whether it is told of every pixel what it is made of
 * @param drizzle by drops onto a finer grid; empty for interpolation
 */
public record StackSettings(
        Rejection rejection,
        boolean keepAll,
        Map<Path, Boolean> byHand,
        long maxMemoryBytes,
        boolean maps,
        Optional<Drizzle> drizzle) {
    /** What is taken where nobody says otherwise: more makes nothing faster. */
    public static final long USUAL_MEMORY_BYTES =
            Math.min(1200L << 20, Runtime.getRuntime().maxMemory());

    public static final StackSettings DEFAULT = new StackSettings(Rejection.WINSORIZED, false, USUAL_MEMORY_BYTES);

    public StackSettings {
        byHand = Map.copyOf(byHand);
        Check.inRange("maxMemoryBytes", maxMemoryBytes, 1 << 20, Long.MAX_VALUE);
    }

    /** With nothing marked by hand. */
    public StackSettings(Rejection rejection, boolean keepAll, long maxMemoryBytes) {
        this(rejection, keepAll, Map.of(), maxMemoryBytes, false, Optional.empty());
    }

    public StackSettings withMaps(boolean wanted) {
        return new StackSettings(rejection, keepAll, byHand, maxMemoryBytes, wanted, drizzle);
    }

    public StackSettings withDrizzle(Optional<Drizzle> how) {
        return new StackSettings(rejection, keepAll, byHand, maxMemoryBytes, maps, how);
    }
}
