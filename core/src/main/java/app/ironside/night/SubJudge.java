package app.ironside.night;

import app.ironside.star.StarField;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/** Judges each sub by its stars against the first good one in the same filter and frame size. */
final class SubJudge {
    private static final double SOFT_FACTOR = 1.45;
    private static final double TRAILED_ECCENTRICITY = 0.8;
    private static final double FEW_STARS_SHARE = 0.5;
    private static final double BRIGHT_FACTOR = 3;
    private static final int FEWEST_STARS = 8;

    /** What was measured and what follows. */
    record Verdict(boolean keep, String reason) {}

    private record Reference(double hfrPx, int stars, double skyAdu) {}

    private final double offsetAdu;
    private final Map<String, Reference> references = new HashMap<>();

    /**
     * @param offsetAdu level of an unexposed pixel
     */
    SubJudge(double offsetAdu) {
        this.offsetAdu = offsetAdu;
    }

    /**
     * @param set what subs are comparable: target, filter, frame size
     */
    Verdict judge(String set, StarField field) {
        if (field.stars().size() < FEWEST_STARS) {
            return new Verdict(false, "only " + field.stars().size() + " stars: cloud, cap or focus");
        }
        double hfr = field.medianHalfFluxRadiusPx().orElseThrow();
        double eccentricity = field.medianEccentricity().orElseThrow();
        double sky = Math.max(1, field.backgroundAdu() - offsetAdu);
        if (eccentricity > TRAILED_ECCENTRICITY) {
            return new Verdict(
                    false,
                    String.format(Locale.ROOT, "trailed, eccentricity %.2f: guiding, wind or a cable", eccentricity));
        }
        Reference reference = references.get(set);
        if (reference == null) {
            references.put(set, new Reference(hfr, field.stars().size(), sky));
            return new Verdict(true, "first of its set");
        }
        if (hfr > SOFT_FACTOR * reference.hfrPx()) {
            return new Verdict(
                    false,
                    String.format(Locale.ROOT, "soft, %.2f px against %.2f: focus or dew", hfr, reference.hfrPx()));
        }
        if (field.stars().size() < FEW_STARS_SHARE * reference.stars()) {
            return new Verdict(
                    false, "stars down to " + field.stars().size() + " from " + reference.stars() + ": cloud");
        }
        if (sky > BRIGHT_FACTOR * reference.skyAdu()) {
            return new Verdict(
                    false,
                    String.format(
                            Locale.ROOT, "sky %.0f ADU against %.0f: Moon, dawn or light", sky, reference.skyAdu()));
        }
        return new Verdict(true, "good");
    }
}
