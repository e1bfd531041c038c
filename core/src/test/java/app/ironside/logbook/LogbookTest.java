package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.document.NightFile;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusVerdict;
import app.ironside.guide.GuideSample;
import app.ironside.journal.AnySub;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.Gate;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Unknown;
import app.ironside.journal.Verdict;
import app.ironside.kit.RoundRecord;
import app.ironside.sky.DeepSkyCatalogue;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LogbookTest {
    private static final Instant DUSK = Instant.parse("2026-11-14T17:41:59.123Z");

    @TempDir
    Path folder;

    private static NightStarted started() {
        return new NightStarted(
                DUSK,
                "something: \"quoted\", ″ and °",
                "Colle Sorbo",
                "Wren",
                LocalDate.of(2026, 11, 14),
                Provenance.REHEARSED);
    }

    private static FocusSwept focus(double best, boolean accepted) {
        return new FocusSwept(
                DUSK,
                "Focus",
                "start",
                List.of(new FocusSwept.Point(1, 2.5, OptionalDouble.of(0.1))),
                new FocusVerdict(best, 1.1, 0.99, 2, FocusMethod.HYPERBOLA, accepted, "because"),
                new FocusSwept.Hyperbola(1, 2, 3),
                "L",
                OptionalInt.of(4),
                3.5,
                Duration.ofSeconds(92),
                Optional.empty(),
                Optional.empty());
    }

    @Test
    void theNumberOfTheSchemaIsThatOfTheNewestScript() throws Exception {
        Path scripts = Path.of(
                Logbook.class.getResource("/app/ironside/logbook/migration").toURI());
        try (Stream<Path> files = Files.list(scripts)) {
            assertThat(files.mapToInt(f ->
                                    Integer.parseInt(f.getFileName().toString().replaceAll("^V(\\d+)__.*", "$1")))
                            .max())
                    .hasValue(Logbook.SCHEMA);
        }
    }

    @Test
    void aLogbookOfAnOlderSchemaIsBroughtForward() throws Exception {
        Logbook.open(folder).close();
        try (Connection older = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(Logbook.FILE));
                Statement statement = older.createStatement()) {
            statement.execute("drop index event_told");
            statement.execute("drop index event_focus");
            statement.execute("drop index event_polar");
            statement.execute("delete from flyway_schema_history where version in ('4', '5')");
        }
        Logbook.open(folder).close();
        try (Connection now = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(Logbook.FILE));
                Statement statement = now.createStatement();
                ResultSet found =
                        statement.executeQuery("select count(*) from sqlite_master where name = 'event_told'")) {
            assertThat(found.getInt(1)).isEqualTo(1);
        }
    }

    @Test
    void aNightTellsHowItBegan() {
        try (Logbook logbook = Logbook.open(folder)) {
            NightEntry night = logbook.begin("a night", "night-1", "{}");
            assertThat(logbook.provenance(night)).isEmpty();
            logbook.journal(night).append(started());
            assertThat(logbook.provenance(night)).hasValue(Provenance.REHEARSED);
        }
    }

    @Test
    void whatWasWrittenIsReadByTheNextProcess() {
        NightEntry night;
        try (Logbook first = Logbook.open(folder)) {
            night = first.begin("a night", "night-1", "{}");
            first.journal(night).append(focus(2462.5, true));
        }
        try (Logbook second = Logbook.open(folder)) {
            assertThat(second.nights()).containsExactly(night);
            assertThat(second.journal(night).events()).containsExactly(focus(2462.5, true));
        }
    }

    @Test
    void aNightThatNeverBeganIsTakenBackAndNoOther() {
        try (Logbook logbook = Logbook.open(folder)) {
            NightEntry kept = logbook.begin("a night", "night-1", "{}");
            logbook.journal(kept).append(started());
            NightEntry never = logbook.begin("no camera answered", "night-2", "{}");
            logbook.withdraw(never);
            logbook.withdraw(kept);
            assertThat(logbook.nights()).containsExactly(kept);
        }
    }

    /** What another program's frames tell of a kit is true of the kit, and of no simulated one. */
    @Test
    void nightsByFolderCountAsReal() {
        try (Logbook logbook = Logbook.open(folder)) {
            NightEntry byFolder = logbook.begin("by folder", "night-1", "{}");
            logbook.journal(byFolder)
                    .append(new NightStarted(
                            DUSK,
                            "by folder",
                            "Colle Sorbo",
                            "Wren",
                            LocalDate.of(2026, 11, 14),
                            Provenance.BY_FOLDER));
            logbook.journal(byFolder).append(focus(2462.5, true));
            NightEntry next = logbook.begin("the next", "night-2", "{}");
            assertThat(logbook.habits().focusPositions("Wren", next, Provenance.REAL, Instant.MIN))
                    .containsExactly(2462.5);
            assertThat(logbook.habits().focusPositions("Wren", next, Provenance.BY_FOLDER, Instant.MIN))
                    .containsExactly(2462.5);
            assertThat(logbook.habits().focusPositions("Wren", next, Provenance.REHEARSED, Instant.MIN))
                    .isEmpty();
        }
    }

    @Test
    void aNightIsUnfinishedUntilItsEnd() {
        Logbook logbook = Logbook.open(folder);
        assertThat(logbook.unfinished()).isEmpty();
        NightEntry night = logbook.begin("a night", "night-1", "{}");
        assertThat(logbook.unfinished()).contains(night);
        logbook.journal(night).append(started());
        assertThat(logbook.unfinished()).contains(night);
        logbook.journal(night).append(new NightEnded(DUSK, "done", 3, 2));
        assertThat(logbook.unfinished()).isEmpty();
        logbook.begin("another", "night-2", "{}");
        assertThat(logbook.unfinished()).isPresent();
    }

    /** A simulated focuser stands elsewhere than the real one, and a refused run says nothing. */
    @Test
    void focusPositionsAreThoseOfTheKitAndOfLikeNights() {
        Logbook logbook = Logbook.open(folder);
        NightEntry rehearsed = logbook.begin("a night", "night-1", "{}");
        Journal journal = logbook.journal(rehearsed);
        journal.append(started());
        journal.append(focus(2400, true));
        journal.append(focus(2462, true));
        journal.append(focus(900, false));
        NightEntry now = logbook.begin("tonight", "night-2", "{}");
        assertThat(logbook.habits().focusPositions("Wren", now, Provenance.REHEARSED, Instant.MIN))
                .containsExactly(2462.0);
        assertThat(logbook.habits().focusPositions("Wren", now, Provenance.REAL, Instant.MIN))
                .isEmpty();
        assertThat(logbook.habits().focusPositions("Lark", now, Provenance.REHEARSED, Instant.MIN))
                .isEmpty();
        assertThat(logbook.habits().focusPositions("Wren", rehearsed, Provenance.REHEARSED, Instant.MIN))
                .isEmpty();
    }

    private static SubTaken shaped(int second, double hfrPx, double eccentricity) {
        return AnySub.of(
                DUSK.plusSeconds(second),
                "M 33",
                "L",
                60,
                new Verdict(true, "good"),
                OptionalDouble.of(hfrPx),
                OptionalDouble.of(eccentricity));
    }

    /** What a kit's real nights have shown of it: runs that were believed, the last calibration, round subs and sharp ones. */
    @Test
    void aKitIsKnownByItsRealNights() {
        Logbook logbook = Logbook.open(folder);
        for (Provenance origin : List.of(Provenance.REAL, Provenance.REHEARSED)) {
            NightEntry night = logbook.begin("a night", "night-" + origin, "{}");
            Journal journal = logbook.journal(night);
            journal.append(
                    new NightStarted(DUSK, "a night", "Colle Sorbo", "Wren", LocalDate.of(2026, 11, 14), origin));
            journal.append(focus(2462, true));
            journal.append(focus(900, false));
            journal.append(shaped(0, 1.9, 0.3));
            journal.append(shaped(60, 1.7, 0.4));
            journal.append(shaped(120, 2.4, 0.93));
        }
        NightEntry now = logbook.begin("tonight", "night-now", "{}");
        assertThat(logbook.habits().focusRuns("Wren", now, Provenance.REAL, Instant.MIN))
                .singleElement()
                .satisfies(run -> {
                    assertThat(run.position()).isEqualTo(2462);
                    assertThat(run.filter()).isEqualTo("L");
                });
        assertThat(logbook.habits().guiderCalibration("Wren", now, Provenance.REAL, Instant.MIN))
                .isEmpty();
        assertThat(logbook.habits().roundRecord("Wren").about(60)).isEqualTo(new RoundRecord.Length(60, 3, 2));
        assertThat(logbook.habits().sharpStars("Wren").best().orElseThrow()).isEqualTo(1.7);
        assertThat(logbook.habits().sharpStars("Lark").best()).isEmpty();
        assertThat(logbook.habits().roundRecord("Lark").lengths()).isEmpty();
    }

    @Test
    void guideExposuresAreThereWithTheNextEvent() {
        List<GuideSample> samples = new ArrayList<>();
        try (Logbook logbook = Logbook.open(folder)) {
            Journal journal = logbook.journal(logbook.begin("a night", "night-1", "{}"));
            for (int i = 0; i < 100; i++) {
                GuideSample sample = new GuideSample(DUSK.plusSeconds(2L * i), 0.1 * i, -0.2, 120, -35.5, 42);
                samples.add(sample);
                journal.guided(sample);
            }
            assertThat(journal.guiding()).isEqualTo(samples);
            journal.append(new NightEnded(DUSK, "done", 0, 0));
        }
        try (Logbook again = Logbook.open(folder)) {
            assertThat(again.journal(again.nights().get(0)).guiding()).isEqualTo(samples);
        }
    }

    /** Out of the logbook, a night is out of every question, and nothing of it is lost. */
    @Test
    void aNightThatIsTakenOutLeavesItsJournalBehind() throws IOException {
        Logbook logbook = Logbook.open(folder);
        NightEntry night = logbook.begin("a night", "night-1", "{}");
        Journal journal = logbook.journal(night);
        journal.append(started());
        journal.append(focus(2462, true));
        journal.guided(new GuideSample(DUSK, 0.1, 0.2, 1, 2, 30));
        journal.append(new NightEnded(DUSK, "done", 0, 0));
        NightEntry other = logbook.begin("another", "night-2", "{}");
        logbook.journal(other).append(started());
        Path written = logbook.remove(night);
        assertThat(logbook.nights()).containsExactly(other);
        assertThat(logbook.habits().focusPositions("Wren", other, Provenance.REHEARSED, Instant.MIN))
                .isEmpty();
        assertThat(logbook.journal(night).events()).isEmpty();
        assertThat(logbook.journal(night).guiding()).isEmpty();
        assertThat(written).isEqualTo(folder.resolve("night-1").resolve("journal.jsonl"));
        List<String> lines = Files.readAllLines(written);
        assertThat(lines).hasSize(3);
        JsonNode second = new ObjectMapper().readTree(lines.get(1));
        assertThat(second.get("kind").asText()).isEqualTo("FOCUS");
        assertThat(second.at("/facts/verdict/bestPosition").asDouble()).isEqualTo(2462);
    }

    @Test
    void aFileThatIsNoLogbookIsNamed() throws IOException {
        Files.writeString(
                folder.resolve("logbook.sqlite"), "this is not a database, but it is long enough to look like a file");
        assertThatThrownBy(() -> Logbook.open(folder))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("logbook.sqlite: is not a logbook that this version can read");
    }

    /** Cut at any byte, the logbook opens; what stood before the cut is there, and the damaged file is kept. */
    @Test
    void aLogbookThatWasCutOffOpens(@TempDir Path elsewhere) throws IOException {
        int told = 400;
        try (Logbook logbook = Logbook.open(folder)) {
            Journal journal = logbook.journal(logbook.begin("a night", "night-1", "{}"));
            journal.append(started());
            for (int i = 1; i < told; i++) {
                journal.append(focus(2000 + i, true));
            }
        }
        byte[] whole = Files.readAllBytes(folder.resolve("logbook.sqlite"));
        int most = 0;
        for (int cut = 0; cut <= whole.length; cut += cut < 200 ? 33 : whole.length / 23) {
            Path damaged = Files.createDirectory(elsewhere.resolve("cut" + cut));
            Files.write(damaged.resolve("logbook.sqlite"), Arrays.copyOf(whole, cut));
            try (Logbook logbook = Logbook.open(damaged)) {
                List<NightEntry> nights = logbook.nights();
                List<NightEvent> events = nights.isEmpty()
                        ? List.of()
                        : logbook.journal(nights.get(0)).events();
                assertThat(events).as("cut at %d", cut).noneMatch(Unknown.class::isInstance);
                assertThat(events.size()).as("cut at %d", cut).isGreaterThanOrEqualTo(most);
                most = events.size();
                assertThat(logbook.rescued().isPresent()).isEqualTo(cut > 0 && cut < whole.length);
                assertThat(Files.exists(damaged.resolve("logbook-cut-1.sqlite")))
                        .isEqualTo(logbook.rescued().isPresent());
                // The rest of the night can be written.
                NightEntry next = logbook.begin("the next", "night-2", "{}");
                logbook.journal(next).append(started());
            }
        }
        assertThat(most).as("of most cuts most is read").isGreaterThan(told / 2);
    }

    @Test
    void gatesCompareTheRightWayRound() {
        assertThat(Gate.atMost(Stage.POLAR, 0.4, 1.1, "′").passed()).isTrue();
        assertThat(Gate.atMost(Stage.POLAR, 1.2, 1.1, "′").passed()).isFalse();
        assertThat(Gate.atLeast(Stage.FOCUS, 0.98, 0.9, "R²").passed()).isTrue();
        assertThat(new Gate(Stage.GUIDE, OptionalDouble.empty(), 1.1, "″", true).passed())
                .as("nothing measured passes nothing")
                .isFalse();
    }

    @Test
    void mistakesInANightFileAreNamed() throws IOException {
        String good = Files.readString(Path.of("..", "examples", "colle-sorbo.json"));
        DeepSkyCatalogue objects = DeepSkyCatalogue.load();
        assertThat(NightFile.parse(good, "good.json", objects).program().targets())
                .hasSize(2);
        assertThatThrownBy(() -> NightFile.parse(good.replace("M 33", "M 333"), "a.json", objects))
                .hasMessage(
                        "a.json: the catalogue has no \"M 333\"; expected a name like \"NGC 2403\", or raDeg and decDeg (J2000)");
        assertThatThrownBy(() -> NightFile.parse(good.replace("\"Ha\"]", "\"OIII\"]"), "b.json", objects))
                .isInstanceOf(BadInputException.class)
                .hasMessageStartingWith("b.json, target NGC 2403, filter \"OIII\": kit Wren has none");
        assertThatThrownBy(() -> NightFile.parse(good.replace("44.05", "\"north\""), "c.json", objects))
                .isInstanceOf(BadInputException.class)
                .hasMessageStartingWith("c.json line 5");
        assertThatThrownBy(
                        () -> NightFile.parse(good.replace("\"pixelUm\": 6.3", "\"pixelUm\": -6.3"), "d.json", objects))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("kit.sensor: pixelUm is -6.3; expected 0.5 to 100");
        assertThatThrownBy(() -> NightFile.parse("{}", "e.json", objects)).hasMessageContaining("has no \"date\"");
    }
}
