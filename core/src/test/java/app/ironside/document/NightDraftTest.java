package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Examples;
import app.ironside.Workers;
import app.ironside.plan.Candidate;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.NightBudget;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Project;
import app.ironside.plan.Projects;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.StarCatalogue;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class NightDraftTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final NightDraft DEMO = NightDraft.of(Examples.night(OBJECTS));

    private static PlannedBlock block(NightDraft draft, int index) {
        return draft.plan().blocks().get(index);
    }

    private static void near(Instant a, Instant b) {
        assertThat(Duration.between(a, b).abs()).isLessThan(Duration.ofSeconds(2));
    }

    /** Law: a block stretched over the next cuts it back, and the subs follow the time. */
    @Test
    void stretchingCutsTheNeighbour() {
        Interval longer = new Interval(
                block(DEMO, 0).span().from(), block(DEMO, 0).span().until().plusSeconds(1800));
        Interval shorter = new Interval(
                block(DEMO, 0).span().from(), block(DEMO, 0).span().until().minusSeconds(5400));
        NightDraft cut = DEMO.move(0, shorter);
        assertThat(cut.plan().blocks()).hasSize(2);
        assertThat(block(cut, 0).subs()).isLessThan(block(DEMO, 0).subs());
        near(block(cut, 0).span().until(), shorter.until());
        NightDraft moved = cut.move(
                1,
                new Interval(
                        shorter.until().minusSeconds(1800),
                        block(DEMO, 1).span().until()));
        near(block(moved, 0).span().until(), shorter.until().minusSeconds(1800));
        assertThat(block(moved, 1).subs()).isGreaterThan(block(cut, 1).subs());
        assertThat(DEMO.move(0, longer).plan().blocks()).isNotEmpty();
    }

    /** Where it is wanted, and nowhere else: M 33 has R, NGC 2403 has not. */
    @Test
    void oneFilterAllNight() {
        assertThat(DEMO.onlyFilter("L").file().program().targets())
                .extracting(TargetPlan::filters)
                .containsExactly(List.of("L"), List.of("L"));
        NightDraft red = DEMO.onlyFilter("R");
        assertThat(red.file().program().targets())
                .extracting(TargetPlan::filters)
                .containsExactly(List.of("R"), block(DEMO, 1).target().filters());
        assertThat(red.plan().blocks()).hasSize(2);
    }

    /** Law: split and rejoin: two parts of one target in the place of one. */
    @Test
    void splitting() {
        Instant middle = block(DEMO, 0).span().from().plusSeconds(3 * 3600);
        NightDraft split = DEMO.split(0, middle);
        assertThat(split.plan().blocks())
                .extracting(b -> b.target().name())
                .containsExactly("M 33", "M 33", "NGC 2403");
        near(block(split, 0).span().until(), middle);
        near(block(split, 1).span().from(), middle);
        assertThat(DEMO.split(0, block(DEMO, 0).span().from().plusSeconds(60))).isSameAs(DEMO);
    }

    @Test
    void droppingATargetIntoTheNight() {
        Project project = Projects.of(
                OBJECTS.find("NGC 891").orElseThrow(),
                DEMO.file().kit(),
                DEMO.file().site(),
                false);
        TargetPlan target = new TargetPlan("NGC 891", project.position(), List.of("L"), 2, 180);
        Instant from = block(DEMO, 0).span().from().plusSeconds(2 * 3600);
        NightDraft with = DEMO.add(target, new Interval(from, from.plusSeconds(3600)));
        assertThat(with.plan().blocks())
                .extracting(b -> b.target().name())
                .containsExactly("M 33", "NGC 891", "M 33", "NGC 2403");
        assertThat(with.remove(1).plan().blocks())
                .extracting(b -> b.target().name())
                .doesNotContain("NGC 891");
        assertThat(NightFile.parse(with.file().text(), "x", OBJECTS).program())
                .isEqualTo(with.file().program());
    }

    /** Law: the arranged night is worth at least what the drafted one gives in its order, and fills the dark. */
    @Test
    void arranging() {
        NightDraft.Arranged arranged = DEMO.arrange(CloudForecast.CLEAR, true, false);
        assertThat(arranged.schedule().blocks()).hasSize(2);
        assertThat(arranged.draft().plan().subs()).isGreaterThan(100);
        assertThat(arranged.schedule().value())
                .isGreaterThan(0.5 * DEMO.plan().times().darkHours());
    }

    /**
     * Arranging changes when things are taken and nothing else: a target that no catalogue knows stays, and so do the person's frame, angle,
     * filters, sub length and turns.
     */
    @Test
    void arrangingKeepsWhatWasChosen() {
        TargetPlan cloud = new TargetPlan("My dark cloud", new Equatorial(58.2, 38.4), List.of("L"), 3, 180)
                .withAngle(Optional.of(12.0));
        TargetPlan galaxy = new TargetPlan("NGC 2403", new Equatorial(115, 65.2), List.of("L", "Ha"), 4, 77)
                .withMostSubs(Optional.of(40))
                .withAngle(Optional.of(40.0));
        NightDraft chosen = DEMO.withProgram(
                DEMO.file().program().withTargets(DEMO.file().program().date(), List.of(cloud, galaxy)));
        for (boolean broad : new boolean[] {false, true}) {
            NightDraft.Arranged arranged = chosen.arrange(CloudForecast.CLEAR, true, broad);
            List<TargetPlan> after = arranged.draft().file().program().targets().stream()
                    .map(t -> t.at(Optional.empty(), Optional.empty()))
                    .distinct()
                    .toList();
            assertThat(after).containsExactlyInAnyOrder(cloud, galaxy);
            assertThat(arranged.without()).isEmpty();
            assertThat(arranged.draft().file().program().calibrations())
                    .isEqualTo(DEMO.file().program().calibrations());
        }
    }

    /** What finds no time is named. By hand: the declination of -80° never rises at 44° north. */
    @Test
    void aTargetWithoutTimeIsNamed() {
        TargetPlan never = new TargetPlan("Far south", new Equatorial(20, -80), List.of("L"), 2, 180);
        List<TargetPlan> both = List.of(DEMO.file().program().targets().get(0), never);
        NightDraft draft = DEMO.withProgram(
                DEMO.file().program().withTargets(DEMO.file().program().date(), both));
        assertThat(draft.arrange(CloudForecast.CLEAR, true, false).without()).containsExactly("Far south");
    }

    /** It waits in the program through other changes until somebody drops it. */
    @Test
    void aTargetWithoutTimeStays() {
        TargetPlan never = new TargetPlan("Far south", new Equatorial(20, -80), List.of("L"), 2, 180);
        List<TargetPlan> both = List.of(DEMO.file().program().targets().get(0), never);
        NightDraft draft = DEMO.withProgram(
                DEMO.file().program().withTargets(DEMO.file().program().date(), both));
        Interval first = draft.plan().blocks().get(0).span();
        NightDraft moved = draft.move(0, new Interval(first.from().plusSeconds(1800), first.until()))
                .replace(0, draft.plan().blocks().get(0).target().withSubSeconds(60));
        assertThat(moved.unplaced()).containsExactly(never);
        assertThat(moved.plan().blocks()).hasSize(1);
        assertThat(moved.withoutUnplaced().unplaced()).isEmpty();
        assertThat(moved.withoutUnplaced().plan().subs()).isEqualTo(moved.plan().subs());
    }

    /** The school of filters changes the turns, and neither times nor anything else. */
    @Test
    void turnsAndBlocksChangeNothingElse() {
        NightDraft blocks = DEMO.inTurns(false);
        for (int i = 0; i < DEMO.plan().blocks().size(); i++) {
            TargetPlan before = block(DEMO, i).target();
            TargetPlan after = block(blocks, i).target();
            assertThat(after.subsPerFilter()).isGreaterThan(2);
            assertThat(after.withTurn(before.subsPerFilter())
                            .at(before.from(), before.until())
                            .withMostSubs(before.mostSubs()))
                    .isEqualTo(before);
            assertThat(block(blocks, i).span().from())
                    .isBetween(
                            block(DEMO, i).span().from().minusSeconds(1),
                            block(DEMO, i).span().from().plusSeconds(1));
        }
        assertThat(block(blocks.inTurns(true), 0).target().subsPerFilter()).isEqualTo(2);
    }

    @Test
    void anotherDateAnotherKit() {
        NightDraft spring = DEMO.onDate(LocalDate.of(2027, 3, 4));
        assertThat(spring.plan().blocks()).extracting(b -> b.target().name()).contains("NGC 2403");
        assertThat(spring.plan().times().night())
                .isNotEqualTo(DEMO.plan().times().night());
        NightDraft lark = DEMO.with(DEMO.file().site(), Examples.kit("lark"));
        assertThat(lark.file().program().targets().get(0).filters()).containsExactly("none");
    }

    /** The frame goes with the target into every block of it, into the file and back, and over a change of times and sub length. */
    @Test
    void aFramingIsCarried() {
        NightDraft split = DEMO.split(
                0,
                block(DEMO, 0)
                        .span()
                        .from()
                        .plus(block(DEMO, 0).span().duration().dividedBy(2)));
        Equatorial centre = new Equatorial(23.6, 30.5);
        NightDraft framed = split.framed("M 33", centre, 34);
        List<TargetPlan> read =
                NightFile.parse(framed.file().text(), "x", OBJECTS).program().targets();
        assertThat(read).filteredOn(t -> t.name().equals("M 33")).hasSize(2).allSatisfy(t -> {
            assertThat(t.position()).isEqualTo(centre);
            assertThat(t.angleDeg()).contains(34.0);
        });
        assertThat(read).filteredOn(t -> !t.name().equals("M 33")).allMatch(t -> t.angleDeg()
                .isEmpty());
        TargetPlan other =
                read.get(0).withSubSeconds(60).withMostSubs(Optional.of(3)).at(Optional.empty(), Optional.empty());
        assertThat(other.angleDeg()).contains(34.0);
        assertThat(other.subSeconds()).contains(60.0);
        assertThat(other.mostSubs()).contains(3);
        assertThat(other.from()).isEmpty();
    }

    /** Several moves of a frame are one step. */
    @Test
    void aStepGoesOn() {
        History<String> history = new History<>("a");
        history.change("b");
        history.amend("c");
        history.amend("d");
        assertThat(history.now()).isEqualTo("d");
        history.undo();
        assertThat(history.now()).isEqualTo("a");
        history.redo();
        assertThat(history.now()).isEqualTo("d");
    }

    @Test
    void changesCanBeTakenBack() {
        History<String> history = new History<>("a");
        history.change("b");
        history.change("b");
        history.change("c");
        history.undo();
        assertThat(history.now()).isEqualTo("b");
        history.redo();
        assertThat(history.now()).isEqualTo("c");
        history.undo();
        history.undo();
        history.undo();
        assertThat(history.now()).isEqualTo("a");
        assertThat(history.canUndo()).isFalse();
        history.change("d");
        assertThat(history.canRedo()).isFalse();
    }

    /** In bed by two: light ends so early that calibration frames and warming still fit, and arranging keeps to it. */
    @Test
    void theNightEndsForBed() {
        NightDraft early = DEMO.withProgram(DEMO.file().program().withBedBy(Optional.of(LocalTime.of(2, 0))));
        NightBudget budget = budget(early);
        Instant two = Instant.parse("2026-11-15T01:00:00Z");
        assertThat(budget.bedtime()).isBetween(two.minusSeconds(600), two.plusSeconds(1));
        NightDraft arranged = early.arrange(CloudForecast.CLEAR, true, false).draft();
        assertThat(budget(arranged).bedtime()).isBetween(two.minusSeconds(1200), two.plusSeconds(1));
        assertThat(NightFile.parse(early.file().text(), "early", OBJECTS).program())
                .isEqualTo(early.file().program());
    }

    private static NightBudget budget(NightDraft draft) {
        return NightBudget.of(new NightBudget.Given(
                draft.file().site(),
                draft.file().kit(),
                draft.plan(),
                draft.file().program(),
                span -> List.of(),
                500));
    }

    /** What is free is told, and what fills it is up then; of two that are worth as much the one on the same side comes first. */
    @Test
    void aGapIsFilledWithWhatIsUpThen() {
        NightDraft one = DEMO.remove(1);
        Interval gap = one.gaps().get(one.gaps().size() - 1);
        assertThat(gap.from()).isEqualTo(one.plan().blocks().get(0).span().until());
        CandidateSearch.Gap of = one.gap(gap);
        assertThat(of.pastMeridian()).as("M 33 has long been past it").contains(true);
        List<Candidate> ranked = new CandidateSearch(OBJECTS, StarCatalogue.hipparcos())
                .rank(
                        one.file().site(),
                        one.file().kit(),
                        one.plan().times(),
                        new CandidateSearch.Wish(25, Candidate.Level.PRACTISED, CloudForecast.CLEAR, Optional.of(of)),
                        Workers.ALL_CORES);
        assertThat(ranked.get(0).usableHours())
                .isLessThanOrEqualTo(gap.hours() + 0.2)
                .isGreaterThan(0.5);
        Instant middle = gap.from().plus(gap.duration().dividedBy(2));
        assertThat(ranked.get(0).transit()).isBefore(middle);
        double best = ranked.stream().mapToDouble(Candidate::worth).max().orElseThrow();
        assertThat(ranked.get(0).worth()).isGreaterThan(0.69 * best);
    }
}
