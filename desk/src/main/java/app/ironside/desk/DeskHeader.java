package app.ironside.desk;

import app.ironside.desk.parts.Words;
import java.util.function.DoubleConsumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;

/** The line above the ribbon: where, with what, when; the clock of a rehearsal; the palette. */
final class DeskHeader extends HBox {
    private static final double[] RATES = {1, 60, 600, 0};

    private final Label title = new Label();
    private final Label clock = new Label();
    private final Button now = new Button("Back to now");
    private final Button freeze = new Button();
    private final Button palette = new Button();
    private final ToggleGroup rates = new ToggleGroup();
    private final HBox speeds = new HBox(3);

    /** What its buttons do. */
    interface Doer {
        void toggleFreeze();

        void backToNow();

        void nextPalette();
    }

    DeskHeader(Doer doer, DoubleConsumer setRate, double rate) {
        Label brand = new Label("Ironside");
        brand.getStyleClass().add("brand");
        title.getStyleClass().add("dim");
        clock.getStyleClass().add("clock");
        clock.setId("clock");
        freeze.setId("freeze");
        freeze.setTooltip(new Tooltip("Stops the rehearsal's clock, or lets it run (Space). To rest a night: H"));
        freeze.setMinWidth(88);
        freeze.setText("Freeze");
        freeze.setDisable(true);
        freeze.setOnAction(e -> doer.toggleFreeze());
        now.setId("now");
        now.setVisible(false);
        now.setOnAction(e -> doer.backToNow());
        palette.setId("palette");
        palette.setMinWidth(76);
        palette.setTooltip(new Tooltip("Dusk, Red for dark-adapted eyes, Paper for the day (P)"));
        palette.setOnAction(e -> doer.nextPalette());
        // The clock of a rehearsal is no part of a night: it looks like what it is, a machine's.
        speeds.getStyleClass().add("speeds");
        speeds.setAlignment(Pos.CENTER_LEFT);
        for (double r : RATES) {
            ToggleButton button = new ToggleButton(r == 0 ? "fastest" : Words.format("%.0f×", r));
            button.setId("rate-" + (int) r);
            button.setUserData(r);
            button.setToggleGroup(rates);
            button.setSelected(r == rate);
            button.setOnAction(e -> setRate.accept(r));
            speeds.getChildren().add(button);
        }
        speeds.getChildren().add(freeze);
        Region left = new Region();
        Region right = new Region();
        HBox.setHgrow(left, Priority.ALWAYS);
        HBox.setHgrow(right, Priority.ALWAYS);
        getChildren().addAll(brand, title, left, clock, now, right, speeds, palette);
        getStyleClass().add("header");
    }

    /**
     * What it says now.
     *
     * @param frozen whether the rehearsal's clock is held
     * @param rehearsed whether there is such a clock
     * @param running whether it is one of a night that runs
     * @param back what leads back to now; empty if nothing is to be led back from
     */
    record Said(String title, String clock, boolean frozen, boolean rehearsed, boolean running, String back) {}

    void show(Said said) {
        title.setText(said.title());
        clock.setText(said.clock());
        freeze.setText(said.frozen() ? "Run" : "Freeze");
        freeze.setDisable(!said.running());
        speeds.setVisible(said.rehearsed());
        now.setText(said.back());
        now.setVisible(!said.back().isEmpty());
    }

    void showRate(double rate) {
        rates.getToggles().forEach(t -> t.setSelected(((Double) t.getUserData()) == rate));
    }

    void showPalette(Palette look) {
        palette.setText(look.title());
    }
}
