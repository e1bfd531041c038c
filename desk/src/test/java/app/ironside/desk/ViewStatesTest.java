package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import app.ironside.desk.night.Moment;
import app.ironside.desk.night.PlotStates;
import app.ironside.desk.night.RailState;
import app.ironside.desk.night.Reckoner;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.night.RunGlance;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.document.NightDraft;
import app.ironside.document.NightFile;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusVerdict;
import app.ironside.guide.GuideSample;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.CalibrationTaken;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusPoint;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.Gate;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.Journal;
import app.ironside.journal.LengthsTried;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Reacted;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleOver;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Unknown;
import app.ironside.logbook.NightEntry;
import app.ironside.plan.CalibrationPlan;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.point.FramingMatch;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Sexagesimal;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** What the screens say, without a toolkit. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ViewStatesTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    private NightFile file;
    private NightPlan plan;
    private Reckoner reckoner;

    @BeforeAll
    void readTheDemo() {
        file = NightFile.parse(DemoNights.tonight(), "demo", DeepSkyCatalogue.load());
        plan = NightPlanner.plan(file.site(), file.kit(), file.program());
        reckoner = new Reckoner(file, plan, Map.of());
    }

    private static NightState night(NightEvent... events) {
        return NightState.of(List.of(events));
    }

    private static Moment moment(NightEvent... events) {
        return new Moment(NINE.plusSeconds(6000), true, NightState.of(List.of(events)), List.of());
    }

    @Test
    void aNightThatHasNotBegunSaysWhatComes() {
        Moment none = moment();
        for (Stage stage : EnumSet.complementOf(EnumSet.of(Stage.PLAN))) {
            ReckoningState state = reckoner.of(stage, none, Optional.empty());
            assertThat(state.verdict()).isNotBlank();
            assertThat(state.sentence()).isNotBlank();
        }
        assertThat(RailState.of(none.night(), 3).stations())
                .hasSize(10)
                .allMatch(s -> s.standing() == RailState.Standing.WAITING);
    }

    /** Ready counts what is open: two steps told are not a night that is ready, and the words are what was measured. */
    @Test
    void readySaysWhatIsOpen() {
        List<app.ironside.document.ReadyStep> list = app.ironside.document.ReadyList.of(
                        file.site(), file.kit(), file.program(), file.lessons())
                .steps();
        NightEvent[] some = list.stream()
                .limit(2)
                .map(s -> Told.step(0, s.subject(), s.what(), "confirmed", true))
                .toArray(NightEvent[]::new);
        ReckoningState early = reckoner.of(Stage.READY, moment(some), Optional.empty());
        assertThat(early.verdict()).isEqualTo((list.size() - 2) + " still open.");
        assertThat(early.rows().get(0).value()).isEqualTo("2 of " + list.size());
        assertThat(early.sentence()).doesNotContain("cold", "motion");
        NightEvent[] all = list.stream()
                .map(s -> Told.step(
                        1,
                        s.subject(),
                        s.what(),
                        s.subject().equals("cooler") ? "-10.0 °C" : "confirmed",
                        !s.subject().equals("focuser")))
                .toArray(NightEvent[]::new);
        ReckoningState failed = reckoner.of(Stage.READY, moment(all), Optional.empty());
        assertThat(failed.verdict()).isEqualTo("1 not proven.");
        assertThat(failed.alert()).isTrue();
        // Gone on from by a person, it says so, with their reason.
        List<NightEvent> overruled = new java.util.ArrayList<>(List.of(all));
        overruled.add(new CommandTaken(
                Told.at(2), "", new Command.Overrule(Stage.READY), "Ada", "by hand", Told.at(2), true, Stage.READY));
        assertThat(reckoner.of(Stage.READY, moment(overruled.toArray(new NightEvent[0])), Optional.empty())
                        .sentence())
                .isEqualTo("Gone on from all the same: by hand.");
        // Told again after it was mended, the step counts once.
        List<NightEvent> mended = new java.util.ArrayList<>(List.of(all));
        list.stream()
                .filter(s -> s.subject().equals("focuser"))
                .forEach(s -> mended.add(Told.step(2, s.subject(), s.what(), "at 2600", true)));
        ReckoningState whole = reckoner.of(Stage.READY, moment(mended.toArray(new NightEvent[0])), Optional.empty());
        assertThat(whole.verdict()).isEqualTo("Every step is proven.");
        assertThat(whole.sentence()).contains("cooler -10.0 °C");
    }

    /** Run is a tick when light was kept. */
    @Test
    void theRunTickMeansKeptSubs() {
        NightEvent over = Told.ended(Told.at(90));
        assertThat(RailState.of(night(Told.sub(1, false), Told.sub(5, false), over), 1)
                        .stations()
                        .get(Stage.RUN.ordinal())
                        .standing())
                .isEqualTo(RailState.Standing.FAILED);
        assertThat(RailState.of(night(Told.sub(1, false), Told.sub(5, true), over), 1)
                        .stations()
                        .get(Stage.RUN.ordinal())
                        .standing())
                .isEqualTo(RailState.Standing.PASSED);
    }

    /** A lost star is no 0.00″: without a sample no figure is shown. */
    @Test
    void aLostGuideStarHasNoFigure() {
        NightEvent lost =
                Told.sub(1, false, new GuideFigures(OptionalInt.of(0), 62, Optional.empty(), Optional.empty()));
        assertThat(reckoner.of(Stage.GUIDE, moment(lost), Optional.empty()).verdict())
                .isEqualTo("The guide star was not seen.");
        assertThat(reckoner.of(Stage.RUN, moment(lost), Optional.empty()).rows())
                .contains(new ReckoningState.Row("guiding", "star not seen"));
    }

    /** The stack's headline is what was gained against what was possible, not what resampling made smooth. */
    @Test
    void theStackSaysWhatWasPossible() {
        NightEvent stack = Told.stack(Optional.of(new StackMade.Gain(2.79, 2.83, 0.05)));
        ReckoningState state = reckoner.of(Stage.STACK, moment(stack), Optional.empty());
        assertThat(state.verdict()).isEqualTo("2.8 times better than one sub.");
        assertThat(state.sentence())
                .isEqualTo("8 subs of M 33 in L; 2.83 was possible with them. The measure is good to ± 0.05.");
        assertThat(state.rows()).contains(new ReckoningState.Row("not stacked", "34, read out in the middle only"));
    }

    private Reckoner planned(double angleDeg, Map<String, FramingMatch.Wanted> earlier) {
        NightDraft draft = NightDraft.of(file)
                .framed("M 33", file.program().targets().get(0).position(), angleDeg);
        return new Reckoner(draft.file(), draft.plan(), earlier);
    }

    private static String row(ReckoningState state, String label) {
        return state.rows().stream()
                .filter(r -> r.name().equals(label))
                .findFirst()
                .orElseThrow()
                .value();
    }

    /** The camera stands at 17° and the plan has 40°: it says how far to turn, and what goes with it. */
    @Test
    void theCameraAngleIsHeldAgainstThePlan() {
        ReckoningState off = planned(40, Map.of()).of(Stage.POINT, moment(Told.solved(8, 17)), Optional.empty());
        assertThat(off.verdict()).isEqualTo("M 33 is centred.");
        assertThat(off.sentence())
                .startsWith("Turn the camera by 23.0° from north toward east")
                .contains("Flats");
        assertThat(off.alert()).isTrue();
        assertThat(row(off, "camera angle")).isEqualTo("17.0°, the plan has 40°");
        assertThat(row(off, "as on an earlier night")).isEqualTo("first night");
        // Upside down after the flip it frames the same.
        ReckoningState flipped = planned(17, Map.of()).of(Stage.POINT, moment(Told.solved(8, -163)), Optional.empty());
        assertThat(flipped.alert()).isFalse();
        assertThat(flipped.sentence()).isEqualTo("8″ from the middle; 30″ are allowed.");
        assertThat(row(flipped, "camera angle")).isEqualTo("-163.0°");
    }

    @Test
    void anEarlierNightsFramingIsMetOrMissed() {
        Map<String, FramingMatch.Wanted> before = Map.of(
                "M 33",
                new FramingMatch.Wanted(file.program().targets().get(0).position(), 16.5, FramingMatch.USUAL_CROP));
        Reckoner second = planned(17, before);
        assertThat(row(second.of(Stage.POINT, moment(Told.solved(8, 17)), Optional.empty()), "as on an earlier night"))
                .startsWith("yes, 0.5°");
        assertThat(row(second.of(Stage.POINT, moment(Told.solved(8, 37)), Optional.empty()), "as on an earlier night"))
                .startsWith("Turn the camera by 20.5° from north toward west");
    }

    @Test
    void theRailFillsItselfIn() {
        RailState rail = RailState.of(
                night(
                        new StageBegan(Told.at(0), "Polar begins.", Stage.POLAR),
                        new GateMeasured(Told.at(1), "", Gate.atMost(Stage.POLAR, 0.2, 1.12, "′")),
                        new StageBegan(Told.at(2), "Run begins.", Stage.RUN),
                        Told.sub(5, true),
                        Told.sub(8, false)),
                1);
        assertThat(rail.stations().get(Stage.POLAR.ordinal()))
                .isEqualTo(new RailState.Station(Stage.POLAR, RailState.Standing.PASSED, "0.20′ of 1.1′"));
        assertThat(rail.stations().get(Stage.RUN.ordinal()))
                .isEqualTo(new RailState.Station(Stage.RUN, RailState.Standing.WORKING, "1 kept of 2"));
        assertThat(rail.stations().get(Stage.LOGBOOK.ordinal()).value()).isEqualTo("1 night");
    }

    @Test
    void aSubThatIsOutSaysWhy() {
        ReckoningState state = reckoner.of(Stage.RUN, moment(Told.sub(5, true), Told.sub(8, false)), Optional.empty());
        assertThat(state.alert()).isTrue();
        assertThat(state.verdict()).isEqualTo("The last sub is out.");
        assertThat(state.sentence())
                .isEqualTo("Reason: stars down to 300 from 900: cloud. It is marked, never deleted.");
        assertThat(state.rows()).contains(new ReckoningState.Row("kept", "1 of 2"));
    }

    @Test
    void theEvidenceOfAChosenEventIsShownAndNotTheLast() {
        NightEvent first = Told.sub(5, true);
        ReckoningState state = reckoner.of(Stage.RUN, moment(first, Told.sub(8, false)), Optional.of(first));
        assertThat(state.alert()).isFalse();
        assertThat(state.verdict()).isEqualTo("This sub is kept.");
    }

    /** By hand: sky (1400 − 500) × 0.9 = 810 e⁻, its noise 28.5 e⁻, 6.3 times a read noise of 4.5 e⁻. */
    @Test
    void skyOverReadNoiseByHand() {
        ReckoningState state = reckoner.of(Stage.RUN, moment(Told.sub(5, true)), Optional.empty());
        assertThat(state.rows()).contains(new ReckoningState.Row("sky over read noise", "6.3 ×"));
    }

    /** By hand: √(1 + 1/40) − 1 with the ratio's square of 40; of 80 and of 20 with twice and half of the sky. */
    @Test
    void lengthsOfSubsArePricedByReadingAndByWhatWasLost() {
        LengthsTried tried = new LengthsTried(
                Told.at(3),
                "",
                "M 33",
                "L",
                List.of(
                        new LengthsTried.Rung(90, 600, OptionalDouble.of(2.4), OptionalDouble.of(0.3), 0.02),
                        new LengthsTried.Rung(360, 900, OptionalDouble.of(4.1), OptionalDouble.of(0.85), 0.01)));
        ReckoningState state =
                reckoner.of(Stage.RUN, moment(tried, Told.sub(5, true), Told.sub(8, false)), Optional.empty());
        assertThat(state.schools())
                .extracting(ReckoningState.School::name, ReckoningState.School::reason, ReckoningState.School::ours)
                .containsExactly(
                        tuple(
                                "180 s",
                                "Reading raises the noise by 1.2 %, a lost sub is 3 min 00 s of light. Here 1 of 2 were lost.",
                                true),
                        tuple(
                                "360 s",
                                "Reading raises the noise by 0.6 %, a lost sub is 6 min 00 s of light. Tried: stars of 4.10 px, eccentricity 0.85, not round.",
                                false),
                        tuple(
                                "90 s",
                                "Reading raises the noise by 2.5 %, a lost sub is 1 min 30 s of light. Tried: stars of 2.40 px, eccentricity 0.30, round.",
                                false));
        assertThat(state.schools().get(1).choice()).contains(new Intent.SubLengthOf("M 33", 360));
    }

    @Test
    void polarSaysWhichWay() {
        NightEvent polar = Told.axis(38.0, -27.0);
        ReckoningState state = reckoner.of(Stage.POLAR, moment(polar), Optional.empty());
        assertThat(state.verdict()).isEqualTo("Lower the axis.");
        assertThat(state.rows()).contains(new ReckoningState.Row("azimuth", "27.00′ too far west"));
        assertThat(state.schools()).anyMatch(s -> s.ours() && s.name().equals("Images"));
    }

    /** An axis that drift puts in doubt is said before anything else, measured or set by the reticle. */
    @Test
    void polarSaysWhatDriftPutsInDoubt() {
        NightEvent doubt = new AxisDoubted(Told.axis(1, 1).time().plusSeconds(60), "It drifts.", NINE, 4.4, -1.2, 0.1);
        ReckoningState measured = reckoner.of(Stage.POLAR, moment(Told.axis(0.3, 0.2), doubt), Optional.empty());
        assertThat(measured.verdict()).isEqualTo("Measure again: 4′ or more from there.");
        assertThat(measured.rows()).extracting(ReckoningState.Row::name).contains("drift by that axis", "since");
        ReckoningState set = reckoner.of(Stage.POLAR, moment(doubt), Optional.empty());
        assertThat(set.verdict()).isEqualTo("At least 4′ off: measure it.");
        assertThat(set.alert()).isTrue();
    }

    /** Law: along and back; the ends of the ribbon are its ends. */
    @Test
    void theRibbonsAxis() {
        RibbonState ribbon = RibbonState.of(file.site(), plan);
        assertThat(ribbon.at(ribbon.along(NINE)))
                .isCloseTo(NINE, within(2, ChronoUnit.MILLIS)); // the ribbon counts whole milliseconds
        assertThat(ribbon.at(-1)).isEqualTo(ribbon.shown().from());
        assertThat(ribbon.curves()).extracting(RibbonState.Curve::name).containsExactly("M 33", "NGC 2403");
        assertThat(ribbon.curves().get(0).flip()).isPresent();
    }

    @Test
    void sexagesimalByHand() {
        assertThat(Sexagesimal.text(23.4625, 30.66)).isEqualTo("01 33 51.0  +30 39 36");
        assertThat(Sexagesimal.text(359.99999, -0.5)).isEqualTo("00 00 00.0  −00 30 00");
        assertThat(Words.span(java.time.Duration.ofSeconds(7500))).isEqualTo("2 h 05 min");
    }

    @Test
    void plotsComeFromTheJournal() {
        FocusSwept focus = new FocusSwept(
                Told.at(3),
                "",
                "Focus, start",
                List.of(new FocusSwept.Point(2400, 2.0, OptionalDouble.empty())),
                new FocusVerdict(2462, 1.1, 0.99, 2, FocusMethod.HYPERBOLA, true, "believed"),
                new FocusSwept.Hyperbola(1.1, 0.02, 2462),
                "L",
                OptionalInt.of(0),
                4,
                Duration.ofSeconds(90),
                Optional.empty(),
                Optional.empty());
        Plot.State state = PlotStates.focus(Optional.of(focus));
        assertThat(state.title()).isEqualTo("Focus, start");
        assertThat(state.curves().get(1).points()).hasSize(1);
        assertThat(state.vertical().get(0).x()).isEqualTo(2462.0);
    }

    /** The frames of a sweep that goes on are seen as they come, with a curve from the fifth; one that was read is over. */
    @Test
    void aSweepIsSeenGrowing() {
        NightEvent[] frames = new NightEvent[6];
        for (int k = 0; k < frames.length; k++) {
            frames[k] = new FocusPoint(
                    Told.at(k),
                    "",
                    2600 - 40 * k,
                    OptionalDouble.of(Math.hypot(1.1, 0.02 * (2600 - 40 * k - 2500))),
                    90);
        }
        assertThat(PlotStates.growing(new Moment(Told.at(9), true, night(frames[0]), List.of())))
                .isEmpty();
        Plot.State few = PlotStates.growing(
                        new Moment(Told.at(9), true, night(frames[0], frames[1], frames[2]), List.of()))
                .orElseThrow();
        assertThat(few.curves()).hasSize(1);
        Plot.State all = PlotStates.growing(new Moment(Told.at(9), true, night(frames), List.of()))
                .orElseThrow();
        assertThat(all.title()).isEqualTo("A sweep goes on, 6 frames");
        assertThat(all.curves())
                .extracting(Plot.Curve::name)
                .containsExactly("where it lies, 95 %", "hyperbola", "measured");
        assertThat(all.curves().get(2).points()).hasSize(6);
        assertThat(PlotStates.growing(new Moment(Told.at(9), false, night(frames), List.of())))
                .isEmpty();
    }

    /** What was guided during a sub is found by its time, from the first of its exposures to the last. */
    @Test
    void aSubsGuidingIsFoundByItsTime() {
        List<GuideSample> samples = new ArrayList<>();
        for (int second = -600; second < 600; second += 2) {
            samples.add(new GuideSample(Told.at(5).plusSeconds(second), second, 0, 0, 0, 50));
        }
        SubTaken sub = Told.sub(5, true);
        Moment at = new Moment(Told.at(9), true, night(sub), samples);
        PlotStates.Stretch stretch = PlotStates.stretch(sub).orElseThrow();
        assertThat(stretch.title()).isEqualTo("Guiding during Sub 5 L 180 s of M 33");
        List<GuideSample> within = at.guided(stretch.span());
        assertThat(within.get(0).raArcsec()).isEqualTo(-180);
        assertThat(within.get(within.size() - 1).raArcsec()).isZero();
    }

    /** Three nights that have ended, and one that is under way: aligned, an hour of subs with one thrown out, the flip ahead. */
    @Test
    void theDemosNightsAreReadable(@TempDir Path folder) {
        var logbook = app.ironside.logbook.Logbook.open(folder);
        DemoNights.importInto(logbook);
        List<NightEntry> nights = logbook.nights();
        assertThat(nights).hasSize(4);
        assertThat(nights.stream().map(NightEntry::folder)).doesNotHaveDuplicates();
        for (NightEntry night : nights.subList(0, 3)) {
            Journal journal = logbook.journal(night);
            assertThat(journal.events()).hasSizeGreaterThan(100).noneMatch(e -> e instanceof Unknown);
            assertThat(journal.guiding()).hasSizeGreaterThan(1000);
            assertThat(NightState.of(journal.events()).ended()).isTrue();
        }
        NightState tonight = NightState.of(logbook.journal(nights.get(3)).events());
        assertThat(logbook.unfinished()).contains(nights.get(3));
        assertThat(tonight.passed(Stage.POLAR)).isTrue();
        assertThat(tonight.subs()).hasSizeBetween(15, 25);
        assertThat(tonight.subs().stream().filter(s -> !s.kept())).hasSize(1);
        assertThat(tonight.all(Flipped.class)).isEmpty();
        assertThat(logbook.journal(nights.get(3)).guiding()).hasSizeGreaterThan(1000);
    }

    @Test
    void settingsAreKeptAndBrokenOnesForgiven(@TempDir Path folder) throws Exception {
        DeskSettings settings = new DeskSettings(1300, 820, Palette.RED, Stage.FOCUS, 600);
        settings.write(folder);
        assertThat(DeskSettings.read(folder)).isEqualTo(settings);
        java.nio.file.Files.writeString(folder.resolve("desk.json"), "{broken");
        assertThat(DeskSettings.read(folder)).isEqualTo(DeskSettings.DEFAULT);
    }

    /** Run's glance: good of planned, what comes, when to look; and what is wrong above it, with what the night did. */
    @Test
    void theGlanceSaysWhatATiredPersonNeeds() {
        SubTaken good = Told.sub(30, true);
        SubTaken lost = Told.sub(33, false);
        RunGlance calm = reckoner.glance(moment(good));
        assertThat(calm.trouble()).isEmpty();
        assertThat(calm.figures())
                .extracting(RunGlance.Figure::value)
                .contains("1 good", "flip 22:40")
                .anyMatch(v -> v.startsWith("end 05:"))
                .anyMatch(v -> v.startsWith("look 22:"))
                .anyMatch(v -> v.endsWith(" h"));
        TroubleSeen seen = new TroubleSeen(
                Told.at(34),
                "t",
                Trouble.SLIP,
                Told.at(32),
                0.85,
                "Stars are 1.70 times as wide.",
                List.of(new TroubleSeen.Rival(Trouble.FOCUS, 0.1)),
                true,
                List.of(lost.file()));
        Reacted did = new Reacted(
                Told.at(35),
                "For a focuser that slips: focused again; the run was believed.",
                Trouble.SLIP,
                Reacted.Reaction.REFOCUS);
        RunGlance.Banner banner =
                reckoner.glance(moment(good, lost, seen, did)).trouble().orElseThrow();
        assertThat(banner.headline()).isEqualTo("A focuser that slips");
        assertThat(banner.certainty()).isEqualTo("85 % sure, since 21:32, 1 sub lost");
        assertThat(banner.rivals()).isEqualTo("Or: focus that drifts 10 %.");
        assertThat(banner.doing()).contains("21:35", "focused again");
        assertThat(banner.hands()).contains("lock the focuser");
        assertThat(banner.wakes()).isFalse();
        assertThat(banner.evidence()).contains(lost);
        assertThat(RailState.of(night(new StageBegan(Told.at(1), "t", Stage.RUN), good, lost, seen), 1)
                        .stations()
                        .get(Stage.RUN.ordinal()))
                .isEqualTo(new RailState.Station(Stage.RUN, RailState.Standing.FAILED, "a focuser that slips"));
        AlertRaised alert = new AlertRaised(Told.at(36), "t", Trouble.SLIP, true);
        assertThat(reckoner.glance(moment(good, lost, seen, did, alert))
                        .trouble()
                        .orElseThrow()
                        .wakes())
                .isTrue();
        TroubleOver over = new TroubleOver(Told.at(50), "t", Trouble.SLIP, Duration.ofMinutes(18), 1);
        assertThat(reckoner.glance(moment(good, lost, seen, did, over)).trouble())
                .isEmpty();
    }

    /** The logbook says where the time went: by what was wrong when a sub was lost. */
    @Test
    void theLogbookAccountsForTheNight() {
        SubTaken good = Told.sub(30, true);
        SubTaken lost = Told.sub(34, false);
        TroubleSeen cloud = new TroubleSeen(
                Told.at(34), "t", Trouble.CLOUD, Told.at(32), 0.9, "s", List.of(), true, List.of(lost.file()));
        SubTaken unnamed = Told.sub(60, false);
        TroubleOver over = new TroubleOver(Told.at(45), "t", Trouble.CLOUD, Duration.ofMinutes(10), 1);
        ReckoningState state = reckoner.of(Stage.LOGBOOK, moment(good, lost, cloud, over, unnamed), Optional.empty());
        assertThat(state.rows())
                .contains(
                        new ReckoningState.Row("light kept", "3 min of 33 min"),
                        new ReckoningState.Row("lost to cloud", "3 min"),
                        new ReckoningState.Row("lost to what was not named", "3 min"),
                        new ReckoningState.Row("pointing, settling, waiting", "24 min"));
    }

    /** Cards at Calibrate and Ready are switches, with their price by what was measured tonight. */
    @Test
    void howManyDarksIsChosenByWhatTheyAdd() {
        NightEvent dark = new CalibrationTaken(
                NINE.plusSeconds(5000), "A dark.", "dark_180s", true, "dark/1.fits", 502, 180, -10);
        List<ReckoningState.School> schools = reckoner.of(
                        Stage.CALIBRATE, moment(Told.sub(1, true), Told.sub(5, true), dark), Optional.empty())
                .schools();
        assertThat(schools)
                .extracting(ReckoningState.School::name)
                .containsExactly(
                        "12 darks",
                        "15 darks",
                        "25 darks",
                        "50 darks",
                        "No darks",
                        "9 flats a filter",
                        "16 bias frames");
        assertThat(schools)
                .extracting(ReckoningState.School::ours)
                .containsExactly(true, false, false, false, false, true, true);
        assertThat(schools.get(2).choice()).contains(new Intent.Frames(CalibrationPlan.Kind.DARK, 25));
        assertThat(schools.get(5).choice()).contains(new Intent.Frames(CalibrationPlan.Kind.FLAT, 25));
        assertThat(schools.get(6).reason()).contains(" Or 25: ");
        // By hand: lights of 30 ADU, two at one place, darks of the read noise and what three minutes of dark current
        // leave.
        double gain = file.kit().sensor().gainElectronsPerAdu();
        double dark2 = Math.pow(file.kit().sensor().readNoiseElectrons(), 2)
                + 180 * file.kit().sensor().darkElectronsPerSecondAt(-9.9);
        double added = Math.sqrt(1 + 2 * dark2 / 25 / Math.pow(30 * gain, 2)) - 1;
        assertThat(schools.get(2).reason())
                .endsWith(String.format(
                        java.util.Locale.ROOT, "their master adds %.1f %% to the noise of 2 subs.", 100 * added));
        ReckoningState ready = reckoner.of(
                Stage.READY, moment(Told.step(0, "mount", "it moves", "confirmed", true)), Optional.empty());
        assertThat(ready.schools().get(1).choice())
                .contains(new Intent.SetUpBy(file.program().setUp().withAtOnce(true)));
    }
}
