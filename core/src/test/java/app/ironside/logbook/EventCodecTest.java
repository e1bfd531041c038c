package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Provenance;
import app.ironside.device.Mount;
import app.ironside.focus.FilterOffsets;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusVerdict;
import app.ironside.focus.SweepZones;
import app.ironside.guide.CalibrationReport;
import app.ironside.guide.GuideComparison;
import app.ironside.guide.GuideRules;
import app.ironside.guide.GuideSample;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.CalibrationTaken;
import app.ironside.journal.CameraWarmed;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusPoint;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FocuserMeasured;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.Gate;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.GuideCameraLooked;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuiderSet;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.HeatersSwitched;
import app.ironside.journal.KnobsTurned;
import app.ironside.journal.LengthsTried;
import app.ironside.journal.LookedElsewhere;
import app.ironside.journal.Marks;
import app.ironside.journal.MasterMade;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.Noted;
import app.ironside.journal.OffsetsMeasured;
import app.ironside.journal.PlacementCompared;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Reacted;
import app.ironside.journal.SkyTested;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubRegraded;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.journal.TargetLeft;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleOver;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.UnguidedWatched;
import app.ironside.journal.Unknown;
import app.ironside.journal.Verdict;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.solve.LightMap;
import app.ironside.solve.Wcs;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Events go to the logbook's rows and come back; rows of the first version and of unknown ones are read too. */
class EventCodecTest {
    private static final Instant TIME = Instant.parse("2026-11-14T20:00:00.25Z");
    private static final Interval SPAN = new Interval(TIME.minusSeconds(180), TIME);
    private static final OptionalDouble SOME = OptionalDouble.of(1.25);
    private static final Wcs WCS = new Wcs(new Equatorial(23.5, 30.7), 700.5, 525.5, -0.0016, 0.0004, 0.0004, 0.0016);
    private static final GuideFigures GUIDED = new GuideFigures(
            OptionalInt.of(80),
            2,
            Optional.of(new GuideFigures.Spread(0.4, 0.3, 0.5, OptionalDouble.of(0.7))),
            Optional.of(new GuideFigures.Effort(320, -31, 4, 0.5, 1.4, 0.2, 0.4, 2.2)));

