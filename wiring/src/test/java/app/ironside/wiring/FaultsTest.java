package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.guide.GuideSample;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Reacted;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleSeen;
import app.ironside.logbook.Logbook;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.night.NightWork;
import app.ironside.sim.FaultTruth;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.NightTimes;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.ToDoubleFunction;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Each fault alone, in a night without pixels: it acts when and as it was set, the night ends in order, and the mount is parked. */
@Order(4)
class FaultsTest {
    private static final LocalTime AT = LocalTime.of(22, 25);

    private static final Wiring WIRING = new Wiring(Workers.ALL_CORES);
    private static final Map<String, Rehearsed> UNDISTURBED = new HashMap<>();

    /** Where the table of docs/FAULTS.md is written, by hand. */
    private static final String FILE = System.getProperty("faults.table", "");

    /** By hand: the same nights with all their pixels, which takes minutes. */
    private static final boolean PIXELS = Boolean.getBoolean("faults.pixels");

    private static final String HEAD =
            """
            # Each fault alone, with each kit that ships

            An hour and a half of M 33 without pixels, the fault set at 22:25 as long and as strong as is usual (FILES.md). Every one of
            these nights met it when it was set and not before, ended in order or, with a full disk, stopped so that it can go on, and
            had its mount parked. Made by one command, which fails where one did not:

            ```
            mvn -pl wiring -am test -Dtest=FaultsTest -Dsurefire.failIfNoSpecifiedTests=false "-Dtest.jvm.options=-Xmx3g -Dfaults.table=$PWD/docs/FAULTS.md"
            ```

            | kit | fault | subs kept | without it | what the night told first after it began |
            |---|---|---|---|---|
            """;

    private static final List<String> TABLE = new ArrayList<>();

    /** A night with its truth. */
    private record Rehearsed(
            NightState state, List<GuideSample> guiding, List<FaultTruth> truth, boolean parked, String reason) {}

    /** Keeps what the guider saw. */
    private static final class Samples implements NightWatcher {
        private final List<GuideSample> guiding = new ArrayList<>();

        @Override
        public void guided(GuideSample sample) {
            guiding.add(sample);
        }
    }

    /** An hour and a half with a kit that ships. */
    private static NightFile night(String kit) throws Exception {
        return NightFile.parse(new ObjectMapper().writeValueAsString(document(kit)), kit + ".json", WIRING.objects());
    }

    /** The same as a document, with the middle of a large sensor. */
    static ObjectNode document(String kit) throws Exception {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(CommandsTest.smallNight(60, 3));
        if (!kit.equals("wren")) {
            night.set(
                    "kit",
                    json.readTree(
                            Path.of("..", "examples", "kits", kit + ".json").toFile()));
            ((ObjectNode) night.at("/program")).put("centreWithinArcsec", 300);
            ObjectNode target = (ObjectNode) night.at("/program/targets/0");
            target.putArray("filters").add(night.at("/kit/filters/0/name").asText());
        }
        if (kit.equals("lark")) {
            // The middle of the sensor shows all that is looked at here.
            ((ObjectNode) night.at("/kit/sensor")).put("widthPx", 1200).put("heightPx", 900);
        }
        return night;
    }

    private static Rehearsed run(String kit, List<RehearsedFault> faults) throws Exception {
        NightFile file = night(kit);
        SimSettings settings = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        NightFile troubled = file.withObservatory(settings.withFaults(faults));
        return PIXELS ? drawn(troubled) : sketched(troubled);
    }

    private static Rehearsed sketched(NightFile file) throws InterruptedException {
        Samples samples = new Samples();
        SwiftNight night = WIRING.swift(file, new JournalInMemory(), SteppedClock::new, samples, new NightControl());
        String reason = reason(night.engine());
        return rehearsed(samples, night.state(), night.observatory(), reason);
    }

