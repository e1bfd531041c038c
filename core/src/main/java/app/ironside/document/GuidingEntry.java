package app.ironside.document;

import app.ironside.BadInputException;
import app.ironside.guide.AxisRule;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideRules;
import app.ironside.guide.SlackBy;
import java.util.Optional;

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
                    law.map(word -> NightFile.named(GuideLaw.values(), word, where, "law"))
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
                    slackBy.map(word -> NightFile.named(SlackBy.values(), word, where, "slackBy"))
                            .orElse(usual.slackBy()),
                    stars.map(word -> NightFile.named(GuideRules.Stars.values(), word, where, "stars"))
                            .orElse(usual.stars()),
                    calibrate
                            .map(word -> NightFile.named(GuideRules.Calibrate.values(), word, where, "calibrate"))
                            .orElse(usual.calibrate()),
                    ditherBy.map(word -> NightFile.named(GuideRules.DitherBy.values(), word, where, "ditherBy"))
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
}
