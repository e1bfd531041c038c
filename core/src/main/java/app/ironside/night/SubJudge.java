package app.ironside.night;

import app.ironside.image.Statistics;
import app.ironside.star.Star;
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

    /** Low in the sky air alone takes a third of the light; what takes half is no air. */
    private static final double DIMMED_SHARE = 0.5;

    /** Bright stars by rank: the first few may be saturated, the later ones come and go. */
    private static final int RANK_FROM = 5;

    private static final int RANK_TO = 45;

    /** What was measured and what follows. */
    record Verdict(boolean keep, String reason) {}

    private record Reference(double hfrPx, int stars, double skyAdu, double starFluxAdu) {}

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
            references.put(set, new Reference(hfr, field.stars().size(), sky, brightFlux(field)));
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
        double light = brightFlux(field) / reference.starFluxAdu();
        if (light < DIMMED_SHARE) {
            return new Verdict(false, String.format(Locale.ROOT, "stars dimmed to %.0f %%: cloud or dew", 100 * light));
        }
        if (sky > BRIGHT_FACTOR * reference.skyAdu()) {
            return new Verdict(
                    false,
                    String.format(
                            Locale.ROOT, "sky %.0f ADU against %.0f: Moon, dawn or light", sky, reference.skyAdu()));
        }
        return new Verdict(true, "good");
    }

    /** Median flux of the bright stars, by which thin cloud shows long before stars go missing. */
    private static double brightFlux(StarField field) {
        int from = Math.min(RANK_FROM, field.stars().size() - 1);
        int to = Math.min(RANK_TO, field.stars().size());
        return Statistics.median(field.stars().subList(from, to).stream()
                .mapToDouble(Star::fluxAdu)
                .toArray());
    }
}
