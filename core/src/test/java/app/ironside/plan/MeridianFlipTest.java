package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.JsonText;
import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Interval;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** By hand: the meridian costs what the kit's limits say, not what the clock of the transit says. */
class MeridianFlipTest {
    private static final Instant TRANSIT = Instant.parse("2026-11-14T21:26:00Z");
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();

    private static Kit kit(double contactDeg, double freeDeg) {
        ObjectNode tree = KitFile.tree(Examples.kit("wren"));
        ((ObjectNode) tree.get("equipment"))
                .putArray("contacts")
                .addObject()
                .put("declinationDeg", 0.0)
                .put("beforeFlipDeg", contactDeg)
                .put("afterFlipDeg", freeDeg);
        return KitFile.parse(JsonText.write(tree), "kit");
    }

    private static Interval hours(double from, double until) {
        return new Interval(
                TRANSIT.plusSeconds(Math.round(3600 * from)), TRANSIT.plusSeconds(Math.round(3600 * until)));
    }

    private static MeridianFlip in(Interval span, Kit kit) {
        return MeridianFlip.in(span, TRANSIT, kit, 30, 300, 460);
    }

    /** 4° and subs of 300 s: half a sub before 957 s past the transit. */
    @Test
    void theFlipIsMadeAtTheContactLimit() {
        MeridianFlip flip = in(hours(-3, 3), kit(4, 0));
        assertThat(Duration.between(TRANSIT, flip.at().orElseThrow()).toSeconds())
                .isCloseTo(957 - 150, within(2L));
        assertThat(flip.idleSeconds()).isZero();
        assertThat(flip.until()).isEqualTo(hours(-3, 3).until());
    }

    @Test
    void noFlipWhereNoneIsNeeded() {
        assertThat(in(hours(0.5, 3), kit(4, 0)).at())
                .as("begun past the meridian")
                .isEmpty();
        assertThat(in(hours(-3, 0.1), kit(4, 0)).at())
                .as("over before the limit")
                .isEmpty();
        MeridianFlip late = in(hours(-3, 0.3), kit(4, 0));
        assertThat(late.at()).as("too little after it").isEmpty();
        assertThat(Duration.between(TRANSIT, late.until()).toSeconds())
                .as("so it ends there")
                .isCloseTo(807, within(2L));
    }

    /** Contact 15° before the meridian, the other side free from it: 15.7° are 3760 s without a sub. */
    @Test
    void timeThatNeitherSideServesIsCounted() {
        MeridianFlip flip = in(hours(-3, 3), kit(-15, 0));
        assertThat(flip.idleSeconds()).isCloseTo((15 + 0.1 + 0.627) / 15.041 * 3600, within(2.0));
        assertThat(Duration.between(TRANSIT, flip.at().orElseThrow()).toSeconds())
                .isCloseTo(24, within(1L));
        NightFile demo = Examples.night(OBJECTS);
        NightPlan usual = NightPlanner.plan(demo.site(), demo.kit(), demo.program());
        NightPlan hindered = NightPlanner.plan(demo.site(), kit(-15, 0), demo.program());
        int lost = usual.blocks().get(0).subs() - hindered.blocks().get(0).subs();
        assertThat(lost).as("some 3700 s of subs of 200 s").isBetween(16, 21);
    }

    /** One rule for darks: a set for each sub length, by hand for the example night (180 and 300 s, 12 each). */
    @Test
    void calibrationIsPlannedOnce() {
        NightFile demo = Examples.night(OBJECTS);
        CalibrationPlan plan = CalibrationPlan.of(demo.program());
        assertThat(plan.sets().stream().filter(s -> s.kind() == CalibrationPlan.Kind.DARK))
                .extracting(CalibrationPlan.Set::seconds)
                .containsExactly(180.0, 300.0);
        assertThat(plan.frames()).isEqualTo(16 + 5 * 9 + 2 * 12);
        // 12 × 181.5 + 12 × 301.5 s of darks, 16 × 4.5 s of bias, 5 × (20 + 9 × 7.5) s of flats: 437.5.
        assertThat(plan.duration(demo.kit())).isEqualTo(Duration.ofSeconds(5796 + 72 + 438));
    }

    /** A stop in the first block: what it took is given back to the subs that are still wanted. */
    @Test
    void timeLostToAStopIsGivenBack() {
        NightFile demo = Examples.night(OBJECTS);
        Program program = demo.program();
        TargetPlan a =
                program.targets().get(0).at(Optional.empty(), Optional.empty()).withMostSubs(Optional.of(14));
        TargetPlan b =
                program.targets().get(1).at(Optional.empty(), Optional.empty()).withMostSubs(Optional.of(14));
        Program counted = program.withTargets(program.date(), List.of(a, b));
        NightPlanner.Outlook outlook =
                NightPlanner.Outlook.of(demo.site(), program.date(), program.minimumAltitudeDeg());
        NightPlan first = NightPlanner.plan(demo.site(), demo.kit(), counted, outlook);
        Instant stopped = first.blocks().get(0).span().until().plus(Duration.ofHours(1));
        NightPlan after = NightPlanner.plan(
                demo.site(),
                demo.kit(),
                counted,
                outlook,
                new NightPlanner.Progress(stopped, List.of(Map.of("L", 1), Map.of())));
        assertThat(after.blocks()).hasSize(2);
        assertThat(after.blocks().get(0).subs()).isEqualTo(13);
        assertThat(after.blocks().get(0).done()).isEqualTo(Map.of("L", 1));
        assertThat(after.blocks().get(0).span().from()).isEqualTo(stopped);
        assertThat(after.blocks().get(1).subs()).isEqualTo(14);
        NightPlan done = NightPlanner.plan(
                demo.site(),
                demo.kit(),
                counted,
                outlook,
                new NightPlanner.Progress(stopped, List.of(Map.of("L", 14), Map.of("L", 3))));
        assertThat(done.blocks()).singleElement().satisfies(block -> {
            assertThat(block.target().name()).isEqualTo(b.name());
            assertThat(block.subs()).isEqualTo(11);
        });
    }
}
