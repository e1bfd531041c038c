package app.ironside.desk.station;

import app.ironside.desk.night.CommandState;
import app.ironside.night.NightControl.GatePolicy;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What can be asked of the running night at this station, when it will be done, and what a gate that is not passed leads to. */
public final class CommandBar extends VBox {
    private static final PseudoClass ALERT = PseudoClass.getPseudoClass("alert");

    private final Label sentence = new Label();
    private final FlowPane buttons = new FlowPane(6, 6);
    private final Button policy = new Button();
    private final TextField reason = new TextField();
    private final BiConsumer<CommandState.Offer, String> onOffer;
    private CommandState shown = CommandState.idle(app.ironside.journal.Stage.PLAN, GatePolicy.GO_ON);
    private List<String> drawn = List.of();

    /**
     * @param onOffer takes what is asked, with the reason that was typed
     * @param onPolicy takes another rule for the station's gate
     */
    public CommandBar(BiConsumer<CommandState.Offer, String> onOffer, Consumer<GatePolicy> onPolicy) {
        this.onOffer = onOffer;
        getStyleClass().add("command-bar");
        setId("command-bar");
        sentence.setId("safe-point");
        sentence.setWrapText(true);
        sentence.setMinHeight(Region.USE_PREF_SIZE);
        HBox.setHgrow(sentence, Priority.ALWAYS);
        sentence.setMaxWidth(Double.MAX_VALUE);
        policy.setId("gate-policy");
        policy.getStyleClass().add("quiet");
        policy.setMinWidth(Region.USE_PREF_SIZE);
        policy.setTooltip(
                new Tooltip("What the night does when this station's gate is not passed; a click changes it"));
        policy.setOnAction(e -> shown.policy().ifPresent(p -> onPolicy.accept(next(p))));
        reason.setId("reason");
        reason.setPromptText("Why, for the journal");
        reason.setPrefColumnCount(22);
        HBox words = new HBox(10, sentence, policy);
        words.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(words, buttons);
    }

    private static GatePolicy next(GatePolicy policy) {
        return GatePolicy.values()[(policy.ordinal() + 1) % GatePolicy.values().length];
    }

    public void show(CommandState state) {
        shown = state;
        sentence.setText(state.sentence());
        sentence.pseudoClassStateChanged(ALERT, state.waits());
        policy.setVisible(state.policy().isPresent());
        policy.setManaged(state.policy().isPresent());
        state.policy().ifPresent(p -> policy.setText(CommandState.words(p)));
        List<String> ids = state.offers().stream().map(o -> o.id() + o.label()).toList();
        if (!ids.equals(drawn)) {
            drawn = ids;
            buttons.getChildren().clear();
            if (state.needsReason()) {
                buttons.getChildren().add(reason);
            }
            state.offers().forEach(o -> buttons.getChildren().add(button(o)));
        }
        boolean anything = !state.offers().isEmpty() || state.policy().isPresent();
        setVisible(anything);
        setManaged(anything);
        buttons.setManaged(!state.offers().isEmpty());
    }

    private Button button(CommandState.Offer offer) {
        Button button = new Button(offer.label());
        button.setId("command-" + offer.id());
        button.setTooltip(new Tooltip("Key " + offer.key()));
        if (offer.chief()) {
            button.getStyleClass().add("chief");
        }
        button.setOnAction(e -> give(offer));
        return button;
    }

    private void give(CommandState.Offer offer) {
        // What is offered under this name now: a safe point may have passed since the button was drawn.
        shown.offers().stream()
                .filter(o -> o.id().equals(offer.id()))
                .findFirst()
                .ifPresent(o -> {
                    onOffer.accept(o, reason.getText().strip());
                    reason.clear();
                });
    }

    /** Gives the command of a key, if the station has one for it. */
    public boolean key(KeyCode code) {
        Optional<CommandState.Offer> offer = shown.offers().stream()
                .filter(o -> code.getName().equals(String.valueOf(o.key())))
                .findFirst();
        offer.ifPresent(this::give);
        return offer.isPresent();
    }
}
