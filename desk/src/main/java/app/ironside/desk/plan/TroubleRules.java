package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.plan.Ending;
import app.ironside.plan.Patience;
import app.ironside.plan.Program;
import app.ironside.plan.Reactions;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Region;

/** The part of Rules that says what the night may do by itself when something is wrong, and how it ends. */
final class TroubleRules {
    private static final double NAME_WIDTH = 210;

    private final PlanDesk plan;
    private final GridPane grid;

    /** A switch of what the night may do. */
    private record Switch(
            String id,
            String name,
            Function<Reactions, Boolean> is,
            BiFunction<Reactions, Boolean, Reactions> with,
            String price) {}

    private static final List<Switch> SWITCHES = List.of(
            new Switch(
                    "rule-react-focus",
                    "stars swell: focus again",
                    Reactions::refocus,
                    Reactions::withRefocus,
                    "two minutes; without it subs stay soft until the next run that is due"),
            new Switch(
                    "rule-react-heat",
                    "glass gets wet: heaters on",
                    Reactions::heat,
                    Reactions::withHeat,
                    "costs power; a battery may not have it to spare"),
            new Switch(
                    "rule-react-guide",
                    "the guider follows what is no star: another star",
                    Reactions::guideAnew,
                    Reactions::withGuideAnew,
                    "two minutes of settling"),
            new Switch(
                    "rule-react-centre",
                    "knocked, or another field: point again",
                    Reactions::recentre,
                    Reactions::withRecentre,
                    "two minutes; whoever knocked is asked by the alert"),
            new Switch(
                    "rule-react-target",
                    "time is free: the best other target",
                    Reactions::nextTarget,
                    Reactions::withNextTarget,
                    "what was skipped by hand or given up is not begun again"));

    TroubleRules(PlanDesk plan, GridPane grid) {
        this.plan = plan;
        this.grid = grid;
    }

    /** Adds the rows; returns the next free one. */
    int add(int from) {
        int row = from;
        grid.add(title("When something is wrong"), 0, row++, 4, 1);
        for (Switch each : SWITCHES) {
            CheckBox box = new CheckBox(each.name());
            box.setId(each.id());
            box.setSelected(each.is().apply(program().reactions()));
            box.setOnAction(
                    e -> plan.setRules(p -> p.withReactions(each.with().apply(p.reactions(), box.isSelected()))));
            grid.add(box, 0, row, 3, 1);
            grid.add(price(each.price()), 3, row++);
        }
        row = addPatience(row);
        row = addElsewhere(row);
        row = addSky(row);
        grid.add(title("The end of the night"), 0, row++, 4, 1);
        row = addOrder(row);
        CheckBox disconnect = new CheckBox("let go of the devices at the end");
        disconnect.setId("rule-end-disconnect");
        disconnect.setSelected(program().ending().disconnect());
        disconnect.setOnAction(
                e -> plan.setRules(p -> p.withEnding(p.ending().withDisconnect(disconnect.isSelected()))));
        grid.add(disconnect, 0, row, 3, 1);
        grid.add(price("their power can be cut then; heaters are switched off either way"), 3, row++);
        return addCopy(row);
    }

    private Program program() {
        return plan.file().program();
    }

    private int addPatience(int from) {
        Patience now = program().reactions().giveUp();
        boolean byWindow = now.how() == Patience.How.WINDOW;
        CheckBox box = new CheckBox("nothing good for as long as is left of its time: give up");
        box.setId("rule-react-giveup-window");
        box.setSelected(byWindow);
        box.setOnAction(e -> {
            Patience next = box.isSelected() ? Patience.OF_THE_WINDOW : Reactions.USUAL.giveUp();
            plan.setRules(p -> p.withReactions(p.reactions().withGiveUp(next)));
        });
        grid.add(box, 0, from, 3, 1);
        grid.add(
                price(
                        "what has lasted so long is as likely as not to last longer than that; minutes that are set do not"
                                + " know how much is left"),
                3,
                from);
        return byWindow ? from + 1 : addPatienceInMinutes(from + 1, now);
    }

    private int addPatienceInMinutes(int row, Patience now) {
        return addLimit(
                row,
                "rule-react-giveup",
                "nothing good for so long: give up",
                "min",
                Optional.of(String.valueOf(now.minutes())).filter(m -> now.how() == Patience.How.MINUTES),
                text -> {
                    Patience patience = text.map(t -> Patience.ofMinutes(Integer.parseInt(t)))
                            .orElse(Patience.ENDLESS);
                    return r -> r.withGiveUp(patience);
                },
                "minutes from 10 to 1440",
                "then another target, or bed for the telescope; \"never\" goes on until dawn");
    }

    private int addElsewhere(int row) {
        return addMinutes(
                row,
                "rule-react-elsewhere",
                "cloud for so long: look at another target",
                Reactions::elsewhereAfterMinutes,
                Reactions::withElsewhereAfterMinutes,
                "minutes from 5 to 1440",
                "three minutes a look; a target or stand-in whose stars have three quarters of their light is taken for up to 90 min");
    }

