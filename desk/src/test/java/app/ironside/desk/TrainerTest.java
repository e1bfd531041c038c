package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.station.ReportTools;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import app.ironside.trainer.Exercise;
import app.ironside.trainer.Exercises;
import app.ironside.trainer.ScoreBook;
import app.ironside.wiring.SwiftNight;
import app.ironside.wiring.Training;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** Exercises in the window: one that was gone through is looked back on and its points are kept; one is begun with the kit of the plan. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class TrainerTest extends DeskHarness {
    @TempDir
    static Path folder;

    private NightFile demo;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importProfiles(new Profiles(logbook.folder()));
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.LOGBOOK, 0));
        demo = NightFile.parse(
                DeskTest.shortNight().replace(", \"until\": \"19:40:00\", \"mostSubs\": 5", ""),
                "demo",
                wiring.objects());
        onDesk(() -> desk.beginnings().plan(demo));
    }

    private void practise() throws Exception {
        onDesk(() -> {
            desk.choose(Stage.LOGBOOK);
            ((ButtonBase) desk.lookup("#practise")).fire();
        });
    }

    private boolean isDisabled(String id) {
        return on(() -> ((Button) desk.lookup(id)).isDisabled());
    }

    @Test
    void anExerciseThatIsOverIsLookedBackOn() throws Exception {
        Exercise exercise = Exercises.named("soft-at-once").orElseThrow();
        NightFile night = Training.night(demo, exercise, 1);
        NightEntry entry = logbook.begin("exercise", "exercise", night.text());
        SwiftNight swift =
                wiring.swift(night, logbook.journal(entry), SteppedClock::new, NightWatcher.NONE, new NightControl());
        swift.engine().run();
        onDesk(() -> desk.beginnings().open(entry));
        practise();
        until("the exercise to be looked back on", d -> !isDisabled("#debrief"));
        on(() -> {
            @SuppressWarnings("unchecked")
            ComboBox<FaultKind> named = (ComboBox<FaultKind>) desk.lookup("#exercise-named");
            named.setValue(FaultKind.FOCUSER_SLIP);
            ((Button) desk.lookup("#debrief")).fire();
            return true;
        });
        until(
                "the points",
                d -> ((Label) d.lookup("#exercise-points")).getText().endsWith(" points"));
        assertThat(on(() -> desk.lookupAll(".debrief").stream()
                        .map(n -> ((Label) n).getText())
                        .toList()))
                .anyMatch(s -> s.contains("the focuser slips"))
                .anyMatch(s -> s.startsWith("You said so: 50 of 50"))
                .contains("You did nothing after it.");
        int points = Integer.parseInt(text("#exercise-points").replace(" points", ""));
        assertThat(new ScoreBook(folder).best("soft-at-once").orElseThrow().points())
                .isEqualTo(points);
        until("the list to tell it", d -> ((ListView<?>) d.lookup("#exercises"))
                .getItems()
                .get(1)
                .toString()
                .contains("OptionalInt[" + points + "]"));
    }

    @Test
    void anExerciseIsBegunWithThePlansKitAndTellsNothing() throws Exception {
        onDesk(() -> desk.beginnings().plan(demo));
        practise();
        assertThat(on(() -> ((ListView<?>) desk.lookup("#exercises")).getItems()))
                .hasSize(16);
        assertThat(isDisabled("#debrief")).as("nothing to look back on").isTrue();
        on(() -> {
            ((ListView<?>) desk.lookup("#exercises")).getSelectionModel().select(3);
            ((Button) desk.lookup("#play-exercise")).fire();
            return true;
        });
        until("a night", d -> d.nights().running().isPresent());
        settled();
        Optional<NightFile.Training> of = on(() -> desk.planDesk().file().training());
        assertThat(of).contains(new NightFile.Training(Exercises.ALL.get(3).id(), 1));
        assertThat(on(() -> desk.planDesk().file().kit().name()))
                .isEqualTo(demo.kit().name());
        // Plan does not tell what will go wrong.
        onDesk(() -> desk.choose(Stage.PLAN));
        assertThat(on(() -> desk.lookupAll(".label").stream()
                        .map(n -> ((Label) n).getText())
                        .noneMatch(t -> t != null && t.contains("Cloud passes at"))))
                .isTrue();
    }

    @Test
    void theNightOnTheDeskIsReportedOnPaper() throws Exception {
        NightEntry entry = logbook.begin("reported", "reported", demo.text());
        SwiftNight swift =
                wiring.swift(demo, logbook.journal(entry), SteppedClock::new, NightWatcher.NONE, new NightControl());
        swift.engine().run();
        onDesk(() -> desk.beginnings().open(entry));
        onDesk(() -> {
            desk.choose(Stage.LOGBOOK);
            ((ButtonBase) desk.lookup("#this-night")).fire();
        });
        for (String format : List.of("html", "pdf")) {
            Path to = folder.resolve("report." + format);
            on(() -> {
                ((ReportTools) desk.lookup("#report-tools")).save(to);
                return true;
            });
            until("the report", d -> text("#report-saved").startsWith("Saved: report." + format));
            assertThat(to).isNotEmptyFile();
        }
        assertThat(Files.readString(folder.resolve("report.html")))
                .contains(swift.state().kept() + " of " + swift.state().subs().size() + " subs kept");
        Files.createDirectory(folder.resolve("taken"));
        on(() -> {
            ((ReportTools) desk.lookup("#report-tools")).save(folder.resolve("taken"));
            return true;
        });
        until("a reason", d -> text("#report-saved").startsWith("Not saved: "));
    }
}
