package app.ironside.journal;

/**
 * Whether a sub is kept.
 *
 * @param reason in words
 */
public record Verdict(boolean keep, String reason) {
    @Override
    public String toString() {
        return keep ? "kept" : "out: " + reason;
    }
}
