package app.ironside.judge;

import app.ironside.image.Statistics;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What the Moon cost a series of subs: those taken while it was up against those taken without it, each by its own light and noise.
 *
 * @param moonlit subs under the Moon
 * @param dark subs without it
 * @param worth of a moonlit sub over a dark one: light squared over noise squared, medians
 * @param weighted what the moonlit subs add to the depth of the dark ones, as a share, when each sub counts by its worth
 * @param alike the same when all count alike; below 0 they take depth away
 */
public record MoonCost(int moonlit, int dark, double worth, double weighted, double alike) {
    /** From fewer nothing is said. */
    private static final int ENOUGH = 3;

    /**
     * Of subs that are kept, all of one series.
     *
     * @return empty where fewer than three were taken with or without the Moon, or the place is not known
     */
    public static Optional<MoonCost> of(List<SubLook> series) {
        List<SubLook> lit = series.stream()
                .filter(s -> s.moonAltitudeDeg().orElse(0) > 0 && s.light().isPresent())
                .toList();
        List<SubLook> dark = series.stream()
                .filter(s -> s.moonAltitudeDeg().orElse(0) < 0 && s.light().isPresent())
                .toList();
        if (lit.size() < ENOUGH || dark.size() < ENOUGH) {
            return Optional.empty();
        }
        double worth = median(lit) / median(dark);
        double ofDark = dark.stream().mapToDouble(MoonCost::worth).sum();
        double ofLit = lit.stream().mapToDouble(MoonCost::worth).sum();
        return Optional.of(new MoonCost(
                lit.size(),
                dark.size(),
                worth,
                Math.sqrt((ofDark + ofLit) / ofDark) - 1,
                plain(dark, lit) / plain(dark, List.of()) - 1));
    }

    private static double median(List<SubLook> subs) {
        return Statistics.median(subs.stream().mapToDouble(MoonCost::worth).toArray());
    }

    private static double worth(SubLook sub) {
        return Math.pow(sub.light().orElseThrow() / Math.max(1e-9, sub.noiseAdu()), 2);
    }

    /** Signal over noise of a plain mean. */
    private static double plain(List<SubLook> some, List<SubLook> others) {
        double light = 0;
        double squares = 0;
        for (List<SubLook> subs : List.of(some, others)) {
            for (SubLook sub : subs) {
                light += sub.light().orElseThrow();
                squares += sub.noiseAdu() * sub.noiseAdu();
            }
        }
        return light / Math.sqrt(Math.max(1e-12, squares));
    }

    /** In a sentence. */
    public String words() {
        return String.format(
                Locale.ROOT,
                "A sub under the Moon is worth %.2f of one without it (%d against %d). Weighted they add %.1f %% to the depth; %s",
                worth,
                moonlit,
                dark,
                100 * weighted,
                alike < 0
                        ? String.format(
                                Locale.ROOT,
                                "counted all alike they would take %.1f %% from it, and are better left out.",
                                -100 * alike)
                        : String.format(Locale.ROOT, "counted all alike %.1f %%.", 100 * alike));
    }
}