    private static final List<NightEvent> ONE_OF_EACH = List.of(
            new NightStarted(TIME, "t", "Colle Sorbo", "Wren", LocalDate.of(2026, 11, 14), Provenance.REAL),
            new NightResumed(TIME, "t", 3),
            new NightEnded(TIME, "t", 12, 11),
            new BlockPlanned(TIME, "t", "M 33", 55, 180, SPAN, Optional.of(TIME), TIME, 77, 8.1, 6.2, 124),
            new StageBegan(TIME, "t", Stage.POLAR),
            new GateMeasured(TIME, "t", new Gate(Stage.GUIDE, OptionalDouble.empty(), 3, "″", true)),
            new StepProven(TIME, "t", "mount", "it moves", "4.0° of 4.0°", true),
            new FocusSwept(
                    TIME,
                    "t",
                    "start",
                    List.of(new FocusSwept.Point(2400, 2.5, SOME)),
                    new FocusVerdict(2462, 1.1, 0.99, 2.5, FocusMethod.PARABOLA, false, "why"),
                    new FocusSwept.Hyperbola(1.1, 0.02, 2462),
                    "Ha",
                    OptionalInt.of(5),
                    -3.5,
                    Duration.ofMillis(91_500),
                    Optional.of(new SweepZones(
                            List.of(new SweepZones.Zone(SweepZones.Part.MIDDLE, 2462, 1.5, 1.1)), 2463.5)),
                    Optional.of(new FocusSwept.Strip("focus/sweep_0001.png", List.of(2400, 2418)))),
            new FocusExpected(TIME, "t", 2460, 12, 14, 6, -3.2, 0.4, Optional.of(TIME), ""),
            new FocusPoint(TIME, "t", 2547, SOME, 120),
            new FocuserMeasured(TIME, "t", 170, 3.2, 9, 43, SOME, SOME),
            new OffsetsMeasured(TIME, "t", "L", 6.4, -2.5, List.of(new FilterOffsets.Offset("B", 7.1, 0.8))),
            new GuiderSet(TIME, "t", GuideRules.USUAL.withSettle(Optional.of(1.4))),
            new GuideCameraLooked(TIME, "t", 31, SOME, 1.6, true),
            new UnguidedWatched(TIME, "t", "M 33", SPAN, 0.6, -2.1, 0.4, SOME, SOME),
            new GuidingCompared(
                    TIME,
                    "t",
                    "exposures of 4 s",
                    List.of(SPAN),
                    List.of(SPAN),
                    0.93,
                    0.8,
                    1.07,
                    0.2,
                    GuideComparison.Verdict.OPEN,
                    38),
            new AxisMeasured(
                    TIME,
                    "t",
                    38,
                    -27,
                    46.6,
                    0.3,
                    48,
                    2,
                    true,
                    SOME,
                    SOME,
                    OptionalDouble.empty(),
                    "turn",
                    List.of(
                            new AxisMeasured.Sight(
                                    "1",
                                    "a.fits",
                                    Optional.of(new AxisMeasured.Place(new Equatorial(1, 62), 15, 20, 0.4)),
                                    ""),
                            new AxisMeasured.Sight("2", "b.fits", Optional.empty(), "cloud"))),
            new KnobsTurned(TIME, "t", -0.8, 0.6),
            new AirMeasured(
                    TIME,
                    "t",
                    OptionalDouble.of(-3.25),
                    OptionalDouble.empty(),
                    OptionalDouble.of(2.5),
                    OptionalDouble.of(19),
                    true),
            new AxisDoubted(TIME, "t", TIME, 4.5, -1.2, 0.1),
            new PlacementCompared(TIME, "t", Stage.POLAR, 12, List.of(8.0, 35.5)),
            new HeatersSwitched(TIME, "t", true, 1.25),
            new FrameSolved(
                    TIME,
                    "t",
                    "M 33",
                    "a.fits",
                    new Equatorial(23, 30),
                    17,
                    6.01,
                    40,
                    0.4,
                    42,
                    "nudge",
                    List.of("scale"),
                    -60,
                    WCS),
            new TargetCentred(TIME, "t", "M 33", 7.7, 2, 17.1, Mount.PierSide.EAST),
            new GuiderCalibrated(
                    TIME,
                    "t",
                    1,
                    2,
                    -2,
                    1,
                    90,
                    Optional.of(new GuiderCalibrated.Details(
                            4.8,
                            30,
                            Mount.PierSide.EAST,
                            0.05,
                            0.6,
                            6.5,
                            7.5,
                            List.of(new CalibrationReport.Place(100, 120)),
                            List.of(),
                            false))),
            new GuidingProven(TIME, "t", "M 33", 120, SPAN, GUIDED),
            new Dithered(TIME, "t", -6, 5.7, true, Duration.ofSeconds(19)),
            new SubTaken(
                    TIME,
                    "Sub 1 L 180 s of M 33",
                    "M 33",
                    "L",
                    180,
                    SPAN,
                    "a.fits",
                    true,
                    false,
                    true,
                    Set.of(Stage.GUIDE),
                    true,
                    new SubMeasures(
                            2800,
                            900,
                            SOME,
                            OptionalDouble.empty(),
                            SOME,
                            1400,
                            30,
                            SOME,
                            SOME,
                            Optional.of(new SubMeasures.FieldShape(0.04, 30, List.of("tilted"))),
                            Optional.of(new LightMap(0.3, 0.58, 0.44, 0, 0.98)),
                            SOME),
                    new SubCircumstances(
                            SOME,
                            SOME,
                            SOME,
                            OptionalInt.of(2600),
                            Optional.of(Mount.PierSide.WEST),
                            Optional.of(new SubCircumstances.Cooling(-6.1, -10, SOME))),
                    GUIDED,
                    SOME,
                    Optional.of(WCS),
                    new Verdict(false, "cloud", "cloud")),
            new SubRegraded(TIME, "t", "a.fits", new Verdict(true, "good")),
            new Flipped(TIME, "t", "M 33", true, false),
            new FaultTold(TIME, "t", Stage.RUN, Optional.of("camera")),
            new TroubleSeen(
                    TIME,
                    "t",
                    Trouble.DEW,
                    TIME.minusSeconds(300),
                    0.8,
                    "s",
                    List.of(new TroubleSeen.Rival(Trouble.FROST, 0.1)),
                    true,
                    List.of("a.fits")),
            new TroubleOver(TIME, "t", Trouble.DEW, Duration.ofMinutes(20), 3),
            new AlertRaised(TIME, "t", Trouble.DEW, true),
            new Reacted(TIME, "t", Trouble.DEW, Reacted.Reaction.HEAT),
            new Noted(TIME, "Note: t", "Ada"),
            new LookedElsewhere(TIME, "t", "NGC 7331", 120, 0.97, true),
            new SkyTested(TIME, "t", 120, 0.97),
            new LengthsTried(
                    TIME,
                    "t",
                    "M 33",
                    "L",
                    List.of(
                            new LengthsTried.Rung(30, 900, SOME, SOME, 0.04),
                            new LengthsTried.Rung(60, 0, OptionalDouble.empty(), OptionalDouble.empty(), 0.02))),
            new TargetLeft(TIME, "t", "M 33", 55, TargetLeft.Why.TOO_LOW),
            new CommandTaken(
                    TIME,
                    "t",
                    new Command.GiveVerdicts(
                            List.of(new Marks.Given("a.fits", Verdict.byHand(false, "by hand", "Ada")))),
                    "Ada",
                    "",
                    TIME,
                    true,
                    Stage.RUN),
            new MountParked(TIME, "t"),
            new CameraWarmed(TIME, "t", 4.5),
            new CalibrationTaken(TIME, "t", "dark_180s", true, "a.fits", 510, 180, -10),
            new MasterMade(TIME, "t", "dark", "dark 180s", "a.fits", 12, 510, 2.5),
            new StackMade(
                    TIME,
                    "t",
                    "M_33_L_180s",
                    "M 33",
                    "L",
                    "a.fits",
                    8,
                    7,
                    3,
                    Duration.ofSeconds(1260),
                    4,
                    12,
                    Optional.of(new StackMade.Gain(2.6, 2.65, 0.05)),
                    SOME,
                    1.1,
                    0.001,
                    "b.fits",
                    Optional.of(WCS)),
            new CommandTaken(
                    TIME, "t", new Command.Extend(Duration.ofMinutes(15)), "Ada", "clear", TIME, true, Stage.RUN),
            new GateOverruled(TIME, "t", Stage.POLAR, "Ada"),
            new ProgramRevised(TIME, "t", "{}", 31),
            new Unknown(TIME, "of a later version", "MIRROR_WASHED", 7, "{\"with\":\"water\"}"));

