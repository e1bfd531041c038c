package app.ironside.calibrate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.Optional;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/**
 * Masters against lights of a sensor made up by formula: corners 30 % darker by the square of the distance, forty specks of dust that take
 * 4 % each, 300 hot pixels. What is right follows from the formula.
 */
class CalibrationProofTest {
    private static final int WIDTH = 800;
    private static final int HEIGHT = 600;
    private static final double OFFSET = 500;

    private record Speck(double x, double y, double radius) {}

    private static Speck[] dust(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Speck[] specks = new Speck[40];
        for (int i = 0; i < specks.length; i++) {
            specks[i] = new Speck(random.nextDouble(WIDTH), random.nextDouble(HEIGHT), random.nextDouble(9, 16));
        }
        return specks;
    }

    private static double response(int x, int y, Speck[] specks) {
        double u = (x + 0.5) / WIDTH * 2 - 1;
        double v = (y + 0.5) / HEIGHT * 2 - 1;
        double wide = (double) WIDTH / HEIGHT;
        double response = 1 - 0.3 * (u * u * wide * wide + v * v) / (wide * wide + 1);
        for (Speck s : specks) {
            response *= Math.hypot(x - s.x, y - s.y) < s.radius ? 0.96 : 1;
        }
        return response;
    }

    @FunctionalInterface
    private interface Level {
        double at(int x, int y);
    }

