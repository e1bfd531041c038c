package app.ironside.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Verdicts given by hand: one sub, all from one on, and taken back. */
class MarksTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    private static SubTaken sub(int minute, String target, boolean keep) {
        Instant end = NINE.plusSeconds(60L * minute);
        return new SubTaken(
                end,
                "Sub " + minute,
                target,
                "L",
                60,
                new Interval(end.minusSeconds(60), end),
                target + minute + ".fits",
                true,
                false,
                false,
                Set.of(),
                false,
                mock(SubMeasures.class),
                mock(SubCircumstances.class),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                Optional.empty(),
                new Verdict(keep, keep ? "good" : "cloud"));
    }

    private static NightState after(NightState night, List<Marks.Given> given) {
        NightState state = night;
        for (SubRegraded event : Marks.events(night, given, NINE)) {
            state = state.with(event);
        }
        return state;
    }

    @Test
    void aCutTakesAllThatFollowsOnTheTargetAndIsTakenBackInOneAct() {
        SubTaken third = sub(3, "M 33", true);
        NightState night = NightState.of(List.of(
                sub(1, "M 33", true),
                sub(2, "M 33", true),
                third,
                sub(4, "M 33", false),
                sub(5, "M 33", true),
                sub(6, "NGC 891", true)));
        List<Marks.Given> cut = Marks.cutFrom(night, third, "Ada");
        assertThat(cut).extracting(Marks.Given::file).containsExactly("M 333.fits", "M 335.fits");
        List<Marks.Given> stood = Marks.standing(night, cut);
        NightState marked = after(night, cut);
        assertThat(marked.kept()).isEqualTo(3);
        assertThat(marked.subs().get(2).verdict().reason()).isEqualTo("cut by hand from Sub 3 on");
        assertThat(marked.subs().get(3).verdict().reason())
                .as("what was out stays as it was")
                .isEqualTo("cloud");
        NightState back = after(marked, stood);
        assertThat(back.kept()).isEqualTo(5);
        assertThat(back.subs())
                .extracting(SubTaken::verdict)
                .isEqualTo(night.subs().stream().map(SubTaken::verdict).toList());
        assertThat(back.all(SubRegraded.class))
                .as("all of it stays in the journal")
                .hasSize(4);
    }

    @Test
    void oneSubIsMarkedEitherWay() {
        SubTaken out = sub(1, "M 33", false);
        NightState night = NightState.of(List.of(out));
        NightState kept = after(night, Marks.mark(out, true, "Ada"));
        assertThat(kept.kept()).isEqualTo(1);
        assertThat(kept.subs().get(0).text()).isEqualTo("Sub 1 kept by hand.");
        assertThat(Marks.events(night, List.of(new Marks.Given("unknown.fits", new Verdict(true, "x"))), NINE))
                .isEmpty();
        assertThat(new ArrayList<>(kept.subs()).get(0).verdict().by()).contains("Ada");
    }
}
