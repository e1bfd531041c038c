package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The facts of a header, as cameras and programs write them. */
class HeaderTest {
    /** FITS standard 4.0, section 9.1.1: a date, or a date and a time to any fraction, UTC; older programs add a Z. */
    @ParameterizedTest
    @CsvSource({
        "2026-11-14, 2026-11-14T00:00:00Z",
        "2026-11-14T20:05:07, 2026-11-14T20:05:07Z",
        "2026-11-14T20:05:07.25, 2026-11-14T20:05:07.250Z",
        "2026-11-14T20:05:07Z, 2026-11-14T20:05:07Z"
    })
    void datesOfTheStandard(String text, Instant time) {
        assertThat(Header.EMPTY.with("DATE-OBS", text).start()).contains(time);
    }

    @ParameterizedTest
    @ValueSource(strings = {"14/11/26", "", "yesterday", "2026-13-01", "2026-11-14 20:05"})
    void whatIsNoDateIsNone(String text) {
        assertThat(Header.EMPTY.with("DATE-OBS", text).start()).isEmpty();
    }

    @Test
    void theMiddleOfAnExposure() {
        Header header = Header.EMPTY.with("DATE-OBS", "2026-11-14T20:00:00");
        assertThat(header.middle()).as("no length").isEmpty();
        assertThat(header.with("EXPOSURE", 61.0).middle()).contains(Instant.parse("2026-11-14T20:00:30.500Z"));
        assertThat(header.with("EXPOSURE", 61.0).with("EXPTIME", 10).middle())
                .as("EXPTIME counts first")
                .contains(Instant.parse("2026-11-14T20:00:05Z"));
        assertThat(Header.EMPTY.with("EXPTIME", 10).middle()).as("no start").isEmpty();
    }

    @Test
    void numbersMayStandInQuotes() {
        Header header = Header.EMPTY
                .with("GAIN", " 120 ")
                .with("FILTER", "L ")
                .with("COUNT", 7)
                .with("FLAG", true);
        assertThat(header.number("GAIN")).hasValue(120);
        assertThat(header.number("COUNT")).hasValue(7);
        assertThat(header.number("FILTER")).isEmpty();
        assertThat(header.number("FLAG")).isEmpty();
        assertThat(header.number("NONE")).isEmpty();
        assertThat(header.text("FILTER")).contains("L");
        assertThat(header.text("FLAG")).contains("true");
    }

    @Test
    void aChangeIsACopy() {
        Header one = Header.EMPTY.with("A", 1L).with("B", "two").withHistory("made");
        Header other = one.withAll(Map.of("A", 3L)).with("B", null).withHistory("changed");
        assertThat(one.values()).containsExactlyInAnyOrderEntriesOf(Map.of("A", 1L, "B", "two"));
        assertThat(one.history()).containsExactly("made");
        assertThat(other.values()).containsExactlyInAnyOrderEntriesOf(Map.of("A", 3L));
        assertThat(other.history()).containsExactly("made", "changed");
        assertThat(one.without(k -> k.equals("A")).values()).containsOnlyKeys("B");
        assertThatThrownBy(() -> one.values().put("C", 1)).isInstanceOf(UnsupportedOperationException.class);
    }
}
