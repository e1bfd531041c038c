package app.ironside.judge;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** The rule book by hand: figures of subs are made up, what follows from them is reckoned. */
class GraderTest {
    private static final Instant START = Instant.parse("2026-11-10T20:00:00Z");

    private int number;

    private SubLook sub(double light, double noise, double hfr, double eccentricity, OptionalDouble altitude) {
        return new SubLook(
                "s" + number,
                "L",
                Optional.of(START.plusSeconds(300L * number++)),
                180,
                200,
                hfr,
                2 * hfr,
                eccentricity,
                1000,
                noise,
                OptionalDouble.of(light),
                1,
                altitude,
                OptionalDouble.of(-40),
                OptionalDouble.of(-20),
                OptionalDouble.of(0.3));
    }

    private SubLook clear() {
        return sub(1, 20, 1.5, 0.3, OptionalDouble.of(70));
    }

    private List<SubLook> clear(int count) {
        List<SubLook> subs = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            subs.add(clear());
        }
        return subs;
    }

    private static Grade last(List<SubLook> subs) {
        List<Grade> grades = Grader.grade(subs);
        return grades.get(grades.size() - 1);
    }

    /** By hand: half the light is a quarter of the weight and kept; at 40 % it is 0.16, less than a fifth, and goes. */
    @Test
    void thinCloudIsKeptAndThickIsNot() {
        List<SubLook> subs = clear(6);
        subs.add(sub(0.5, 20, 1.5, 0.3, OptionalDouble.of(70)));
        assertThat(last(subs).weight()).isCloseTo(0.25, within(1e-9));
        assertThat(last(subs).cause()).isEqualTo(Cause.CLOUD);
        assertThat(last(subs).keep()).isTrue();
        subs.add(sub(0.4, 20, 1.5, 0.3, OptionalDouble.of(70)));
        assertThat(last(subs).keep()).isFalse();
        assertThat(last(subs).reason()).isEqualTo("cloud took 60 % of the light, counts 16 % of the best");
    }

    /** By hand: at 0.2 mag per airmass 15° (3.8 airmasses) leave 60 % of the light; with 1.4 times the noise that is 0.18, and it is kept. */
    @Test
    void whatIsLowIsKept() {
        List<SubLook> subs = clear(6);
        subs.add(sub(0.6, 28, 1.6, 0.3, OptionalDouble.of(15)));
        Grade low = last(subs);
        assertThat(low.cause()).isEqualTo(Cause.LOW);
        assertThat(low.keep()).isTrue();
        assertThat(low.weight()).isCloseTo(0.36 / 1.96, within(1e-9));
        assertThat(low.transparency()).isCloseTo(1, within(0.03));
    }

    /** Cloud that takes half of what the low air leaves is judged as cloud high up would be: by its own quarter. */
    @Test
    void cloudLowDownIsJudgedThroughTheAir() {
        List<SubLook> subs = clear(6);
        subs.add(sub(0.6, 20, 1.5, 0.3, OptionalDouble.of(15)));
        subs.add(sub(0.6 * 0.5, 20, 1.5, 0.3, OptionalDouble.of(15)));
        assertThat(last(subs).cause()).isEqualTo(Cause.CLOUD);
        assertThat(last(subs).keep()).isTrue();
    }

    private static SubLook under(SubLook s, double sun, double moon, double share) {
        return new SubLook(
                s.name(),
                s.series(),
                s.time(),
                s.exposureS(),
                s.stars(),
                s.hfrPx(),
                s.fwhmPx(),
                s.eccentricity(),
                s.backgroundAdu(),
                s.noiseAdu(),
                s.light(),
                s.overlap(),
                s.altitudeDeg(),
                OptionalDouble.of(sun),
                OptionalDouble.of(moon),
                OptionalDouble.of(share));
    }

    /** By hand: twice the noise is a quarter of the weight: by the Moon it is kept, by dawn it lies just at the limit, with thrice it goes. */
    @Test
    void moonlightIsKeptAndDawnIsNot() {
        List<SubLook> subs = clear(6);
        subs.add(under(sub(1, 40, 1.5, 0.3, OptionalDouble.of(70)), -35, 30, 0.6));
        assertThat(last(subs).cause()).isEqualTo(Cause.MOONLIGHT);
        assertThat(last(subs).keep()).isTrue();
        subs.add(under(sub(1, 60, 1.5, 0.3, OptionalDouble.of(70)), -10, -30, 0.6));
        assertThat(last(subs).cause()).isEqualTo(Cause.TWILIGHT);
        assertThat(last(subs).keep()).isFalse();
        assertThat(last(subs).reason()).contains("with the Sun at -10°");
    }

    /** Steadily dimmer with a growing halo is dew; as steady without it is cloud. */
    @Test
    void dewIsToldFromCloudByItsHalo() {
        List<SubLook> dew = clear(5);
        List<SubLook> cloud = clear(5);
        for (int i = 1; i <= 6; i++) {
            dew.add(sub(1 - 0.1 * i, 20, 1.5 * (1 + 0.025 * i), 0.3, OptionalDouble.of(70)));
            cloud.add(sub(1 - 0.1 * i, 20, 1.5, 0.3, OptionalDouble.of(70)));
        }
        assertThat(last(dew).cause()).isEqualTo(Cause.DEW);
        assertThat(last(cloud).cause()).isEqualTo(Cause.CLOUD);
    }

    /** A focus that drifts grows and stays; air that boils comes and goes. */
    @Test
    void aDriftIsToldFromSeeing() {
        List<SubLook> drift = clear(5);
        for (int i = 1; i <= 6; i++) {
            drift.add(sub(1, 20, 1.5 * (1 + 0.06 * i), 0.3, OptionalDouble.of(70)));
        }
        assertThat(last(drift).cause()).isEqualTo(Cause.FOCUS);
        List<SubLook> seeing = clear(5);
        seeing.add(sub(1, 20, 1.95, 0.3, OptionalDouble.of(70)));
        assertThat(last(seeing).cause()).isEqualTo(Cause.SEEING);
        assertThat(last(seeing).keep()).isTrue();
    }

    /** Trailed stars are narrow across: they do not make round ones look swollen, nor a night of trails its own measure. */
    @Test
    void trailedSubsAreNoYardstick() {
        List<SubLook> subs = clear(3);
        for (int i = 0; i < 12; i++) {
            subs.add(sub(1, 20, 1.5, 0.95, OptionalDouble.of(70)));
        }
        List<Grade> grades = Grader.grade(subs);
        assertThat(grades.subList(0, 3)).allMatch(Grade::keep);
        assertThat(grades.subList(3, 15)).allMatch(g -> g.cause() == Cause.TRAILED && !g.keep());
        assertThat(Grader.collapse(grades).orElseThrow().name()).isEqualTo("s3");
    }

    @Test
    void oneBadSubAtTheEndIsNoCollapse() {
        List<SubLook> subs = clear(6);
        subs.add(sub(0.1, 20, 1.5, 0.3, OptionalDouble.of(70)));
        assertThat(Grader.collapse(Grader.grade(subs))).isEmpty();
        subs.add(sub(0.05, 20, 1.5, 0.3, OptionalDouble.of(70)));
        assertThat(Grader.collapse(Grader.grade(subs)).orElseThrow().name()).isEqualTo("s6");
    }

    /** A blurred sub has little noise from pixel to pixel; it is no yardstick for the others' weight. */
    @Test
    void aBlurredSubIsNotTheBest() {
        List<SubLook> subs = clear(4);
        subs.add(sub(1, 2, 4.5, 0.3, OptionalDouble.of(70)));
        List<Grade> grades = Grader.grade(subs);
        assertThat(grades.subList(0, 4)).allMatch(g -> g.keep() && g.weight() > 0.99);
        assertThat(grades.get(4).cause()).isEqualTo(Cause.FOCUS);
    }

    /** Extinction is that of the clear subs, whatever cloud does: 0.3 mag per airmass was put in. */
    @Test
    void clearAirIsFittedToTheClearSubs() {
        List<SubLook> subs = new ArrayList<>();
        for (int i = 0; i < 20; i++) {
            double altitude = 70 - 2.5 * i;
            double airmass = app.ironside.sky.SkyBrightness.airmass(altitude);
            double cloud = i % 4 == 1 ? 0.6 : 1;
            subs.add(sub(cloud * Math.pow(10, -0.4 * 0.3 * (airmass - 1)), 20, 1.5, 0.3, OptionalDouble.of(altitude)));
        }
        assertThat(ClearAir.of(subs).fitted()).isTrue();
        assertThat(ClearAir.of(subs).magPerAirmass()).isCloseTo(0.3, within(0.02));
        assertThat(ClearAir.of(subs.subList(0, 3)).fitted()).isFalse();
    }

    private SubLook starless() {
        SubLook s = sub(1, 20, 0, 0, OptionalDouble.of(70));
        return new SubLook(
                s.name(),
                s.series(),
                s.time(),
                s.exposureS(),
                0,
                0,
                0,
                0,
                s.backgroundAdu(),
                s.noiseAdu(),
                OptionalDouble.empty(),
                0,
                s.altitudeDeg(),
                s.sunAltitudeDeg(),
                s.moonAltitudeDeg(),
                s.moonShare());
    }

    /** Nothing seen between clear subs, or with nothing to go by, is a cap as well as cloud; beside dimmed ones it is cloud. */
    @Test
    void noStarsAreCloudOnlyBesideCloud() {
        List<SubLook> capped = clear(3);
        capped.add(starless());
        capped.add(starless());
        assertThat(last(capped).cause()).isEqualTo(Cause.NO_STARS);
        assertThat(last(List.of(starless())).cause()).isEqualTo(Cause.NO_STARS);
        List<SubLook> clouded = clear(3);
        clouded.add(sub(0.3, 20, 1.5, 0.3, OptionalDouble.of(70)));
        clouded.add(starless());
        assertThat(last(clouded).cause()).isEqualTo(Cause.CLOUD);
        assertThat(last(clouded).reason()).isEqualTo("no stars beside subs that cloud dims");
    }

    @Test
    void aSubAloneIsGood() {
        assertThat(last(clear(1)).keep()).isTrue();
        assertThat(Grader.grade(List.of())).isEmpty();
    }
}