    private static Frame frame(long seed, double noise, Level level, Header header) {
        SplittableRandom random = new SplittableRandom(seed);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (level.at(i % WIDTH, i / WIDTH) + noise * random.nextGaussian());
        }
        return new Frame(WIDTH, HEIGHT, pixels, header);
    }

    private static boolean isHot(int x, int y) {
        return (x * 7919L + y * 104_729L) % 1597 == 5;
    }

    private static Level dark(double seconds) {
        return (x, y) -> OFFSET + (isHot(x, y) ? 5.0 * seconds : 0.02 * seconds);
    }

    /** A slanted sky of 900 ADU and some stars. */
    private static Frame light(Speck[] dust, Level glow, Header header) {
        return frame(
                1,
                20,
                (x, y) -> dark(180).at(x, y)
                        + response(x, y, dust) * glow.at(x, y) * (1 + 0.1 * x / WIDTH)
                        + (x % 97 < 2 && y % 89 < 2 ? 4000 : 0),
                header);
    }

    private static Frame masterDark(double seconds) {
        return frame(2, 1, dark(seconds), Header.EMPTY);
    }

    private static Frame masterFlat(Speck[] dust) {
        return frame(3, 0.001, (x, y) -> response(x, y, dust), Header.EMPTY);
    }

    private static CalibrationProof proof(Frame light, Frame dark, Frame flat) {
        Masters masters = Masters.of(Optional.empty(), Optional.of(dark), Optional.of(flat));
        return proof(light, masters);
    }

    private static CalibrationProof proof(Frame light, Masters masters) {
        return CalibrationProof.of(light, masters, new Calibrator(masters, 100).calibrated(light), 100);
    }

    @Test
    void theLightsOwnMastersAreSound() {
        CalibrationProof p = proof(light(dust(5), (x, y) -> 900, Header.EMPTY), masterDark(180), masterFlat(dust(5)));
        assertThat(p.cornersBefore()).isCloseTo(-0.3, within(0.02));
        assertThat(p.cornersAfter()).isCloseTo(0, within(0.005));
        assertThat(p.dust().orElseThrow().before().value()).isCloseTo(1, within(0.1));
        assertThat(p.dust().orElseThrow().after().value()).isCloseTo(0, within(0.1));
        assertThat(p.hot().orElseThrow().value()).isCloseTo(1, within(0.02));
        assertThat(p.isSound()).isTrue();
        assertThat(p.sentences()).anyMatch(s -> s.endsWith("even.")).anyMatch(s -> s.endsWith("it fits."));
    }

    @Test
    void aFlatOfAnotherNightMakesRings() {
        CalibrationProof p = proof(light(dust(5), (x, y) -> 900, Header.EMPTY), masterDark(180), masterFlat(dust(6)));
        assertThat(p.dust().orElseThrow().before().value()).isCloseTo(0, within(0.25));
        assertThat(p.dust().orElseThrow().after().value()).isCloseTo(-1, within(0.25));
        assertThat(p.isSound()).isFalse();
        assertThat(p.sentences()).anyMatch(s -> s.contains("the flat makes rings"));
    }

    @Test
    void aDarkOfHalfTheTimeIsSeenByItsHotPixels() {
        CalibrationProof p = proof(light(dust(5), (x, y) -> 900, Header.EMPTY), masterDark(90), masterFlat(dust(5)));
        assertThat(p.hot().orElseThrow().value()).isCloseTo(2, within(0.05));
        assertThat(p.sentences()).anyMatch(s -> s.contains("another exposure or temperature"));
        assertThat(p.isSound()).isFalse();
    }

    /** A flat of 20,000 ADU with 5,000 of offset left in it is flatter than it should be: (1 − 0.3) becomes (1 − 0.24). */
    @Test
    void aFlatWithItsOffsetLeftInTakesOutTooLittle() {
        Frame flat = frame(3, 0.001, (x, y) -> (20_000 * response(x, y, dust(5)) + 5000) / 25_000, Header.EMPTY);
        CalibrationProof p = proof(light(dust(5), (x, y) -> 900, Header.EMPTY), masterDark(180), flat);
        assertThat(p.cornersAfter()).isCloseTo(0.7 / 0.76 - 1, within(0.02));
        assertThat(p.sentences().get(0)).contains("takes out too little");
    }

    @Test
    void ofAColourSensorEachColourCounts() {
        Header mosaic = Header.EMPTY.with("BAYERPAT", "RGGB");
        Level glow = (x, y) -> (x + y) % 2 == 1 ? 1200 : y % 2 == 0 ? 500 : 700;
        CalibrationProof p = proof(light(dust(5), glow, mosaic), masterDark(180), masterFlat(dust(5)));
        assertThat(p.cornersBefore()).isCloseTo(-0.3, within(0.02));
        assertThat(p.isSound()).isTrue();
    }

    /** A dark alone is no reason to speak of a flat, nor a flat alone of a dark. */
    @Test
    void nothingIsSaidOfMastersThatAreNotThere() {
        Frame light = light(dust(5), (x, y) -> 900, Header.EMPTY);
        CalibrationProof dark =
                proof(light, Masters.of(Optional.empty(), Optional.of(masterDark(180)), Optional.empty()));
        assertThat(dark.isSound()).isTrue();
        assertThat(dark.sentences().get(0)).startsWith("There is no flat: the corners stay 3");
        assertThat(dark.sentences().get(1)).isEqualTo("There is no flat: dust stays.");
        CalibrationProof flat =
                proof(light, Masters.of(Optional.empty(), Optional.empty(), Optional.of(masterFlat(dust(5)))));
        assertThat(flat.sentences().get(0))
                .startsWith("The corners have")
                .endsWith("nothing takes the offset off these lights.");
        assertThat(flat.sentences().get(2)).isEqualTo("There is no dark: hot pixels stay.");
    }

    @Test
    void withoutDustAndHotPixelsNothingIsClaimedOfThem() {
        Frame dark = frame(2, 1, (x, y) -> OFFSET, Header.EMPTY);
        CalibrationProof p = proof(light(new Speck[0], (x, y) -> 900, Header.EMPTY), dark, masterFlat(new Speck[0]));
        assertThat(p.dust()).isEmpty();
        assertThat(p.hot()).isEmpty();
        assertThat(p.sentences().get(1)).contains("no dust to tell by");
    }
}
