package app.ironside.plan;

import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * An object weighed against a night, a site and a kit.
 *
 * @param usableHours in the dark, above skyline, margin and minimum altitude
 * @param effectiveHours the same weighted by {@link EffectiveTime}, clouds included
 * @param longest the longest usable stretch
 * @param highestDeg greatest apparent altitude within the usable time
 * @param transit upper culmination nearest the middle of the night, to the minute
 * @param moonSeparationDeg least, while both are up in the usable time; 180 if the Moon is down throughout
 * @param fit how it sits in the kit's field
 * @param shareOfField long axis over the field's shorter side; 0 if its size is unknown
 * @param surfaceBrightness mean, magnitudes per square arcsecond; empty if size or magnitude is unknown
 * @param level who can expect a good picture
 * @param brightStar magnitude of the brightest star that will trouble the field, if there is one
 * @param worth effective hours times how well it suits kit and person, the figure that candidates are ranked by
 */
public record Candidate(
        DeepSkyObject object,
        double usableHours,
        double effectiveHours,
        Optional<Interval> longest,
        double highestDeg,
        Instant transit,
        double moonSeparationDeg,
        Fit fit,
        double shareOfField,
        OptionalDouble surfaceBrightness,
        Level level,
        OptionalDouble brightStar,
        double worth) {

    /** How an object sits in the field. */
    public enum Fit {
        TINY("tiny in this field", 0.25),
        SMALL("small in this field", 0.65),
        GOOD("fits the field", 1),
        FULL("fills the field; no room for cropping", 0.7),
        MOSAIC("larger than the field: a mosaic, or a part of it", 0.35),
        UNKNOWN("size not in the catalogue", 0.3);

        private final String words;
        private final double factor;

        Fit(String words, double factor) {
            this.words = words;
            this.factor = factor;
        }

        public String words() {
            return words;
        }

        double factor() {
            return factor;
        }

        /**
         * @param shareOfField long axis over the field's shorter side, 0 if unknown
         * @param pixels long axis on the sensor
         * @param cropMargin share of the field's side that registration may cost at each edge
         */
        static Fit of(double shareOfField, double pixels, double cropMargin) {
            if (shareOfField <= 0) {
                return UNKNOWN;
            }
            if (shareOfField > 1) {
                return MOSAIC;
            }
            if (shareOfField > 1 - 2 * cropMargin) {
                return FULL;
            }
            // A hundred pixels are the least that shows structure (common practice).
            return pixels < 100 ? TINY : shareOfField < 0.12 ? SMALL : GOOD;
        }
    }

    /** What an object asks of the person. */
    public enum Level {
        FIRST("bright and large: a first target"),
        PRACTISED("needs hours and careful calibration"),
        EXPERT("very faint: dark sky, many nights");

        private final String words;

        Level(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /**
         * By surface brightness and size (common practice: large, bright, common objects first). Where no brightness is known, a nebula
         * with a proper name or an old catalogue number is within reach of practice.
         */
        static Level of(DeepSkyObject object, OptionalDouble surfaceBrightness) {
            if (surfaceBrightness.isEmpty()) {
                boolean old =
                        object.id().matches("(M|NGC|IC) .*") || !object.name().isEmpty();
                return old ? PRACTISED : EXPERT;
            }
            double mu = surfaceBrightness.getAsDouble();
            return mu < 22.8 && object.longAxisArcmin() >= 4 ? FIRST : mu < 24.2 ? PRACTISED : EXPERT;
        }
    }

    /** Why it stands where it stands, and what speaks against it. */
    public List<String> reasons() {
        List<String> reasons = new java.util.ArrayList<>();
        reasons.add(fit.words());
        reasons.add(level.words());
        if (moonSeparationDeg < 40) {
            reasons.add(String.format(java.util.Locale.ROOT, "the Moon comes within %.0f°", moonSeparationDeg));
        }
        brightStar.ifPresent(
                m -> reasons.add(String.format(java.util.Locale.ROOT, "a star of magnitude %.1f in the field", m)));
        return reasons;
    }
}
