package app.ironside.point;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.sky.NamedStar;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Stars for a hand controller, at the site of the demo. */
class AlignmentStarsTest {
    private static final List<NamedStar> STARS = NamedStar.of(StarCatalogue.hipparcos());
    private static final Observer OBSERVER = Observer.at(Examples.site());
    private static final Instant EVENING = Instant.parse("2026-11-14T19:00:00Z");

    /** Astronomical Almanac, bright stars, J2000 to a tenth of an hour and of a degree (from memory): the numbers belong to the names. */
    @Test
    void namesBelongToTheirStars() {
        Map<String, double[]> known = Map.of(
                "Vega", new double[] {18.6, 38.8},
                "Capella", new double[] {5.3, 46.0},
                "Altair", new double[] {19.8, 8.9},
                "Deneb", new double[] {20.7, 45.3},
                "Hamal", new double[] {2.1, 23.5},
                "Spica", new double[] {13.4, -11.2});
        assertThat(STARS).hasSizeGreaterThan(55);
        known.forEach((name, place) -> {
            NamedStar star = STARS.stream()
                    .filter(s -> s.name().equals(name))
                    .findFirst()
                    .orElseThrow();
            assertThat(star.star().position().raDeg() / 15).isCloseTo(place[0], within(0.06));
            assertThat(star.star().position().decDeg()).isCloseTo(place[1], within(0.06));
        });
        assertThat(STARS).allMatch(s -> s.star().magnitude() < 2.6);
    }

    /** The rules, through a whole night: two on one side, one on the other, within reach, well apart. */
    @Test
    void threeStandAsTheyShould() {
        int found = 0;
        for (int minutes = 0; minutes < 600; minutes += 20) {
            List<AlignmentStars.Pick> picks =
                    AlignmentStars.choose(OBSERVER, EVENING.plus(Duration.ofMinutes(minutes)), STARS, Set.of());
            if (picks.isEmpty()) {
                continue;
            }
            found++;
            assertThat(picks).hasSize(3);
            assertThat(picks.get(0).east()).isEqualTo(picks.get(1).east());
            assertThat(picks.get(2).east()).isNotEqualTo(picks.get(0).east());
            for (AlignmentStars.Pick pick : picks) {
                assertThat(pick.seen().altitudeDeg()).isBetween(25.0, 70.0);
                assertThat(pick.hourAngleDeg() < 0).isEqualTo(pick.seen().azimuthDeg() < 180);
            }
            assertThat(picks.get(0).place().separationDeg(picks.get(1).place())).isGreaterThan(24);
            assertThat(picks.get(0).place().separationDeg(picks.get(2).place())).isGreaterThan(24);
        }
        assertThat(found).isGreaterThan(25);
    }

    @Test
    void whatIsHiddenIsLeftOutUntilNoneAreLeft() {
        Set<String> hidden = new HashSet<>();
        List<AlignmentStars.Pick> picks = AlignmentStars.choose(OBSERVER, EVENING, STARS, hidden);
        for (int rounds = 0; !picks.isEmpty() && rounds < 60; rounds++) {
            String first = picks.get(0).star().name();
            hidden.add(first);
            picks = AlignmentStars.choose(OBSERVER, EVENING, STARS, hidden);
            assertThat(picks).noneMatch(p -> hidden.contains(p.star().name()));
        }
        assertThat(picks).isEmpty();
    }
}
