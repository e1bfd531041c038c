package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Provenance;
import app.ironside.desk.session.ShownNight;
import app.ironside.document.NightFile;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Stage;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;

/** What a person is asked first: nothing there yet, a night that was left, nights to look back at. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class OpeningTest extends DeskHarness {
    @TempDir
    static Path folder;

    private NightEntry entry;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
    }

    private void ownData() {
        Opening.Found found = Opening.Found.in(logbook);
        Optional<ShownNight> first = found.first().map(night -> ShownNight.kept(wiring, logbook, night));
        on(() -> {
            first.ifPresent(desk.beginnings()::show);
            new Opening(desk, wiring, found).ownData();
            return true;
        });
    }

    private List<String> choices() {
        return on(() -> desk.lookup("#start").lookupAll(".button").stream()
                .map(Node::getId)
                .toList());
    }

    private String heading() {
        return on(() -> ((Label) desk.lookup("#start").lookup(".verdict")).getText());
    }

    private boolean isAsking() {
        return on(() -> desk.lookup("#start") != null);
    }

    @Test
    @Order(1)
    void anEmptyLogbookOffersAFirstNight() throws Exception {
        ownData();
        assertThat(heading()).isEqualTo("Good evening.");
        assertThat(choices()).containsExactly("plan-night", "open-night", "rehearse-example", "walk-example");
        assertThat(on(() -> ((Button) desk.lookup("#plan-night")).isDefaultButton()))
                .isTrue();
        robot.clickOn("#plan-night");
        assertThat(isAsking()).isFalse();
        assertThat(on(() -> desk.lookup("#first-night") != null)).isTrue();
        // What is wrong is said and can be mended; nothing is kept before it is right.
        type("#first-latitude", "44 north");
        robot.clickOn("#first-go");
        assertThat(text("#first-fault")).contains("latitude").contains("44° 03′ N");
        type("#first-latitude", "45° 30′ N");
        type("#first-longitude", "7,5");
        type("#first-focal-length", "400");
        type("#first-aperture", "80");
        type("#first-width", "3000");
        type("#first-height", "2000");
        type("#first-pixel", "0");
        robot.clickOn("#first-go");
        assertThat(text("#first-fault")).contains("pixelUm");
        type("#first-pixel", "4.6");
        robot.clickOn("#first-go");
        settled();
        assertThat(on(() -> desk.lookup("#first-night") == null)).isTrue();
        NightFile planned = on(() -> desk.planDesk().file());
        assertThat(planned.site().latDeg()).isEqualTo(45.5);
        assertThat(planned.site().lonDeg()).isEqualTo(7.5);
        assertThat(planned.kit().optics().focalLengthMm()).isEqualTo(400);
        assertThat(planned.program().targets()).hasSize(1);
        assertThat(on(() -> desk.planDesk().draft().plan().subs())).isGreaterThan(5);
        assertThat(new Profiles(logbook.folder()).kit("My telescope")).isPresent();
    }

    private void type(String id, String text) {
        on(() -> {
            ((TextField) desk.lookup(id)).setText(text);
            return true;
        });
    }

    @Test
    @Order(2)
    void aNightThatWasLeftIsOfferedFirst() {
        String document = DemoNights.tonight();
        entry = logbook.begin("2026-11-14  Colle Sorbo, M 33", "night-2026-11-14-1", document);
        logbook.journal(entry).append(Told.started(Instant.parse("2026-11-14T17:00:00Z"), "Night of 2026-11-14."));
        ownData();
        assertThat(heading()).isEqualTo("A night was left under way.");
        assertThat(choices().get(0)).isEqualTo("go-on");
        assertThat(choices()).doesNotContain("look-back");
    }

    @Test
    @Order(3)
    void anEndedNightCanBeLookedAt() throws Exception {
        logbook.journal(entry).append(Told.ended(Instant.parse("2026-11-15T06:00:00Z")));
        ownData();
        assertThat(heading()).isEqualTo("Good evening.");
        assertThat(choices()).contains("look-back").doesNotContain("go-on");
        robot.clickOn("#look-back");
        assertThat(isAsking()).isFalse();
        settled();
        assertThat(text("#status")).isNotEmpty();
        // The next plan begins from the last night's site, kit and targets.
        ownData();
        robot.clickOn("#plan-night");
        settled();
        assertThat(on(() -> desk.planDesk().file().program().targets().get(0).name()))
                .isEqualTo("M 33");
    }

    private NightEntry left(String folderOfIt, Provenance provenance) {
        NightEntry night = logbook.begin("2026-11-15  Colle Sorbo, M 33", folderOfIt, DemoNights.tonight());
        logbook.journal(night)
                .append(new NightStarted(
                        Instant.parse("2026-11-15T17:00:00Z"),
                        "Night of 2026-11-15.",
                        "Colle Sorbo",
                        "Wren",
                        LocalDate.of(2026, 11, 15),
                        provenance));
        return night;
    }

    /** A real night is not gone on with by a simulated observatory, and its devices are not moved without a word. */
    @Test
    @Order(4)
    void aRealNightThatWasLeftAsksForItsDevices() throws Exception {
        NightEntry real = left("night-real", Provenance.REAL);
        ownData();
        assertThat(choices().get(0)).isEqualTo("go-on");
        robot.clickOn("#go-on");
        assertThat(heading()).isEqualTo("Begin the night with real devices?");
        robot.clickOn("#no-night");
        settled();
        assertThat(on(() -> desk.isNightRunning())).isFalse();
        assertThat(logbook.journal(real).events()).hasSize(1);
        logbook.journal(real).append(Told.ended(Instant.parse("2026-11-16T06:00:00Z")));
    }

    /** A folder that was watched went on without us: there is nothing to go on with, its night can be looked at. */
    @Test
    @Order(5)
    void aFolderThatWasWatchedIsNotGoneOnWith() {
        left("night-watched", Provenance.WATCHED);
        ownData();
        assertThat(heading()).isEqualTo("Good evening.");
        assertThat(choices()).contains("look-back").doesNotContain("go-on");
    }
}
