package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.guide.AxisRule;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideRules;
import app.ironside.guide.SlackBy;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.FocuserMeasured;
import app.ironside.journal.GuideCameraLooked;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuiderSet;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.OffsetsMeasured;
import app.ironside.journal.SubTaken;
import app.ironside.journal.UnguidedWatched;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** What a person can have measured of focuser, filters and guider while a night runs, against what the simulated observatory hides. */
class TrialsNightTest {
    private static final Wiring WIRING = new Wiring(Workers.ALL_CORES);

    private static NightFile night() throws Exception {
        ObjectNode document = new ObjectMapper().valueToTree(FaultsTest.document("wren"));
        ((ObjectNode) document.at("/program/targets/0")).put("until", "23:00:00");
        return NightFile.parse(document.toString(), "wren.json", WIRING.objects());
    }

    private static NightFile with(NightFile file, Kit kit) {
        return NightFile.of(file.site(), kit, file.program(), List.of(), file.observatory());
    }

    private static NightState run(NightFile file, Command... commands) throws Exception {
        NightState night = runAll(file, commands);
        assertThat(night.all(CommandTaken.class)).hasSize(commands.length).allMatch(CommandTaken::obeyed);
        return night;
    }

    private static NightState runAll(NightFile file, Command... commands) throws Exception {
        JournalInMemory journal = new JournalInMemory();
        NightControl control = new NightControl();
        NightWatcher whenSubsCome = new NightWatcher() {
            private boolean given;

            @Override
            public void event(app.ironside.journal.NightEvent event) {
                if (!given && event instanceof SubTaken) {
                    given = true;
                    for (Command command : commands) {
                        control.give(command, "Ada", "", event.time());
                    }
                }
            }
        };
        WIRING.swift(file, journal, SteppedClock::new, whenSubsCome, control)
                .engine()
                .run();
        NightState night = NightState.of(journal.events());
        assertThat(night.ended()).isTrue();
        return night;
    }

    /** Truth: the offsets that the kit's file has are those of the simulated filters. One that is not told of is measured as well. */
    @Test
    void filtersAreMeasuredAgainstEachOther() throws Exception {
        NightFile file = night();
        Kit kit = file.kit();
        List<FilterSpec> told = kit.filters();
        Kit unknown = with(
                        file,
                        new Kit(
                                kit.name(),
                                kit.optics(),
                                kit.sensor(),
                                told.stream()
                                        .map(f -> f.name().equals("B") ? f.withFocusOffset(Optional.empty()) : f)
                                        .toList(),
                                kit.motorFocuser(),
                                kit.mount(),
                                kit.guideOptics(),
                                kit.equipment()))
                .kit();
        NightState night = run(with(file, unknown), new Command.MeasureOffsets());
        OffsetsMeasured measured = night.last(OffsetsMeasured.class).orElseThrow();
        assertThat(measured.reference()).isEqualTo("L");
        Map<String, Double> steps =
                measured.offsets().stream().collect(Collectors.toMap(o -> o.filter(), o -> o.steps()));
        for (FilterSpec filter : told) {
            if (!filter.name().equals("L") && !filter.name().equals("B")) {
                assertThat(steps.get(filter.name()))
                        .as(filter.name())
                        .isCloseTo(filter.knownOffsetSteps(), within(measured.zoneSteps() / 3));
            }
        }
        assertThat(Math.abs(steps.get("B")))
                .as("what nobody told of is somewhere else")
                .isGreaterThan(1);
    }

    /** Truth: the simulated focuser has seven tenths of the slack that its file allows for; nine points reach to three times the size. */
    @Test
    void theFocuserIsMeasuredByTheStars() throws Exception {
        NightFile file = night();
        FocuserMeasured m = run(file, new Command.MeasureFocuser())
                .last(FocuserMeasured.class)
                .orElseThrow();
        assertThat(m.grown()).isBetween(3.0, 4.5);
        assertThat(m.stepSteps()).isEqualTo((int) Math.round(2.0 * m.outSteps() / 8));
        double truth = 0.7 * file.kit().focuser().backlashSteps();
        assertThat(m.backlashSteps().orElseThrow()).isCloseTo(truth, within(3.0));
    }

    /** A ring that hands turn has no step and no zero: nothing is measured, and that is told. */
    @Test
    void aRingTurnedByHandIsNotMeasured() throws Exception {
        NightFile file = night();
        Kit kit = file.kit();
        Kit byHand = new Kit(
                kit.name(),
                kit.optics(),
                kit.sensor(),
                kit.filters(),
                Optional.empty(),
                kit.mount(),
                kit.guideOptics(),
                kit.equipment());
        CommandTaken told = runAll(with(file, byHand), new Command.MeasureFocuser())
                .last(CommandTaken.class)
                .orElseThrow();
        assertThat(told.obeyed()).isFalse();
        assertThat(told.text()).contains("focused by hand");
    }

