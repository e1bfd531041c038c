package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** By hand: three nights of one galaxy, 2 h of L, then 1 h of L and 1 of Ha, then 3 h of Ha. */
class GatheringTest {
    private static final Gathering GALAXY = new Gathering(
            "NGC 2403",
            false,
            List.of(
                    night(3, "2026-11-20", Map.of("Ha", 3.0), true),
                    night(1, "2026-10-02", Map.of("L", 2.0), false),
                    night(2, "2026-10-09", Map.of("L", 1.0, "Ha", 1.0), true)));

    private static Gathering.Night night(long id, String date, Map<String, Double> hours, boolean picture) {
        return new Gathering.Night(
                id,
                LocalDate.parse(date),
                hours,
                picture ? Optional.of(Path.of("night" + id, "stack.png")) : Optional.empty());
    }

    @Test
    void hoursAreSummedByFilter() {
        assertThat(GALAXY.kept()).containsExactly(Map.entry("Ha", 4.0), Map.entry("L", 3.0));
        assertThat(GALAXY.hoursANight()).hasValue(2);
        assertThat(GALAXY.baseline().orElseThrow().night()).isEqualTo(2);
        assertThat(GALAXY.latest().orElseThrow().night()).isEqualTo(3);
        assertThat(GALAXY.hoursUntil(GALAXY.baseline().orElseThrow())).isEqualTo(4);
    }

    /** 8 h of L and 4 of Ha: five of L are left, three nights of 2 h; at two clear nights a month that is a month and a half. */
    @Test
    void whatIsLeftIsToldInNightsAndDays() {
        Map<String, Double> wanted = Map.of("L", 8.0, "Ha", 4.0);
        assertThat(GALAXY.left(wanted)).containsExactly(Map.entry("Ha", 0.0), Map.entry("L", 5.0));
        assertThat(GALAXY.nightsLeft(wanted)).hasValue(3);
        assertThat(GALAXY.finished(wanted)).isEmpty();
        assertThat(GALAXY.sentence(wanted, Optional.of(2.0)))
                .isEqualTo(
                        "7.0 h kept over 3 nights, the last of them, 2026-11-20, added 3.0 h; 5.0 of 12.0 h are left,"
                                + " 3 more nights at 2.0 h a night, about 46 days at 2.0 clear nights a month.");
    }

    @Test
    void theNightThatFinishedItIsTold() {
        assertThat(GALAXY.finished(Map.of("L", 3.0, "Ha", 1.0))).contains(LocalDate.parse("2026-10-09"));
        assertThat(GALAXY.sentence(Map.of("L", 2.0), Optional.empty()))
                .endsWith("all that was wanted was there on 2026-10-02.");
        assertThat(GALAXY.sentence(Map.of(), Optional.empty())).endsWith("no end is set for it.");
    }
}
