package app.ironside.desk.plan;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.parts.Plot;
import app.ironside.wiring.ManyNights;
import app.ironside.wiring.Outcome;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RehearsalStatesTest {
    /** Nights of 1, 2, … 9 hours; three of them under cloud. */
    private static Outcome outcome() {
        List<ManyNights.Night> nights = new ArrayList<>();
        for (int h = 1; h <= 9; h++) {
            nights.add(new ManyNights.Night(
                    h, 20, 20, 2 * h, 3600 * h, Map.of("M 33", 2 * h), 2.5, h <= 3 ? 4 : 0, List.of(), ""));
        }
        return new Outcome(nights);
    }

    @Test
    void theHistogramHoldsEachNightOnce() {
        Plot.State histogram = RehearsalStates.histogram(outcome());
        List<double[]> outline = histogram.curves().get(0).points();
        double area = 0;
        for (int i = 1; i < outline.size(); i++) {
            area += (outline.get(i)[0] - outline.get(i - 1)[0]) * outline.get(i)[1];
        }
        double bar = outline.get(2)[0] - outline.get(1)[0];
        assertThat(Math.round(area / bar)).isEqualTo(9);
        assertThat(histogram.vertical().get(1).x()).isEqualTo(5);
    }

    @Test
    void theSentenceNamesTheMiddleTheEndsAndWhatDecides() {
        assertThat(RehearsalStates.verdict(outcome())).isEqualTo("Half of the nights bring 5.0 h.");
        assertThat(RehearsalStates.sentence(outcome()))
                .isEqualTo("One in ten brings less than 1.8 h, one in ten more than 8.2 h."
                        + " What decides it most: an hour or more under cloud.");
        assertThat(RehearsalStates.worst(outcome(), 2))
                .containsExactly("1.0 h  seeing 2.5″, 4.0 h of cloud", "2.0 h  seeing 2.5″, 4.0 h of cloud");
    }
}
