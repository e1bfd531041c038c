package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Examples;
import app.ironside.plan.Framing;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a person does to a plan, without a screen. */
class PlanModelTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final NightDraft DEMO = NightDraft.of(Examples.night(OBJECTS));

    private final PlanModel model = new PlanModel(OBJECTS, DEMO);

    private static DeepSkyObject object(String name) {
        return OBJECTS.find(name).orElseThrow();
    }

    private PlannedBlock block(int index) {
        return model.draft().plan().blocks().get(index);
    }

    /** Law: into the time that no block has, as long as there is some; the others keep theirs. */
    @Test
    void whatIsLookedAtGoesIntoTheFreeTime() {
        Interval first = block(0).span();
        Interval shorter = new Interval(first.from(), first.from().plus(Duration.ofHours(1)));
        model.change(model.settled().move(0, shorter));
        List<Interval> before =
                model.draft().plan().blocks().stream().map(PlannedBlock::span).toList();
        model.look(object("NGC 891"));
        model.change(model.addLooked(false).orElseThrow().apply(model.settled()));
        assertThat(model.draft().plan().blocks()).hasSize(before.size() + 1);
        assertThat(model.draft().plan().blocks().stream().map(PlannedBlock::span))
                .containsAll(before);
        PlannedBlock added = model.draft().plan().blocks().stream()
                .filter(b -> b.target().name().equals("NGC 891"))
                .findFirst()
                .orElseThrow();
        assertThat(added.span().hours()).isGreaterThan(0.5);
        assertThat(before).allMatch(s -> s.intersection(added.span()).isEmpty());
    }

    /** By hand: NGC 55 at −39° never rises above 7° from 44° north. */
    @Test
    void whatNeverRisesIsRefusedInWords() {
        model.look(object("NGC 55"));
        assertThatThrownBy(() -> model.addLooked(false).orElseThrow().apply(model.settled()))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("NGC 55")
                .hasMessageContaining("no dark hour");
        assertThat(model.canUndo()).isFalse();
    }

    @Test
    void blocksAreNudgedByTheirEndsAndNotToNothing() {
        assertThat(model.nudged(0, Duration.ofMinutes(5))).isEmpty();
        model.choose(0);
        Interval span = block(0).span();
        assertThat(model.looked()).contains(object("M 33"));
        assertThat(model.nudged(0, Duration.ofMinutes(5)))
                .contains(
                        new Interval(span.from().plusSeconds(300), span.until().plusSeconds(300)));
        assertThat(model.nudged(-1, Duration.ofMinutes(-5)))
                .contains(new Interval(span.from().minusSeconds(300), span.until()));
        assertThat(model.nudged(1, Duration.ofMinutes(-5)))
                .contains(new Interval(span.from(), span.until().minusSeconds(300)));
        assertThat(model.nudged(1, span.duration().minus(Duration.ofMinutes(10)).negated()))
                .isEmpty();
    }

    /** Many moves of one frame are one step; a move that another change overtook is left out. */
    @Test
    void movesOfAFrameAreTakenBackAtOnce() {
        DeepSkyObject m33 = object("M 33");
        for (double angle = 10; angle <= 40; angle += 10) {
            NightDraft from = model.settled();
            Framing frame = new Framing(DEMO.file().kit(), m33.position(), angle);
            model.framed(from, model.frame(m33, frame).orElseThrow().apply(from));
        }
        assertThat(model.framing(m33).angleDeg()).isEqualTo(40);
        NightDraft stale = DEMO;
        model.framed(stale, stale.remove(0));
        assertThat(model.framing(m33).angleDeg()).isEqualTo(40);
        model.undo();
        assertThat(model.settled()).isSameAs(DEMO);
        model.redo();
        assertThat(model.framing(m33).angleDeg()).isEqualTo(40);
        assertThat(model.isFramed(m33)).isTrue();
        assertThat(model.isFramed(object("NGC 891"))).isFalse();
    }

    @Test
    void aSubLengthIsForTheChosenBlockOrForAllOfAnObject() {
        NightDraft split = DEMO.split(0, block(0).span().from().plusSeconds(2 * 3600));
        model.change(split);
        model.look(object("M 33"));
        assertThat(model.subSeconds()).isEqualTo(block(0).target().subSeconds());
        NightDraft all = model.withSubSeconds(77).apply(split);
        assertThat(all.plan().blocks())
                .filteredOn(b -> b.target().name().equals("M 33"))
                .hasSize(2)
                .extracting(PlannedBlock::target)
                .extracting(TargetPlan::longestSubSeconds)
                .containsOnly(77.0);
        model.choose(1);
        NightDraft one = model.withSubSeconds(77).apply(split);
        assertThat(one.plan().blocks().get(0).target().subSeconds()).isNotEqualTo(java.util.Optional.of(77.0));
        assertThat(one.plan().blocks().get(1).target().subSeconds()).contains(77.0);
    }

    /** While something is only seen, what stands is unchanged; taken back, the preview is gone. */
    @Test
    void aPreviewIsNoStep() {
        NightDraft dragged = DEMO.remove(0);
        model.preview(dragged);
        assertThat(model.draft()).isSameAs(dragged);
        assertThat(model.settled()).isSameAs(DEMO);
        assertThat(model.canUndo()).isFalse();
        model.change(DEMO.remove(1));
        assertThat(model.draft()).isSameAs(model.settled());
        assertThat(model.seasonTargets(List.of(), Set.of())).containsExactly(object("M 33"));
    }
}
