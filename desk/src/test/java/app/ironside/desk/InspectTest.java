package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.desk.inspect.Inspection;
import app.ironside.device.Camera;
import app.ironside.device.Mount;
import app.ironside.document.NightFile;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.journal.Stage;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.Equatorial;
import app.ironside.solve.Wcs;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** A file is dropped on the desk: what is found in it is held against where the simulated telescope looked. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class InspectTest extends DeskHarness {
    @TempDir
    static Path folder;

    private Path file;
    private Equatorial truth;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        // Coarser pixels over the same field: how many there are is not the point.
        NightFile night = NightFile.parse(
                DemoNights.tonight()
                        .replace(
                                "\"widthPx\": 2800, \"heightPx\": 2100, \"pixelUm\": 6.3",
                                "\"widthPx\": 1400, \"heightPx\": 1050, \"pixelUm\": 12.6"),
                "demo",
                wiring.objects());
        SteppedClock clock = new SteppedClock(Instant.parse("2026-11-14T22:30:00Z"));
        SimulatedObservatory observatory = new SimulatedObservatory(
                night.site(),
                night.kit(),
                SimSettings.DEFAULT.withPolarError(0, 0),
                new SkySource(wiring.stars(), wiring.objects()),
                clock,
                Instant.parse("2026-11-14T16:02:00Z"),
                Workers.ALL_CORES);
        Mount mount = observatory.devices().mount();
        mount.unpark();
        mount.slewAndWait(clock, new Equatorial(35.6, 42.35), Mount.PierSide.EAST);
        observatory.devices().focuser().moveAndWait(clock, (int) Math.round(observatory.bestFocusSteps()));
        Frame frame = observatory.devices().camera().expose(clock, Camera.Exposure.light(Duration.ofSeconds(20)));
        truth = observatory.looksAt();
        file = folder.resolve("NGC_891.fits");
        FitsFiles.write(file, frame, FitsFiles.Encoding.UNSIGNED_16);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
        onDesk(() -> desk.beginnings().plan(night));
    }

    private void inspect(Path what) throws Exception {
        on(() -> {
            desk.inspect(List.of(what));
            return true;
        });
    }

    private String inspectText(String selector) {
        return on(() -> ((Label) desk.inspection().lookup(selector)).getText());
    }

    /** A frame through a focusing mask, by Fourier optics: 80 µm out of focus, read without looking for the sky behind it. */
    @Test
    void aMaskIsRead() throws Exception {
        inspect(Path.of("..", "core", "src", "test", "resources", "app", "ironside", "focus", "mask-p80.fits.gz"));
        until("the mask", d -> d.inspection().shown().isPresent());
        assertThat(on(() -> desk.inspection().shown().orElseThrow().mask())).isPresent();
        assertThat(on(() -> desk.inspection().lookupAll(".verdict").stream()
                        .map(n -> ((Label) n).getText())
                        .toList()))
                .contains("1.7 px off.");
        assertThat(on(() -> desk.inspection().lookup("#mask-lean").isVisible())).isTrue();
    }

    @Test
    void theSkyIsRecognisedAndEverythingCanBeSaved() throws Exception {
        inspect(file);
        until("the inspection", d -> d.inspection().shown().isPresent());
        assertThat(inspectText("#verdict")).isEqualTo("The sky is recognised.");
        Inspection found = on(() -> desk.inspection().shown().orElseThrow());
        Wcs wcs = ((app.ironside.solve.PlateSolution) found.solved()).wcs();
        // Unguided for 20 s: the middle of the exposure is a few arcseconds from where it looks at its end.
        assertThat(wcs.toSky(700.5, 525.5).separationDeg(truth) * 3600).isLessThan(60);
        assertThat(found.overlay().orElseThrow().objects())
                .anyMatch(o -> o.name().equals("NGC 891"));
        assertThat(found.overlay().orElseThrow().lines()).hasSizeGreaterThan(4);
        assertThat(found.starsCsv().lines().count())
                .isEqualTo(found.stars().stars().size() + 1);
        assertThat(found.mapCsv().lines().count()).isEqualTo(10);
        byte[] before = Files.readAllBytes(file);
        Path copy = folder.resolve("solved.fits");
        found.writeSolved(copy);
        Wcs again = Wcs.from(FitsFiles.read(copy).header()).orElseThrow();
        assertThat(again.toSky(1, 1).separationDeg(wcs.toSky(1, 1)) * 3600).isCloseTo(0, within(1e-6));
        assertThatThrownBy(() -> found.writeSolved(file))
                .hasMessageContaining("is one of the inputs")
                .hasMessageContaining("inputs stay as they are");
        assertThat(Files.readAllBytes(file)).isEqualTo(before);
        robot.clickOn("#keep-stars");
        until("the stars kept", d -> wiring.shelf().holding().own() > 100);
        Equatorial middle = wcs.toSky(700.5, 525.5);
        assertThat(wiring.shelf().solver().catalogue().within(middle, 0.7).size())
                .as("half a degree about it is well known now")
                .isGreaterThan(4 * wiring.stars().within(middle, 0.7).size());
        robot.clickOn("Residuals").clickOn("Stars");
        press(KeyCode.ESCAPE);
        assertThat(on(() -> desk.inspection().isVisible())).isFalse();
    }

    /** Nothing of one file stands under the name of the next: neither its sizes nor its words; and of several files all are taken. */
    @Test
    void eachFileHasItsOwnWords() throws Exception {
        Path broken = Files.write(folder.resolve("broken.fits"), new byte[] {1, 2, 3});
        Path note = Files.writeString(folder.resolve("note.doc"), "x");
        on(() -> desk.take(List.of(file, broken, note)));
        until("the first file", d -> d.inspection().shown().isPresent());
        assertThat(inspectText("#inspect-title")).isEqualTo("NGC_891.fits   1 of 2");
        assertThat(inspectText("#field-words")).isNotEmpty();
        assertThat(text("#status"))
                .isEqualTo("note.doc is neither a FITS, TIFF or JPEG image nor a table of stars, and not taken.");
        robot.clickOn("#file-after");
        until("the refusal", d -> inspectText("#verdict").equals("This file cannot be looked at."));
        assertThat(inspectText("#inspect-title")).isEqualTo("broken.fits   2 of 2");
        assertThat(inspectText("#field-words")).isEmpty();
        assertThat(on(() -> desk.inspection().isMapEmpty())).isTrue();
        assertThat(inspectText("#picture-empty")).isEqualTo("No picture: see beside it why.");
        robot.clickOn("#file-before");
        until("the first file again", d -> d.inspection().shown().isPresent());
        assertThat(on(() -> desk.inspection().isMapEmpty())).isFalse();
        press(KeyCode.ESCAPE);
    }

    /** A frame that comes into a watched folder is looked at by itself, and says how to go on from there. */
    @Test
    void aWatchedFolderTellsTheNextNudge() throws Exception {
        Path camera = Files.createDirectories(folder.resolve("camera"));
        on(() -> {
            desk.inspect(List.of(file));
            desk.inspection().watch(camera);
            return true;
        });
        until("the inspection", d -> d.inspection().shown().isPresent());
        robot.clickOn("#nudge-target").write("NGC 891");
        // The mount was not told where it points: about a degree off.
        assertThat(inspectText("#nudge")).matches("Point \\d+′ (up|down) and \\d+′ (left|right) .*fields.*");
        on(() -> {
            ((javafx.scene.control.TextField) desk.inspection().lookup("#nudge-target")).setText("M 33");
            return true;
        });
        // By hand: M 33 is 12.2° of right ascension west and 11.7° south of NGC 891, give or take that degree.
        assertThat(inspectText("#nudge"))
                .contains("fields")
                .matches(".*Turn right ascension 1[1-4]\\.\\d° west, declination 1[0-3]\\.\\d° south\\.");
        Files.copy(file, camera.resolve("next.fits"));
        until("the next frame", d -> d.inspection()
                .shown()
                .filter(i -> i.file().getFileName().toString().equals("next.fits"))
                .isPresent());
        press(KeyCode.ESCAPE);
    }

    @Test
    void aBrokenFileIsNamed() throws Exception {
        Path broken = folder.resolve("broken.fits");
        Files.write(broken, java.util.Arrays.copyOf(Files.readAllBytes(file), 9000));
        inspect(broken);
        until("the answer", d -> inspectText("#verdict").startsWith("This file"));
        assertThat(on(() -> ((Label) desk.inspection().lookup(".sentence")).getText()))
                .contains("broken.fits");
        press(KeyCode.ESCAPE);
    }
}
