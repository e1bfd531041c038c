package app.ironside.document;

import app.ironside.Check;
import java.time.Duration;
import java.time.LocalTime;
import java.util.Optional;

/**
 * Something that goes wrong in a rehearsal, at a time.
 *
 * @param at local time of the night
 * @param minutes how long; empty for as long as is usual
 * @param strength in what the kind says; empty for what is usual
 */
public record RehearsedFault(FaultKind kind, LocalTime at, Optional<Double> minutes, Optional<Double> strength) {
    public RehearsedFault {
        minutes.ifPresent(m -> Check.inRange("minutes", m, 0, 1440));
        strength.ifPresent(s -> Check.inRange("strength", s, 0, 10_000));
    }

    /** As long and as strong as is usual. */
    public RehearsedFault(FaultKind kind, LocalTime at) {
        this(kind, at, Optional.empty(), Optional.empty());
    }

    /** Zero for what happens in a moment and stays. */
    public Duration lasts() {
        return Duration.ofMillis(Math.round(60_000 * minutes.orElse((double) kind.usualMinutes())));
    }

    public double force() {
        return strength.orElse(kind.usualStrength());
    }
}
