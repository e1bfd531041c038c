package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Examples;
import app.ironside.sky.Interval;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.StringReader;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** A forecast read and asked, and what a sub costs besides its light; all by hand. */
class CloudForecastTest {
    private static final Instant EIGHT = Instant.parse("2026-11-14T20:00:00Z");

    private static Instant minutes(long count) {
        return EIGHT.plusSeconds(60 * count);
    }

    private static CloudForecast read(String text) throws IOException {
        return table(text).clouds(new Interval(EIGHT, minutes(600)));
    }

    private static WeatherTable table(String text) throws IOException {
        return WeatherTable.parse(
                new BufferedReader(new StringReader(text)),
                "clouds.csv",
                EIGHT,
                new WeatherTable.Place(ZoneId.of("Europe/Rome"), LocalDate.of(2026, 11, 14)));
    }

    @Test
    void aForecastIsReadWithHeadingCommentsAndEitherSeparator() throws IOException {
        CloudForecast clouds = read(
                """
                time,cover
                # from the hill
                2026-11-14T21:00:00+01:00, 10
                2026-11-14T22:00:00+01:00;70   # front

                2026-11-14T22:00:00Z,0
                """);
        assertThat(clouds.isKnown()).isTrue();
        assertThat(clouds.coverAt(EIGHT)).isEqualTo(0.1);
        assertThat(clouds.coverAt(minutes(60))).isEqualTo(0.7);
        assertThat(clouds.coverAt(minutes(30))).as("straight between").isCloseTo(0.4, within(1e-12));
        assertThat(clouds.coverAt(minutes(-500)))
                .as("before the first, as there")
                .isEqualTo(0.1);
        assertThat(clouds.coverAt(minutes(500))).as("after the last, as there").isZero();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "2026-11-14T21:00:00+01:00",
                "2026-11-14T25:00:00,35",
                "2026-11-14T21:00:00+01:00,",
                "2026-11-14T21:00:00+01:00,135",
                "2026-11-14T21:00:00+01:00,-1",
                "2026-11-14T21:00:00+01:00,NaN",
                "tonight,35"
            })
    void aLineThatIsNoForecastIsNamed(String line) {
        assertThatThrownBy(() -> read("time,cover\n2026-11-14T20:00:00+01:00,5\n" + line + "\n"))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("clouds.csv line 3")
                .hasMessageContaining(line)
                .hasMessageContaining("time, cloud in percent");
    }

    /** Local times are the site's, clock times alone the night's; columns come in any order and some may be missing. */
    @Test
    void aTableOfAirAndCloud() throws IOException {
        WeatherTable table = table(
                """
                wind m/s; time; humidity %; temperature; cloud
                2; 20:00; 60; 6; 10
                4; 2026-11-15 00:00; 90; 2; 50
                6; 4:00; 95; ; 90
                """);
        assertThat(table.span().from()).isEqualTo("2026-11-14T19:00:00Z");
        assertThat(table.span().until()).isEqualTo("2026-11-15T03:00:00Z");
        List<WeatherForecast.Hour> hours = table.hours(new Interval(minutes(0), minutes(600)));
        assertThat(hours).as("no air after midnight").hasSize(4);
        // By hand: at 21:00 local a quarter of the way from 20:00 to 00:00.
        assertThat(hours.get(0)).isEqualTo(new WeatherForecast.Hour(EIGHT, 0.2, 5.0, 0.675, 2.5));
        assertThat(table.clouds(table.span()).coverAt(Instant.parse("2026-11-15T01:00:00Z")))
                .isCloseTo(0.7, within(1e-12));
        assertThat(table.tellsOf(new Interval(minutes(24 * 60), minutes(30 * 60))))
                .isFalse();
        assertThat(table.age(minutes(60 * 5))).isEqualTo("5 h old");
        assertThat(table("time,cover\n21:00,5\n").tellsOfAir()).isFalse();
    }

    /** By hand: known from 21:00, 10 % until 23:00, rising to 70 % at 1:00: three tenths are reached at 23:40. */
    @Test
    void theVerdictInHours() throws IOException {
        WeatherTable table = table("time,cover\n21:00,10\n23:00,10\n1:00,70\n");
        ClearHours hours = ClearHours.of(List.of(new Interval(EIGHT, minutes(300))), table);
        assertThat(hours.upHours()).isEqualTo(5);
        assertThat(hours.knownHours()).isEqualTo(4);
        assertThat(hours.hours()).isCloseTo(2 + 2.0 / 3, within(1e-4));
        assertThat(hours.isWorthStarting()).isTrue();
        assertThat(ClearHours.of(List.of(new Interval(minutes(160), minutes(300))), table)
                        .isWorthStarting())
                .isFalse();
    }

    @Test
    void typedNumbersAreOfOneNight() {
        Interval night = new Interval(EIGHT, minutes(600));
        WeatherTable typed = WeatherTable.typed(night, 0.2, 8, -2, 0.8, 3, EIGHT);
        assertThat(typed.hours(night)).hasSize(11);
        assertThat(typed.hours(night).get(5).temperatureC()).isCloseTo(3, within(1e-12));
        assertThat(typed.tellsOf(new Interval(minutes(24 * 60), minutes(34 * 60))))
                .isFalse();
        assertThatThrownBy(() -> WeatherTable.typed(night, 0.2, 8, -2, 80, 3, EIGHT))
                .hasMessageContaining("humidity is 80");
    }

    @Test
    void anEmptyFileIsNoForecast() {
        assertThatThrownBy(() -> read("time,cover\n# nothing\n"))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("no forecast in it");
    }

    @Test
    void nothingKnownIsClear() {
        assertThat(CloudForecast.CLEAR.isKnown()).isFalse();
        assertThat(CloudForecast.CLEAR.coverAt(EIGHT)).isZero();
        Interval span = new Interval(EIGHT, minutes(120));
        assertThat(CloudForecast.CLEAR.usable(span)).containsExactly(span);
    }

    /** By hand: cover rises from 0 at 20:00 to 60 % at 21:00 and falls again: up to 20:30 and from 21:30 it is at most 30 %. */
    @Test
    void usableStretchesEndWhereItCloses() {
        CloudForecast clouds = new CloudForecast(Map.of(EIGHT, 0.0, minutes(60), 0.6, minutes(120), 0.0));
        List<Interval> usable = clouds.usable(new Interval(EIGHT, minutes(120)));
        assertThat(usable).hasSize(2);
        assertThat(usable.get(0).from()).isEqualTo(EIGHT);
        assertThat(usable.get(0).until()).isCloseTo(minutes(30), within(1, ChronoUnit.SECONDS));
        assertThat(usable.get(1).from()).isCloseTo(minutes(90), within(1, ChronoUnit.SECONDS));
        assertThat(usable.get(1).until()).isEqualTo(minutes(120));
        assertThat(clouds.usable(new Interval(minutes(50), minutes(80)))).isEmpty();
    }

    /**
     * By hand, with 2 s read-out, 18 s a dither each third sub, a focus run of 110 s each 1.2 h, 120 s to start: ten subs of 180 s take
     * 10 (180 + 2 + 6) = 1880 s, the start 120 s, focus 1880/3600/1.2 · 110 = 47.9 s, a tenth and a half more: 2355 s.
     */
    @Test
    void theTimeOfTenSubs() {
        Overheads costs = new Overheads(2, 18, 110, 1.2, 120, 150, 0);
        assertThat(costs.secondsFor(10 * costs.secondsOf(180, 3), 0, 180))
                .isCloseTo(1.15 * (1880 + 120 + 47.87), within(0.5));
        assertThat(costs.secondsFor(1880, 1, 180) - costs.secondsFor(1880, 0, 180))
                .as("a flip costs its own time and a sub")
                .isCloseTo(1.15 * 330, within(1e-9));
    }

    /** Law: what was allowed for a number of subs holds at least that number. */
    @ParameterizedTest
    @CsvSource({"5, 60, 1, 0", "10, 180, 3, 0", "40, 120, 2, 1", "100, 30, 5, 1", "3, 600, 1, 1"})
    void theTimeAllowedSuffices(int subs, double seconds, int ditherEvery, int flips) {
        Overheads costs = Overheads.of(Examples.kit("wren"));
        double allowed = costs.secondsFor(subs * costs.secondsOf(seconds, ditherEvery), flips, seconds);
        assertThat(costs.subsIn(allowed, seconds, ditherEvery, flips)).isGreaterThanOrEqualTo(subs);
        assertThat(costs.subsIn(10, seconds, ditherEvery, flips))
                .as("no time, no sub")
                .isZero();
    }
}
