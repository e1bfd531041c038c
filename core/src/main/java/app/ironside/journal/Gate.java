package app.ironside.journal;

import java.util.OptionalDouble;

/**
 * A measured number against its limit.
 *
 * @param measured in {@code unit}; empty if there was nothing to measure, which passes nothing
 * @param limit in {@code unit}
 * @param atMost whether the limit is an upper one
 */
public record Gate(Stage stage, OptionalDouble measured, double limit, String unit, boolean atMost) {
    /** With a number that was measured. */
    public static Gate atMost(Stage stage, double measured, double limit, String unit) {
        return new Gate(stage, OptionalDouble.of(measured), limit, unit, true);
    }

    /** With a number that was measured. */
    public static Gate atLeast(Stage stage, double measured, double limit, String unit) {
        return new Gate(stage, OptionalDouble.of(measured), limit, unit, false);
    }

    public boolean passed() {
        return measured.isPresent() && (atMost ? measured.getAsDouble() <= limit : measured.getAsDouble() >= limit);
    }
}
