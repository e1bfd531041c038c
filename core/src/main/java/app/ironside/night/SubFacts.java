package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideStatistics;
import app.ironside.star.StarField;
import java.util.List;
import java.util.Map;

/** What the journal says of a sub, one way for subs that were just taken and for those that were found after a stop. */
final class SubFacts {
    private SubFacts() {}

    /** What its pixels tell. */
    static Map<String, Object> of(StarField field, int widthPx, SubJudge.Measured sub, SubJudge.Verdict verdict) {
        return facts(
                "hfrPx", field.medianHalfFluxRadiusPx().orElse(0),
                "fwhmPx", field.medianFwhmPx().orElse(0),
                "eccentricity", field.medianEccentricity().orElse(0),
                "stars", field.stars().size(),
                "backgroundAdu", field.backgroundAdu(),
                "noiseAdu", field.noiseAdu(),
                "skyAdu", sub.skyAdu(),
                "starFluxAdu", sub.starFluxAdu(),
                "widthPx", widthPx,
                "file", sub.file(),
                "keep", verdict.keep(),
                "reason", verdict.reason());
    }

    /**
     * How it was guided. Without a sample there is no figure: a lost star is no perfect one.
     *
     * @param lost guide exposures in which the star was not found
     */
    static Map<String, Object> guiding(List<GuideSample> samples, int lost) {
        Map<String, Object> facts = facts("guideSamples", samples.size(), "guideLost", lost);
        if (!samples.isEmpty()) {
            GuideStatistics guide = GuideStatistics.of(samples);
            facts.put("guideRmsArcsec", guide.rmsTotalArcsec());
            facts.put("guideRmsRaArcsec", guide.rmsRaArcsec());
            facts.put("guideRmsDecArcsec", guide.rmsDecArcsec());
            facts.put("guideP80Arcsec", guide.p80Arcsec());
        }
        return facts;
    }

    /** Tells of earlier subs of a series whose verdict is another now. */
    static void tellRegraded(NightRecord record, SubJudge judge, String set) {
        for (SubJudge.Regraded changed : judge.regraded(set)) {
            String name = changed.sub().file().replaceFirst(".*/", "");
            record.event(
                    EventKind.REGRADED,
                    name + (changed.verdict().keep() ? " is kept after all: " : " is out after all: ")
                            + changed.verdict().reason() + ".",
                    facts(
                            "file", changed.sub().file(),
                            "keep", changed.verdict().keep(),
                            "reason", changed.verdict().reason()));
        }
    }
}
