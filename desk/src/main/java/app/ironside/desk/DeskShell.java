package app.ironside.desk;

import app.ironside.desk.night.RailView;
import app.ironside.desk.night.Ribbon;
import app.ironside.desk.night.Strips;
import app.ironside.desk.reckon.ReckoningView;
import app.ironside.desk.station.CommandBar;
import app.ironside.journal.Stage;
import java.util.List;
import java.util.Optional;
import javafx.css.PseudoClass;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;

/** Where everything stands: ribbon above, rail left, bench in the middle, reckoning right; it reflows with the window's height. */
final class DeskShell {
    private static final PseudoClass COMPACT = PseudoClass.getPseudoClass("compact");
    private static final PseudoClass LOW = PseudoClass.getPseudoClass("low");

    /** Below it the rail's stations move closer together. */
    private static final double ROOMY_HEIGHT = 850;

    /** Below it the strips of Run leave their room to the rail. */
    private static final double LOW_HEIGHT = 740;

    private final StackPane middle = new StackPane();
    private final Label status = new Label();
    private final StackPane root;
    private Optional<VBox> keys = Optional.empty();
    private final HelpPane help = new HelpPane();

    /** The views of which a desk is made. */
    record Views(
            DeskHeader header,
            Ribbon ribbon,
            Strips strips,
            RailView rail,
            Doors doors,
            HandsBar hands,
            CommandBar commands,
            ReckoningView reckoning) {}

    /**
     * Fills the desk.
     *
     * @param over what can lie over the desk, hidden at first
     */
    DeskShell(StackPane root, Views views, List<? extends Node> over) {
        this.root = root;
        views.ribbon().setId("ribbon");
        BorderPane desk = new BorderPane();
        desk.setTop(new VBox(views.header(), views.ribbon(), views.strips()));
        Region between = new Region();
        VBox.setVgrow(between, Priority.ALWAYS);
        desk.setLeft(new VBox(views.rail(), between, views.doors()));
        BorderPane.setMargin(views.reckoning(), new Insets(6, 14, 8, 0));
        VBox.setVgrow(middle, Priority.ALWAYS);
        // A bench that needs more room than there is loses its lower edge and nothing else.
        middle.setMinHeight(0);
        middle.setAlignment(Pos.TOP_LEFT);
        Rectangle seen = new Rectangle();
        seen.widthProperty().bind(middle.widthProperty());
        seen.heightProperty().bind(middle.heightProperty());
        middle.setClip(seen);
        StackPane.setAlignment(desk, Pos.TOP_LEFT);
        VBox work = new VBox(8, middle, views.hands(), views.commands());
        BorderPane.setMargin(work, new Insets(6, 8, 8, 4));
        desk.setCenter(work);
        desk.setRight(views.reckoning());
        status.getStyleClass().add("status");
        status.setId("status");
        desk.setBottom(status);
        views.commands().setVisible(false);
        root.getStyleClass().add("root");
        root.getChildren().add(desk);
        root.getChildren().addAll(over);
        root.getChildren().add(help);
        root.heightProperty().addListener((o, was, is) -> {
            root.pseudoClassStateChanged(COMPACT, is.doubleValue() < ROOMY_HEIGHT);
            root.pseudoClassStateChanged(LOW, is.doubleValue() < LOW_HEIGHT);
            views.strips().setRows(is.doubleValue() < LOW_HEIGHT ? 2 : is.doubleValue() < ROOMY_HEIGHT ? 4 : 5);
        });
    }

    /** Puts a bench in the middle. */
    void showBench(Node bench) {
        if (middle.getChildren().isEmpty() || middle.getChildren().get(0) != bench) {
            middle.getChildren().setAll(bench);
        }
    }

    /** The middle, where the bench stands. */
    Pane middle() {
        return middle;
    }

    void say(String words) {
        status.setText(words);
    }

    boolean hasKeys() {
        return keys.isPresent();
    }

    boolean hasHelp() {
        return help.isVisible();
    }

    /** Shows what a station is for. */
    void showHelp(Stage station) {
        showKeys(false);
        help.show(station);
    }

    /**
     * As above.
     *
     * @param foot how one goes on from there
     */
    void showHelp(Stage station, String foot) {
        showKeys(false);
        help.show(station, foot);
    }

    void hideHelp() {
        help.setVisible(false);
    }

    /** Shows or hides the list of keys. */
    void showKeys(boolean visible) {
        keys.ifPresent(root.getChildren()::remove);
        keys = visible ? Optional.of(KeyMap.list()) : Optional.empty();
        keys.ifPresent(root.getChildren()::add);
        help.setVisible(false);
    }
}
