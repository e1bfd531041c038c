package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.night.EventKind;
import app.ironside.night.Gate;
import app.ironside.night.Journal;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.night.NightRecord;
import app.ironside.night.NightSoFar;
import app.ironside.night.Stage;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Interval;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LogbookTest {
    private static final Instant DUSK = Instant.parse("2026-11-14T17:41:59.123Z");

    @TempDir
    Path folder;

    private static NightEvent event(EventKind kind, Object... facts) {
        return new NightEvent(DUSK, kind, "something: \"quoted\", ″ and °", NightRecord.facts(facts));
    }

    @Test
    void whatWasWrittenIsReadByTheNextProcess() {
        Logbook first = Logbook.open(folder);
        NightEntry night = first.begin("a night", "night-1", "{}");
        NightEvent written = event(
                EventKind.FOCUS,
                "bestPosition",
                2462.5,
                "accepted",
                true,
                "points",
                List.of(Map.of("position", 1, "size", 2.5)));
        first.journal(night).append(written);
        Logbook second = Logbook.open(folder);
        assertThat(second.nights()).containsExactly(night);
        assertThat(second.journal(night).events()).containsExactly(written);
    }

    @Test
    void aNightIsUnfinishedUntilItsEnd() {
        Logbook logbook = Logbook.open(folder);
        assertThat(logbook.unfinished()).isEmpty();
        NightEntry night = logbook.begin("a night", "night-1", "{}");
        assertThat(logbook.unfinished()).contains(night);
        logbook.journal(night).append(event(EventKind.NIGHT_ENDED));
        assertThat(logbook.unfinished()).isEmpty();
    }

    @Test
    void aFileThatIsNoLogbookIsNamed() throws IOException {
        Files.writeString(
                folder.resolve("logbook.sqlite"), "this is not a database, but it is long enough to look like a file");
        assertThatThrownBy(() -> Logbook.open(folder))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("logbook.sqlite: is not a logbook that this version can read");
    }

    @Test
    void whatHasBeenDoneIsReadFromTheJournal() {
        Journal journal = Logbook.open(folder).journal(Logbook.open(folder).begin("n", "n", "{}"));
        journal.append(event(EventKind.NIGHT_STARTED));
        journal.append(event(EventKind.GATE, "stage", "POLAR", "passed", true));
        journal.append(event(EventKind.GATE, "stage", "GUIDE", "passed", true));
        journal.append(event(EventKind.GATE, "stage", "GUIDE", "passed", false));
        journal.append(event(EventKind.SUB, "target", "M 33", "file", "a.fits"));
        journal.append(event(EventKind.SUB, "target", "M 33", "file", "b.fits"));
        journal.append(event(EventKind.CALIBRATION, "set", "bias", "file", "c.fits"));
        NightSoFar soFar = NightSoFar.of(journal.events());
        assertThat(soFar.started()).isTrue();
        assertThat(soFar.ended()).isFalse();
        Interval always = new Interval(Instant.EPOCH, Instant.parse("2099-01-01T00:00:00Z"));
        assertThat(soFar.subsOf("M 33", always)).isEqualTo(2);
        assertThat(soFar.subsOf("M 33", new Interval(Instant.EPOCH, Instant.EPOCH.plusSeconds(1))))
                .isZero();
        assertThat(soFar.subsOf("NGC 2403", always)).isZero();
        assertThat(soFar.gatesPassed()).containsExactly(Stage.POLAR);
        assertThat(soFar.calibrationSet("bias")).containsExactly("c.fits");
    }

    @Test
    void gatesCompareTheRightWayRound() {
        assertThat(new Gate(Stage.POLAR, 0.4, 1.1, "′", true, "").passed()).isTrue();
        assertThat(new Gate(Stage.POLAR, 1.2, 1.1, "′", true, "").passed()).isFalse();
        assertThat(new Gate(Stage.FOCUS, 0.98, 0.9, "R²", false, "").passed()).isTrue();
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
