package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import java.time.LocalTime;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class YearOfNightsTest {
    private static final int NIGHTS = 4000;

    private static final YearOfNights.Span WINTER = new YearOfNights.Span(LocalTime.of(17, 2), 14.4);

    private static final List<SimSettings> DRAWN = IntStream.range(0, NIGHTS)
            .mapToObj(seed -> YearOfNights.night(SimSettings.DEFAULT, WINTER, seed))
            .toList();

    /** Law of large numbers: each rate is met to four standard deviations of the binomial distribution. */
    @Test
    void faultsComeAtTheRatesThatAreStated() {
        YearOfNights.oneIn().forEach((kind, oneIn) -> {
            long count = DRAWN.stream()
                    .filter(n -> n.faults().stream().anyMatch(f -> f.kind() == kind))
                    .count();
            double p = 1.0 / oneIn;
            assertThat((double) count)
                    .as(kind.word())
                    .isBetween(
                            NIGHTS * p - 4 * Math.sqrt(NIGHTS * p * (1 - p)),
                            NIGHTS * p + 4 * Math.sqrt(NIGHTS * p * (1 - p)));
        });
        assertThat(DRAWN.stream().filter(n -> YearOfNights.cloudedHours(n, WINTER) > 2))
                .as("some nights in a hundred are closed for hours")
                .hasSizeBetween(NIGHTS / 30, NIGHTS / 8);
    }

    /** Nothing is drawn for the day, and no more cloud is counted than there is night. */
    @Test
    void aShortNightIsNoLongerThanItIs() {
        YearOfNights.Span summer = new YearOfNights.Span(LocalTime.of(21, 10), 8.5);
        for (long seed = 0; seed < 400; seed++) {
            SimSettings night = YearOfNights.night(SimSettings.DEFAULT, summer, seed);
            assertThat(YearOfNights.cloudedHours(night, summer)).isBetween(0.0, 8.5);
            assertThat(night.faults())
                    .allMatch(f -> !f.at().isBefore(LocalTime.of(21, 10)) || !f.at().isAfter(LocalTime.of(5, 40)));
        }
    }

    @Test
    void theSameSeedIsTheSameNightAndWhatWasSetStays() {
        RehearsedFault dew = new RehearsedFault(FaultKind.DEW, LocalTime.of(23, 40));
        SimSettings gear = SimSettings.DEFAULT.withFaults(List.of(dew));
        assertThat(YearOfNights.night(gear, WINTER, 77)).isEqualTo(YearOfNights.night(gear, WINTER, 77));
        assertThat(YearOfNights.night(gear, WINTER, 77)).isNotEqualTo(YearOfNights.night(gear, WINTER, 78));
        assertThat(YearOfNights.night(gear, WINTER, 77).faults()).contains(dew);
        assertThat(YearOfNights.night(gear, WINTER, 77).polarAltitudeArcmin())
                .as("the gear is the same")
                .isEqualTo(gear.polarAltitudeArcmin());
    }
}
