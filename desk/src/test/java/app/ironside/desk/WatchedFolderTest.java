package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Provenance;
import app.ironside.document.NightFile;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TroubleSeen;
import app.ironside.logbook.NightEntry;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.scene.control.Button;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/**
 * A night that another program runs, at the Run station: lights drawn by numpy and scipy (tools/graded-frames.py, which tells what was put
 * into each) lie in a folder and come into it.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WatchedFolderTest extends DeskHarness {
    private static final Path FRAMES = Path.of("..", "core", "src", "test", "resources", "app", "ironside", "judge");

    @TempDir
    static Path folder;

    private Path night;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder.resolve("data"));
        night = Files.createDirectories(folder.resolve("night"));
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
        NightFile plan = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(plan));
    }

    private void light(int number) throws Exception {
        String name = String.format("light-%02d.fits.fz", number);
        // Written as capture programs write: under another name until it is whole.
        Path growing = night.resolve(name + ".part");
        Files.copy(FRAMES.resolve(name), growing);
        Files.move(growing, night.resolve(name));
    }

    private NightState state() {
        return on(() -> desk.model().night());
    }

    private void press(String id) {
        on(() -> {
            ((Button) desk.lookup(id)).fire();
            return true;
        });
    }

    @Test
    void itsFramesAreJudgedAsTheyCome() throws Exception {
        for (int i = 0; i < 8; i++) {
            light(i);
        }
        on(() -> desk.take(List.of(night)));
        until("the question", d -> d.lookup("#watch-folder") != null);
        press("#watch-folder");
        until("eight lights", d -> d.isSettled() && d.model().night().subs().size() == 8);
        Files.writeString(night.resolve("torn.fits"), "SIMPLE  =");
        for (int i = 8; i < 12; i++) {
            light(i);
        }
        until("twelve lights", d -> d.model().night().subs().size() == 12);
        until("the torn one", d -> d.model().night().events().stream()
                .anyMatch(e -> e.text().startsWith("torn.fits is left aside")));
        List<String> truth = Files.readAllLines(FRAMES.resolve("lights.csv")).subList(1, 13);
        Map<String, Boolean> keep =
                truth.stream().map(l -> l.split(",")).collect(Collectors.toMap(c -> c[0], c -> c[2].equals("True")));
        for (SubTaken sub : state().subs()) {
            String name = Path.of(sub.file()).getFileName().toString();
            assertThat(sub.kept()).as("%s: %s", name, sub.verdict().reason()).isEqualTo(keep.get(name));
            assertThat(sub.target()).isEqualTo("IC 342");
            assertThat(sub.seconds()).isEqualTo(180);
        }
        assertThat(on(() -> text("#verdict"))).isNotBlank();
        assertThat(state().all(TroubleSeen.class)).isNotEmpty();
        // The night is that of the frames, not the one that was planned.
        NightStarted started = state().last(NightStarted.class).orElseThrow();
        assertThat(started.provenance()).isEqualTo(Provenance.WATCHED);
        LocalDate taken = state().subs()
                .get(0)
                .exposed()
                .from()
                .atZone(on(() -> desk.planDesk().file().site().zone()))
                .minusHours(12)
                .toLocalDate();
        assertThat(started.date()).isEqualTo(taken);
        assertThat(state().events().stream().map(e -> e.time())).isSorted();
        // Nothing can be asked of it but to stop.
        assertThat(on(() -> desk.lookup("#command-park-now"))).isNull();
        press("#command-end-night");
        until("the end", d -> !d.isNightRunning());
        assertThat(state().last(NightEnded.class).orElseThrow().taken()).isEqualTo(12);
        // It stands in the logbook, whole, and its frames are shown from where they lie.
        List<NightEntry> nights = logbook.nights();
        assertThat(NightState.of(logbook.journal(nights.get(nights.size() - 1)).events())
                        .subs())
                .hasSize(12);
        assertThat(logbook.unfinished()).isEmpty();
        onDesk(() -> desk.pick(state().subs().get(3)));
        until("its picture", DeskView::isPictureReady);
    }

    /** Nothing there yet, a picture that says nothing of itself, a folder that is taken away: each is told, and nothing is lost. */
    @Test
    void whatAFolderMayHaveInStore() throws Exception {
        Path odd = Files.createDirectories(folder.resolve("odd"));
        on(() -> desk.take(List.of(odd)));
        until("the question", d -> d.lookup("#watch-folder") != null);
        press("#watch-folder");
        until(
                "the watch",
                d -> d.isSettled() && d.isNightRunning() && d.model().night().isWatched());
        FitsFiles.write(
                odd.resolve("bare.fits"),
                new Frame(300, 200, new float[60_000], Header.EMPTY),
                FitsFiles.Encoding.UNSIGNED_16);
        until("the bare one", d -> !d.model().night().subs().isEmpty());
        SubTaken bare = state().subs().get(0);
        assertThat(bare.target()).isEqualTo("unnamed");
        assertThat(bare.kept()).isFalse();
        assertThat(bare.wcs()).isEmpty();
        Files.delete(odd.resolve("bare.fits"));
        Files.delete(odd);
        until("its end", d -> !d.isNightRunning());
        until("why", d -> text("#status").contains("odd cannot be looked into"));
        assertThat(state().last(NightEnded.class).orElseThrow().taken()).isEqualTo(1);
    }
}
