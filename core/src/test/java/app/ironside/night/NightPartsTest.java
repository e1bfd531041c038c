package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.startsWith;
import static org.mockito.Mockito.atLeast;
import static org.mockito.Mockito.atLeastOnce;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.ironside.BadInputException;
import app.ironside.Examples;
import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.device.Devices;
import app.ironside.device.FilterWheel;
import app.ironside.device.FlatPanel;
import app.ironside.device.Focuser;
import app.ironside.device.Hands;
import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.device.PowerBox;
import app.ironside.device.SlewRefused;
import app.ironside.document.NightFile;
import app.ironside.document.ReadyList;
import app.ironside.document.ReadyStep;
import app.ironside.guide.GuideSample;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.Journal;
import app.ironside.journal.MasterMade;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.plan.Program;
import app.ironside.polar.KnobGearing;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.PlateSolver;
import app.ironside.star.FrameGauge;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Judgement of subs, the folder of a night, and what happens when a device fails its proof. */
@Order(2)
class NightPartsTest {
    @TempDir
    Path folder;

    private final List<NightEvent> events = new ArrayList<>();
    private final List<GuideSample> samples = new ArrayList<>();
    private final NightControl control = new NightControl(1);
    private boolean full;
    private final Journal journal = new Journal() {
        @Override
        public void append(NightEvent event) {
            if (full) {
                throw new UncheckedIOException("the journal could not be written: disk full", new IOException());
            }
            events.add(event);
        }

        @Override
        public List<NightEvent> events() {
            return List.copyOf(events);
        }

        @Override
        public void guided(GuideSample sample) {
            samples.add(sample);
        }

        @Override
        public List<GuideSample> guiding() {
            return List.copyOf(samples);
        }
    };

    private static Frame small(float level) {
        float[] pixels = new float[16];
        java.util.Arrays.fill(pixels, level);
        return new Frame(4, 4, pixels, Header.EMPTY);
    }

    @Test
    void framesGetNumbersAndAreNeverOverwritten() throws IOException {
        FrameArchive archive = new FrameArchive(folder.resolve("night"));
        String first = archive.save("lights/M_33/L", "M_33_L_180s", small(1));
        String second = archive.save("lights/M_33/L", "M_33_L_180s", small(2));
        assertThat(first).isEqualTo("lights/M_33/L/M_33_L_180s_0001.fits");
        assertThat(second).isEqualTo("lights/M_33/L/M_33_L_180s_0002.fits");
        Files.delete(archive.resolve(first));
        String third = archive.save("lights/M_33/L", "M_33_L_180s", small(3));
        assertThat(third).isNotEqualTo(second);
        assertThat(FitsFiles.read(archive.resolve(second)).pixels()[0]).isEqualTo(2f);
        assertThat(archive.lights()).containsExactly(second, third);
        assertThat(FrameArchive.plainName("NGC 2403 / a:b")).isEqualTo("NGC_2403_a_b");
    }

    @Test
    void halfWrittenFilesAreSweptAwayAndNothingElse() throws IOException {
        FrameArchive archive = new FrameArchive(folder.resolve("night"));
        String whole = archive.save("lights/M_33/L", "sub", small(1));
        Files.writeString(archive.resolve("lights/M_33/L/sub_0002.fits.part"), "half");
        assertThat(archive.removeUnfinished()).containsExactly("lights/M_33/L/sub_0002.fits.part");
        assertThat(archive.lights()).containsExactly(whole);
        assertThat(archive.removeUnfinished()).isEmpty();
    }

    private static final StarCatalogue STARS = StarCatalogue.hipparcos();

    private Devices devices;

    /** A night whose devices all answer well. */
    private NightContext night() throws Exception {
        return night(Files.readString(Path.of("..", "examples", "colle-sorbo.json")));
    }

