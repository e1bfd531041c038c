package app.ironside.kit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.JsonText;
import java.util.List;
import org.junit.jupiter.api.Test;

class ExposureTest {
    private static final Kit WREN = Examples.kit("wren");
    private static final Kit LARK = Examples.kit("lark");

    /** By hand: R = 4.5 e-, B = 0.5 e-/s, 5 %: 20.25 / (0.5 × 0.1025) = 395.1 s; and the cost of that length is 5 %. */
    @Test
    void skyLimitedByHand() {
        double seconds = Exposure.skyLimitedSeconds(4.5, 0.5, 0.05);
        assertThat(seconds).isCloseTo(395.1, within(0.05));
        assertThat(Exposure.readNoiseCost(4.5, 0.5, seconds)).isCloseTo(0.05, within(1e-12));
    }

    /** Common practice: 500 / 18 / 1.6 = 17.4 s. */
    @Test
    void ruleOf500() {
        assertThat(Exposure.rule500Seconds(18, 1.6)).isCloseTo(17.36, within(0.005));
        assertThat(Exposure.cropFactor(LARK.sensor())).isCloseTo(1.5, within(1e-12));
    }

    /** By hand: at the equator a star moves 15.04″/s; 12.223″ pixels of the Lark kit: one pixel in 0.813 s; at 60° twice that. */
    @Test
    void untrackedByPixels() {
        assertThat(LARK.arcsecPerPixel()).isCloseTo(12.223, within(0.001));
        assertThat(Exposure.untrackedSeconds(LARK, 0, 1)).isCloseTo(0.8127, within(0.0005));
        assertThat(Exposure.untrackedSeconds(LARK, 60, 1)).isCloseTo(1.6253, within(0.001));
    }

    /** By hand: a gear of ±50″ in 600 s moves 4 × 50 / 600 = 0.333″/s on average; half a pixel of 12.22″ takes 18.3 s. */
    @Test
    void unguidedTracker() {
        assertThat(Exposure.unguidedSeconds(LARK, 0)).isCloseTo(18.33, within(0.02));
        assertThat(Exposure.unguidedSeconds(LARK, 10)).isLessThan(18.33);
    }

    /** Common practice: time for equal signal goes with the focal ratio squared: (6.3/4.5)² = 1.96. */
    @Test
    void equalSignal() {
        Kit fast = withFocalRatio(4.5);
        Kit slow = withFocalRatio(6.3);
        assertThat(Exposure.equalSignalHours(fast, slow)).isCloseTo(1.96, within(1e-9));
    }

    private static Kit withFocalRatio(double ratio) {
        return new Kit(
                "k",
                new Optics(90, 90 * ratio, 0, 0.9, 3),
                WREN.sensor(),
                WREN.filters(),
                WREN.focuser(),
                WREN.mount(),
                WREN.guider());
    }

    /** By hand: full well 55,000 e- over 4.5 e- is 13.58 stops; the highest gain of the curve has 11.97. */
    @Test
    void dynamicRange() {
        List<Equipment.GainPoint> curve = WREN.equipment().gainCurve();
        assertThat(curve.get(0).dynamicRangeStops()).isCloseTo(13.577, within(0.001));
        assertThat(curve.get(3).dynamicRangeStops()).isCloseTo(11.966, within(0.001));
    }

    /** Common practice: low gain for long subs, higher gain for short ones. */
    @Test
    void gainAdvice() {
        double forLong = Exposure.gainFor(WREN, 1.0, 300, 0.05).orElseThrow().setting();
        double forShort = Exposure.gainFor(WREN, 1.0, 30, 0.05).orElseThrow().setting();
        assertThat(forLong).isZero();
        assertThat(forShort).isEqualTo(100);
        assertThat(Exposure.gainFor(WREN, 1.0, 5, 0.05)).isEmpty();
    }

    /**
     * By hand: a star of magnitude 0 behind L (270 nm) gives 10070 × 63.62 cm² × 0.9 × 0.75 × 270 e-/s; with stars of 4″ its middle
     * pixel of 3.008″ gets erf²(3.008 √ln 2 / 4) = 0.3862 of it (erf(0.6261) = 0.6241, tables squared 0.3895); full at 55,000 e-.
     */
    @Test
    void saturation() {
        double zero = 10_070 * Math.PI * 4.5 * 4.5 * 0.9 * 0.75 * 270;
        double expected = 2.5 * Math.log10(zero * 0.3895 * 180 / 55_000);
        assertThat(Exposure.saturationMagnitude(WREN, WREN.filters().get(0), 180, 4))
                .isCloseTo(expected, within(0.02));
    }

