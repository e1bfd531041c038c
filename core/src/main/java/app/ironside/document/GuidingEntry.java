package app.ironside.document;

import app.ironside.BadInputException;
import app.ironside.guide.AxisRule;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideRules;
import app.ironside.guide.SlackBy;
import java.util.Arrays;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** How a night is guided, as it stands in a night file. What is left out is as usual. */
record GuidingEntry(
        Optional<Double> exposureSeconds,
        Optional<Axis> ra,
        Optional<Axis> dec,
        Optional<Boolean> tunes,
        Optional<String> slackBy,
        Optional<String> stars,
        Optional<String> calibrate,
        Optional<String> ditherBy,
        Optional<Double> settleArcsec) {
    /** An axis. */
    record Axis(Optional<String> law, Optional<Double> share, Optional<Double> leastMoveArcsec) {
        static Optional<Axis> of(AxisRule rule, AxisRule usual) {
            return rule.equals(usual)
                    ? Optional.empty()
                    : Optional.of(new Axis(
                            Optional.of(rule.law().word()),
                            Optional.of(rule.share()),
                            Optional.of(rule.leastMoveArcsec())));
        }

        AxisRule rule(AxisRule usual, String where) {
            return new AxisRule(
                    law.map(word -> worded(GuideLaw.values(), GuideLaw::word, word, where, "law"))
                            .orElse(usual.law()),
                    share.orElse(usual.share()),
                    leastMoveArcsec.orElse(usual.leastMoveArcsec()));
        }
    }

    static Optional<GuidingEntry> of(GuideRules r) {
        GuideRules usual = GuideRules.USUAL;
        return r.equals(usual)
                ? Optional.empty()
                : Optional.of(new GuidingEntry(
                        Optional.of(r.exposureSeconds()),
                        Axis.of(r.ra(), usual.ra()),
                        Axis.of(r.dec(), usual.dec()),
                        Optional.of(r.tunes()),
                        Optional.of(r.slackBy().word()),
                        Optional.of(r.stars().word()),
                        Optional.of(r.calibrate().word()),
                        Optional.of(r.ditherBy().word()),
                        r.settleArcsec()));
    }

    GuideRules rules(String name) {
        String where = name + ", program.guiding";
        GuideRules usual = GuideRules.USUAL;
        try {
            return new GuideRules(
                    exposureSeconds.orElse(usual.exposureSeconds()),
                    ra.map(a -> a.rule(usual.ra(), where + ".ra")).orElse(usual.ra()),
                    dec.map(a -> a.rule(usual.dec(), where + ".dec")).orElse(usual.dec()),
                    tunes.orElse(usual.tunes()),
                    slackBy.map(word -> worded(SlackBy.values(), SlackBy::word, word, where, "slackBy"))
                            .orElse(usual.slackBy()),
                    stars.map(word -> worded(GuideRules.Stars.values(), GuideRules.Stars::word, word, where, "stars"))
                            .orElse(usual.stars()),
                    calibrate
                            .map(word -> worded(
                                    GuideRules.Calibrate.values(),
                                    GuideRules.Calibrate::word,
                                    word,
                                    where,
                                    "calibrate"))
                            .orElse(usual.calibrate()),
                    ditherBy.map(word -> worded(
                                    GuideRules.DitherBy.values(), GuideRules.DitherBy::word, word, where, "ditherBy"))
                            .orElse(usual.ditherBy()),
                    settleArcsec);
        } catch (IllegalArgumentException e) {
            throw new BadInputException(
                    where,
                    e.getMessage(),
                    "shares from 0.05 to 1, least moves from 0 to 20 arcseconds, exposures from 0.1 to 30 s",
                    e);
        }
    }

    private static <E> E worded(E[] all, Function<E, String> wordOf, String word, String where, String what) {
        return Arrays.stream(all)
                .filter(each -> wordOf.apply(each).equals(word))
                .findFirst()
                .orElseThrow(() -> new BadInputException(
                        where,
                        what + " is \"" + word + "\"",
                        Arrays.stream(all).map(wordOf).collect(Collectors.joining(", "))));
    }
}
