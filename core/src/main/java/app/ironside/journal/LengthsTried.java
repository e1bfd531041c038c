package app.ironside.journal;

import app.ironside.star.SubLimits;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Subs of rising length, taken one after the other to see how long stars stay round. They are not kept.
 *
 * @param rungs the shortest first
 */
public record LengthsTried(Instant time, String text, String target, String filter, List<Rung> rungs)
        implements NightEvent {
    /** A star wider than this share of the shortest sub's has been smeared by what guides or tracks. */
    private static final double WIDER = 1.15;

    public LengthsTried {
        rungs = List.copyOf(rungs);
    }

    /**
     * One length.
     *
     * @param stars that were found
     * @param fwhmPx empty without stars
     * @param eccentricity empty without stars
     * @param readCost share by which reading raises the background's noise at this length
     */
    public record Rung(
            double seconds, int stars, OptionalDouble fwhmPx, OptionalDouble eccentricity, double readCost) {}

    /** Whether the stars of a length are as those of the shortest. */
    public static boolean isRound(List<Rung> rungs, Rung rung) {
        OptionalDouble first = rungs.get(0).fwhmPx();
        return rung.eccentricity().isPresent()
                && rung.eccentricity().getAsDouble() <= SubLimits.TRAILED_ECCENTRICITY
                && (first.isEmpty() || rung.fwhmPx().orElse(0) <= WIDER * first.getAsDouble());
    }

    /** The longest up to which every length is round; empty if not even the shortest is. */
    public static Optional<Rung> longestRound(List<Rung> rungs) {
        Optional<Rung> longest = Optional.empty();
        for (Rung rung : rungs) {
            if (!isRound(rungs, rung)) {
                return longest;
            }
            longest = Optional.of(rung);
        }
        return longest;
    }

    /** What was found, in a sentence. */
    public static String sentence(List<Rung> rungs) {
        Optional<Rung> longest = longestRound(rungs);
        if (longest.isEmpty()) {
            return rungs.get(0).stars() == 0
                    ? "No stars at any of these lengths."
                    : text(
                            "Not even %.0f s are round: look at the mount before the length.",
                            rungs.get(0).seconds());
        }
        String cost = text(
                ", where reading raises the noise by %.1f %%",
                100 * longest.get().readCost());
        int next = rungs.indexOf(longest.get()) + 1;
        if (next == rungs.size()) {
            return text("All are round, to %.0f s", longest.get().seconds()) + cost + ".";
        }
        Rung long1 = rungs.get(next);
        return text("Round to %.0f s", longest.get().seconds())
                + cost
                + (long1.eccentricity().isPresent()
                        ? text(
                                "; at %.0f s stars are %.2f px wide, eccentricity %.2f.",
                                long1.seconds(),
                                long1.fwhmPx().orElse(0),
                                long1.eccentricity().getAsDouble())
                        : text("; at %.0f s no stars were found.", long1.seconds()));
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
