package app.ironside.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.Header;
import app.ironside.sky.Equatorial;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a header tells of where a frame points. */
class SolveHintsTest {
    private static final Header PLAIN =
            Header.EMPTY.with("DATE-OBS", "2026-07-02T12:00:00").with("EXPTIME", 0.0);

    /** By hand: 206 265″ × 3.76 µm / 432 mm = 1.795″; 2026-07-02 is day 182 after new year's noon, half a year. */
    @Test
    void theMountsWordsAreHints() {
        SolveHints hints = SolveHints.of(
                PLAIN.with("RA", 23.46).with("DEC", 30.66).with("FOCALLEN", 432).with("XPIXSZ", 3.76), 2800, 2100);
        assertThat(hints.near()).contains(new Equatorial(23.46, 30.66));
        assertThat(hints.scaleArcsecPerPixel().orElseThrow()).isCloseTo(1.795, within(0.001));
        assertThat(hints.focalLengthMm()).hasValue(432);
        assertThat(hints.epochYear()).isCloseTo(2026.5, within(0.003));
    }

    /** By hand: 1 h 33 min 50.9 s is 23.4621°; 30° 39′ 36″ is 30.66°. */
    @ParameterizedTest
    @CsvSource({
        "01 33 50.9, +30 39 36, 23.4621, 30.66",
        "01:33:50.9, 30:39:36, 23.4621, 30.66",
        "00 00 00, -00 30 00, 0, -0.5"
    })
    void sexagesimalPlacesAreRead(String ra, String dec, double raDeg, double decDeg) {
        SolveHints hints = SolveHints.of(PLAIN.with("OBJCTRA", ra).with("OBJCTDEC", dec), 2800, 2100);
        assertThat(hints.near().orElseThrow().raDeg()).isCloseTo(raDeg, within(1e-4));
        assertThat(hints.near().orElseThrow().decDeg()).isCloseTo(decDeg, within(1e-9));
    }

    /** A WCS that is there counts more than what the mount believed. */
    @Test
    void aWcsCountsMore() {
        Wcs wcs = InventedFrames.wcs(new Equatorial(35.6, 42.3), 3, 17, false);
        SolveHints hints = SolveHints.of(
                PLAIN.withAll(wcs.toHeader().values()).with("RA", 200.0).with("DEC", -30.0), 2800, 2100);
        assertThat(hints.near().orElseThrow().separationDeg(new Equatorial(35.6, 42.3)))
                .isLessThan(0.01);
        assertThat(hints.scaleArcsecPerPixel().orElseThrow()).isCloseTo(3, within(1e-6));
    }

    @ParameterizedTest
    @CsvSource({"RA, 400, DEC, 10", "RA, 10, DEC, 99", "OBJCTRA, north, OBJCTDEC, 3", "FOCALLEN, 0, XPIXSZ, 3.76"})
    void nonsenseGivesNoHint(String one, String first, String two, String second) {
        SolveHints hints = SolveHints.of(PLAIN.with(one, first).with(two, second), 2800, 2100);
        assertThat(hints.near()).isEmpty();
        assertThat(hints.scaleArcsecPerPixel()).isEmpty();
    }
}
