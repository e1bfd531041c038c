package app.ironside.kit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class KitTest {
    private static final Kit WREN = new Kit(
            "Wren",
            new Optics(90, 432, 0, 0.9, 3.6),
            new Sensor(2800, 2100, 6.3, 0.9, 500, 16, 4.5, 55_000, 0.75, 0.08, 0, 6, true, 1.5),
            List.of(new FilterSpec("L", 270, 550, 0), new FilterSpec("Ha", 7, 656.3, 5)),
            new FocuserSpec(4, 5000, 2600, 16),
            new MountSpec(3, 3, 0.5, 4),
            new GuiderSpec(40, 160, 1280, 960, 3.75));

    /** Common practice: a strain-wave mount carries 8 kg as it is and 13 with a counterweight. By hand: 9 kg need it. */
    @Test
    void aMountWithTwoRatingsSaysWhenItNeedsItsCounterweight() {
        for (double load : new double[] {7, 9}) {
            Equipment unknown = Equipment.UNKNOWN;
            Equipment mount = new Equipment(
                    false,
                    1,
                    List.of(),
                    true,
                    false,
                    Optional.of(8.0),
                    Optional.of(13.0),
                    0,
                    480,
                    List.of(),
                    List.of(new Equipment.Part("all", load, 0, 0)),
                    unknown.supply(),
                    unknown.cardGigabytes(),
                    unknown.offAxis(),
                    30,
                    true,
                    unknown.ownFlipDeg(),
                    false,
                    false,
                    unknown.camera(),
                    OwnTimes.UNKNOWN,
                    unknown.drivers());
            assertThat(mount.needsCounterweight()).isEqualTo(load == 9);
            assertThat(mount.ratingKg()).contains(load == 9 ? 13.0 : 8.0);
        }
    }

    /** By hand: 7 nm about hydrogen's 656.3 and 7 about oxygen's 500.7. */
    @Test
    void aFilterOfTwoBandsPassesBothLines() {
        FilterSpec two = new FilterSpec(
                "HO",
                7,
                656.3,
                Optional.of(0),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.of(500.7));
        assertThat(two.narrow()).isTrue();
        assertThat(two.passNm()).isEqualTo(14);
        assertThat(two.meanNm()).isCloseTo(578.5, within(1e-9));
        assertThat(two.bluestNm()).isEqualTo(500.7);
        assertThat(two.passes(656.3)).isTrue();
        assertThat(two.passes(495.9)).isFalse(); // the weaker of oxygen's lines, 4.8 nm off
        assertThat(two.passes(500.7)).isTrue();
        assertThatThrownBy(() -> new FilterSpec(
                        "HO",
                        7,
                        656.3,
                        Optional.of(0),
                        Optional.empty(),
                        Optional.empty(),
                        Optional.of(5.0),
                        Optional.empty()))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("secondCentreNm");
    }

    @Test
    void scaleOfTheWrenKit() {
        assertThat(WREN.arcsecPerPixel()).isCloseTo(3.0080, within(5e-5)); // by hand: 206264.806″ × 6.3e-3 mm / 432 mm
    }

    /** Common practice: 405 mm with 3.76 µm gives 1.9″ a pixel. */
    @Test
    void workedCaseOfTheTrade() {
        assertThat(Sampling.arcsecPerPixel(3.76, 405)).isCloseTo(1.9, within(0.05));
    }

    /** By hand: 2 × 0.55 µm × 4.8². */
    @Test
    void criticalFocusOfAnF48() {
        assertThat(Sampling.criticalFocusUm(WREN.optics().focalRatio())).isCloseTo(25.344, within(1e-9));
    }

    /** Common practice: 0.26″ a minute for each arcminute; 20″ of error is 0.09″ a minute, 26″ over five hours. */
    @Test
    void driftFromThePolarError() {
        assertThat(PolarTolerance.driftArcsecPerMinute(1)).isCloseTo(0.2625, within(0.0005));
        assertThat(PolarTolerance.driftArcsecPerMinute(20 / 60.0) * 300).isCloseTo(26, within(0.5));
    }

    /** Law: half the sub, twice the tolerance; by hand for the drift of the Wren kit in 300 s: 1.504″ / (0.2625″ × 5). */
    @Test
    void toleranceFollowsFromSubAndScale() {
        double limit = PolarTolerance.unguided(WREN, new PolarTolerance.Night(300, 30, 8))
                .arcmin();
        assertThat(limit).isCloseTo(1.146, within(0.002));
        assertThat(PolarTolerance.unguided(WREN, new PolarTolerance.Night(150, 30, 8))
                        .arcmin())
                .isCloseTo(2 * limit, within(1e-9));
    }

    /**
     * By hand for Wren at declination 30, ten hours: 1′ turns the field by 2.909e-4 × 7.292e-5 × 36,000 / cos 30° = 8.818e-4, at the corner of
     * 1750 px 1.543 px; half a percent of 2800 px are 14: 9.07′. The turn in a sub of 300 s would allow 38.9′.
     */
    @Test
    void guidingTakesTheDriftOutAndNotTheTurn() {
        PolarTolerance.Night night = new PolarTolerance.Night(300, 30, 10);
        assertThat(PolarTolerance.guided(WREN, night).arcmin()).isCloseTo(9.07, within(0.02));
        assertThat(PolarTolerance.guided(WREN, night).because()).contains("over 10 h");
        assertThat(PolarTolerance.limit(WREN, night)).isEqualTo(PolarTolerance.guided(WREN, night));
        Kit lark = app.ironside.Examples.kit("lark");
        assertThat(PolarTolerance.limit(lark, night)).isEqualTo(PolarTolerance.unguided(lark, night));
        assertThat(PolarTolerance.unguided(WREN, night).because()).contains("drift");
    }

    /** Law: five magnitudes are a factor of 100, and surface brightness comes back from its electrons. */
    @Test
    void photometryIsConsistent() {
        FilterSpec l = WREN.filters().get(0);
        double bright = Photometry.electronsPerSecond(5, WREN, l);
        assertThat(bright / Photometry.electronsPerSecond(10, WREN, l)).isCloseTo(100, within(1e-9));
        double rate = Photometry.electronsPerSecondPerPixel(20.9, WREN, l);
        assertThat(Photometry.magPerArcsec2(rate, WREN, l)).isCloseTo(20.9, within(1e-9));
    }

    @Test
    void darkCurrentDoubles() {
        Sensor sensor = WREN.sensor();
        assertThat(sensor.darkElectronsPerSecondAt(6)).isCloseTo(0.16, within(1e-12)); // by hand: one doubling
        assertThat(sensor.darkElectronsPerSecondAt(-12)).isCloseTo(0.02, within(1e-12)); // by hand: two halvings
    }

    @Test
    void anUnknownFilterIsNamed() {
        assertThatThrownBy(() -> WREN.filterSlot("O"))
                .isInstanceOf(BadInputException.class)
                .hasMessage("filter \"O\": kit Wren has none; expected one of [L, Ha]");
    }

    /** By hand: 206.265 × 6.3 / 458 = 2.8373″ a pixel, two summed 5.6746″. */
    @Test
    void theStarsTellTheFocalLength() {
        double own = WREN.arcsecPerPixel();
        assertThat(WREN.otherFocalLength(own)).isEmpty();
        assertThat(WREN.otherFocalLength(2 * own * 1.02)).isEmpty();
        Kit.FocalLengthSeen seen = WREN.otherFocalLength(5.6746).orElseThrow();
        assertThat(seen.mm()).isCloseTo(458, within(0.01));
        assertThat(WREN.withFocalLengthMm(seen.mm()).otherFocalLength(2.8373)).isEmpty();
    }
}
