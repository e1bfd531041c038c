package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.journal.AnySub;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Verdict;
import app.ironside.kit.OwnTimes;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Journals by hand: subs of a minute with two seconds to read out, dithers of 20 s, flips of 150 s. */
class TimesTakenTest {
    private static final Instant NINE = Instant.parse("2026-11-14T21:00:00Z");
    private final List<NightEvent> night = new ArrayList<>();
    private double now;

    private Instant at(double seconds) {
        return NINE.plusMillis(Math.round(1000 * seconds));
    }

    private void sub() {
        now += 60;
        night.add(AnySub.of(at(now), "M 33", "L", 60, new Verdict(true, "good", "good")));
        now += 2;
    }

    private void dither(double took) {
        now += took;
        night.add(new Dithered(at(now), "Dithered.", 3, 2, true, Duration.ofMillis(Math.round(1000 * took))));
    }

    private void flip(double took) {
        now += took;
        night.add(new Flipped(at(now), "Flipped.", "M 33", true, true));
    }

    @Test
    void eachIsTakenWhereItStandsAlone() {
        for (int i = 0; i < 4; i++) {
            sub();
            sub();
            dither(20);
            sub();
            flip(150);
            sub();
        }
        sub();
        flip(800);
        night.add(
                new FaultTold(at(now), "The mount did not answer.", app.ironside.journal.Stage.RUN, Optional.empty()));
        sub();
        TimesTaken times = TimesTaken.of(List.of(night), true);
        assertThat(times.dither().orElseThrow().seconds()).isCloseTo(20, within(1e-6));
        assertThat(times.dither().orElseThrow().count()).isEqualTo(4);
        assertThat(times.dither().orElseThrow().hours()).isCloseTo(80 / 3600.0, within(1e-9));
        assertThat(times.flip().orElseThrow().seconds())
                .as("without what reading out takes anyway, and not of the one with a fault")
                .isCloseTo(150, within(1e-6));
        assertThat(times.flip().orElseThrow().count()).isEqualTo(4);
        assertThat(times.focusRun()).isEmpty();
        assertThat(times.words()).isEqualTo("a dither 20 s (4), a flip 150 s (4), on 1 rehearsed night");
        assertThat(times.forKit()).isEqualTo(new OwnTimes(Optional.of(20.0), Optional.empty(), Optional.of(150.0)));
    }

    @Test
    void twoAreTooFew() {
        sub();
        dither(20);
        sub();
        dither(30);
        sub();
        TimesTaken times = TimesTaken.of(List.of(night), false);
        assertThat(times.isKnown()).isFalse();
        assertThat(times.forKit()).isEqualTo(OwnTimes.UNKNOWN);
    }
}