    @Test
    void everyKindComesBackAsItWas() {
        assertThat(ONE_OF_EACH.stream().map(Object::getClass).collect(Collectors.toSet()))
                .as("one of each kind there is")
                .containsExactlyInAnyOrder(NightEvent.class.getPermittedSubclasses());
        for (NightEvent event : ONE_OF_EACH) {
            EventRow row = EventCodec.write(event);
            assertThat(EventCodec.read(row)).as(row.kind()).isEqualTo(event);
            assertThat(row.kind()).isEqualTo(EventCodec.kindOf(event));
        }
    }

    /** Every command there is comes back from the journal. */
    @Test
    void everyCommandComesBack() {
        List<Command> all = List.of(
                new Command.Hold(),
                new Command.GoOn(),
                new Command.EndSub(true),
                new Command.SkipTarget(),
                new Command.SkipFilter(),
                new Command.OneMore(),
                new Command.Extend(Duration.ofMinutes(15)),
                new Command.Refocus(),
                new Command.Recentre(),
                new Command.CalibrateGuider(),
                new Command.StopGuiding(),
                new Command.StartGuiding(),
                new Command.DitherNow(),
                new Command.TryLengths(),
                new Command.GuideBy(GuideRules.USUAL),
                new Command.PickGuideStar(640, 480),
                new Command.WatchUnguided(5),
                new Command.CompareGuiding("exposures of 4 s", 10, Optional.of(GuideRules.USUAL.withExposure(4))),
                new Command.MeasureOffsets(),
                new Command.MeasureFocuser(),
                new Command.Overrule(Stage.POLAR),
                new Command.Replan("{}"),
                new Command.EndNight(),
                new Command.GiveVerdicts(List.of(new Marks.Given("a.fits", new Verdict(true, "good")))),
                new Command.Note("worm greased"),
                new Command.ParkNow());
        assertThat(all.stream().map(Object::getClass).collect(Collectors.toSet()))
                .containsExactlyInAnyOrder(Command.class.getPermittedSubclasses());
        for (Command command : all) {
            CommandTaken event = new CommandTaken(TIME, "t", command, "Ada", "", TIME, true, Stage.RUN);
            assertThat(EventCodec.read(EventCodec.write(event))).isEqualTo(event);
        }
    }