    /** Laws: without spoilt subs long ones win; with gusts short ones keep more; noise is never below the perfect one. */
    @Test
    void longOrShort() {
        double[] lengths = {30, 120, 300, 600};
        var calm = Exposure.ways(WREN, new Exposure.Conditions(4, 0.6, 6, 0, 2), lengths);
        var gusty = Exposure.ways(WREN, new Exposure.Conditions(4, 0.6, 6, 8, 2), lengths);
        assertThat(calm.get(3).noise()).isLessThan(calm.get(0).noise()).isGreaterThan(1);
        assertThat(gusty.get(3).noise()).isGreaterThan(gusty.get(1).noise());
        assertThat(gusty.get(3).keptSubs() / gusty.get(3).subs()).isCloseTo(Math.exp(-8 * 600 / 3600.0), within(1e-12));
        assertThat(calm.get(0).subs()).isEqualTo(400);
        assertThat(calm.get(0).gigabytes()).isCloseTo(400L * 2 * 2800 * 2100 / 1e9, within(1e-9));
    }

    /** Laws of the CCD equation: four times the subs double the ratio; one night more after T raises it by the share. */
    @Test
    void signalToNoise() {
        double once = Exposure.stackSignalToNoise(0.1, 1, 4.5, new Exposure.Subs(50, 180));
        double four = Exposure.stackSignalToNoise(0.1, 1, 4.5, new Exposure.Subs(200, 180));
        assertThat(four / once).isCloseTo(2, within(1e-12));
        double hours = Exposure.diminishingHours(8, 0.05);
        assertThat(Math.sqrt((hours + 8) / hours)).isCloseTo(1.05, within(1e-12));
        assertThat(Exposure.stackSignalToNoise(0.1, 1, 4.5, new Exposure.Subs(0, 180)))
                .isZero();
    }

    // ---- kits as files
    // --------------------------------------------------------------------------------------------------

    /** Law: what is written reads back as the same kit; a change is told by its path. */
    @Test
    void kitsAreOpenFiles() {
        for (String name : List.of("wren", "lark", "heron")) {
            Kit kit = Examples.kit(name);
            String text = JsonText.write(KitFile.tree(kit));
            assertThat(KitFile.parse(text, "again")).isEqualTo(kit);
        }
        var changed = KitFile.tree(WREN);
        changed.withObject("/optics").put("focalLengthMm", 396);
        assertThat(JsonText.differences(KitFile.tree(WREN), changed))
                .containsExactly(new JsonText.Difference("optics.focalLengthMm", "432.0", "396"));
    }

    @Test
    void aKitWithoutMotorsSaysSo() {
        assertThat(LARK.guideOptics()).isEmpty();
        assertThatThrownBy(LARK::guider).hasMessage("kit Lark: has no guider; expected a kit with a guide camera");
        assertThat(LARK.motorFocuser()).isEmpty();
        assertThat(LARK.focuser().stepUm())
                .as("a hand turns half of the zone that is in focus")
                .isCloseTo(Sampling.criticalFocusUm(135 / 48.2) / 2, within(1e-9));
        assertThatThrownBy(() -> KitFile.parse("{\"name\": \"x\"}", "x.json"))
                .hasMessage("x.json line 1: has no \"optics\"; expected a kit as in examples/");
        assertThatThrownBy(
                        () -> KitFile.parse(Examples.text("kits/wren.json").replace("\"parts\"", "\"bits\""), "w.json"))
                .hasMessageContaining("w.json, equipment")
                .hasMessageContaining("bits");
    }

    /** By hand: halfway between declinations 30 (4°) and 75 (2°) the limit is 3°; beyond the table its last value holds. */
    @Test
    void contactsByDeclination() {
        assertThat(WREN.contactHourAngleDeg(52.5)).isCloseTo(3, within(1e-12));
        assertThat(WREN.contactHourAngleDeg(88)).isCloseTo(2, within(1e-12));
        assertThat(WREN.contactHourAngleDeg(-50)).isCloseTo(8, within(1e-12));
        assertThat(WREN.freeAfterFlipDeg(-50)).isCloseTo(-2, within(1e-12));
        assertThat(LARK.contactHourAngleDeg(10)).isEqualTo(60);
    }
}
