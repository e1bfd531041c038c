package app.ironside.desk.parts;

import app.ironside.sky.SkyNames;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.geometry.Side;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;

/** A field for a place of the sky: an object, a bright star, a place in numbers. What it could mean is offered while it is typed. */
public final class NameField extends TextField {
    private static final int OFFERED = 7;

    private final Supplier<SkyNames> names;
    private final ContextMenu offers = new ContextMenu();
    private boolean taking;

    public NameField(Supplier<SkyNames> names, String id, String prompt) {
        this.names = names;
        setId(id);
        setPromptText(prompt);
        offers.setId(id + "-offers");
        // A click beside the offers does what it would do without them.
        offers.setConsumeAutoHidingEvents(false);
        textProperty().addListener((o, was, is) -> offer(is));
        focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                offers.hide();
            }
        });
    }

    /** What is meant by the text; empty if nothing is known of it. */
    public Optional<SkyNames.Place> meant() {
        return getText().isBlank()
                ? Optional.empty()
                : names.get().find(getText().strip());
    }

    /** Told by Enter, or when an offer is taken. */
    public void setOnMeant(Consumer<String> then) {
        setOnAction(e -> {
            offers.hide();
            then.accept(getText().strip());
        });
    }

    /** Whether something is offered. */
    public boolean isOffering() {
        return offers.isShowing();
    }

    private void offer(String text) {
        if (taking || !isFocused()) {
            return;
        }
        List<SkyNames.Place> found = names.get().like(text, OFFERED);
        if (found.isEmpty() || getScene() == null) {
            offers.hide();
            return;
        }
        offers.getItems().setAll(found.stream().map(this::item).toList());
        if (!offers.isShowing()) {
            offers.show(this, Side.BOTTOM, 0, 0);
        }
    }

    private MenuItem item(SkyNames.Place place) {
        MenuItem item = new MenuItem(place.name());
        item.setOnAction(e -> {
            taking = true;
            setText(place.object().map(o -> o.id()).orElse(place.name()));
            taking = false;
            positionCaret(getText().length());
            fireEvent(new javafx.event.ActionEvent());
        });
        return item;
    }
}
