package app.ironside.desk.parts;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.sky.Sexagesimal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How numbers, times and angles are written; by hand. */
class WordsTest {
    @ParameterizedTest
    @CsvSource({
        "0, 0 s",
        "40, 40 s",
        "89, 89 s",
        "90, 2 min",
        "3599, 60 min",
        "3600, 1 h 00 min",
        "7500, 2 h 05 min",
        "-30, 0 s"
    })
    void spans(long seconds, String words) {
        assertThat(Words.span(Duration.ofSeconds(seconds))).isEqualTo(words);
    }

    /** M 33 stands at 1 h 33 min 50.9 s, +30° 39′ 36″. The last tenth of a second of a turn is the first of the next. */
    @ParameterizedTest
    @CsvSource({
        "23.46208, 30.66, 01 33 50.9  +30 39 36",
        "0, -0.5, 00 00 00.0  −00 30 00",
        "359.99999, 90, 00 00 00.0  +90 00 00",
        "180, -89.99999, 12 00 00.0  −90 00 00"
    })
    void places(double ra, double dec, String words) {
        assertThat(Sexagesimal.text(ra, dec)).isEqualTo(words);
    }

    @Test
    void theClockIsThatOfTheSite() {
        Instant time = Instant.parse("2026-11-14T23:05:59Z");
        assertThat(Words.clock(time, ZoneId.of("Europe/Rome"))).isEqualTo("00:05");
        assertThat(Words.clock(time, ZoneId.of("Asia/Kathmandu"))).isEqualTo("04:50");
    }

    /** A point stays a point wherever the machine was set up. */
    @Test
    void numbersDoNotFollowTheMachine() {
        Locale before = Locale.getDefault();
        try {
            Locale.setDefault(Locale.GERMANY);
            assertThat(Words.format("%.2f and %,d", 1.5, 12_000)).isEqualTo("1.50 and 12,000");
        } finally {
            Locale.setDefault(before);
        }
    }
}
