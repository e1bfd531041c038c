package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.plan.PlanDesk;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import app.ironside.kit.Equipment.ContactLimit;
import app.ironside.kit.Kit;
import app.ironside.logbook.Profiles;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.event.ActionEvent;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** By day at Site and kit: where a telescope touches is found by questions, and taken into the kit. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ContactsDeskTest extends DeskHarness {
    private static final Pattern STANDS = Pattern.compile(
            "It stands (?:on the meridian|(\\d+)° (past|before) the meridian) .* telescope (\\w+) of the pier.*");

    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importProfiles(new Profiles(logbook.folder()));
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
    }

    @BeforeEach
    void planTheDemoNight() throws Exception {
        NightFile demo = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(demo));
        onDesk(() -> desk.planDesk().setTab(PlanDesk.Tab.PROFILES));
        settled();
    }

    private void fire(String id) throws Exception {
        on(() -> {
            ((Button) desk.lookup(id)).fire();
            return true;
        });
    }

    private void at(String declinations) throws Exception {
        on(() -> {
            ((TextField) desk.lookup("#contact-declinations")).setText(declinations);
            return true;
        });
    }

    private void untilAsked() throws Exception {
        until("the question", d -> !((Button) d.lookup("#contact-free")).isDisabled());
    }

    private boolean isWalking() throws Exception {
        return on(() -> ((Button) desk.lookup("#walk-contacts")).isDisabled());
    }

    /** Says of each place what is so there, until the walk is over. */
    private void answerAll(double west, double east) throws Exception {
        for (int places = 0; places < 100; places++) {
            until(
                    "a question, or the end",
                    d -> !((Button) d.lookup("#contact-free")).isDisabled()
                            || !((Button) d.lookup("#walk-contacts")).isDisabled());
            if (!isWalking()) {
                return;
            }
            Matcher place = STANDS.matcher(text("#contact-question"));
            assertThat(place.matches()).as(text("#contact-question")).isTrue();
            double angle = place.group(1) == null
                    ? 0
                    : Double.parseDouble(place.group(1)) * (place.group(2).equals("past") ? 1 : -1);
            fire((place.group(3).equals("west") ? angle < west : angle > east) ? "#contact-free" : "#contact-touches");
        }
    }

    private Kit kit() throws Exception {
        return on(() -> desk.planDesk().file().kit());
    }

    @Test
    void whatAMountWithADriverShowsIsTakenIntoTheKit() throws Exception {
        List<ContactLimit> before = kit().equipment().contacts();
        on(() -> {
            @SuppressWarnings("unchecked")
            ComboBox<String> drivers = (ComboBox<String>) desk.lookup("#driver-mount");
            drivers.setValue(QuickMountDriver.NAME);
            drivers.fireEvent(new ActionEvent());
            return true;
        });
        settled();
        at("75");
        fire("#walk-contacts");
        assertThat(text("#contacts-said"))
                .startsWith("By day: cap on, and never toward the Sun")
                .doesNotContain("simulated");
        answerAll(13.5, -6.5);
        assertThat(text("#contacts-said")).startsWith("At +75°: free to +12° of hour angle before it changes sides");
        assertThat(QuickMountDriver.connected).isZero();
        fire("#take-contacts");
        settled();
        assertThat(kit().equipment().contacts()).contains(new ContactLimit(75, 12, -5));
        robot.press(KeyCode.CONTROL, KeyCode.Z).release(KeyCode.Z, KeyCode.CONTROL);
        settled();
        assertThat(kit().equipment().contacts()).isEqualTo(before);
    }

    @Test
    void aSimulatedMountShowsTheWayAndNothingIsKept() throws Exception {
        at("75");
        fire("#walk-contacts");
        assertThat(text("#contacts-said")).contains("a simulated one moves");
        untilAsked();
        fire("#contact-touches");
        untilAsked();
        fire("#contact-touches");
        until("the end", d -> !((Button) d.lookup("#walk-contacts")).isDisabled());
        assertThat(text("#contacts-said"))
                .contains("something touches already 30° from the meridian")
                .endsWith("Of a simulated mount: not taken into the kit.");
        assertThat(on(() -> desk.lookup("#take-contacts").isVisible())).isFalse();

        fire("#walk-contacts");
        untilAsked();
        fire("#contact-stop");
        until("the stop", d -> !((Button) d.lookup("#walk-contacts")).isDisabled());
        assertThat(text("#contacts-said")).startsWith("Stopped.");

        at("north");
        fire("#walk-contacts");
        assertThat(text("#contacts-said")).startsWith("\"north\" is no list of declinations");
    }
}