    private NightContext night(String document) throws Exception {
        JumpingClock clock = new JumpingClock("2026-11-14T16:10:00Z");
        Mount mount = Mocks.device(Mount.class);
        when(mount.pointing()).thenReturn(new Equatorial(10, 40), new Equatorial(10, 40), new Equatorial(14, 40));
        Camera camera = camera();
        when(camera.sensorTemperatureC()).thenReturn(12.0, 4.0, -6.0, -10.0);
        Focuser focuser = Mocks.device(Focuser.class);
        when(focuser.maxSteps()).thenReturn(5000);
        when(focuser.positionSteps()).thenReturn(2600, 2610);
        FilterWheel wheel = Mocks.device(FilterWheel.class);
        PowerBox power = Mocks.device(PowerBox.class);
        when(power.heaterWatts()).thenReturn(14.0);
        devices = new Devices(
                mount,
                camera,
                Optional.of(camera()),
                focuser,
                wheel,
                Mocks.device(FlatPanel.class),
                hands(),
                Optional.empty(),
                Optional.empty(),
                Optional.of(power));
        NightFile file = NightFile.parse(
                document.replace(
                        "\"widthPx\": 2800, \"heightPx\": 2100, \"pixelUm\": 6.3",
                        "\"widthPx\": 200, \"heightPx\": 150, \"pixelUm\": 88.2"),
                "colle-sorbo.json",
                DeepSkyCatalogue.load());
        PlateSolver solver = mock(PlateSolver.class);
        when(solver.catalogue()).thenReturn(STARS);
        return new NightContext(
                file.site(),
                file.kit(),
                new ProgramInForce(file.program()),
                devices,
                clock,
                new FrameArchive(folder.resolve("night")),
                new NightRecord(journal, clock, NightWatcher.NONE),
                FrameGauge.ofPixels(Workers.SERIAL),
                solver,
                Workers.SERIAL,
                ReadyList.of(file.site(), file.kit(), file.program(), List.of("the dew strap is on the right plug")),
                Earlier.NONE,
                Provenance.REHEARSED,
                control,
                false);
    }

    /** Hands that find everything as it should be. */
    private static Hands hands() throws InterruptedException {
        Hands hands = mock(Hands.class);
        when(hands.isSo(any())).thenReturn(true);
        return hands;
    }

    private static Conduct conduct(NightContext night) {
        return new Conduct(night.control(), night.record(), night.clock(), night.inForce());
    }

    /** A frame of the sensor: the demo's, with pixels 14 times as large. */
    private static final Frame FRAME = noise(200, 150);

    private static Frame noise(int width, int height) {
        float[] noise = new float[width * height];
        for (int i = 0; i < noise.length; i++) {
            noise[i] = 500 + i % 7;
        }
        return new Frame(width, height, noise, Header.EMPTY);
    }

    private static Camera camera() throws InterruptedException {
        Camera camera = Mocks.device(Camera.class);
        when(camera.expose(any(), any())).thenReturn(FRAME);
        return camera;
    }

    @Test
    void everyDeviceIsProvenOneAtATime() throws Exception {
        NightContext night = night();
        boolean ready = new ReadyStage(night, conduct(night)).run(20);
        List<StepProven> told = NightState.of(events).all(StepProven.class);
        assertThat(told).allMatch(StepProven::proven);
        assertThat(ready).isTrue();
        assertThat(told.stream().map(StepProven::subject))
                .containsExactly(
                        "tripod",
                        "base",
                        "clutches",
                        "load",
                        "balance, bar",
                        "balance, tube",
                        "balance, side",
                        "balance",
                        "filters",
                        "disk",
                        "supply",
                        "home",
                        "mount",
                        "camera",
                        "guide camera",
                        "focuser",
                        "filter wheel",
                        "flat panel",
                        "heaters",
                        "cooler",
                        "cables",
                        "link",
                        "caps",
                        "lesson");
        verify(devices.hands()).isSo("lesson: the dew strap is on the right plug");
        verify(devices.mount(), atLeastOnce()).unpark();
        verify(devices.mount()).home();
        verify(devices.camera()).coolTo(-10);
    }