    /** Truth: the gear's period and swing, and the air, that the rehearsal was given. */
    @Test
    void theStarLeftToItselfShowsGearAndAir() throws Exception {
        NightFile file = night();
        SimSettings truth = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        UnguidedWatched u = run(file, new Command.WatchUnguided(20))
                .last(UnguidedWatched.class)
                .orElseThrow();
        assertThat(u.periodSeconds().orElseThrow())
                .isCloseTo(truth.periodicSeconds(), within(0.15 * truth.periodicSeconds()));
        assertThat(u.periodArcsec().orElseThrow())
                .isBetween(0.5 * truth.periodicArcsec(), 1.6 * truth.periodicArcsec());
        assertThat(u.airArcsec()).isBetween(0.5 * truth.jitterArcsec(), 2.5 * truth.jitterArcsec());
    }

    /** A loop that sends back a twentieth of what it sees is worse than the usual one, and that shows in runs of five minutes. */
    @Test
    void aWorseSettingIsFoundOut() throws Exception {
        GuideRules lame = GuideRules.USUAL.withRa(new AxisRule(GuideLaw.PROPORTIONAL, 0.05, 0));
        GuidingCompared c = run(night(), new Command.CompareGuiding("a twentieth sent back", 5, Optional.of(lame)))
                .last(GuidingCompared.class)
                .orElseThrow();
        assertThat(c.before()).hasSize(2);
        assertThat(c.after()).hasSize(2);
        assertThat(c.rmsRatio()).isGreaterThan(1.1);
        assertThat(c.low95()).isLessThan(c.rmsRatio());
    }

    @Test
    void otherRulesAreTakenAtOnceAndMarked() throws Exception {
        GuideRules other = GuideRules.USUAL
                .withDec(new AxisRule(GuideLaw.LOW_PASS, 0.5, 0.1))
                .withTunes(false)
                .withSlackBy(SlackBy.MORE_PULSE);
        NightState night = run(night(), new Command.GuideBy(other));
        assertThat(night.all(GuiderSet.class))
                .anyMatch(g -> g.text().contains("declination low-pass, 50 % from 0.10″ on")
                        && g.rules().dec().equals(other.dec()));
        assertThat(night.all(GuiderSet.class).stream()
                        .filter(g -> g.text().contains("set itself"))
                        .filter(g -> g.time().isAfter(firstSet(night))))
                .as("what is told to stay stays")
                .isEmpty();
    }

    private static Instant firstSet(NightState night) {
        return night.all(GuiderSet.class).stream()
                .filter(g -> g.text().contains("other rules"))
                .findFirst()
                .orElseThrow()
                .time();
    }

    /** What is known of the calibration is told: rates within a tenth of the kit's, and the slack that the simulated gear has. */
    @Test
    void theCalibrationTellsHowItWent() throws Exception {
        NightFile file = night();
        NightState night = run(file);
        GuiderCalibrated.Details d =
                night.last(GuiderCalibrated.class).orElseThrow().details().orElseThrow();
        GuiderCalibrated c = night.last(GuiderCalibrated.class).orElseThrow();
        double north = Math.hypot(c.northX(), c.northY()) * d.arcsecPerPixel();
        assertThat(north).isCloseTo(d.expectedNorth(), within(0.1 * d.expectedNorth()));
        double slack =
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class).decBacklashArcsec();
        assertThat(d.slackSeconds() * north).isCloseTo(slack, within(Math.max(1.5, 0.35 * slack)));
        assertThat(night.all(GuideCameraLooked.class)).isNotEmpty().allMatch(GuideCameraLooked::sharp);
        assertThat(night.last(GuideCameraLooked.class).orElseThrow().hfrPx()).isNotEqualTo(OptionalDouble.empty());
    }

    @Test
    void theNightFileKeepsTheRules() throws Exception {
        NightFile file = night();
        assertThat(file.text()).doesNotContain("\"guiding\"");
        GuideRules all = new GuideRules(
                3.5,
                new AxisRule(GuideLaw.FORESEEING, 0.7, 0.1),
                new AxisRule(GuideLaw.LOW_PASS, 0.3, 0.4),
                false,
                SlackBy.NOTHING,
                GuideRules.Stars.MANY,
                GuideRules.Calibrate.WHEN_MOVED,
                GuideRules.DitherBy.RIGHT_ASCENSION,
                Optional.of(1.2));
        NightFile changed =
                NightFile.of(file.site(), file.kit(), file.program().withGuiding(all), List.of(), file.observatory());
        assertThat(NightFile.parse(changed.text(), "again.json", WIRING.objects())
                        .program()
                        .guiding())
                .isEqualTo(all);
    }
}
