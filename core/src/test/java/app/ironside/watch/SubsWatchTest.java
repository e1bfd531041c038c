package app.ironside.watch;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.journal.Trouble;
import app.ironside.judge.Grader;
import app.ironside.judge.SubLook;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What runs of subs show, by hand. */
class SubsWatchTest {
    private static final Instant START = Instant.parse("2026-11-10T20:00:00Z");

    private final List<SubLook> subs = new ArrayList<>();
    private final List<double[]> places = new ArrayList<>();
    private final Episodes episodes = new Episodes(false);

    private void sub(double light, double hfr, double eccentricity, double x) {
        subs.add(new SubLook(
                "s" + subs.size(),
                "L",
                Optional.of(START.plusSeconds(300L * subs.size())),
                180,
                200,
                hfr,
                2 * hfr,
                eccentricity,
                1000,
                20,
                OptionalDouble.of(light),
                1,
                OptionalDouble.of(70),
                OptionalDouble.of(-40),
                OptionalDouble.of(-20),
                OptionalDouble.of(0.3)));
        places.add(new double[] {x, 0});
    }

    @BeforeEach
    void sixClearSubs() {
        for (int i = 0; i < 6; i++) {
            sub(1, 1.5, 0.3, 0.1 * ((i + 1) % 2));
        }
    }

    private List<Watched> watched() {
        List<Watched> watched = new ArrayList<>();
        for (int i = 0; i < subs.size(); i++) {
            double[] at = places.get(i);
            watched.add(new Watched(
                    Grader.grade(subs).get(i),
                    1 - Math.sqrt(1 - Math.pow(subs.get(i).eccentricity(), 2)),
                    20,
                    OptionalDouble.of(at[0]),
                    OptionalDouble.of(at[1]),
                    OptionalDouble.of(-20),
                    Optional.empty()));
        }
        return watched;
    }

    private Episodes.News next() {
        return episodes.next(SubsWatch.findings(watched()), START);
    }

    @Test
    void clearSubsShowNothing() {
        assertThat(SubsWatch.findings(watched())).isEmpty();
        assertThat(SubsWatch.findings(List.of())).isEmpty();
    }

    /** Cloud is told with what it might be instead; hands do not help, so nobody is woken, and once is enough. */
    @Test
    void cloudIsNotedOnce() {
        sub(0.3, 1.5, 0.3, 0);
        List<Finding> found = SubsWatch.findings(watched());
        assertThat(found).extracting(Finding::trouble).containsExactly(Trouble.CLOUD, Trouble.DEW);
        assertThat(found.get(0).sentence()).isEqualTo("30 % of the light is left, over 1 sub.");
        assertThat(found.get(0).framesLost()).isEqualTo(1);
        assertThat(next().alerts()).singleElement().satisfies(a -> assertThat(a.wake())
                .isFalse());
        sub(0.2, 1.5, 0.3, 0);
        assertThat(next().alerts()).isEmpty();
    }

    /** A focus that drifts is a note while light is kept, and wakes when the first sub is lost. */
    @Test
    void aFocusThatIsLostWakes() {
        for (int i = 1; i <= 5; i++) {
            sub(1, 1.5 * (1 + 0.07 * i), 0.3, 0);
        }
        assertThat(next().alerts()).singleElement().satisfies(a -> assertThat(a.severity())
                .isEqualTo("note"));
        sub(1, 1.5 * 1.6, 0.3, 0);
        List<Alert> alerts = next().alerts();
        assertThat(alerts).singleElement().satisfies(a -> {
            assertThat(a.severity()).isEqualTo("wake");
            assertThat(a.trouble()).isEqualTo(Trouble.FOCUS);
            assertThat(a.sentence()).contains("Focus again now");
        });
        sub(1, 1.5 * 1.65, 0.3, 0);
        assertThat(next().alerts()).as("one for one cause").isEmpty();
    }

    /** After three sound subs a trouble is over, and would be told anew. */
    @Test
    void whatComesBackIsToldAgain() {
        sub(0.3, 1.5, 0.3, 0);
        assertThat(next().alerts()).hasSize(1);
        for (int i = 0; i < 3; i++) {
            sub(1, 1.5, 0.3, 0);
            assertThat(next().alerts()).isEmpty();
        }
        sub(0.3, 1.5, 0.3, 0);
        assertThat(next().alerts()).hasSize(1);
    }

    /** By hand: half an arcminute in five minutes are six an hour. */
    @Test
    void aFieldThatCreepsIsAnAxis() {
        for (int i = 1; i <= 8; i++) {
            sub(1, 1.5, 0.3, 0.5 * i);
        }
        List<Watched> moving = watched().subList(5, 14);
        assertThat(SubsWatch.findings(moving)).singleElement().satisfies(f -> {
            assertThat(f.trouble()).isEqualTo(Trouble.POLAR);
            assertThat(f.sentence()).startsWith("The field creeps 6.0\u2032 an hour");
        });
    }

    @Test
    void aGustIsToldFromARun() {
        sub(1, 1.5, 0.93, 0);
        assertThat(SubsWatch.findings(watched()).get(0).trouble()).isEqualTo(Trouble.WIND);
    }

    /** Frames came every five minutes: after fifteen without one something has stopped. */
    @Test
    void silenceIsTold() {
        Instant last = START.plusSeconds(300L * 5);
        assertThat(SubsWatch.silence(watched(), last.plusSeconds(800))).isEmpty();
        assertThat(SubsWatch.silence(watched(), last.plusSeconds(1000))
                        .orElseThrow()
                        .sentence())
                .isEqualTo("No frame for 17 min; they came every 300 s.");
    }
}
