package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NightTimesTest {
    private static Site site(double lat, double lon, String zone) {
        return new Site("test", lat, lon, 0, ZoneId.of(zone), 21, Horizon.FLAT);
    }

    private static void near(Optional<Instant> found, String expected, int seconds) {
        assertThat(Duration.between(Instant.parse(expected), found.orElseThrow())
                        .abs())
                .isLessThanOrEqualTo(Duration.ofSeconds(seconds));
    }

    /** Another library: astropy 5.2.1, Sun at −0.8333° and −18°, no air. Both hemispheres, a leap day, the date line. */
    @ParameterizedTest
    @CsvSource({
        "44.05, 8.20, Europe/Rome, 2026-11-14,"
                + "2026-11-14T16:01:57Z,2026-11-14T17:41:59Z,2026-11-15T04:41:52Z,2026-11-15T06:22:09Z",
        "-33.86, 151.21, Australia/Sydney, 2024-02-29,"
                + "2024-02-29T08:32:32Z,2024-02-29T09:58:44Z,2024-02-29T18:16:47Z,2024-02-29T19:43:02Z",
        "69.65, 18.96, Europe/Oslo, 2025-03-10,"
                + "2025-03-10T16:22:27Z,2025-03-10T19:56:08Z,2025-03-11T01:50:50Z,2025-03-11T05:23:39Z",
        "-17.8, 178.4, Pacific/Fiji, 2025-06-21,"
                + "2025-06-21T05:40:02Z,2025-06-21T06:57:46Z,2025-06-21T17:18:46Z,2025-06-21T18:36:29Z"
    })
    void twilightsAgreeWithAstropy(
            double lat,
            double lon,
            String zone,
            LocalDate date,
            String sunset,
            String dusk,
            String dawn,
            String sunrise) {
        NightTimes night = NightTimes.of(site(lat, lon, zone), date);
        near(night.sunset(), sunset, 3);
        near(night.astronomicalDusk(), dusk, 3);
        near(night.astronomicalDawn(), dawn, 3);
        near(night.sunrise(), sunrise, 3);
    }

    /** Published: Reda and Andreas 2004, worked example: sunrise at 6:12:43 local time (from memory). */
    @Test
    void sunriseOfTheSolarPositionPaper() {
        NightTimes before = NightTimes.of(site(39.742476, -105.1786, "-07:00"), LocalDate.of(2003, 10, 16));
        near(before.sunrise(), "2003-10-17T13:12:43Z", 30);
    }

    /** Published: Meeus 1998, example 48.a: 67.86 % lit on 1992 April 12 at 0h dynamical time, 59 s before that in UTC. */
    @Test
    void litPartOfTheMoonOfMeeus() {
        Observer observer = Observer.at(site(0, 0, "UTC"));
        double lit = new SunAndMoon(observer).moonIlluminatedFraction(Instant.parse("1992-04-11T23:59:01Z"));
        assertThat(lit).isCloseTo(0.6786, within(0.0005));
    }

    /** Law: in the polar summer nothing sets and there is no darkness; in the polar night nothing rises. */
    @Test
    void polarDayAndPolarNight() {
        NightTimes summer = NightTimes.of(site(78.2, 15.6, "Europe/Oslo"), LocalDate.of(2026, 6, 20));
        assertThat(summer.sunset()).isEmpty();
        assertThat(summer.darkHours()).isZero();
        NightTimes winter = NightTimes.of(site(78.2, 15.6, "Europe/Oslo"), LocalDate.of(2026, 12, 20));
        assertThat(winter.sunrise()).isEmpty();
        assertThat(winter.darkHours()).isGreaterThan(12);
    }

    /** Law: noon to noon is an hour longer or shorter on the nights when clocks change. */
    @Test
    void nightsOnWhichClocksChange() {
        Site rome = site(41.9, 12.5, "Europe/Rome");
        assertThat(NightTimes.of(rome, LocalDate.of(2026, 10, 24)).night().hours())
                .isCloseTo(25, within(1e-9));
        assertThat(NightTimes.of(rome, LocalDate.of(2026, 3, 28)).night().hours())
                .isCloseTo(23, within(1e-9));
    }

    /** Law: darkness without the Moon is part of darkness, and all of it when the Moon never rises in it. */
    @Test
    void moonlessDarknessIsPartOfDarkness() {
        NightTimes night = NightTimes.of(site(44.05, 8.20, "Europe/Rome"), LocalDate.of(2026, 11, 14));
        double lost = Duration.between(
                                night.astronomicalDusk().orElseThrow(),
                                night.moonset().get(0))
                        .toSeconds()
                / 3600.0;
        assertThat(night.darkHours() - night.moonlessDarkHours()).isCloseTo(lost, within(0.001));
    }
}