    /** What is not so is told how to put right and looked at once more; then the night goes on without it. */
    @Test
    void whatIsNotSoIsPutRightAndLookedAtAgain() throws Exception {
        NightContext night = night();
        String side = night.readyList().steps().stream()
                .filter(step -> step.subject().equals("balance, side"))
                .findFirst()
                .orElseThrow()
                .question();
        when(devices.hands().isSo(side)).thenReturn(false, true);
        when(devices.hands().isSo("base: its polar side faces north")).thenReturn(false);
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        List<StepProven> told = NightState.of(events).all(StepProven.class);
        assertThat(told)
                .filteredOn(step -> !step.proven())
                .extracting(StepProven::subject)
                .containsExactly("base");
        assertThat(told)
                .filteredOn(step -> step.subject().equals("balance, side"))
                .extracting(StepProven::measured)
                .containsExactly("put right, then confirmed");
        assertThat(events)
                .filteredOn(FaultTold.class::isInstance)
                .extracting(NightEvent::text)
                .anyMatch(text -> text.startsWith("balance, side: ") && text.endsWith("Then look again."));
    }

    /** After a stop nobody is asked again whether the tripod is level, nor is the travel shown anew; the devices are proven anew. */
    @Test
    void whatHandsHaveSetUpStaysAfterAStop() throws Exception {
        NightContext night = night();
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isTrue();
        int told = NightState.of(events).all(StepProven.class).size();
        when(devices.mount().pointing())
                .thenReturn(new Equatorial(10, 40), new Equatorial(10, 40), new Equatorial(14, 40));
        when(devices.focuser().positionSteps()).thenReturn(2600, 2610);
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isTrue();
        assertThat(NightState.of(events).all(StepProven.class).stream()
                        .skip(told)
                        .map(StepProven::subject))
                .contains("home", "mount", "camera", "cooler")
                .doesNotContain("tripod", "balance, bar", "cables", "lesson");
        assertThat(events.get(events.size() - 1).text()).isEqualTo("All 24 steps are proven.");
        verify(devices.hands(), times(1)).isSo("tripod: it stands on its marks, firm and level");
    }