    private int addMinutes(
            int row,
            String id,
            String name,
            Function<Reactions, Optional<Integer>> is,
            BiFunction<Reactions, Optional<Integer>, Reactions> with,
            String expected,
            String price) {
        return addLimit(
                row,
                id,
                name,
                "min",
                is.apply(program().reactions()).map(String::valueOf),
                text -> {
                    Optional<Integer> minutes = text.map(Integer::valueOf);
                    return r -> with.apply(r, minutes);
                },
                expected,
                price);
    }

    private int addSky(int row) {
        return addLimit(
                row,
                "rule-react-sky",
                "sky so many times its darkest: leave",
                "times",
                program().reactions().leaveAboveSky().map(Words::number),
                text -> {
                    Optional<Double> times = text.map(t -> Double.valueOf(t.replace(',', '.')));
                    return r -> r.withLeaveAboveSky(times);
                },
                "1.1 to 100 times",
                "two subs in a row against their own series; Moon, town or dawn: the rest of it is for another night");
    }

    /**
     * A row with a number, or "never".
     *
     * @param value the present one; empty for never
     * @param change what a text makes of the reactions; empty for never
     * @param expected in words, where that fails
     */
    private int addLimit(
            int row,
            String id,
            String name,
            String unit,
            Optional<String> value,
            Function<Optional<String>, UnaryOperator<Reactions>> change,
            String expected,
            String price) {
        String before = value.orElse("never");
        TextField field = field(id, before, 80);
        Runnable take = () -> {
            String text = field.getText().strip();
            if (text.equals(before)) {
                return;
            }
            try {
                UnaryOperator<Reactions> step = change.apply(
                        Optional.of(text).filter(t -> !t.isEmpty() && !t.equals("never") && !t.equals("0")));
                // Refuses what is out of range before the plan is touched.
                Objects.requireNonNull(step.apply(Reactions.USUAL));
                plan.setRules(p -> p.withReactions(step.apply(p.reactions())));
            } catch (IllegalArgumentException e) {
                plan.say(name + ": \"" + text + "\" is not understood; expected " + expected + ", or never.");
                field.setText(before);
            }
        };
        field.setOnAction(e -> take.run());
        field.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                take.run();
            }
        });
        grid.addRow(row, name(name), field, dim(unit), price(price));
        return row + 1;
    }

    private int addOrder(int row) {
        ChoiceBox<Ending.Order> order = new ChoiceBox<>();
        order.setId("rule-end-order");
        // No wider than its two columns: what stands beside it begins there.
        order.setMinWidth(0);
        order.setMaxWidth(Double.MAX_VALUE);
        order.setPrefWidth(140);
        order.getItems().setAll(Ending.Order.values());
        order.setConverter(Words.naming(Ending.Order::words));
        order.setValue(program().ending().order());
        order.setOnAction(e -> plan.setRules(p -> p.withEnding(p.ending().withOrder(order.getValue()))));
        grid.add(name("in this order"), 0, row);
        grid.add(order, 1, row, 2, 1);
        grid.add(
                price(
                        order.getValue() == Ending.Order.PARK_FIRST
                                ? "safest: warming takes minutes, and nothing tracks meanwhile"
                                : "for a telescope that is covered where it stands; it stands still meanwhile"),
                3,
                row);
        return row + 1;
    }

    private int addCopy(int row) {
        String value = program().ending().copyTo().orElse("");
        TextField field = field("rule-end-copy", value, 240);
        field.setPromptText("no second copy");
        Runnable take = () -> {
            String text = field.getText().strip();
            if (!text.equals(value)) {
                plan.setRules(p ->
                        p.withEnding(p.ending().withCopyTo(text.isEmpty() ? Optional.empty() : Optional.of(text))));
            }
        };
        field.setOnAction(e -> take.run());
        field.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                take.run();
            }
        });
        grid.add(name("second copy in folder"), 0, row);
        grid.add(field, 1, row, 2, 1);
        grid.add(price("each finished frame is copied there and proven by its sum while the night goes on"), 3, row);
        return row + 1;
    }

    private static TextField field(String id, String value, double width) {
        TextField field = new TextField(value);
        field.setId(id);
        field.setPrefWidth(width);
        field.setMinWidth(64);
        return field;
    }

    private static Label title(String words) {
        Label label = new Label(words);
        label.getStyleClass().add("bench-title");
        return label;
    }

    private static Label name(String words) {
        Label label = new Label(words);
        label.setMinWidth(NAME_WIDTH);
        label.setMaxWidth(NAME_WIDTH);
        label.setWrapText(true);
        label.setMinHeight(Region.USE_PREF_SIZE);
        return label;
    }

    private static Label dim(String words) {
        Label label = new Label(words);
        label.getStyleClass().add("dim");
        return label;
    }

    private static Label price(String words) {
        Label label = dim(words);
        label.setWrapText(true);
        return label;
    }
}
