package app.ironside.journal;

import java.util.Optional;

/**
 * Whether a sub is kept.
 *
 * @param reason in words
 * @param by who gave it by hand; empty for the rule book's own
 * @param cause what lowers the sub most, in the rule book's word; empty where an older journal does not tell it
 */
public record Verdict(boolean keep, String reason, Optional<String> by, Optional<String> cause) {
    public static final String BY_HAND = "by-hand";

    /** Given by a person. */
    public static Verdict byHand(boolean keep, String reason, String who) {
        return new Verdict(keep, reason, Optional.of(who), Optional.of(BY_HAND));
    }

    /** The rule book's, with its word for what lowers the sub most. */
    public Verdict(boolean keep, String reason, String cause) {
        this(keep, reason, Optional.empty(), Optional.of(cause));
    }

    /** The rule book's. */
    public Verdict(boolean keep, String reason) {
        this(keep, reason, Optional.empty(), Optional.empty());
    }

    @Override
    public String toString() {
        return keep ? "kept" + by.map(who -> " by hand").orElse("") : "out: " + reason;
    }
}
