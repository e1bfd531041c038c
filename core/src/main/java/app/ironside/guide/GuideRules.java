package app.ironside.guide;

import app.ironside.Check;
import java.time.Duration;
import java.util.Optional;

/**
 * How a night is guided; practitioners differ, and each way has its price.
 *
 * @param exposureSeconds of the guide camera
 * @param tunes whether each axis sets its share and least move by its own record as the night goes
 * @param slackBy what is done about slack in declination
 * @param settleArcsec guiding has settled when it stays within this; empty for half a pixel of the main camera, or twice the air if that
 *     is more
 */
public record GuideRules(
        double exposureSeconds,
        AxisRule ra,
        AxisRule dec,
        boolean tunes,
        SlackBy slackBy,
        Stars stars,
        Calibrate calibrate,
        DitherBy ditherBy,
        Optional<Double> settleArcsec) {
    /** How many stars are guided on. */
    public enum Stars implements Way {
        AS_IT_SUITS("many on a real night; one in a rehearsal, where whole guide frames take long to draw"),
        ONE("the best star; the rest of the frame need not be read"),
        MANY("the common motion of up to twelve, each by its light: the air of one is not the air of all");

        private final String explained;

        Stars(String explained) {
            this.explained = explained;
        }

        @Override
        public String explained() {
            return explained;
        }
    }

    /** When the guider is calibrated. */
    public enum Calibrate implements Way {
        EACH_NIGHT("about two minutes each night, and no doubt"),
        WHEN_MOVED("the last night's is taken if two short pulses find it true, half a minute; else as each night");

        private final String explained;

        Calibrate(String explained) {
            this.explained = explained;
        }

        @Override
        public String explained() {
            return explained;
        }
    }

    /** Where a dither goes. */
    public enum DitherBy implements Way {
        SPIRAL("nine places evenly about the middle"),
        RANDOM("anywhere within the step, never the same pattern twice"),
        RIGHT_ASCENSION("east and west only, for a declination with much slack; rows of the sensor are not broken");

        private final String explained;

        DitherBy(String explained) {
            this.explained = explained;
        }

        @Override
        public String explained() {
            return explained;
        }
    }

    public static final GuideRules USUAL = new GuideRules(
            2,
            new AxisRule(GuideLaw.PROPORTIONAL, 0.6, 0.25),
            new AxisRule(GuideLaw.PROPORTIONAL, 0.45, 0.25),
            true,
            SlackBy.BY_DRIFT,
            Stars.AS_IT_SUITS,
            Calibrate.EACH_NIGHT,
            DitherBy.SPIRAL,
            Optional.empty());

    public GuideRules {
        Check.inRange("exposureSeconds", exposureSeconds, 0.1, 30);
        settleArcsec.ifPresent(s -> Check.inRange("settleArcsec", s, 0.1, 60));
    }

    public Duration exposure() {
        return Duration.ofMillis(Math.round(1000 * exposureSeconds));
    }

    public GuideRules withExposure(double seconds) {
        return new GuideRules(seconds, ra, dec, tunes, slackBy, stars, calibrate, ditherBy, settleArcsec);
    }

    public GuideRules withRa(AxisRule other) {
        return new GuideRules(exposureSeconds, other, dec, tunes, slackBy, stars, calibrate, ditherBy, settleArcsec);
    }

    public GuideRules withDec(AxisRule other) {
        return new GuideRules(exposureSeconds, ra, other, tunes, slackBy, stars, calibrate, ditherBy, settleArcsec);
    }

    public GuideRules withTunes(boolean other) {
        return new GuideRules(exposureSeconds, ra, dec, other, slackBy, stars, calibrate, ditherBy, settleArcsec);
    }

    public GuideRules withSlackBy(SlackBy other) {
        return new GuideRules(exposureSeconds, ra, dec, tunes, other, stars, calibrate, ditherBy, settleArcsec);
    }

    public GuideRules withStars(Stars other) {
        return new GuideRules(exposureSeconds, ra, dec, tunes, slackBy, other, calibrate, ditherBy, settleArcsec);
    }

    public GuideRules withCalibrate(Calibrate other) {
        return new GuideRules(exposureSeconds, ra, dec, tunes, slackBy, stars, other, ditherBy, settleArcsec);
    }

    public GuideRules withDitherBy(DitherBy other) {
        return new GuideRules(exposureSeconds, ra, dec, tunes, slackBy, stars, calibrate, other, settleArcsec);
    }

    public GuideRules withSettle(Optional<Double> arcsec) {
        return new GuideRules(exposureSeconds, ra, dec, tunes, slackBy, stars, calibrate, ditherBy, arcsec);
    }

    /** The difference from others, in words, for the journal: "right ascension 70 %, from 0.3″ on". */
    public String changedFrom(GuideRules others) {
        StringBuilder words = new StringBuilder();
        if (!ra.equals(others.ra)) {
            words.append(", right ascension ").append(ra.words());
        }
        if (!dec.equals(others.dec)) {
            words.append(", declination ").append(dec.words());
        }
        if (exposureSeconds != others.exposureSeconds) {
            words.append(", exposures of ").append(exposureSeconds).append(" s");
        }
        if (tunes != others.tunes) {
            words.append(tunes ? ", sets itself" : ", stays as set");
        }
        if (slackBy != others.slackBy) {
            words.append(", slack: ").append(slackBy.word());
        }
        if (stars != others.stars) {
            words.append(", stars: ").append(stars.word());
        }
        if (calibrate != others.calibrate) {
            words.append(", calibrated ").append(calibrate.word());
        }
        if (!settleArcsec.equals(others.settleArcsec)) {
            words.append(", settled ")
                    .append(settleArcsec.map(s -> "within " + s + "″").orElse("by the kit and the air"));
        }
        if (ditherBy != others.ditherBy) {
            words.append(", dithers: ").append(ditherBy.word());
        }
        return words.isEmpty() ? "as before" : words.substring(2);
    }
}
