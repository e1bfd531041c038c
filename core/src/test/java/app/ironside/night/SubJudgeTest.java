package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.NightState;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubRegraded;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Verdicts by the series: the figures of the subs are made up, what follows from them is by hand. */
class SubJudgeTest {
    private static final String L = SubLooks.series("M 33", "L", 180, 2800);

    /** A moonless night of the invented site, in the dark. */
    private static final Instant DARK = Instant.parse("2026-11-10T22:00:00Z");

    private static final Observer OBSERVER = Observer.at(new Site(
            "Monte Lavanda", 44.9, 10.1, 620, java.time.ZoneId.of("Europe/Rome"), 21.2, app.ironside.sky.Horizon.FLAT));

    private final SubJudge judge = new SubJudge(OBSERVER);
    private int number;

    private static StarField field(int count, double hfr, double eccentricity, double sky, double flux) {
        Star star = new Star(50, 50, flux, flux / 6, hfr, 2 * hfr, eccentricity, 10, 80, false, 10, Optional.empty());
        // Photon noise: of the sky above the offset of 500, in units that give 30 for the dark one of 900.
        return new StarField(100, 100, Collections.nCopies(count, star), sky, Math.sqrt(sky - 500));
    }

    private static SubMeasures measures(StarField field) {
        return SubFacts.of(
                field,
                new Frame(2800, 1, new float[2800], Header.EMPTY),
                500,
                () -> new SubJudge.StarLight(SubJudge.brightFlux(field), Optional.empty()),
                0,
                false,
                Workers.SERIAL);
    }

    private static SubLook look(SubJudge judge, String set, String file, int minutes, StarField field) {
        return judge.looks()
                .of(set, file, DARK.plusSeconds(60L * minutes), 180, measures(field), OptionalDouble.of(60));
    }

    private Verdict judged(String set, StarField field) {
        return judge.judge(look(judge, set, "sub" + number, 4 * number++, field));
    }

    private Verdict judged(int count, double hfr, double eccentricity, double sky) {
        return judged(L, field(count, hfr, eccentricity, sky, 9000));
    }

    @Test
    void subsAreJudgedByTheirSeries() {
        assertThat(judged(900, 1.2, 0.3, 1400)).isEqualTo(new Verdict(true, "good", "good"));
        assertThat(judged(850, 1.25, 0.3, 1450).keep()).isTrue();
        assertThat(judged(300, 1.2, 0.3, 1400).reason()).isEqualTo("cloud in patches, 300 stars of the usual 850");
        assertThat(judged(900, 1.9, 0.3, 1400).reason()).startsWith("stars of 3.71 px across, the better subs 2.34");
        assertThat(judged(900, 1.2, 0.3, 6500).keep()).isFalse();
        assertThat(judged(900, 1.2, 0.9, 1400).reason())
                .startsWith("stars 3.64 px long and 1.58 wide, eccentricity 0.90");
        assertThat(judged(3, 1.2, 0.3, 1400).reason()).startsWith("no stars");
    }

    /** By hand: a quarter of the light and the same noise are a sixteenth of the weight, though no star is missing. */
    @Test
    void thinCloudDimsStarsThatAreStillThere() {
        judged(900, 1.2, 0.3, 1400);
        assertThat(judged(L, field(850, 1.2, 0.3, 1400, 2250)))
                .isEqualTo(new Verdict(false, "cloud took 75 % of the light, counts 6 % of the best", "cloud"));
    }

