package app.ironside.desk;

import app.ironside.notice.Notices;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** Asks how a person wants to be told at night, lets them try it, and shows the address of the page for their telephone. */
final class TellingPane extends StackPane {
    /** Words, or what stands in double quotes. */
    private static final Pattern WORD = Pattern.compile("\"([^\"]*)\"|(\\S+)");

    private final Telling telling;
    private final CheckBox sound = new CheckBox("a tone from this machine, when it is worth waking you");
    private final CheckBox system = new CheckBox("a notification of the system, for every alert");
    private final CheckBox page = new CheckBox("a page for a telephone on this network, that only shows");
    private final TextField command = new TextField();
    private final TextField port = new TextField();
    private final Label address = new Label();
    private final Button copy = new Button("Copy the address");
    private final Label fault = new Label();

    /**
     * @param trial sends an alert by what is chosen
     * @param back takes this pane away
     */
    TellingPane(Telling telling, Runnable trial, Runnable back) {
        this.telling = telling;
        setId("telling");
        Notices now = telling.notices();
        sound.setId("telling-sound");
        system.setId("telling-system");
        page.setId("telling-page");
        command.setId("telling-command");
        port.setId("telling-port");
        address.setId("telling-address");
        copy.setId("telling-copy");
        sound.setSelected(now.sound());
        system.setSelected(now.system());
        page.setSelected(now.page());
        command.setText(joined(now.command()));
        command.setPromptText("gets each alert as JSON on its input");
        port.setText(String.valueOf(now.port()));
        port.setPrefColumnCount(6);
        fault.getStyleClass().add("warning");
        fault.setWrapText(true);
        fault.managedProperty().bind(fault.textProperty().isNotEmpty());
        sound.setOnAction(e -> take(() -> {}));
        system.setOnAction(e -> take(() -> {}));
        page.setOnAction(e -> take(() -> {}));
        command.setOnAction(e -> take(() -> {}));
        port.setOnAction(e -> take(() -> {}));
        copy.setOnAction(e -> telling.address().ifPresent(TellingPane::copy));
        Button tryIt = new Button("Try it now");
        tryIt.setId("telling-try");
        tryIt.setOnAction(e -> take(trial));
        Button done = new Button("Done");
        done.setId("telling-done");
        done.getStyleClass().add("chief");
        done.setOnAction(e -> take(back));
        Label heading = new Label("How the night tells you");
        heading.getStyleClass().add("verdict");
        Label what = new Label(
                "It wakes you when light is being lost now, what it could do by itself did not help, and hands would. All else is"
                        + " a note. One alert for one cause. A rehearsal calls nobody.");
        what.setWrapText(true);
        what.setMinHeight(Region.USE_PREF_SIZE);
        HBox own = new HBox(8, new Label("a program of your own"), command);
        own.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(command, Priority.ALWAYS);
        HBox where = new HBox(8, new Label("port"), port, address, copy);
        where.setAlignment(Pos.CENTER_LEFT);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        VBox box = new VBox(12, heading, what, sound, system, own, page, where, fault, new HBox(8, tryIt, gap, done));
        box.getStyleClass().add("keys");
        box.setMaxSize(720, Region.USE_PREF_SIZE);
        getChildren().add(box);
        showAddress();
    }

    private static void copy(String text) {
        ClipboardContent content = new ClipboardContent();
        content.putString(text);
        Clipboard.getSystemClipboard().setContent(content);
    }

    /**
     * Follows what is written here.
     *
     * @param then done when it is followed; what cannot be followed is said instead
     */
    private void take(Runnable then) {
        Notices wanted;
        try {
            wanted = telling.notices()
                    .withSound(sound.isSelected())
                    .withSystem(system.isSelected())
                    .withCommand(words(command.getText()))
                    .withPort(number(port.getText()))
                    .withPage(page.isSelected());
        } catch (IllegalArgumentException e) {
            fault.setText(e.getMessage());
            return;
        }
        telling.set(wanted, why -> {
            fault.setText(why);
            showAddress();
            if (why.isEmpty()) {
                then.run();
            }
        });
    }

    private void showAddress() {
        boolean served = telling.address().isPresent();
        address.setText(telling.address().orElse(page.isSelected() ? "not served" : "off"));
        copy.setVisible(served);
        copy.setManaged(served);
    }

    private static int number(String text) {
        try {
            return Integer.parseInt(text.strip());
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("the port is \"" + text + "\"; expected a number from 1024 to 65535", e);
        }
    }

    /** A line of a program and its arguments; what has spaces stands in double quotes. */
    static List<String> words(String line) {
        List<String> words = new ArrayList<>();
        for (Matcher m = WORD.matcher(line); m.find(); ) {
            words.add(m.group(1) != null ? m.group(1) : m.group(2));
        }
        return words;
    }

    private static String joined(List<String> words) {
        return String.join(
                " ",
                words.stream().map(w -> w.contains(" ") ? "\"" + w + "\"" : w).toList());
    }
}
