package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.guide.AxisRule;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideRules;
import app.ironside.guide.SlackBy;
import app.ironside.guide.Way;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** How the night is guided, each choice with what it means. What is changed is told at once to who made this. */
public final class GuideRulesPane extends VBox {
    private static final double CHOICE_WIDTH = 186;
    private static final double NAME_WIDTH = 200;

    private final GridPane grid = new GridPane();
    private final Label fault = new Label();
    private final Consumer<GuideRules> onChange;
    private Optional<GuideRules> shown = Optional.empty();

    /**
     * @param onChange takes rules that differ from those shown
     * @param scrolls whether it scrolls by itself; not where it stands in what does
     */
    public GuideRulesPane(Consumer<GuideRules> onChange, boolean scrolls) {
        super(8);
        this.onChange = onChange;
        setId("guide-rules");
        grid.setHgap(10);
        grid.setVgap(6);
        fault.getStyleClass().add("warning");
        fault.setWrapText(true);
        fault.setId("guide-rules-fault");
        fault.managedProperty().bind(fault.textProperty().isNotEmpty());
        getChildren().add(fault);
        if (scrolls) {
            ScrollPane scroll = new ScrollPane(grid);
            scroll.setFitToWidth(true);
            VBox.setVgrow(scroll, Priority.ALWAYS);
            getChildren().add(scroll);
        } else {
            getChildren().add(grid);
        }
    }

    /** Shows rules, unless they are shown already: what is being typed stays. */
    public void show(GuideRules rules) {
        if (shown.filter(rules::equals).isPresent()) {
            return;
        }
        shown = Optional.of(rules);
        grid.getChildren().clear();
        int row = 0;
        row = axis(row, "right ascension", "ra", rules.ra(), GuideRules::withRa);
        row = axis(row, "declination", "dec", rules.dec(), GuideRules::withDec);
        CheckBox tunes = new CheckBox("share and least move set themselves by the record");
        tunes.setId("guide-tunes");
        tunes.setSelected(rules.tunes());
        tunes.setOnAction(e -> change(r -> r.withTunes(tunes.isSelected())));
        grid.add(tunes, 0, row, 2, 1);
        grid.add(
                dim(
                        "every 90 exposures the record is gone through again with other settings; what held it better is taken, and marked"),
                2,
                row++);
        choice(row++, "slack of declination", "slack", SlackBy.values(), rules.slackBy(), GuideRules::withSlackBy);
        choice(row++, "stars", "stars", GuideRules.Stars.values(), rules.stars(), GuideRules::withStars);
        choice(
                row++,
                "calibrated",
                "calibrate",
                GuideRules.Calibrate.values(),
                rules.calibrate(),
                GuideRules::withCalibrate);
        choice(row++, "dithers", "dither", GuideRules.DitherBy.values(), rules.ditherBy(), GuideRules::withDitherBy);
        number(
                row++,
                "exposure, s",
                "exposure",
                rules.exposureSeconds(),
                "longer averages the air, shorter follows the gear; 1 to 4 s are usual",
                GuideRules::withExposure);
        number(
                row,
                "settled within, ″",
                "settle",
                rules.settleArcsec().orElse(0.0),
                "0 for half a pixel of the main camera, or twice tonight's air if that is more",
                (r, v) -> r.withSettle(v == 0 ? Optional.empty() : Optional.of(v)));
    }

    private int axis(
            int from, String name, String id, AxisRule rule, BiFunction<GuideRules, AxisRule, GuideRules> with) {
        int row = from;
        Function<GuideRules, AxisRule> of = id.equals("ra") ? GuideRules::ra : GuideRules::dec;
        choice(
                row++,
                name,
                id + "-law",
                GuideLaw.values(),
                rule.law(),
                (r, law) -> with.apply(r, of.apply(r).withLaw(law)));
        number(
                row++,
                "  sent back, %",
                id + "-share",
                100 * rule.share(),
                "of a displacement, at once: more follows gear and wind, less leaves the air alone",
                (r, v) -> with.apply(r, of.apply(r).withShare(v / 100)));
        number(
                row++,
                "  left alone below, ″",
                id + "-least",
                rule.leastMoveArcsec(),
                "a displacement smaller than the air's is no fault of the mount",
                (r, v) -> with.apply(r, of.apply(r).withLeastMove(v)));
        return row;
    }

    private <E extends Way> void choice(
            int row, String name, String id, E[] all, E now, BiFunction<GuideRules, E, GuideRules> with) {
        ChoiceBox<E> box = new ChoiceBox<>();
        box.setId("guide-" + id);
        box.setMinWidth(CHOICE_WIDTH);
        box.getItems().setAll(all);
        box.setConverter(Words.naming(e -> e.word().replace('-', ' ')));
        box.setValue(now);
        box.setOnAction(e -> change(r -> with.apply(r, box.getValue())));
        grid.addRow(row, named(name), box, dim(now.explained()));
    }

    private void number(
            int row,
            String name,
            String id,
            double now,
            String explained,
            BiFunction<GuideRules, Double, GuideRules> with) {
        TextField field = new TextField(Words.number(Math.round(1000 * now) / 1000.0));
        field.setId("guide-" + id);
        field.setPrefWidth(80);
        field.setMaxWidth(80);
        String before = field.getText();
        Runnable take = () -> {
            String text = field.getText().strip().replace(',', '.');
            if (text.equals(before)) {
                return;
            }
            try {
                double value = Double.parseDouble(text);
                change(r -> with.apply(r, value));
            } catch (NumberFormatException e) {
                fault.setText(name.strip() + ": \"" + field.getText() + "\" is not a number.");
                field.setText(before);
            } catch (IllegalArgumentException e) {
                fault.setText(name.strip() + ": " + e.getMessage() + ".");
                field.setText(before);
            }
        };
        field.setOnAction(e -> take.run());
        field.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                take.run();
            }
        });
        grid.addRow(row, named(name), field, dim(explained));
    }

    private void change(UnaryOperator<GuideRules> change) {
        GuideRules before = shown.orElseThrow();
        GuideRules after = change.apply(before);
        fault.setText("");
        if (!after.equals(before)) {
            show(after);
            onChange.accept(after);
        }
    }

    private static Label named(String name) {
        Label label = new Label(name);
        label.setMinWidth(NAME_WIDTH);
        return label;
    }

    private static Label dim(String words) {
        Label label = new Label(words);
        label.getStyleClass().add("dim");
        label.setWrapText(true);
        GridPane.setHgrow(label, Priority.ALWAYS);
        return label;
    }
}
