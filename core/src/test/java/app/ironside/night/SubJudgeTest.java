package app.ironside.night;

import static app.ironside.night.NightRecord.facts;
import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Verdicts by the series: the figures of the subs are made up, what follows from them is by hand. */
class SubJudgeTest {
    private static final String L = SubJudge.set("M 33", "L", 180, 2800);

    private final SubJudge judge = new SubJudge();
    private int number;

    private static StarField field(int count, double hfr, double eccentricity, double sky, double flux) {
        Star star = new Star(50, 50, flux, flux / 6, hfr, 2 * hfr, eccentricity, 10, 80, false, 10, Optional.empty());
        return new StarField(100, 100, Collections.nCopies(count, star), sky, 20);
    }

    private SubJudge.Verdict judged(String set, StarField field) {
        return judge.judge(SubJudge.measured(set, "sub" + number++, field, 500));
    }

    private SubJudge.Verdict judged(int count, double hfr, double eccentricity, double sky) {
        return judged(L, field(count, hfr, eccentricity, sky, 9000));
    }

    @Test
    void subsAreJudgedByTheirSeries() {
        assertThat(judged(900, 1.2, 0.3, 1400).reason()).isEqualTo("first of its set");
        assertThat(judged(850, 1.25, 0.3, 1450).keep()).isTrue();
        assertThat(judged(300, 1.2, 0.3, 1400).reason()).isEqualTo("stars down to 300 from 900: cloud");
        assertThat(judged(900, 1.9, 0.3, 1400).reason()).isEqualTo("soft, 1.90 px against 1.20: focus or dew");
        assertThat(judged(900, 1.2, 0.3, 6500).reason()).isEqualTo("sky 6000 ADU against 900: Moon, dawn or light");
        assertThat(judged(900, 1.2, 0.9, 1400).reason())
                .isEqualTo("trailed, eccentricity 0.90: guiding, wind or a cable");
        assertThat(judged(3, 1.2, 0.3, 1400).reason()).isEqualTo("only 3 stars: cloud, cap or focus");
    }

    /** Thin cloud takes light from all stars before it takes stars: 25 % of the flux, the same number of stars. */
    @Test
    void thinCloudDimsStarsThatAreStillThere() {
        judged(900, 1.2, 0.3, 1400);
        assertThat(judged(L, field(850, 1.2, 0.3, 1300, 2250)).reason())
                .isEqualTo("stars dimmed to 25 %: cloud or dew");
    }

    /** A third of the sub length is a third of the light: another series, under no cloud. */
    @Test
    void anotherExposureIsAnotherSeries() {
        judged(900, 1.2, 0.3, 1400);
        String shorter = SubJudge.set("M 33", "L", 60, 2800);
        for (int i = 0; i < 14; i++) {
            assertThat(judged(shorter, field(400, 1.2, 0.3, 800, 3000)).keep()).isTrue();
        }
    }

    /** Seven subs at a third of the light come first: when the cloud has gone they are seen for what they are. */
    @Test
    void aCloudedStartIsNoYardstick() {
        for (int i = 0; i < 7; i++) {
            assertThat(judged(L, field(800, 1.2, 0.3, 1400, 3150)).keep()).isTrue();
        }
        assertThat(judge.regraded(L)).isEmpty();
        assertThat(judged(L, field(900, 1.2, 0.3, 1400, 9000)).keep()).isTrue();
        judged(L, field(900, 1.2, 0.3, 1400, 9000));
        List<SubJudge.Regraded> changed = judge.regraded(L);
        judged(L, field(900, 1.2, 0.3, 1400, 9000));
        changed = new ArrayList<>(changed);
        changed.addAll(judge.regraded(L));
        assertThat(changed).hasSize(7).allMatch(r -> !r.verdict().keep());
        assertThat(changed.get(0).verdict().reason()).isEqualTo("stars dimmed to 35 %: cloud or dew");
        assertThat(judge.regraded(L)).as("told once").isEmpty();
    }

    /** One sub with a lucky moment of air does not throw the others out. */
    @Test
    void aSingleLuckySubIsNoYardstickOfMany() {
        for (int i = 0; i < 9; i++) {
            judged(L, field(800, 1.6, 0.3, 1400, 9000));
        }
        judged(L, field(800, 1.0, 0.3, 1400, 9000));
        assertThat(judge.regraded(L)).isEmpty();
    }

    /** A moonlit sub of four times the sky is kept: it adds a quarter of a dark one. */
    @Test
    void aMoonlitSubIsKept() {
        judged(900, 1.2, 0.3, 1400);
        assertThat(judged(900, 1.2, 0.3, 500 + 4 * 900).keep()).isTrue();
    }

    private NightEvent sub(String file, double flux, boolean keep) {
        Map<String, Object> facts = facts("target", "M 33", "filter", "L", "seconds", 180.0);
        facts.putAll(SubFacts.of(
                field(900, 1.2, 0.3, 1400, flux),
                2800,
                SubJudge.measured(L, file, field(900, 1.2, 0.3, 1400, flux), 500),
                new SubJudge.Verdict(keep, keep ? "good" : "stars dimmed")));
        return new NightEvent(
                Instant.EPOCH, EventKind.SUB, "Sub 1 L 180 s of M 33 " + (keep ? "kept." : "out: x."), facts);
    }

    /** The yardstick survives a stop: it is in the journal. */
    @Test
    void aStoppedNightKeepsItsYardstick() {
        SubJudge again = SubJudge.of(List.of(sub("a", 9000, true), sub("b", 9100, true)));
        SubJudge.Verdict cloudy = again.judge(SubJudge.measured(L, "c", field(900, 1.2, 0.3, 1400, 2700), 500));
        assertThat(cloudy.reason()).isEqualTo("stars dimmed to 30 %: cloud or dew");
        assertThat(again.regraded(L)).isEmpty();
    }

    @Test
    void theLastVerdictStands() {
        NightEvent sub = sub("a", 3000, true);
        NightEvent verdict = new NightEvent(
                Instant.EPOCH,
                EventKind.REGRADED,
                "a is out after all.",
                facts("file", "a", "keep", false, "reason", "stars dimmed to 33 %: cloud or dew"));
        assertThat(SubVerdicts.applied(List.of(sub))).containsExactly(sub);
        List<NightEvent> stands = SubVerdicts.applied(List.of(sub, verdict));
        assertThat(stands.get(0).isTrue("keep")).isFalse();
        assertThat(stands.get(0).text()).isEqualTo("Sub 1 L 180 s of M 33 out: stars dimmed to 33 %: cloud or dew.");
        assertThat(stands.get(0).number("starFluxAdu")).as("all else stays").hasValue(3000);
        assertThat(SubVerdicts.kept(List.of(sub, verdict))).isZero();
    }

    /** A star that was not seen has no figure of guiding; one that was lost at times has one, and says so. */
    @Test
    void aLostStarIsNoPerfectGuiding() {
        assertThat(SubFacts.guiding(List.of(), 60))
                .containsEntry("guideLost", 60)
                .doesNotContainKeys("guideRmsArcsec", "guideRmsRaArcsec");
    }
}
