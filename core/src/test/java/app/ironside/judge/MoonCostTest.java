package app.ironside.judge;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** Worth of moonlit subs by hand: light² over noise². */
class MoonCostTest {
    private static SubLook sub(double noise, double moonDeg) {
        return new SubLook(
                "a.fits",
                "series",
                Optional.of(Instant.EPOCH),
                60,
                100,
                2,
                3,
                0.3,
                1000,
                noise,
                OptionalDouble.of(5000),
                1,
                OptionalDouble.of(60),
                OptionalDouble.of(-40),
                OptionalDouble.of(moonDeg),
                OptionalDouble.of(0.5));
    }

    private static List<SubLook> night(int lit, double litNoise, int dark) {
        List<SubLook> subs = new ArrayList<>();
        for (int i = 0; i < lit; i++) {
            subs.add(sub(litNoise, 20 - 0.1 * i));
        }
        for (int i = 0; i < dark; i++) {
            subs.add(sub(10, -1 - i));
        }
        return subs;
    }

    /** Noise of 20 against 10 is worth a quarter: ten of them and ten dark ones are 12.5 dark ones, √1.25 = 1.118 of the depth. */
    @Test
    void theMoonsSubsAddLittleAndCountedAlikeTheyTake() {
        MoonCost cost = MoonCost.of(night(10, 20, 10)).orElseThrow();
        assertThat(cost.worth()).isCloseTo(0.25, within(1e-9));
        assertThat(cost.weighted()).isCloseTo(0.1180, within(1e-4));
        // Twice the light over √(10 · 400 + 10 · 100) against √(10 · 100): 2 / √5 = 0.894.
        assertThat(cost.alike()).isCloseTo(-0.1056, within(1e-4));
        assertThat(cost.words()).contains("worth 0.25", "add 11.8 %", "take 10.6 % from it");
    }

    /** 15 / √(5 · 121 + 10 · 100) against 10 / √1000: 1.184. */
    @Test
    void aThinMoonIsAddedAlike() {
        assertThat(MoonCost.of(night(5, 11, 10)).orElseThrow().words()).contains("counted all alike 18.4 %.");
    }

    @Test
    void ofFewNothingIsSaid() {
        assertThat(MoonCost.of(night(2, 20, 30))).isEmpty();
        assertThat(MoonCost.of(night(30, 20, 0))).isEmpty();
    }
}
