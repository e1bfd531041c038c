package app.ironside.journal;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** The one fold of a night, at any moment of it. */
class NightStateTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    private static Instant at(int minute) {
        return NINE.plusSeconds(60L * minute);
    }

    private static SubTaken sub(int minute, String target, boolean keep) {
        return AnySub.of(at(minute), target, "L", 60, new Verdict(keep, keep ? "good" : "cloud"));
    }

    private static SubRegraded regraded(int minute, int sub, boolean keep) {
        return new SubRegraded(
                at(minute), "told anew", AnySub.file(at(sub)), new Verdict(keep, keep ? "good" : "cloud"));
    }

    private static GateMeasured gate(int minute, Stage stage, double measured) {
        return new GateMeasured(at(minute), "", Gate.atMost(stage, measured, 1, "″"));
    }

    @Test
    void whatHasBeenDoneIsReadFromTheEvents() {
        NightState state = NightState.of(List.of(
                new StageBegan(at(0), "", Stage.GUIDE),
                gate(1, Stage.POLAR, 0.5),
                gate(2, Stage.GUIDE, 0.5),
                gate(3, Stage.GUIDE, 2),
                sub(5, "M 33", true),
                sub(6, "M 33", false),
                sub(9, "NGC 2403", true),
                new CalibrationTaken(at(20), "", "bias", false, "c.fits", 500, 0, -10)));
        assertThat(state.started()).isFalse();
        assertThat(state.ended()).isFalse();
        assertThat(state.stage()).contains(Stage.GUIDE);
        assertThat(state.passed(Stage.POLAR)).isTrue();
        assertThat(state.passed(Stage.GUIDE)).as("the last gate counts").isFalse();
        assertThat(state.passed(Stage.FOCUS)).as("never measured").isFalse();
        assertThat(state.subsOf("M 33", new Interval(at(0), at(60)))).isEqualTo(2);
        assertThat(state.subsOf("M 33", new Interval(at(0), at(5)))).isEqualTo(1);
        assertThat(state.subsOf("NGC 891", new Interval(at(0), at(60)))).isZero();
        assertThat(state.subsByTarget()).containsEntry("M 33", 2).containsEntry("NGC 2403", 1);
        assertThat(state.lightSeconds("M 33")).isEqualTo(60);
        assertThat(state.calibrationSet("bias")).containsExactly("c.fits");
        assertThat(state.last(SubTaken.class)).contains(sub(9, "NGC 2403", true));
        assertThat(state.last(Flipped.class)).isEmpty();
    }

    /** A moment before a verdict was changed shows the verdict of then. */
    @Test
    void aMomentKnowsNothingOfWhatComes() {
        NightHistory night = new NightHistory();
        List.of(sub(5, "M 33", true), sub(8, "M 33", true), regraded(9, 5, false), sub(12, "M 33", true))
                .forEach(night::add);
        assertThat(night.at(at(4)).subs()).isEmpty();
        assertThat(night.at(at(8)).kept()).isEqualTo(2);
        assertThat(night.at(at(9)).kept()).isEqualTo(1);
        assertThat(night.at(at(9)).subs().get(0).verdict().reason()).isEqualTo("cloud");
        assertThat(night.at(at(8)).subs().get(0).kept()).isTrue();
        assertThat(night.last().kept()).isEqualTo(2);
        assertThat(night.last().events().get(0)).isEqualTo(sub(5, "M 33", false));
    }

    /** A sub that is found after a stop is told late and stands where it was taken. */
    @Test
    void whatIsToldLateStandsWhereItHappened() {
        NightHistory night = new NightHistory();
        List.of(sub(5, "M 33", true), sub(12, "M 33", true), sub(8, "M 33", false))
                .forEach(night::add);
        assertThat(night.at(at(10)).subs())
                .extracting(SubTaken::file)
                .containsExactly(AnySub.file(at(5)), AnySub.file(at(8)));
        assertThat(night.at(at(10)).kept()).isEqualTo(1);
        assertThat(night.last().subs())
                .extracting(SubTaken::file)
                .containsExactly(AnySub.file(at(5)), AnySub.file(at(8)), AnySub.file(at(12)));
    }

    /** Law: going along event by event and folding what lies before a moment are the same, and no earlier state ever changes. */
    @Property(tries = 60)
    void everyMomentIsTheFoldOfWhatCameBefore(@ForAll long seed, @ForAll @IntRange(min = 1, max = 80) int count) {
        Random random = new Random(seed);
        NightHistory night = new NightHistory();
        List<NightEvent> told = new ArrayList<>();
        List<NightState> seen = new ArrayList<>();
        List<Integer> keptThen = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            NightEvent event =
                    switch (random.nextInt(4)) {
                        case 0 -> regraded(i, random.nextInt(i + 1), random.nextBoolean());
                        case 1 -> gate(i, Stage.values()[random.nextInt(10)], random.nextDouble() * 2);
                        default -> sub(i, random.nextBoolean() ? "M 33" : "NGC 891", random.nextBoolean());
                    };
            told.add(event);
            night.add(event);
            seen.add(night.last());
            keptThen.add(night.last().kept());
        }
        for (int i = 0; i < count; i++) {
            NightState folded = NightState.of(told.subList(0, i + 1));
            NightState kept = night.at(at(i));
            assertThat(kept.events())
                    .isEqualTo(folded.events())
                    .isEqualTo(seen.get(i).events());
            assertThat(kept.kept()).isEqualTo(keptThen.get(i)).isEqualTo((int)
                    kept.subs().stream().filter(SubTaken::kept).count());
            for (Stage stage : Stage.values()) {
                assertThat(kept.gate(stage)).isEqualTo(folded.gate(stage));
            }
        }
    }

    /** A list that has been handed out does not change when two longer ones are made of it. */
    @Test
    void listsGrowApart() {
        GrowingList<Integer> base = new GrowingList<Integer>().plus(1).plus(2);
        GrowingList<Integer> one = base.plus(3);
        GrowingList<Integer> other = base.plus(4);
        for (int i = 0; i < 100; i++) {
            one = one.plus(i);
        }
        assertThat(base).containsExactly(1, 2);
        assertThat(one).hasSize(103).startsWith(1, 2, 3, 0);
        assertThat(other).containsExactly(1, 2, 4);
    }
}
