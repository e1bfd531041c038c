package app.ironside.night;

/**
 * A measured number against its limit.
 *
 * @param measured in {@code unit}
 * @param limit in {@code unit}
 * @param atMost whether the limit is an upper one
 * @param text the verdict in one sentence
 */
public record Gate(Stage stage, double measured, double limit, String unit, boolean atMost, String text) {
    public boolean passed() {
        return atMost ? measured <= limit : measured >= limit;
    }
}
