package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.NightEntry;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.ButtonBase;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** Subs of a night that is over are marked on the desk, cut from one on, and given back; all of it is in the journal. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class MarksDeskTest extends DeskHarness {
    @TempDir
    static Path folder;

    private NightEntry entry;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importEarlier(logbook);
        entry = logbook.nights().stream()
                .filter(n -> NightState.of(logbook.journal(n).events()).kept() > 20)
                .findFirst()
                .orElseThrow();
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.RUN, 0));
        onDesk(() -> desk.beginnings().open(entry));
    }

    private NightState journal() {
        return NightState.of(logbook.journal(entry).events());
    }

    private void fire(String id) {
        on(() -> {
            ((ButtonBase) desk.lookup(id)).fire();
            return true;
        });
    }

    private void kept(int count) throws Exception {
        until(count + " kept in the journal", d -> journal().kept() == count);
        until("shown", d -> d.isSettled());
    }

    private void takeBack() {
        on(() -> {
            scene.getRoot().fireEvent(new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.Z, false, true, false, false));
            return true;
        });
    }

    @Test
    void aSubIsLeftOutAFallIsCutAndBothAreTakenBack() throws Exception {
        int before = journal().kept();
        List<SubTaken> subs = journal().subs();
        SubTaken good =
                subs.stream().filter(SubTaken::kept).skip(10).findFirst().orElseThrow();
        onDesk(() -> desk.pick(good));
        fire("#mark-sub");
        kept(before - 1);
        long later = subs.stream()
                .filter(s ->
                        s.kept() && s.target().equals(good.target()) && s.time().isAfter(good.time()))
                .count();
        SubTaken marked = journal().subs().stream()
                .filter(s -> s.file().equals(good.file()))
                .findFirst()
                .orElseThrow();
        assertThat(marked.verdict().by()).isPresent();
        onDesk(() -> desk.pick(marked));
        fire("#cut-from");
        kept(before - 1 - (int) later);
        takeBack();
        kept(before - 1);
        onDesk(() -> desk.pick(marked));
        fire("#take-back-marks");
        kept(before);
        assertThat(journal().subs())
                .extracting(SubTaken::verdict)
                .isEqualTo(subs.stream().map(SubTaken::verdict).toList());
    }
}
