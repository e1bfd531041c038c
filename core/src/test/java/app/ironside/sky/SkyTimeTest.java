package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import org.jastronomy.jsofa.JSOFA;
import org.jastronomy.jsofa.JSOFAException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** TT − UTC: 32.184 s and the leap seconds of IERS Bulletin C 52 (37 s since 2017), Bulletin C 30 (33 s from 2006 on). */
class SkyTimeTest {
    @ParameterizedTest
    @CsvSource({"2026-11-14T20:15:30Z, 69.184", "2017-01-01T00:00:00Z, 69.184", "2006-03-01T12:00:00Z, 65.184"})
    void terrestrialTimeIsAheadByTheLeapSecondsAndTheirStart(Instant time, double seconds) {
        SkyTime t = SkyTime.of(time);

        assertThat(86_400 * (t.tt1() - t.utc1() + t.tt2() - t.utc2())).isCloseTo(seconds, within(1e-6));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "1972-06-30T23:59:59Z",
                "2016-12-31T18:00:00Z",
                "2016-12-31T23:59:59.5Z",
                "2017-01-01T00:00:00.25Z",
                "2040-02-29T06:07:08Z",
                "2099-12-31T23:59:59Z"
            })
    void daysWithAndWithoutALeapSecondAreAsSofaHasThem(Instant time) throws JSOFAException {
        SkyTime.of(Instant.parse("2020-01-01T00:00:00Z")); // another day before
        SkyTime t = SkyTime.of(time);
        JSOFA.JulianDate tai = JSOFA.jauUtctai(t.utc1(), t.utc2());
        JSOFA.JulianDate tt = JSOFA.jauTaitt(tai.djm0, tai.djm1);

        assertThat(t.tt1()).isEqualTo(tt.djm0);
        assertThat(86_400 * (t.tt2() - tt.djm1)).isCloseTo(0, within(1e-9));
    }

    @Test
    void readersOfNumbersAgree() {
        java.util.SplittableRandom random = new java.util.SplittableRandom(11);
        for (int i = 0; i < 20_000; i++) {
            String text = String.format(
                    java.util.Locale.ROOT, "%." + random.nextInt(0, 9) + "f", 800 * random.nextDouble() - 400);
            assertThat(StarCatalogue.number("," + text + ",", 1, 1 + text.length()))
                    .isEqualTo(Double.parseDouble(text));
        }
        for (String odd : new String[] {"1e3", "+4.5", "5.", ".5", "-.25", "123456789.123456789"}) {
            assertThat(StarCatalogue.number(odd, 0, odd.length())).isEqualTo(Double.parseDouble(odd));
        }
        for (String wrong : new String[] {".", "-", "1.2.3", "4x", "--1"}) {
            org.assertj.core.api.Assertions.assertThatThrownBy(() -> StarCatalogue.number(wrong, 0, wrong.length()))
                    .isInstanceOf(NumberFormatException.class);
        }
    }
}