    /** A third of the sub length is a third of the light: another series, under no cloud. */
    @Test
    void anotherExposureIsAnotherSeries() {
        judged(900, 1.2, 0.3, 1400);
        String shorter = SubLooks.series("M 33", "L", 60, 2800);
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
        List<SubJudge.Regraded> changed = judge.regraded(L);
        assertThat(changed).hasSize(7).allMatch(r -> !r.verdict().keep());
        assertThat(changed.get(0).verdict().reason()).startsWith("cloud took 65 % of the light");
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

    private SubTaken sub(String file, double flux, boolean keep) {
        StarField field = field(900, 1.2, 0.3, 1400, flux);
        return new SubTaken(
                DARK,
                "Sub 1 L 180 s of M 33",
                "M 33",
                "L",
                180,
                new Interval(DARK, DARK.plusSeconds(180)),
                file,
                false,
                false,
                false,
                Set.of(),
                false,
                measures(field),
                new SubCircumstances(
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalInt.empty(),
                        Optional.empty(),
                        Optional.empty()),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                Optional.empty(),
                new Verdict(keep, keep ? "good" : "stars dimmed"));
    }

    /** The yardstick survives a stop: it is in the journal. */
    @Test
    void aStoppedNightKeepsItsYardstick() {
        SubJudge again = SubJudge.of(
                NightState.of(List.of(sub("a", 9000, true), sub("b", 9100, true))), OBSERVER, s -> Optional.empty());
        Verdict cloudy = again.judge(look(again, L, "c", 30, field(900, 1.2, 0.3, 1400, 2700)));
        // 2700 of 9100, and at 60° the air has taken 3 % that the others, of untold altitude, do not show.
        assertThat(cloudy.reason()).startsWith("cloud took 69 % of the light");
        assertThat(again.regraded(L)).isEmpty();
    }

    /** Where the stars are kept beside a frame, light goes on being measured against the same stars. */
    @Test
    void aStoppedNightGoesOnWithTheSameStars() {
        SubJudge again = SubJudge.of(
                NightState.of(List.of(sub("a", 9000, true), sub("b", 9100, true))),
                OBSERVER,
                s -> Optional.of(scattered(1)));
        String series = again.looks().of(sub("a", 9000, true)).series();
        assertThat(again.starLight(series, scattered(0.5)).fluxAdu()).isCloseTo(4500, withinPercentage(1));
        assertThat(again.clearness(series, scattered(0.1), 10).orElseThrow()).isCloseTo(0.99, within(0.02));
    }

    /** Sixty stars at places of their own. */
    private static StarField scattered(double light) {
        Random random = new Random(5);
        List<Star> stars = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            double x = 50 + 2700 * random.nextDouble();
            double y = 50 + 2000 * random.nextDouble();
            double flux = light * (60_000 - 900 * i);
            stars.add(
                    new Star(x, y, flux, flux / 10, 1.2, 2.4, 0.3, 0, flux / 100, false, flux / 500, Optional.empty()));
        }
        return new StarField(2800, 2100, stars, 1400, 30);
    }

    @Test
    void theLastVerdictStands() {
        SubTaken sub = sub("a", 3000, true);
        SubRegraded verdict = new SubRegraded(
                Instant.EPOCH, "a is out after all.", "a", new Verdict(false, "stars dimmed to 33 %: cloud or dew"));
        assertThat(NightState.of(List.of(sub)).subs()).containsExactly(sub);
        NightState stands = NightState.of(List.of(sub, verdict));
        assertThat(stands.subs().get(0).kept()).isFalse();
        assertThat(stands.events().get(0).text())
                .isEqualTo("Sub 1 L 180 s of M 33 out: stars dimmed to 33 %: cloud or dew.");
        assertThat(stands.subs().get(0).measures().starFluxAdu())
                .as("all else stays")
                .hasValue(3000);
        assertThat(stands.kept()).isZero();
    }

    /** A star that was not seen has no figure of guiding; one that was lost at times has one, and says so. */
    @Test
    void aLostStarIsNoPerfectGuiding() {
        GuideFigures lost = GuideFigures.of(List.of(), 60);
        assertThat(lost.lost()).isEqualTo(60);
        assertThat(lost.about()).isEmpty();
        assertThat(lost.rmsTotalArcsec()).isEmpty();
    }
}
