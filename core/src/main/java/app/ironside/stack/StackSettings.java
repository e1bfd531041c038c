package app.ironside.stack;

import app.ironside.Check;

/**
 * How to stack.
 *
 * @param keepAll keep soft and trailed subs too
 * @param maxMemoryBytes for pixels of the subs at one time
 */
public record StackSettings(Rejection rejection, boolean keepAll, long maxMemoryBytes) {
    public static final StackSettings DEFAULT = new StackSettings(Rejection.WINSORIZED, false, 600L << 20);

    public StackSettings {
        Check.inRange("maxMemoryBytes", maxMemoryBytes, 1 << 20, Long.MAX_VALUE);
    }
}
