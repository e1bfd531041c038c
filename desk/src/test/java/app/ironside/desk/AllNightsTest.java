package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Progress;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.station.ReportTools;
import app.ironside.document.NightFile;
import app.ironside.gear.GearBook;
import app.ironside.journal.Stage;
import app.ironside.kit.OwnTimes;
import app.ironside.logbook.Backup;
import app.ironside.logbook.Gathering;
import app.ironside.logbook.SubFact;
import app.ironside.logbook.SubSearch;
import app.ironside.logbook.TakingBack;
import app.ironside.plan.Overheads;
import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import javafx.event.ActionEvent;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Region;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** The demo's earlier nights, asked in words in the real window. What is counted is held against the logbook's own account. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AllNightsTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importEarlier(logbook);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.LOGBOOK, 0));
        onDesk(() -> desk.beginnings().open(logbook.nights().get(0)));
        on(() -> {
            desk.choose(Stage.LOGBOOK);
            ((ButtonBase) desk.lookup("#all-nights")).fire();
            return true;
        });
        answered();
    }

    private void answered() throws Exception {
        until("the answer", d -> d.isAnswered());
    }

    private void ask(String words) throws Exception {
        on(() -> {
            ((TextField) desk.lookup("#ask-logbook")).setText(words);
            return true;
        });
        answered();
    }

    private String label(String id) {
        return on(() -> ((Label) desk.lookup(id)).getText());
    }

    @Test
    void whatIsAskedIsCounted() throws Exception {
        ask("");
        double kept = logbook.harvest().account().hoursKept();
        assertThat(label("#asked-count")).endsWith(String.format("kept, %.1f h.", kept));
        List<?> nights = on(() -> List.copyOf(((ListView<?>) desk.lookup("#asked-nights")).getItems()));
        assertThat(nights).hasSize(logbook.harvest().account().nights().size());
        ask("kept L");
        assertThat(label("#asked-words")).isEqualTo("Asked: kept, L.");
        ask("out Ha above 89°");
        assertThat(label("#asked-count")).startsWith("0 subs");
        ask("kept parsecs");
        assertThat(label("#asked-words")).contains("Nothing here is known as \"parsecs\"");
    }

    @Test
    @SuppressWarnings("unchecked")
    void oneThingAgainstAnotherHasItsErrorOrSaysWhyNot() throws Exception {
        on(() -> {
            ((ComboBox<SubFact>) desk.lookup("#trend-of")).setValue(SubFact.FOCUS);
            ((ComboBox<SubFact>) desk.lookup("#trend-against")).setValue(SubFact.TEMPERATURE);
            return true;
        });
        ask("wren");
        assertThat(label("#trend-words")).matches(".*steps per °C.*over \\d+ subs of \\d+ nights.*");
        ask("out Ha above 89°");
        assertThat(label("#trend-words")).startsWith("No sub has both");
    }

    /** Words that are kept with a night are found among all nights, and lead back to it. */
    @Test
    void aNoteIsKeptAndFound() throws Exception {
        int before = on(() -> desk.model().night().events().size());
        on(() -> {
            ((ButtonBase) desk.lookup("#this-night")).fire();
            TextField note = (TextField) desk.lookup("#night-note");
            note.setText("worm greased with the thin one, quieter by ear");
            note.getOnAction().handle(null);
            return true;
        });
        until("the note", d -> d.model().night().events().size() > before);
        on(() -> {
            ((ButtonBase) desk.lookup("#all-nights")).fire();
            ((ButtonBase) desk.lookup("#show-told")).fire();
            return true;
        });
        ask("greased wren");
        assertThat(label("#asked-words")).isEqualTo("Asked: Wren. \"greased\" was told once: see Told.");
        List<?> told = on(() -> List.copyOf(((ListView<?>) desk.lookup("#told")).getItems()));
        assertThat(told).singleElement().satisfies(t -> {
            assertThat(((SubSearch.Told) t).text()).isEqualTo("Note: worm greased with the thin one, quieter by ear");
            assertThat(((SubSearch.Told) t).night())
                    .isEqualTo(logbook.nights().get(0).id());
        });
        ask("greased lark");
        assertThat(on(() -> ((ListView<?>) desk.lookup("#told")).getItems())).isEmpty();
        on(() -> {
            ((ButtonBase) desk.lookup("#show-chart")).fire();
            return true;
        });
        ask("");
    }

    /** A night stands in the row of its month and the column of its day, and is opened there. */
    @Test
    void theYearShowsItsNights() throws Exception {
        ask("");
        on(() -> {
            ((ButtonBase) desk.lookup("#show-calendar")).fire();
            desk.layout();
            return true;
        });
        SubSearch.OfNight night = on(() -> (SubSearch.OfNight)
                ((ListView<?>) desk.lookup("#asked-nights")).getItems().get(0));
        Region calendar = (Region) desk.lookup("#calendar");
        LocalDate latest = on(() -> ((ListView<?>) desk.lookup("#asked-nights"))
                .getItems().stream()
                        .map(n -> ((SubSearch.OfNight) n).date())
                        .max(LocalDate::compareTo)
                        .orElseThrow());
        // By hand: 76 px of names, then 31 days; 22 px of days, then twelve months, the latest last.
        double x = 76 + (night.date().getDayOfMonth() - 0.5) * (calendar.getWidth() - 76) / 31;
        long back = ChronoUnit.MONTHS.between(YearMonth.from(night.date()), YearMonth.from(latest));
        double y = 22 + (11.5 - back) * (calendar.getHeight() - 22) / 12;
        on(() -> {
            calendar.fireEvent(new MouseEvent(
                    MouseEvent.MOUSE_CLICKED,
                    x,
                    y,
                    x,
                    y,
                    MouseButton.PRIMARY,
                    1,
                    false,
                    false,
                    false,
                    false,
                    true,
                    false,
                    false,
                    true,
                    false,
                    false,
                    null));
            return true;
        });
        settled();
        assertThat(on(() -> desk.planDesk().file().program().date())).isEqualTo(night.date());
        on(() -> {
            desk.choose(Stage.LOGBOOK);
            ((ButtonBase) desk.lookup("#all-nights")).fire();
            ((ButtonBase) desk.lookup("#show-chart")).fire();
            return true;
        });
        answered();
    }

    private void fire(String id) throws Exception {
        on(() -> {
            ((ButtonBase) desk.lookup(id)).fire();
            return true;
        });
        answered();
    }

    /** Hours are those of the logbook's own account; a night's stack is shown where it lies. */
    @Test
    void whatIsGatheredOverNightsIsShown() throws Exception {
        Gathering most = logbook.harvest().gatherings(n -> n).get(0);
        Path png = most.baseline().orElseThrow().picture().orElseThrow();
        Files.createDirectories(png.getParent());
        ImageIO.write(new BufferedImage(300, 200, BufferedImage.TYPE_BYTE_GRAY), "png", png.toFile());
        fire("#all-pictures");
        answered();
        assertThat(label("#gathered-headline")).startsWith(most.target());
        assertThat(label("#gathered-sentence"))
                .startsWith(String.format(Locale.ROOT, "%.1f h kept o", most.hoursKept()));
        double all = logbook.harvest().gatherings(n -> n).stream()
                .mapToDouble(Gathering::hoursKept)
                .sum();
        assertThat(all).isCloseTo(logbook.harvest().account().hoursKept(), within(1e-6));
        Path to = logbook.folder().resolve("project.html");
        onDesk(() -> ((ReportTools) desk.lookup("#project-tools")).save(to));
        until("the report", d -> text("#project-saved").startsWith("Saved: project.html"));
        assertThat(Files.readString(to)).contains(label("#gathered-sentence").replace("\"", "&quot;"));
        fire("#all-nights");
    }

    /** As a person does it: a file of before is chosen in the window, and put away again. */
    @Test
    void aBackupWaitsForTheNextStart() throws Exception {
        Path zip = Files.createTempDirectory(folder, "elsewhere").resolve("ironside.zip");
        Backup.write(logbook.folder(), zip, false, Progress.NONE);
        fire("#take-back");
        onDesk(() -> {
            TextField place = (TextField) desk.lookup("#files-place");
            place.setText(zip.toString());
            place.fireEvent(new ActionEvent());
        });
        until("the proof", d -> label("#asked-words").contains("files are proven. Close Ironside and start it again"));
        assertThat(new TakingBack(logbook.folder()).waits()).isTrue();
        assertThat(on(() -> ((ButtonBase) desk.lookup("#take-back")).getText())).isEqualTo("Keep what is here");
        fire("#take-back");
        until("the way back", d -> label("#asked-words").equals("What is here now stays."));
        assertThat(new TakingBack(logbook.folder()).waits()).isFalse();
    }

    /** A change is written down with what it makes void, and taken out again. */
    @Test
    void whatWasDoneToTheGearIsWrittenDown() throws Exception {
        fire("#gear");
        assertThat(label("#gear-headline")).isEqualTo("Nothing was changed so far.");
        assertThat(on(() -> ((TextField) desk.lookup("#gear-kit")).getText())).isEqualTo("Wren");
        assertThat(label("#gear-effect")).isEqualTo("This voids the flats of before.");
        on(() -> {
            ((TextField) desk.lookup("#gear-note")).setText("two specks");
            return true;
        });
        fire("#gear-add");
        assertThat(new GearBook(logbook.folder()).changes()).singleElement().satisfies(c -> assertThat(c.words())
                .endsWith("Wren: sensor or glass cleaned (two specks)"));
        assertThat(label("#gear-headline")).endsWith("sensor or glass cleaned.");
        on(() -> {
            ((ListView<?>) desk.lookup("#gear-list")).getSelectionModel().select(0);
            return true;
        });
        fire("#gear-remove");
        assertThat(new GearBook(logbook.folder()).changes()).isEmpty();
        on(() -> {
            ((TextField) desk.lookup("#gear-on")).setText("9 November");
            return true;
        });
        fire("#gear-add");
        assertThat(label("#gear-said")).startsWith("\"9 November\" is no date; write it as 2");
        fire("#all-nights");
    }

    private void key(KeyCode code) {
        on(() -> {
            scene.getRoot().fireEvent(new KeyEvent(KeyEvent.KEY_PRESSED, "", "", code, false, true, false, false));
            return true;
        });
    }

    /** Everything is drawn larger by a key, in so much less room; what is clicked is still where it is seen. */
    @Test
    void everythingIsLargerByAKey() throws Exception {
        key(KeyCode.PLUS);
        assertThat(text("#status")).isEqualTo("Text at 110 %.");
        until("the layout", d -> Math.abs(d.getWidth() - 1280 / 1.1) < 1);
        robot.clickOn("#gear");
        assertThat(on(() -> desk.lookup("#gear-changes") != null)).isTrue();
        assertThat(on(() -> desk.settings(1280, 800).textPercent())).isEqualTo(110);
        key(KeyCode.DIGIT0);
        until("the layout", d -> d.getWidth() == 1280);
        fire("#all-nights");
    }

    /** What the kit's nights took besides light is taken over by the plan when a person says so, and given back. */
    @Test
    void thePlanReckonsWithWhatThingsTook() throws Exception {
        NightFile tonight = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(tonight));
        settled();
        onDesk(() -> desk.planDesk().setTab(PlanDesk.Tab.RULES));
        until("what the nights took", d -> d.lookup("#rule-own-times") != null);
        fire("#rule-own-times");
        settled();
        OwnTimes own = logbook.habits().timesTaken("Wren").forKit();
        assertThat(own.ditherSeconds()).isPresent();
        assertThat(on(() -> desk.planDesk().file().kit().equipment().ownTimes()))
                .isEqualTo(own);
        assertThat(Overheads.of(on(() -> desk.planDesk().file().kit())).perDither())
                .isEqualTo(own.ditherSeconds().orElseThrow());
        until("the way back", d -> "Reckon as usual".equals(((ButtonBase) d.lookup("#rule-own-times")).getText()));
        fire("#rule-own-times");
        settled();
        assertThat(on(() -> desk.planDesk().file().kit().equipment().ownTimes()))
                .isEqualTo(OwnTimes.UNKNOWN);
        onDesk(() -> desk.beginnings().open(logbook.nights().get(0)));
        onDesk(() -> desk.choose(Stage.LOGBOOK));
        fire("#all-nights");
    }
}
