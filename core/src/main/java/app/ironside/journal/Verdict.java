package app.ironside.journal;

import java.util.Optional;

/**
 * Whether a sub is kept.
 *
 * @param reason in words
 * @param by who gave it by hand; empty for the rule book's own
 */
public record Verdict(boolean keep, String reason, Optional<String> by) {
    /** The rule book's. */
    public Verdict(boolean keep, String reason) {
        this(keep, reason, Optional.empty());
    }

    @Override
    public String toString() {
        return keep ? "kept" + by.map(who -> " by hand").orElse("") : "out: " + reason;
    }
}