    @Test
    void aCameraOfAnotherSizeIsNotTheKits() throws Exception {
        NightContext night = night();
        when(devices.camera().expose(any(), any())).thenReturn(noise(300, 150));
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events)
                .extracting(NightEvent::text)
                .anyMatch(text -> text.startsWith("The camera gives 300 x 150 pixels and the kit says 200 x 150: "));
    }

    /** The axes go to the contact limit and through the flip; where somebody sees a cable pull they stand still. */
    @Test
    void theSweepStopsWhereSomethingCatches() throws Exception {
        NightContext night = night();
        when(devices.hands().isSo(startsWith("cables: the telescope stands at the same place from the other side")))
                .thenReturn(false);
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events)
                .extracting(NightEvent::text)
                .anyMatch(text -> text.startsWith("Something catches at the same place from the other side (")
                        && text.contains("enter the angle as a contact"))
                .anyMatch(text -> text.startsWith("cables: ") && text.endsWith("not proven."));
        verify(devices.hands(), never()).isSo(startsWith("cables: the telescope stands low in the west"));
        verify(devices.mount(), atLeast(4)).stop();
    }

    /** What the guard refuses is left out; a mount that sticks on its way is a fault, however many ends were seen before. */
    @Test
    void aMountThatSticksInTheSweepIsNotProven() throws Exception {
        NightContext night = night();
        int[] slews = {0};
        doAnswer(call -> {
                    slews[0]++;
                    if (slews[0] == 1) {
                        throw new SlewRefused("the target is 9° from the Sun and the slew is refused", "Never.");
                    }
                    if (slews[0] > 4) {
                        throw new DeviceException("mount", "a slew of 15° was commanded and it moved by 2.0°", "Look.");
                    }
                    return null;
                })
                .when(devices.mount())
                .slewAndWait(any(), any(), any());
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events)
                .extracting(NightEvent::text)
                .anyMatch(text -> text.startsWith("mount: a slew of 15° was commanded and it moved by 2.0°"))
                .contains("cables: nothing catches through the whole travel, past the meridian and back: not proven.");
        verify(devices.mount(), atLeastOnce()).stop();
    }

    @Test
    void aMountThatFindsNoHomeIsSetOnItsMarks() throws Exception {
        NightContext night = night();
        when(devices.mount().abilities()).thenReturn(new Mount.Abilities(false, false, true));
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isTrue();
        verify(devices.mount(), never()).home();
        assertThat(NightState.of(events).all(StepProven.class))
                .filteredOn(step -> step.subject().equals("home"))
                .extracting(StepProven::measured)
                .containsExactly("on its marks, by hand");
    }

    /** 29.4 of 30 degrees is the axis's own fault; 12 of 30 is a clutch. */
    @Test
    void twoFramesTellWhetherTheAxisTurned() throws Exception {
        NightContext night = night();
        new MountProof(night).byFrames(new Equatorial(10, 62), new Equatorial(340.6, 61.8), 30);
        new MountProof(night).byFrames(new Equatorial(10, 62), new Equatorial(358, 61.8), 30);
        assertThat(NightState.of(events).all(StepProven.class))
                .extracting(StepProven::proven, StepProven::measured)
                .containsExactly(
                        tuple(true, "the stars turned by 29.4° of 30.0°"),
                        tuple(false, "the stars turned by 12.0° of 30.0°"));
        assertThat(events.get(events.size() - 1).text()).contains("a clutch slips");
    }

    @Test
    void aMountThatDoesNotMoveFailsItsProofAndTheRestGoesOn() throws Exception {
        NightContext night = night();
        when(devices.mount().pointing()).thenReturn(new Equatorial(10, 40));
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events).anyMatch(e -> e.text().equals("mount: a commanded turn happens: not proven."));
        assertThat(events.get(events.size() - 1).text()).isEqualTo("1 of 24 steps are not proven: see the list.");
    }

    /** A cable that is pulled while the list is gone through is waited for, and the step is proven after all. */
    @Test
    void aDeviceThatIsLostAtReadyIsWaitedFor() throws Exception {
        NightContext night = night();
        Device.Link[] link = {Device.Link.CONNECTED};
        when(devices.wheel().link()).thenAnswer(call -> link[0]);
        Operation done = devices.wheel().select(0);
        when(devices.wheel().select(0))
                .thenAnswer(call -> {
                    link[0] = Device.Link.LOST;
                    throw new DeviceLost("filter wheel");
                })
                .thenReturn(done);
        doAnswer(call -> link[0] = Device.Link.CONNECTED).when(devices.wheel()).connect();
        when(devices.wheel().name()).thenReturn("filter wheel");
        Instant before = night.clock().now();
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isTrue();
        assertThat(events).anyMatch(e -> e.text().equals("The filter wheel answers again."));
        assertThat(night.clock().now()).isAfter(before.plus(Duration.ofSeconds(50)));
    }

    /** A cloud at dusk costs ten minutes and not the night; a promise of a next try is kept. */
    @Test
    void aRoughFocusUnderCloudIsTriedAgain() throws Exception {
        NightContext night = night();
        Instant began = night.clock().now();
        assertThatThrownBy(() -> new Focusing(night).rough())
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("frames showed stars");
        assertThat(events).filteredOn(FaultTold.class::isInstance).hasSize(2).allMatch(e -> e.text()
                .endsWith("expose longer than 4 s. The next try is in 10 minutes."));
        assertThat(Duration.between(began, night.clock().now())).isGreaterThanOrEqualTo(Duration.ofMinutes(20));
    }

    /** Stars of one size at every position: no curve explains that. */
    @Test
    void aRoughFocusThatIsRefusedIsTriedAgain() throws Exception {
        NightContext night = night();
        when(devices.camera().expose(any(), any())).thenReturn(stars());
        new Focusing(night).rough();
        assertThat(NightState.of(events).all(FocusSwept.class)).hasSize(3).noneMatch(e -> e.verdict()
                .accepted());
        List<String> faults = events.stream()
                .filter(FaultTold.class::isInstance)
                .map(NightEvent::text)
                .toList();
        assertThat(faults).hasSize(3).allMatch(t -> t.contains("The focuser stands at 2610 steps."));
        assertThat(faults.subList(0, 2)).allMatch(t -> t.endsWith("The next try is in 10 minutes."));
        assertThat(faults.get(2)).endsWith("steps.");
    }

    private static Frame stars() {
        int side = 200;
        float[] pixels = new float[side * side];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = 500 + i % 7;
        }
        for (int star = 0; star < 25; star++) {
            double x = 20 + 38.3 * (star % 5);
            double y = 20 + 38.7 * (star / 5);
            for (int i = 0; i < pixels.length; i++) {
                double r2 = Math.pow(i % side - x, 2) + Math.pow(i / side - y, 2);
                pixels[i] += (float) (20_000 * Math.exp(-r2 / (2 * 1.6 * 1.6)));
            }
        }
        return new Frame(side, side, pixels, Header.EMPTY);
    }

    @Test
    void aFocuserAtItsEndHasLostItsZero() throws Exception {
        NightContext night = night();
        when(devices.focuser().positionSteps()).thenReturn(0);
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events)
                .anyMatch(e -> e.text().equals("focuser: it answers, moves, and stands where it should: not proven."));
    }

    /** A long focal length shows a field of which the shipped catalogue holds hardly a star: told before the night, which goes on. */
    @Test
    void fieldsWithoutStarsToGoByAreTold() throws Exception {
        String document = Files.readString(Path.of("..", "examples", "colle-sorbo.json"));
        NightContext night = night(document.replace("\"focalLengthMm\": 432", "\"focalLengthMm\": 1600"));
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isTrue();
        assertThat(events)
                .filteredOn(FaultTold.class::isInstance)
                .extracting(NightEvent::text)
                .first()
                .asString()
                .matches(
                        "M 33: of the stars in its frame [0-4] are known, too few to recognise it by\\. .*deeper table.*");
    }

    @Test
    void fieldsWithStarsNeedNoWord() throws Exception {
        NightContext night = night();
        new ReadyStage(night, conduct(night)).run(20);
        assertThat(events).noneMatch(e -> e.text().contains("too few to recognise"));
    }

    /** Common practice: a focuser far from where it focused on other nights has lost its zero. */
    private NightContext with(NightContext night, Program program, List<Double> focusPositions) {
        return new NightContext(
                night.site(),
                night.kit(),
                new ProgramInForce(program),
                night.devices(),
                night.clock(),
                night.archive(),
                night.record(),
                night.gauge(),
                night.solver(),
                night.workers(),
                night.readyList(),
                new Earlier(
                        focusPositions, KnobGearing.UNKNOWN, List.of(), Optional.empty(), Optional.empty(), List.of()),
                Provenance.REHEARSED,
                control,
                false);
    }

    @Test
    void aFocuserFarFromItsHistoryHasLostItsZero() throws Exception {
        NightContext night = night();
        NightContext known = with(night, night.program(), List.of(4100.0, 4120.0, 4135.0));
        assertThat(new ReadyStage(known, conduct(known)).run(20)).isFalse();
        assertThat(events).anyMatch(e -> e.text()
                .equals(
                        "The focuser says 2600, and other nights it focused near 4120: it may have lost its zero. Run it"
                                + " to both ends."));
    }

    // ---- the written order of steps
    // --------------------------------------------------------------------------------------

    private static List<String> subjects(ReadyList list) {
        return list.steps().stream().map(ReadyStep::subject).toList();
    }

    /** Common practice: level, balance with all gear, then alignment; a tracker has its own list; strain-wave mounts need no balance. */
    @Test
    void eachKitHasItsOwnList() throws Exception {
        NightContext night = night();
        ReadyList tracker = ReadyList.of(night.site(), Examples.kit("lark"), night.program(), List.of());
        assertThat(subjects(tracker)).contains("camera settings", "pole star", "focus", "balance");
        assertThat(subjects(tracker))
                .doesNotContain(
                        "mount",
                        "focuser",
                        "guide camera",
                        "cooler",
                        "cables",
                        "supply",
                        "balance, tube",
                        "link",
                        "home");
        assertThat(subjects(tracker).indexOf("balance"))
                .isLessThan(subjects(tracker).indexOf("pole star"));
        ReadyList wave = ReadyList.of(night.site(), Examples.kit("heron"), night.program(), List.of());
        assertThat(subjects(wave)).doesNotContain("balance");
    }

    @Test
    void orderIsEnforcedWithItsReason() throws Exception {
        ReadyList list = night().readyList();
        ReadyStep balance = list.steps().get(subjects(list).indexOf("balance"));
        assertThat(list.against(balance, Set.of()))
                .contains("First balance, side: all three directions count at a slant.");
        assertThat(list.against(balance, Set.of("balance, side"))).isEmpty();
        assertThat(list.next(Set.of()).orElseThrow().subject()).isEqualTo("tripod");
        assertThat(list.next(Set.of("tripod", "base")).orElseThrow().subject()).isEqualTo("clutches");
        assertThatThrownBy(() -> new ReadyList(List.of(balance)))
                .hasMessage(
                        "step balance stands before balance, side; expected after it: all three directions count at a slant");
    }

    @Test
    void aDeviceThatIsGoneIsAFaultWithItsRemedy() throws Exception {
        NightContext night = night();
        doThrow(new DeviceException("filter wheel", "it does not answer", "Check its cable."))
                .when(devices.wheel())
                .select(anyInt());
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events)
                .anyMatch(e -> e instanceof FaultTold
                        && e.text().equals("filter wheel: it does not answer. Check its cable."));
    }

    /** A night whose gate is to be answered for, and nobody answers, does not leave the mount tracking toward its pier. */
    @Test
    void aNightThatNobodyAnswersForParksTheMount() throws Exception {
        NightContext night = night();
        control.setPolicy(Stage.READY, NightControl.GatePolicy.ASK_THEN_PARK);
        doThrow(new DeviceException("filter wheel", "it does not answer", "Check its cable."))
                .when(devices.wheel())
                .select(anyInt());
        new NightEngine(night).run();
        verify(devices.mount()).park();
        assertThat(NightState.of(events).ended()).as("it can go on").isFalse();
        NightEvent last = events.get(events.size() - 1);
        assertThat(last).isInstanceOf(MountParked.class);
        assertThat(last.text())
                .isEqualTo("Ready is not passed and nobody answered within 10 minutes. The mount is parked."
                        + " The camera warms up: leave its power on for 12 minutes.");
        assertThat(control.question()).isEmpty();
        assertThat(control.safePoint()).isEmpty();
    }

    /** A person answers: the reason is in the journal, and the night goes on from Ready. */
    @Test
    void readyCanBeOverruled() throws Exception {
        NightContext night = night();
        control.setPolicy(Stage.READY, NightControl.GatePolicy.ASK_THEN_PARK);
        Conduct conduct = conduct(night);
        control.give(
                new Command.Overrule(Stage.READY),
                "Ada",
                "the wheel is set by hand",
                night.clock().now());
        assertThat(conduct.gate(Stage.READY, false, night.clock()::await)).isTrue();
        CommandTaken taken = NightState.of(events).last(CommandTaken.class).orElseThrow();
        assertThat(taken.text())
                .isEqualTo(
                        "Ada: go on although Ready is not passed (the wheel is set by hand). What follows is marked.");
        assertThat(taken.obeyed()).isTrue();
        assertThat(conduct.overruled()).containsExactly(Stage.READY);
        // Passed later, the mark goes.
        assertThat(conduct.gate(Stage.READY, true, night.clock()::await)).isTrue();
        assertThat(conduct.overruled()).isEmpty();
    }

    /** Who has said beforehand that it is good enough is not asked again; the next gate of the stage is asked about as ever. */
    @Test
    void whatWasOverruledBeforehandIsNotAskedAgain() throws Exception {
        NightContext night = night();
        control.setPolicy(Stage.POLAR, NightControl.GatePolicy.ASK_THEN_GO_ON);
        Conduct conduct = conduct(night);
        Instant began = night.clock().now();
        control.give(new Command.Overrule(Stage.POLAR), "Ada", "clouds come", began);
        conduct.safePoint(Stage.POLAR);
        assertThat(conduct.gate(Stage.POLAR, false, night.clock()::await)).isTrue();
        assertThat(night.clock().now()).as("nobody was waited for").isEqualTo(began);
        assertThat(conduct.overruled()).containsExactly(Stage.POLAR);
        assertThat(conduct.gate(Stage.POLAR, false, night.clock()::await)).isTrue();
        assertThat(Duration.between(began, night.clock().now())).isGreaterThanOrEqualTo(NightControl.ANSWER_WITHIN);
    }

    /** Without a rule for a gate the night goes on and says so. */
    @Test
    void aGateWithoutARuleIsGoneOnFromAndMarked() throws Exception {
        NightContext night = night();
        Conduct conduct = conduct(night);
        assertThat(conduct.gate(Stage.GUIDE, false, night.clock()::await)).isTrue();
        assertThat(NightState.of(events).last(GateOverruled.class).orElseThrow().stage())
                .isEqualTo(Stage.GUIDE);
        assertThat(conduct.overruled()).containsExactly(Stage.GUIDE);
    }

    /** A rest lasts until somebody says go on; what was asked before waits its turn, what makes no sense now is refused with a reason. */
    @Test
    void aHeldNightRestsUntilItIsToldToGoOn() throws Exception {
        NightContext night = night();
        Conduct conduct = conduct(night);
        Instant began = night.clock().now();
        control.give(new Command.Hold(), "Ada", "", began);
        control.give(new Command.Refocus(), "Ada", "", began);
        int[] slices = {0};
        conduct.safePoint(Stage.READY, time -> {
            assertThat(control.isHeld()).isTrue();
            if (++slices[0] == 30) {
                control.give(new Command.GoOn(), "Ada", "", night.clock().now());
            }
            night.clock().await(time);
        });
        assertThat(control.isHeld()).isFalse();
        assertThat(Duration.between(began, night.clock().now())).isEqualTo(Duration.ofSeconds(60));
        assertThat(NightState.of(events).all(CommandTaken.class))
                .extracting(c -> c.command().words() + " " + c.obeyed())
                .containsExactly("hold true", "go on true", "focus anew false");
    }

    @Test
    void aMountThatIsGoneIsLeftToThePerson() throws Exception {
        NightContext night = night();
        doThrow(new DeviceException("mount", "it does not answer", "Check its cable."))
                .when(devices.mount())
                .unpark();
        doThrow(new DeviceException("mount", "it does not answer", "Check its cable."))
                .when(devices.mount())
                .park();
        assertThatThrownBy(() -> new NightEngine(night).run()).isInstanceOf(DeviceException.class);
        assertThat(events.get(events.size() - 1).text())
                .contains(
                        "could not be parked (mount: it does not answer. Check its cable.) and was stopped where it stands.");
    }

    /** The law of the safe end: whatever ends a night, an error of the machine too, the mount is parked first, and it is told. */
    @ParameterizedTest
    @MethodSource("endings")
    void howeverANightEndsTheMountIsParked(Throwable ending) throws Exception {
        NightContext night = night();
        doThrow(ending).when(devices.wheel()).select(anyInt());
        assertThatThrownBy(() -> new NightEngine(night).run()).isSameAs(ending);
        verify(devices.mount()).park();
        verify(devices.camera()).warmUp();
        assertThat(events.get(events.size() - 1).text()).contains("The mount is parked.");
    }

    private static Stream<Throwable> endings() {
        return Stream.of(
                new IllegalStateException("a fault of the program"),
                new OutOfMemoryError("Java heap space"),
                new StackOverflowError(),
                new UncheckedIOException("a frame could not be written", new IOException("No space left on device")),
                new BadInputException("kit", "lacks something", "a whole one"));
    }

    /** A journal that cannot be written any more is the first thing a full disk shows: the mount is parked all the same. */
    @Test
    void aJournalThatCannotBeWrittenParksTheMount() throws Exception {
        NightContext night = night();
        full = true;
        assertThatThrownBy(() -> new NightEngine(night).run())
                .isInstanceOf(UncheckedIOException.class)
                .hasMessageContaining("disk full");
        verify(devices.mount()).park();
    }

    /** Somebody closes the window: the thread is interrupted while it waits. */
    @Test
    void aNightThatIsStoppedParksTheMountAndCanGoOn() throws Exception {
        NightContext night = night();
        doThrow(new InterruptedException("closed")).when(devices.hands()).isSo(any());
        assertThatThrownBy(() -> new NightEngine(night).run()).isInstanceOf(InterruptedException.class);
        verify(devices.mount()).park();
        NightEvent last = events.get(events.size() - 1);
        assertThat(last).isInstanceOf(MountParked.class);
        assertThat(last.text()).startsWith("The night is stopped. The mount is parked.");
        assertThat(NightState.of(events).ended()).as("it can go on").isFalse();
    }

    @Test
    void aMountThatAnswersNothingIsLeftToThePerson() throws Exception {
        NightContext night = night();
        DeviceException gone = new DeviceException("mount", "it does not answer", "Check its cable.");
        doThrow(gone).when(devices.mount()).park();
        doThrow(gone).when(devices.mount()).stop();
        doThrow(gone).when(devices.mount()).unpark();
        assertThatThrownBy(() -> new NightEngine(night).run()).isInstanceOf(DeviceException.class);
        assertThat(events.get(events.size() - 1).text()).contains("stop it by hand before it runs into its pier.");
    }

    /** A flat panel that stays dark costs its flats and nothing else: bias, darks and their masters are made, and the gate names what lacks. */
    @Test
    void aFailedCalibrationSetIsSkippedAndNamed() throws Exception {
        NightContext night = night();
        when(devices.wheel().slot()).thenReturn(0);
        float[] dark = new float[100];
        java.util.Arrays.fill(dark, 500);
        when(devices.camera().expose(any(), any())).thenReturn(new Frame(10, 10, dark, Header.EMPTY));
        assertThat(new CalibrateStage(night, NightState.of(events), new Focusing(night), conduct(night)).run())
                .isFalse();
        assertThat(events).filteredOn(FaultTold.class::isInstance).hasSize(5).allMatch(e -> e.text()
                .matches("Flats in (L|R|G|B|Ha) are left out: flat panel: .*by day.*"));
        assertThat(NightState.of(events).all(MasterMade.class))
                .extracting(MasterMade::file)
                .containsExactly("masters/bias.fits", "masters/dark_180s.fits", "masters/dark_300s.fits");
        assertThat(events.get(events.size() - 1).text())
                .isEqualTo("Missing: flats in B, flats in G, flats in Ha, flats in L, flats in R.");
    }

    /** No two exposures are one: by hand. */
    @Test
    void exposuresInNamesAreWhole() {
        assertThat(List.of(1.5, 2.0, 2.4, 180.0, 0.05, 300.25).stream().map(FrameArchive::seconds))
                .containsExactly("1.5s", "2s", "2.4s", "180s", "0.05s", "300.25s");
        assertThat(CalibrateStage.darkMaster(1.5)).isNotEqualTo(CalibrateStage.darkMaster(2));
    }

    @Test
    void aCoolerThatStaysWarmIsNamed() throws Exception {
        NightContext night = night();
        when(devices.camera().sensorTemperatureC()).thenReturn(3.0);
        assertThat(new ReadyStage(night, conduct(night)).run(20)).isFalse();
        assertThat(events).anyMatch(e -> e.text()
                .equals("The cooler stands at 3.0 °C and should be at -10: choose a warmer set point."));
    }

    @Test
    void aPlanThatDoesNotFitTheDiskIsRefusedBeforeTheNight() throws Exception {
        NightFile everyFrame = NightFile.parse(
                Files.readString(Path.of("..", "examples", "colle-sorbo.json"))
                        .replace(",\n    \"fullFramesPerLeg\": 16", ""),
                "x",
                DeepSkyCatalogue.load());
        NightContext whole = with(night(), everyFrame.program(), List.of());
        assertThat(new ReadyStage(whole, conduct(whole)).run(Integer.MAX_VALUE)).isFalse();
        assertThat(events)
                .anyMatch(e -> e instanceof FaultTold && e.text().contains("free some space before the night"));
    }
}