    /** The shape on the disk is a contract with every logbook there is: a renamed part shows here. */
    @Test
    void theShapeOfARowIsFixed() {
        EventRow row = EventCodec.write(ONE_OF_EACH.get(0));
        assertThat(row)
                .isEqualTo(new EventRow(
                        TIME,
                        "NIGHT_STARTED",
                        2,
                        "t",
                        "{\"site\":\"Colle Sorbo\",\"kit\":\"Wren\",\"date\":\"2026-11-14\",\"provenance\":\"REAL\"}"));
        NightEvent taken = ONE_OF_EACH.stream()
                .filter(SubTaken.class::isInstance)
                .findFirst()
                .orElseThrow();
        String sub = EventCodec.write(taken).facts();
        assertThat(sub)
                .contains(
                        "\"name\":\"Sub 1 L 180 s of M 33\"",
                        "\"exposed\":{\"from\":\"2026-11-14T19:57:00.250Z\",\"until\":\"2026-11-14T20:00:00.250Z\"}",
                        "\"measures\":{\"widthPx\":2800,\"stars\":900,\"hfrPx\":1.25,\"eccentricity\":1.25",
                        "\"verdict\":{\"keep\":false,\"reason\":\"cloud\",\"cause\":\"cloud\"}",
                        "\"cooling\":{\"sensorC\":-6.1,\"wantedC\":-10.0,\"power\":1.25}",
                        "\"CRVAL1\":23.5")
                .doesNotContain("fwhmPx");
    }

    @Test
    void whatCannotBeReadIsKeptWhole() {
        EventRow[] rows = {
            new EventRow(TIME, "SUB", 2, "half", "{\"target\":\"M 3"),
            new EventRow(TIME, "SUB", 2, "lacks most", "{\"target\":\"M 33\"}"),
            new EventRow(TIME, "SUB", 9, "later", "{\"target\":\"M 33\"}"),
            new EventRow(
                    TIME,
                    "GATE",
                    2,
                    "no such stage",
                    "{\"gate\":{\"stage\":\"TEA\",\"limit\":1,\"unit\":\"\",\"atMost\":true}}"),
            new EventRow(TIME, "SUB", 2, "a list", "[1,2]"),
        };
        for (EventRow row : rows) {
            NightEvent event = EventCodec.read(row);
            assertThat(event).as(row.text()).isInstanceOf(Unknown.class);
            assertThat(EventCodec.write(event)).isEqualTo(row);
        }
    }

    /** A logbook that the first version recorded, of a rehearsal that was stopped twice: it opens, and says what it said. */
    @Test
    void aLogbookOfTheFirstVersionOpens(@TempDir Path folder) throws IOException {
        try (InputStream in =
                new GZIPInputStream(EventCodecTest.class.getResourceAsStream("first-version.sqlite.gz"))) {
            Files.copy(in, folder.resolve("logbook.sqlite"));
        }
        try (Logbook logbook = Logbook.open(folder)) {
            NightEntry night = logbook.nights().get(0);
            NightState state = NightState.of(logbook.journal(night).events());
            assertThat(state.events()).hasSize(215).noneMatch(Unknown.class::isInstance);
            assertThat(state.ended()).isTrue();
            assertThat(logbook.unfinished()).isEmpty();
            assertThat(logbook.rescued()).isEmpty();
            assertThat(state.subs()).hasSize(44).allMatch(SubTaken::kept);
            assertThat(state.kept()).isEqualTo(44);
            SubTaken first = state.subs().get(0);
            assertThat(first.name()).isEqualTo("Sub 1 L 60 s of M 33");
            assertThat(first.text()).isEqualTo("Sub 1 L 60 s of M 33 kept.");
            assertThat(first.wcs()).isPresent();
            assertThat(first.measures().field()).isPresent();
            // Its figures are those of the trace that was within.
            List<GuideSample> own = logbook.journal(night).guiding().stream()
                    .filter(s -> !s.time().isBefore(first.exposed().from())
                            && !s.time().isAfter(first.exposed().until()))
                    .toList();
            assertThat(own).hasSizeBetween(20, 32).allMatch(s -> Double.isNaN(s.raPulseMs()));
            assertThat(state.all(AxisMeasured.class)).allMatch(a -> !a.sights().isEmpty());
            assertThat(state.all(StackMade.class)).allMatch(s -> s.gain().isPresent());
            assertThat(state.all(FocusSwept.class))
                    .allMatch(f -> f.filterOffsetSteps().isPresent());
            assertThat(state.passed(Stage.POLAR)).isTrue();
            assertThat(logbook.habits().framings(LocalDate.of(2026, 12, 1), Optional.empty()))
                    .containsOnlyKeys("M 33");
            // It goes on in the new shape.
            logbook.journal(night).append(ONE_OF_EACH.get(19));
        }
        try (Logbook again = Logbook.open(folder)) {
            assertThat(again.journal(again.nights().get(0)).events())
                    .hasSize(216)
                    .endsWith(ONE_OF_EACH.get(19));
        }
    }
}
