package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.plan.TargetWindow;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;

/**
 * 147 nights over all latitudes, both hemispheres, both sides of the date line, two leap days. Another library: astronomy-engine 2.1.19
 * (npm), by tools/reference-nights.mjs. It claims one arcminute, which is four seconds of an ordinary sunset.
 */
class NightTablesTest {
    private record Row(List<String> f) {
        double number(int i) {
            return Double.parseDouble(f.get(i));
        }

        Optional<Instant> time(int i) {
            return f.get(i).isEmpty() ? Optional.empty() : Optional.of(Instant.parse(f.get(i)));
        }

        List<Instant> times(int i) {
            return f.get(i).isEmpty()
                    ? List.of()
                    : Arrays.stream(f.get(i).split(" ")).map(Instant::parse).toList();
        }

        Site site() {
            ZoneOffset zone = ZoneOffset.ofHours(Integer.parseInt(f.get(2)));
            return new Site("row", number(0), number(1), 0, zone, 21, Horizon.FLAT);
        }

        LocalDate date() {
            return LocalDate.parse(f.get(3));
        }

        String name() {
            return f.get(0) + " " + f.get(1) + " " + f.get(3);
        }
    }

    private static List<Row> rows() throws IOException {
        List<Row> rows = new ArrayList<>();
        try (BufferedReader in = new BufferedReader(new InputStreamReader(
                NightTablesTest.class.getResourceAsStream("reference-nights.csv"), StandardCharsets.UTF_8))) {
            in.readLine();
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                rows.add(new Row(List.of(line.split(",", -1))));
            }
        }
        return rows;
    }

    /** Both tests of a night's times share its computation. */
    private static final Map<String, NightTimes> NIGHTS = new ConcurrentHashMap<>();

    private static NightTimes night(Row row) {
        return NIGHTS.computeIfAbsent(row.name(), n -> NightTimes.of(row.site(), row.date()));
    }

    private static double apartSeconds(Instant a, Instant b) {
        return Math.abs(Duration.between(a, b).toMillis()) / 1000.0;
    }

    /** Within 30 s up to 60° of latitude, 2 min beyond, where the Sun grazes the horizon. */
    @Test
    void sunTimesOfAllLatitudes() throws IOException {
        SoftAssertions all = new SoftAssertions();
        int compared = 0;
        for (Row row : rows()) {
            NightTimes night = night(row);
            double tolerance = Math.abs(row.number(0)) < 60 ? 30 : 120;
            List<Optional<Instant>> ours = List.of(
                    night.sunset(),
                    night.civilDusk(),
                    night.nauticalDusk(),
                    night.astronomicalDusk(),
                    night.astronomicalDawn(),
                    night.nauticalDawn(),
                    night.civilDawn(),
                    night.sunrise());
            for (int i = 0; i < ours.size(); i++) {
                Optional<Instant> theirs = row.time(4 + i);
                all.assertThat(ours.get(i).isPresent())
                        .as(row.name() + " event " + i + " happens")
                        .isEqualTo(theirs.isPresent());
                if (ours.get(i).isPresent() && theirs.isPresent()) {
                    compared++;
                    all.assertThat(apartSeconds(ours.get(i).get(), theirs.get()))
                            .as(row.name() + " event " + i)
                            .isLessThan(tolerance);
                }
            }
        }
        all.assertAll();
        assertThat(compared).isGreaterThan(900);
    }

    /** Within 60 s, and the lit part of the disc within 0.2 %. */
    @Test
    void moonTimesOfAllLatitudes() throws IOException {
        SoftAssertions all = new SoftAssertions();
        for (Row row : rows()) {
            NightTimes night = night(row);
            double tolerance = Math.abs(row.number(0)) < 65 ? 60 : 180;
            compare(all, row.name() + " moonrise", night.moonrise(), row.times(12), tolerance);
            compare(all, row.name() + " moonset", night.moonset(), row.times(13), tolerance);
            all.assertThat(Math.abs(night.moonIlluminatedFraction() - row.number(14)))
                    .as(row.name() + " lit part")
                    .isLessThan(0.002);
        }
        all.assertAll();
    }

    private static void compare(
            SoftAssertions all, String what, List<Instant> ours, List<Instant> theirs, double tolerance) {
        all.assertThat(ours).as(what).hasSameSizeAs(theirs);
        for (int i = 0; i < Math.min(ours.size(), theirs.size()); i++) {
            all.assertThat(apartSeconds(ours.get(i), theirs.get(i))).as(what).isLessThan(tolerance);
        }
    }

    /** Altitudes within 0.01° above 10°, transits within 2 s. */
    @Test
    void starsOfAllLatitudes() throws IOException {
        SoftAssertions all = new SoftAssertions();
        int high = 0;
        for (Row row : rows()) {
            Observer observer = Observer.at(row.site());
            Equatorial star = new Equatorial(row.number(15), row.number(16));
            Instant midnight =
                    row.date().plusDays(1).atStartOfDay(row.site().zone()).toInstant();
            double theirs = row.number(17);
            if (theirs > 10) {
                high++;
                all.assertThat(Math.abs(observer.observed(star, midnight).altitudeDeg() - theirs))
                        .as(row.name() + " altitude")
                        .isLessThan(0.01);
            }
            if (Math.abs(row.number(16)) < 85) {
                Instant transit = row.time(18).orElseThrow();
                all.assertThat(apartSeconds(TargetWindow.transit(star, observer, transit), transit))
                        .as(row.name() + " transit")
                        .isLessThan(2);
            }
        }
        all.assertAll();
        assertThat(high).isGreaterThan(40);
    }
}
