package app.ironside.desk.parts;

import static app.ironside.desk.Headless.on;
import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.Headless;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.StackPane;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/** The desk's own way to choose files, with a robot's hands. */
class FilePaneTest {
    @TempDir
    Path disk;

    private final FxRobot robot = new FxRobot();
    private final List<Path> chosen = new ArrayList<>();
    private StackPane root;

    @BeforeEach
    void aFolderWithFrames() throws Exception {
        Headless.start();
        Files.createDirectories(disk.resolve("lights"));
        for (String name : List.of("a.FIT", "b.fits", "notes.txt", ".hidden.fits")) {
            Files.writeString(disk.resolve(name), name);
        }
        Files.writeString(disk.resolve("lights").resolve("c.fits"), "c");
        FxToolkit.setupStage(stage -> {
            root = new StackPane();
            stage.setScene(new Scene(root, 900, 700));
            stage.show();
        });
    }

    private void ask(FilePane.Kind kind, String title) throws Exception {
        FilePane.Ask ask = new FilePane.Ask(kind, title, List.of(".fits", ".fit"), "new.fits", Optional.of(disk));
        on(() -> {
            FilePane.ask(root, ask, chosen::addAll);
            return true;
        });
        until(() -> !listed().isEmpty());
    }

    private static void until(Callable<Boolean> condition) throws Exception {
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, condition);
    }

    private List<String> listed() {
        return on(() -> ((ListView<?>) root.lookup("#files-list"))
                .getItems().stream()
                        .map(e -> e.toString().replaceAll(".*path=([^,]*).*", "$1"))
                        .map(p -> Path.of(p).getFileName().toString())
                        .toList());
    }

    private String takes() {
        return on(() -> ((Labeled) root.lookup("#files-take")).getText());
    }

    private boolean isOpen() {
        return on(() -> root.lookup("#files") != null);
    }

    @Test
    void itListsFoldersAndWhatIsAskedForInAnyCase() throws Exception {
        ask(FilePane.Kind.OPEN, "one");
        assertThat(listed()).containsExactly("lights", "a.FIT", "b.fits");
        assertThat(on(() -> ((Button) root.lookup("#files-take")).isDisabled())).isTrue();
        on(() -> {
            ((ListView<?>) root.lookup("#files-list")).getSelectionModel().select(0);
            root.lookup("#files-list").requestFocus();
            return true;
        });
        robot.push(KeyCode.ENTER);
        until(() -> listed().equals(List.of("c.fits")));
        robot.push(KeyCode.BACK_SPACE);
        until(() -> listed().size() == 3);
        robot.push(KeyCode.ESCAPE);
        assertThat(isOpen()).isFalse();
        assertThat(chosen).isEmpty();
    }

    @Test
    void severalAreTaken() throws Exception {
        ask(FilePane.Kind.OPEN_MANY, "many");
        on(() -> {
            ((ListView<?>) root.lookup("#files-list")).getSelectionModel().selectIndices(1, 2);
            return true;
        });
        robot.clickOn("#files-take");
        assertThat(chosen).containsExactly(disk.resolve("a.FIT"), disk.resolve("b.fits"));
        assertThat(isOpen()).isFalse();
    }

    @Test
    void aNameThatIsThereSaysThatItIsReplaced() throws Exception {
        ask(FilePane.Kind.SAVE, "save");
        assertThat(takes()).isEqualTo("Save");
        on(() -> {
            ((TextField) root.lookup("#files-name")).setText("b.fits");
            return true;
        });
        assertThat(takes()).isEqualTo("Replace b.fits");
        robot.clickOn("#files-take");
        assertThat(chosen).containsExactly(disk.resolve("b.fits"));
    }

    @Test
    void aPathIsTypedAndOneThatIsNotThereIsNamed() throws Exception {
        ask(FilePane.Kind.OPEN, "typed");
        type(disk.resolve("nowhere.fits").toString());
        until(() -> on(() -> root.lookupAll(".warning").stream()
                .anyMatch(n -> ((Labeled) n).getText().endsWith("nowhere.fits is not there."))));
        type("lights/c.fits");
        until(() -> !chosen.isEmpty());
        assertThat(chosen).containsExactly(disk.resolve("lights/c.fits"));
    }

    private void type(String path) {
        on(() -> {
            TextField place = (TextField) root.lookup("#files-place");
            place.setText(path);
            place.fireEvent(new javafx.event.ActionEvent());
            return true;
        });
    }

    @Test
    void aFolderIsTakenWhereItStands() throws Exception {
        ask(FilePane.Kind.FOLDER, "folder");
        assertThat(listed()).containsExactly("lights");
        robot.clickOn("#files-take");
        assertThat(chosen).containsExactly(disk);
    }
}