    private static Rehearsed drawn(NightFile file) throws Exception {
        Samples samples = new Samples();
        Path folder = Files.createTempDirectory("faults");
        try (Logbook logbook = Logbook.open(folder)) {
            NightRun night = WIRING.rehearsal(
                    file, logbook, logbook.begin("faults", "night", file.text()), SteppedClock::new, samples);
            String reason = reason(night.engine());
            return rehearsed(
                    samples,
                    NightState.of(night.journal().events()),
                    night.observatory().orElseThrow(),
                    reason);
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                for (Path each : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(each);
                }
            }
        }
    }

    /** Runs it; what the disk refuses ends it. */
    private static String reason(NightWork engine) throws InterruptedException {
        try {
            engine.run();
            return "";
        } catch (UncheckedIOException e) {
            return e.getMessage();
        }
    }

    private static Rehearsed rehearsed(
            Samples samples, NightState state, SimulatedObservatory observatory, String reason) {
        return new Rehearsed(
                state,
                List.copyOf(samples.guiding),
                observatory.faults(),
                observatory.devices().mount().isParked(),
                reason);
    }

    private static NightState undisturbed(String kit) throws Exception {
        if (!UNDISTURBED.containsKey(kit)) {
            UNDISTURBED.put(kit, run(kit, List.of()));
        }
        return UNDISTURBED.get(kit).state();
    }

    private static NightState undisturbed() throws Exception {
        return undisturbed("wren");
    }

    /** All with the kit that has everything; with the others those that meet different devices there, or all when the table is written. */
    static Stream<Arguments> faultsOfKits() {
        Set<FaultKind> some =
                EnumSet.of(FaultKind.CLOUD, FaultKind.FOCUSER_SLIP, FaultKind.POWER_DIP, FaultKind.DISK_FULL);
        return Stream.of("wren", "lark", "heron").flatMap(kit -> Stream.of(FaultKind.values())
                .filter(kind -> kit.equals("wren") || !FILE.isEmpty() || some.contains(kind))
                .map(kind -> Arguments.of(kit, kind)));
    }

    @ParameterizedTest
    @MethodSource("faultsOfKits")
    void aNightWithAFaultEndsInOrder(String kit, FaultKind kind) throws Exception {
        Rehearsed night = run(kit, List.of(new RehearsedFault(kind, AT)));
        NightFile file = night(kit);
        Instant set = set(file, kind);
        assertThat(night.truth()).singleElement().satisfies(truth -> {
            assertThat(truth.kind()).isEqualTo(kind);
            assertThat(truth.from()).isEqualTo(set(file, kind));
            assertThat(Duration.between(truth.from(), truth.until()).toMinutes())
                    .isEqualTo(kind.usualMinutes());
        });
        assertThat(night.parked()).as("the mount is parked").isTrue();
        if (kind == FaultKind.DISK_FULL) {
            assertThat(night.reason()).startsWith("The disk is full");
        } else {
            assertThat(night.state().ended()).isTrue();
        }
        assertThat(before(night.state(), set))
                .as("until then it is the night that it would have been")
                .isEqualTo(before(undisturbed(kit), set));
        if (kit.equals("wren")) {
            acts(kind, night, set);
        }
        TABLE.add(line(kit, kind, night, set));
    }

    /** An axis that sinks by twenty arcminutes, two and a half hours before the meridian, shows in the pulses of the subs that follow; one that stays is not doubted. */
    @Test
    void anAxisThatSinksIsDoubted() throws Exception {
        NightFile demo = NightFile.parse(
                Files.readString(Path.of("..", "examples", "colle-sorbo.json")), "demo", WIRING.objects());
        RehearsedFault sinks =
                new RehearsedFault(FaultKind.POLAR_ERROR, LocalTime.of(20, 0), Optional.empty(), Optional.of(20.0));
        Rehearsed night = sketched(demo.withObservatory(
                demo.observatoryOver(SimSettings.DEFAULT, SimSettings.class).withFaults(List.of(sinks))));
        List<AxisDoubted> doubts = night.state().all(AxisDoubted.class);
        assertThat(doubts).hasSize(1);
        Instant sank = night.truth().get(0).from();
        assertThat(Duration.between(sank, doubts.get(0).since()).toMinutes()).isBetween(-2L, 12L);
        assertThat(doubts.get(0).leastArcmin()).isBetween(3.0, 20.0);
        assertThat(undisturbed("wren").all(AxisDoubted.class)).isEmpty();
        assertThat(undisturbed("heron").all(AxisDoubted.class)).isEmpty();
        assertThat(undisturbed("lark").all(AxisDoubted.class)).isEmpty();
    }

    /** Its guide camera's window is 20″ wide, and a pulse after a dither moves the star by as much. */
    @Test
    void aLongGuideTelescopeKeepsItsStarThroughEveryDither() throws Exception {
        NightState night = undisturbed(PIXELS ? "wren" : "heron");
        assertThat(night.all(Dithered.class)).hasSizeGreaterThan(5);
        assertThat(night.all(FaultTold.class)).noneMatch(f -> f.text().contains("guide star has been gone"));
    }

    /** When it begins; what is in the kit's file, with the night. */
    private static Instant set(NightFile file, FaultKind kind) {
        return kind == FaultKind.WRONG_FOCAL_LENGTH
                ? NightTimes.of(file.site(), file.program().date()).sunset().orElseThrow()
                : AT.atDate(file.program().date()).atZone(file.site().zone()).toInstant();
    }

    /** A line of the table: what was kept of the night, and what it said first once the fault was there. */
    private static String line(String kit, FaultKind kind, Rehearsed night, Instant set) throws Exception {
        String said = night.state().events().stream()
                .filter(e -> !e.time().isBefore(set))
                .filter(e -> e instanceof FaultTold || e instanceof SubTaken sub && !sub.kept())
                .map(NightEvent::text)
                .findFirst()
                .orElse("");
        return String.format(
                Locale.ROOT,
                "| %s | `%s` | %d of %d | %d of %d | %s |",
                kit,
                kind.word(),
                night.state().kept(),
                night.state().subs().size(),
                undisturbed(kit).kept(),
                undisturbed(kit).subs().size(),
                said.replace("|", "/"));
    }

    @AfterAll
    static void writeTheTable() throws Exception {
        if (!FILE.isEmpty()) {
            Files.writeString(Path.of(FILE), HEAD + String.join("\n", TABLE) + "\n");
        }
    }

    private static List<SubTaken> before(NightState night, Instant time) {
        return night.subs().stream().filter(s -> s.time().isBefore(time)).toList();
    }

    /** What shows that it acted, in what the night measured. */
    private static void acts(FaultKind kind, Rehearsed rehearsed, Instant set) throws Exception {
        NightState night = rehearsed.state();
        switch (kind) {
            case CLOUD, DEW, FROST -> assertThat(
                            least(night, set, s -> s.measures().starFluxAdu().orElse(0)))
                    .isLessThan(0.9
                            * least(undisturbed(), set, s -> s.measures()
                                    .starFluxAdu()
                                    .orElse(0)));
            case FOG, STRAY_LIGHT, MOON, TWILIGHT -> assertThat(
                            most(night, set, s -> s.measures().skyAdu().orElse(0)))
                    .isGreaterThan(1.2
                            * most(undisturbed(), set, s -> s.measures()
                                    .skyAdu()
                                    .orElse(0)));
            case FOCUSER_SLIP -> {
                assertThat(night.subs().stream()
                                .filter(s -> s.time().isAfter(set))
                                .mapToDouble(s -> s.measures().hfrPx().orElse(0))
                                .max()
                                .orElseThrow())
                        .as("the sub that it happened in")
                        .isGreaterThan(1.15
                                * most(undisturbed(), set, s -> s.measures()
                                        .hfrPx()
                                        .orElse(0)));
                assertThat(night.all(Reacted.class))
                        .as("and it was focused again")
                        .anyMatch(r -> r.reaction() == Reacted.Reaction.REFOCUS);
            }
            case SEEING -> assertThat(most(night, set, s -> s.measures().hfrPx().orElse(0)))
                    .isGreaterThan(1.15
                            * most(undisturbed(), set, s -> s.measures().hfrPx().orElse(0)));
            case WIND, GEAR_ERROR -> assertThat(most(night, set, FaultsTest::guiding))
                    .isGreaterThan(1.3 * most(undisturbed(), set, FaultsTest::guiding));
            case CONTACT,
                    KNOCK,
                    MOUNT_STUCK,
                    WRONG_GUIDE_STAR,
                    GUIDE_STAR_LOST,
                    POWER_DIP,
                    CAMERA_LOST,
                    FOCUSER_LOST -> assertThat(night.subs())
                    .isNotEqualTo(undisturbed().subs());
            case CAP -> assertThat(night.subs())
                    .as("no light of the sky, while the guide telescope sees its star")
                    .anyMatch(s -> s.measures().stars() == 0
                            && s.measures().skyAdu().orElse(99) < 10
                            && s.guiding().about().isPresent());
            case BROKEN_FRAME -> assertThat(least(night, set, s -> s.measures().stars()))
                    .isLessThan(
                            0.8 * least(undisturbed(), set, s -> s.measures().stars()));
            case LIGHT_DOME -> assertThat(
                            most(night, set, s -> s.measures().skyAdu().orElse(0)))
                    .as("little of it, three quarters of the way to the zenith")
                    .isGreaterThan(1.02
                            * most(undisturbed(), set, s -> s.measures()
                                    .skyAdu()
                                    .orElse(0)));
            case TILT -> assertThat(most(night, set, s -> s.measures().hfrPx().orElse(0)))
                    .isGreaterThan(1.03
                            * most(undisturbed(), set, s -> s.measures().hfrPx().orElse(0)));
            case GUIDE_FOCUS -> assertThat(guideStar(rehearsed, set))
                    .as("the guide star stands out of the noise by less")
                    .isLessThan(0.8 * guideStar(UNDISTURBED.get("wren"), set));
            case TRAILS, COSMIC_RAYS -> assertThat(
                            night.subs().equals(undisturbed().subs()))
                    .as("they are in the pixels: where there are none, nothing is met")
                    .isEqualTo(!PIXELS);
            case COOLER -> assertThat(most(
                            night,
                            set,
                            s -> s.circumstances().cooling().orElseThrow().sensorC()))
                    .as("what is left of the cooler holds the sensor some eleven degrees below the air")
                    .isGreaterThan(-8.5);
            case WRONG_FOCAL_LENGTH -> assertThat(night.all(TroubleSeen.class))
                    .as("recognised all the same, and told")
                    .anyMatch(t -> t.trouble() == Trouble.KIT
                            && t.text().contains("By the stars the focal length is 458 mm; the kit says 432"));
            case FLEXURE, WRONG_FILTER, SPOT, CABLE, BALANCE, POLAR_ERROR, TRAILING_EXPOSURE, DISK_FULL -> assertThat(
                            night.subs())
                    .isNotEqualTo(undisturbed().subs());
        }
    }

    private static double guiding(SubTaken sub) {
        return sub.guiding().rmsTotalArcsec().orElse(0);
    }

    private static double least(NightState night, Instant from, ToDoubleFunction<SubTaken> value) {
        return night.subs().stream()
                .filter(s -> s.exposed().from().isAfter(from))
                .mapToDouble(value)
                .min()
                .orElseThrow();
    }

    /** Signal over noise of the guide star, on average after a time. */
    private static double guideStar(Rehearsed night, Instant from) {
        return night.guiding().stream()
                .filter(sample -> sample.time().isAfter(from))
                .mapToDouble(GuideSample::snr)
                .average()
                .orElseThrow();
    }

    private static double most(NightState night, Instant from, ToDoubleFunction<SubTaken> value) {
        return night.subs().stream()
                .filter(s -> s.exposed().from().isAfter(from))
                .mapToDouble(value)
                .max()
                .orElseThrow();
    }
}
