package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;

class ManyNightsTest {
    /** More by hand: -Dnights=30. */
    private static final int NIGHTS = Integer.getInteger("nights", 3);

    private final Wiring wiring = new Wiring(Workers.ALL_CORES);

    private NightFile file() throws Exception {
        return NightFile.parse(CommandsTest.smallNight(60, 3), "night.json", wiring.objects());
    }

    @Test
    void theSameSeedsGiveTheSameNights() throws Exception {
        Outcome once = new ManyNights(wiring).run(file(), 40, NIGHTS, Progress.NONE);
        Outcome again = new ManyNights(wiring).run(file(), 40, NIGHTS, Progress.NONE);
        assertThat(again).isEqualTo(once);
        assertThat(once.nights())
                .hasSize(NIGHTS)
                .extracting(ManyNights.Night::seed)
                .startsWith(40L, 41L);
        assertThat(once.nights()).anyMatch(n -> n.kept() > 5);
    }

    @Test
    void theyCanBeCancelled() {
        assertThatThrownBy(() -> new ManyNights(wiring).run(file(), 1, 2, (what, done) -> false))
                .isInstanceOf(CancellationException.class);
    }

    private static ManyNights.Night night(double light, double clouded, List<RehearsedFault> faults) {
        return new ManyNights.Night(
                1, 10, 10, (int) (light / 60), light, Map.of("M 33", (int) (light / 60)), 2.5, clouded, faults, "");
    }

    /**
     * Ten nights worked out by hand: of 1 to 10 the tenth, fiftieth and ninetieth percentile by linear interpolation are 1.9, 5.5 and 9.1
     * (Hyndman and Fan 1996, Am. Stat. 50, 361, definition 7).
     */
    @Test
    void percentilesAndCausesAreThoseOfTheNights() {
        List<ManyNights.Night> nights = new ArrayList<>();
        for (int i = 1; i <= 10; i++) {
            nights.add(night(60 * i, i <= 4 ? 3 : 0, List.of()));
        }
        Outcome outcome = new Outcome(nights);
        assertThat(outcome.lightSeconds().tenth()).isCloseTo(60 * 1.9, within(1e-9));
        assertThat(outcome.lightSeconds().median()).isCloseTo(60 * 5.5, within(1e-9));
        assertThat(outcome.lightSeconds().ninetieth()).isCloseTo(60 * 9.1, within(1e-9));
        assertThat(outcome.byTarget().get("M 33").median()).isCloseTo(5.5, within(1e-9));
        assertThat(outcome.shareWith(300)).isEqualTo(0.6);
        // The clouded nights have a median of 2.5, the others of 7.5.
        assertThat(outcome.causes()).singleElement().satisfies(c -> {
            assertThat(c.words()).isEqualTo("an hour or more under cloud");
            assertThat(c.nights()).isEqualTo(4);
            assertThat(c.lossShare()).isCloseTo(1 - 2.5 / 7.5, within(1e-9));
        });
    }

    @Test
    void aFaultThatCostsLightIsNamed() {
        List<ManyNights.Night> nights = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            boolean dewed = i < 3;
            nights.add(night(
                    dewed ? 100 : 600,
                    0,
                    dewed ? List.of(new RehearsedFault(FaultKind.DEW, LocalTime.MIDNIGHT)) : List.of()));
        }
        assertThat(new Outcome(nights).causes())
                .extracting(Outcome.Cause::words)
                .containsExactly("the optics dew over");
    }
}
