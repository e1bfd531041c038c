package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.desk.night.Moment;
import app.ironside.desk.night.PlotStates;
import app.ironside.desk.night.RailState;
import app.ironside.desk.night.Reckoner;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.night.EventKind;
import app.ironside.night.NightDraft;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.night.NightRecord;
import app.ironside.night.Stage;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.point.FramingMatch;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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

    private static NightEvent event(int minute, EventKind kind, String text, Object... facts) {
        return new NightEvent(NINE.plusSeconds(60L * minute), kind, text, NightRecord.facts(facts));
    }

    private static NightEvent sub(int minute, boolean keep) {
        return event(
                minute,
                EventKind.SUB,
                "Sub",
                "target",
                "M 33",
                "filter",
                "L",
                "seconds",
                180.0,
                "keep",
                keep,
                "full",
                true,
                "reason",
                keep ? "good" : "stars down to 300 from 900: cloud",
                "hfrPx",
                1.2,
                "stars",
                900,
                "backgroundAdu",
                1400.0,
                "guideRmsArcsec",
                0.6,
                "altitudeDeg",
                70.0);
    }

    private static Moment moment(NightEvent... events) {
        return Moment.at(NINE.plusSeconds(6000), true, List.of(events));
    }

    @Test
    void aNightThatHasNotBegunSaysWhatComes() {
        Moment none = moment();
        for (Stage stage : EnumSet.complementOf(EnumSet.of(Stage.PLAN))) {
            ReckoningState state = reckoner.of(stage, none, Optional.empty());
            assertThat(state.verdict()).isNotBlank();
            assertThat(state.sentence()).isNotBlank();
        }
        assertThat(RailState.of(none, 3).stations())
                .hasSize(10)
                .allMatch(s -> s.standing() == RailState.Standing.WAITING);
    }

    private static NightEvent step(int minute, String device, String what, String measured, boolean proven) {
        return event(
                minute,
                EventKind.DEVICE,
                device,
                "device",
                device,
                "step",
                what,
                "measured",
                measured,
                "proven",
                proven);
    }

    /** Ready counts what is open: two steps told are not a night that is ready, and the words are what was measured. */
    @Test
    void readySaysWhatIsOpen() {
        List<app.ironside.night.ReadyStep> list = app.ironside.night.ReadyList.of(
                        file.site(), file.kit(), file.program(), file.lessons())
                .steps();
        NightEvent[] some = list.stream()
                .limit(2)
                .map(s -> step(0, s.subject(), s.what(), "confirmed", true))
                .toArray(NightEvent[]::new);
        ReckoningState early = reckoner.of(Stage.READY, moment(some), Optional.empty());
        assertThat(early.verdict()).isEqualTo((list.size() - 2) + " still open.");
        assertThat(early.rows().get(0).value()).isEqualTo("2 of " + list.size());
        assertThat(early.sentence()).doesNotContain("cold", "motion");
        NightEvent[] all = list.stream()
                .map(s -> step(
                        1,
                        s.subject(),
                        s.what(),
                        s.subject().equals("cooler") ? "-10.0 °C" : "confirmed",
                        !s.subject().equals("focuser")))
                .toArray(NightEvent[]::new);
        ReckoningState failed = reckoner.of(Stage.READY, moment(all), Optional.empty());
        assertThat(failed.verdict()).isEqualTo("1 not proven.");
        assertThat(failed.alert()).isTrue();
        // Told again after it was mended, the step counts once.
        List<NightEvent> mended = new java.util.ArrayList<>(List.of(all));
        list.stream()
                .filter(s -> s.subject().equals("focuser"))
                .forEach(s -> mended.add(step(2, s.subject(), s.what(), "at 2600", true)));
        ReckoningState whole = reckoner.of(Stage.READY, moment(mended.toArray(new NightEvent[0])), Optional.empty());
        assertThat(whole.verdict()).isEqualTo("Every step is proven.");
        assertThat(whole.sentence()).contains("cooler -10.0 °C");
    }

    /** Run is a tick when light was kept. */
    @Test
    void theRunTickMeansKeptSubs() {
        NightEvent over = event(90, EventKind.NIGHT_ENDED, "The night is done.");
        assertThat(RailState.of(moment(sub(1, false), sub(5, false), over), 1)
                        .stations()
                        .get(Stage.RUN.ordinal())
                        .standing())
                .isEqualTo(RailState.Standing.FAILED);
        assertThat(RailState.of(moment(sub(1, false), sub(5, true), over), 1)
                        .stations()
                        .get(Stage.RUN.ordinal())
                        .standing())
                .isEqualTo(RailState.Standing.PASSED);
    }

    /** A lost star is no 0.00″: without a sample no figure is shown. */
    @Test
    void aLostGuideStarHasNoFigure() {
        NightEvent lost = event(
                1,
                EventKind.SUB,
                "Sub",
                "target",
                "M 33",
                "keep",
                false,
                "reason",
                "cloud",
                "guideLost",
                62,
                "seconds",
                180.0);
        assertThat(reckoner.of(Stage.GUIDE, moment(lost), Optional.empty()).verdict())
                .isEqualTo("The guide star was not seen.");
        assertThat(reckoner.of(Stage.RUN, moment(lost), Optional.empty()).rows())
                .contains(new ReckoningState.Row("guiding", "star not seen"));
    }

    /** The stack's headline is what was gained against what was possible, not what resampling made smooth. */
    @Test
    void theStackSaysWhatWasPossible() {
        NightEvent stack = event(
                95,
                EventKind.STACK,
                "x",
                "target",
                "M 33",
                "filter",
                "L",
                "kept",
                8,
                "partial",
                34,
                "seconds",
                1440.0,
                "snrGain",
                2.79,
                "snrGainPossible",
                2.83,
                "snrGainError",
                0.05,
                "noiseAdu",
                4.0,
                "subNoiseAdu",
                12.2);
        ReckoningState state = reckoner.of(Stage.STACK, moment(stack), Optional.empty());
        assertThat(state.verdict()).isEqualTo("2.8 times better than one sub.");
        assertThat(state.sentence())
                .isEqualTo("8 subs of M 33 in L; 2.83 was possible with them. The measure is good to ± 0.05.");
        assertThat(state.rows()).contains(new ReckoningState.Row("not stacked", "34, read out in the middle only"));
    }

    private static NightEvent solve(double offsetArcsec, double rotationDeg) {
        return event(
                3,
                EventKind.SOLVE,
                "M 33.",
                "target",
                "M 33",
                "raDeg",
                23.4621,
                "decDeg",
                30.6599,
                "rotationDeg",
                rotationDeg,
                "scaleArcsecPerPixel",
                6.016,
                "matchedStars",
                40,
                "rmsArcsec",
                1.2,
                "offsetArcsec",
                offsetArcsec,
                "log10FalseOdds",
                -60.0);
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
        ReckoningState off = planned(40, Map.of()).of(Stage.POINT, moment(solve(8, 17)), Optional.empty());
        assertThat(off.verdict()).isEqualTo("M 33 is centred.");
        assertThat(off.sentence())
                .startsWith("Turn the camera by 23.0° from north toward east")
                .contains("Flats");
        assertThat(off.alert()).isTrue();
        assertThat(row(off, "camera angle")).isEqualTo("17.0°, the plan has 40°");
        assertThat(row(off, "as on an earlier night")).isEqualTo("first night");
        // Upside down after the flip it frames the same.
        ReckoningState flipped = planned(17, Map.of()).of(Stage.POINT, moment(solve(8, -163)), Optional.empty());
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
        assertThat(row(second.of(Stage.POINT, moment(solve(8, 17)), Optional.empty()), "as on an earlier night"))
                .startsWith("yes, 0.5°");
        assertThat(row(second.of(Stage.POINT, moment(solve(8, 37)), Optional.empty()), "as on an earlier night"))
                .startsWith("Turn the camera by 20.5° from north toward west");
    }

    @Test
    void theRailFillsItselfIn() {
        RailState rail = RailState.of(
                moment(
                        event(0, EventKind.STAGE, "Polar begins.", "stage", "POLAR"),
                        event(1, EventKind.GATE, "", "stage", "POLAR", "measured", 0.2, "limit", 1.12, "passed", true),
                        event(2, EventKind.STAGE, "Run begins.", "stage", "RUN"),
                        sub(5, true),
                        sub(8, false)),
                1);
        assertThat(rail.stations().get(Stage.POLAR.ordinal()))
                .isEqualTo(new RailState.Station(Stage.POLAR, RailState.Standing.PASSED, "0.20′ of 1.1′"));
        assertThat(rail.stations().get(Stage.RUN.ordinal()))
                .isEqualTo(new RailState.Station(Stage.RUN, RailState.Standing.WORKING, "1 kept of 2"));
        assertThat(rail.stations().get(Stage.LOGBOOK.ordinal()).value()).isEqualTo("1 night");
    }

    @Test
    void aSubThatIsOutSaysWhy() {
        ReckoningState state = reckoner.of(Stage.RUN, moment(sub(5, true), sub(8, false)), Optional.empty());
        assertThat(state.alert()).isTrue();
        assertThat(state.verdict()).isEqualTo("This sub is out.");
        assertThat(state.sentence())
                .isEqualTo("Reason: stars down to 300 from 900: cloud. It is marked, never deleted.");
        assertThat(state.rows()).contains(new ReckoningState.Row("kept", "1 of 2"));
    }

    @Test
    void theEvidenceOfAChosenEventIsShownAndNotTheLast() {
        NightEvent first = sub(5, true);
        ReckoningState state = reckoner.of(Stage.RUN, moment(first, sub(8, false)), Optional.of(first));
        assertThat(state.alert()).isFalse();
        assertThat(state.verdict()).isEqualTo("Go on with 180 s.");
    }

    /** By hand: sky (1400 − 500) × 0.9 = 810 e⁻, its noise 28.5 e⁻, 6.3 times a read noise of 4.5 e⁻. */
    @Test
    void skyOverReadNoiseByHand() {
        ReckoningState state = reckoner.of(Stage.RUN, moment(sub(5, true)), Optional.empty());
        assertThat(state.rows()).contains(new ReckoningState.Row("sky over read noise", "6.3 ×"));
    }

    @Test
    void polarSaysWhichWay() {
        NightEvent polar = event(
                1,
                EventKind.POLAR,
                "",
                "totalErrorArcmin",
                46.6,
                "altitudeErrorArcmin",
                38.0,
                "azimuthErrorArcmin",
                -27.0,
                "uncertaintyArcmin",
                0.3,
                "turnDeg",
                48.0);
        ReckoningState state = reckoner.of(Stage.POLAR, moment(polar), Optional.empty());
        assertThat(state.verdict()).isEqualTo("Lower the axis.");
        assertThat(state.rows()).contains(new ReckoningState.Row("azimuth", "27.00′ too far west"));
        assertThat(state.schools()).anyMatch(s -> s.ours() && s.name().equals("Images"));
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
        assertThat(Words.place(23.4625, 30.66)).isEqualTo("01 33 51.0  +30 39 36");
        assertThat(Words.place(359.99999, -0.5)).isEqualTo("00 00 00.0  −00 30 00");
        assertThat(Words.span(java.time.Duration.ofSeconds(7500))).isEqualTo("2 h 05 min");
    }

    @Test
    void plotsComeFromTheJournal() {
        NightEvent focus = event(
                3,
                EventKind.FOCUS,
                "",
                "points",
                List.of(NightRecord.facts("position", 2400, "size", 2.0)),
                "a",
                1.1,
                "b",
                0.02,
                "c",
                2462.0,
                "bestPosition",
                2462.0,
                "why",
                "Focus, start");
        Plot.State state = PlotStates.focus(Optional.of(focus));
        assertThat(state.title()).isEqualTo("Focus, start");
        assertThat(state.curves().get(1).points()).hasSize(1);
        assertThat(state.vertical().get(0).x()).isEqualTo(2462.0);
    }

    @Test
    void everyKindOfEventHasAStation() {
        for (EventKind kind : EventKind.values()) {
            assertThat(Moment.stationOf(event(0, kind, "", "stage", "FOCUS"))).isNotNull();
        }
    }

    @Test
    void theDemosEarlierNightsAreReadable(@TempDir Path folder) {
        var logbook = app.ironside.logbook.Logbook.open(folder);
        DemoNights.importInto(logbook);
        assertThat(logbook.nights()).hasSize(3);
        List<String> ends = new ArrayList<>();
        for (var night : logbook.nights()) {
            assertThat(logbook.journal(night).events()).hasSizeGreaterThan(100);
            ends.add(logbook.journal(night)
                    .events()
                    .get(logbook.journal(night).events().size() - 1)
                    .text());
        }
        assertThat(ends).allMatch(e -> e.startsWith("The night is done"));
        assertThat(new Wiring(Workers.SERIAL).drivers()).isEmpty();
    }

    @Test
    void settingsAreKeptAndBrokenOnesForgiven(@TempDir Path folder) throws Exception {
        DeskSettings settings = new DeskSettings(1300, 820, Palette.RED, Stage.FOCUS, 600);
        settings.write(folder);
        assertThat(DeskSettings.read(folder)).isEqualTo(settings);
        java.nio.file.Files.writeString(folder.resolve("desk.json"), "{broken");
        assertThat(DeskSettings.read(folder)).isEqualTo(DeskSettings.DEFAULT);
    }
}
