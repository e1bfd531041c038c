package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.mockStatic;
import static org.mockito.Mockito.withSettings;

import app.ironside.desk.plan.PlanDesk;
import app.ironside.document.NightFile;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Stage;
import app.ironside.kit.Kit;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlanner;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import javafx.application.Platform;
import javafx.scene.control.Button;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.mockito.Answers;
import org.mockito.MockedStatic;
import org.mockito.invocation.InvocationOnMock;
import org.mockito.stubbing.Answer;

/**
 * Nothing but copying happens on the interface thread: whoever asks the logbook, plans a night, or lists a folder there is told of. The
 * probes are laid on that thread only; on every other they do what they always do.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class InterfaceThreadTest extends DeskHarness {
    @TempDir
    static Path folder;

    private final List<String> caught = new CopyOnWriteArrayList<>();
    private final List<MockedStatic<?>> probes = new ArrayList<>();
    private Logbook real;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        real = logbook;
        DemoNights.importInto(real);
        DemoNights.importProfiles(new Profiles(real.folder()));
        logbook = mock(Logbook.class, withSettings().defaultAnswer(call -> {
            boolean harmless = call.getMethod().getName().equals("folder");
            if (!harmless && Platform.isFxApplicationThread()) {
                caught.add("the logbook: " + call.getMethod().getName());
            }
            return call.getMethod().invoke(real, call.getArguments());
        }));
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.LOGBOOK, 0));
        on(() -> {
            probe(NightPlanner.class, "planning");
            probe(NightBudget.class, "the budget");
            probe(NightTimes.class, "twilights");
            return true;
        });
    }

    @AfterAll
    void takeTheProbesAway() {
        on(() -> {
            probes.forEach(MockedStatic::close);
            return true;
        });
    }

    /** On the thread that calls this, and on no other. */
    private <T> void probe(Class<T> type, String what) {
        Answer<Object> answer = (InvocationOnMock call) -> {
            caught.add(
                    what + ": " + type.getSimpleName() + "." + call.getMethod().getName());
            return Answers.CALLS_REAL_METHODS.answer(call);
        };
        probes.add(mockStatic(type, answer));
    }

    /** The probes see what they are there for. */
    @Test
    void aProbeTells() {
        NightFile night = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        on(() -> {
            NightPlanner.plan(night.site(), night.kit(), night.program());
            return logbook.nights();
        });
        assertThat(caught).contains("planning: NightPlanner.plan", "the logbook: nights");
        caught.clear();
    }

    @Test
    void openingLookingBackPlanningAndDraggingOnlyCopy() throws Exception {
        caught.clear();
        for (NightEntry night : real.nights()) {
            onDesk(() -> desk.beginnings().open(night));
            for (Stage stage : Stage.values()) {
                onDesk(() -> desk.choose(stage));
            }
            List<NightEvent> events = on(() -> desk.model().night().events());
            for (int i = 0; i < events.size(); i += 1 + events.size() / 12) {
                NightEvent event = events.get(i);
                onDesk(() -> desk.pick(event));
            }
        }
        NightFile demo = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(demo));
        PlanDesk plan = desk.planDesk();
        Interval first = on(() -> plan.draft().plan().blocks().get(0).span());
        for (int minute = 1; minute < 40; minute++) {
            Interval span = new Interval(first.from(), first.until().minus(Duration.ofMinutes(minute)));
            on(() -> {
                plan.blocks().preview(0, span);
                return true;
            });
        }
        onDesk(() ->
                plan.blocks().settle(0, new Interval(first.from(), first.until().minus(Duration.ofMinutes(40)))));
        onDesk(plan::undo);
        onDesk(plan::redo);
        press("#arrange");
        press("#night-after");
        for (PlanDesk.Tab tab : PlanDesk.Tab.values()) {
            onDesk(() -> plan.setTab(tab));
        }
        onDesk(() -> plan.setTab(PlanDesk.Tab.FRAMING));
        onDesk(() -> ((Slider) desk.lookup("#camera-angle")).setValue(35));
        onDesk(() -> plan.setTab(PlanDesk.Tab.PROFILES));
        onDesk(() -> {
            TextField field = (TextField) desk.lookup("#field-optics-focalLengthMm");
            field.setText("396");
            field.fireEvent(new javafx.event.ActionEvent());
        });
        press("#save-profile");
        assertThat(caught).isEmpty();
        assertThat(on(() -> plan.file().program().date())).isEqualTo(LocalDate.of(2026, 11, 15));
        assertThat(on(() -> plan.file().kit())).extracting(Kit::name).isEqualTo("Wren");
    }

    private void press(String button) throws Exception {
        onDesk(() -> ((Button) desk.lookup(button)).fire());
    }
}
