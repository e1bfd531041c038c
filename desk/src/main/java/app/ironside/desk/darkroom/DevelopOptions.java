package app.ironside.desk.darkroom;

import app.ironside.darkroom.Darkroom;
import app.ironside.stack.Drizzle;
import app.ironside.stack.Rejection;
import app.ironside.stack.StackSettings;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;

/** How lights are developed: what a person chooses beside the lights themselves. */
final class DevelopOptions extends FlowPane {
    private final ComboBox<String> rejection = new ComboBox<>();
    private final CheckBox keepAll =
            box("darkroom-keep-all", "keep all", "Every light with stars of the field, whatever its verdict");
    private final CheckBox crop = box(
            "darkroom-crop", "cut edges", "One rectangle for all filters of a target, which nearly all lights reach");
    private final CheckBox maps = box(
            "darkroom-maps",
            "maps",
            "Beside each stack, what every pixel is made of: subs, share left out, weight, noise");
    private final CheckBox scaleDarks = box(
            "darkroom-scale-darks",
            "scale darks",
            "Where no dark has the lights' exposure: one of another, scaled above the bias, if the sensor's glow and hot pixels allow it");
    private final TextField colour = new TextField();
    private final ComboBox<Grain> grain = new ComboBox<>();

    /** Onto which pixels lights are laid. */
    private enum Grain {
        AS_TAKEN("interpolated", 1),
        HALF_MORE("drizzle 1.5 ×", 1.5),
        TWICE("drizzle 2 ×", 2),
        THRICE("drizzle 3 ×", 3);

        private final String words;
        private final double scale;

        Grain(String words, double scale) {
            this.words = words;
            this.scale = scale;
        }

        Optional<Drizzle> drizzle() {
            return this == AS_TAKEN ? Optional.empty() : Optional.of(Drizzle.usual(scale));
        }

        @Override
        public String toString() {
            return words;
        }
    }

    DevelopOptions() {
        super(8, 6);
        rejection.setId("darkroom-rejection");
        rejection
                .getItems()
                .setAll(Arrays.stream(Rejection.values()).map(Rejection::word).toList());
        rejection.setValue(Rejection.WINSORIZED.word());
        rejection.setTooltip(
                new Tooltip("How values that do not belong are left out at each pixel: trails, hits, hot pixels"));
        grain.setId("darkroom-grain");
        grain.getItems().setAll(Grain.values());
        grain.setValue(Grain.AS_TAKEN);
        grain.setTooltip(new Tooltip(
                "Drops onto finer pixels: where a dozen dithered lights and more have narrow stars. The result tells what it"
                        + " gained and what it cost; it takes longer and more room"));
        colour.setId("darkroom-colour");
        colour.setPromptText("colour of: R,G,B");
        colour.setPrefWidth(130);
        colour.setMinWidth(112);
        // In a narrow window they take a second row.
        setMinWidth(360);
        setPrefWrapLength(760);
        rejection.setMinWidth(USE_PREF_SIZE);
        grain.setMinWidth(USE_PREF_SIZE);
        setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(rejection, grain, keepAll, crop, maps, scaleDarks, colour);
    }

    private static CheckBox box(String id, String text, String what) {
        CheckBox box = new CheckBox(text);
        box.setId(id);
        box.setTooltip(new Tooltip(what));
        box.setMinWidth(USE_PREF_SIZE);
        return box;
    }

    /** Whether onto finer pixels, and what that promises for some lights; told again whenever the choice is another. */
    void onGrain(Consumer<Optional<Drizzle>> told) {
        grain.setOnAction(e -> told.accept(grain.getValue().drizzle()));
    }

    /** What is wrong with them, in words. */
    Optional<String> wrong() {
        if (maps.isSelected() && grain.getValue() != Grain.AS_TAKEN) {
            return Optional.of("Maps are of interpolated stacks: choose maps or drizzle.");
        }
        return combinations().stream().anyMatch(c -> c.size() < 2 || c.size() > 4)
                ? Optional.of(
                        "Colour is made of two to four filters, by commas: R,G,B, or L,R,G,B with the luminance first.")
                : Optional.empty();
    }

    private List<List<String>> combinations() {
        return colour.getText().isBlank()
                ? List.of()
                : List.of(Arrays.stream(colour.getText().split(","))
                        .map(String::strip)
                        .filter(f -> !f.isEmpty())
                        .toList());
    }

    /** @param byHand lights that a person keeps or leaves out */
    Darkroom.Settings settings(Map<Path, Boolean> byHand) {
        Rejection school = Arrays.stream(Rejection.values())
                .filter(r -> r.word().equals(rejection.getValue()))
                .findFirst()
                .orElse(Rejection.WINSORIZED);
        Set<Darkroom.Extra> extras = EnumSet.noneOf(Darkroom.Extra.class);
        if (crop.isSelected()) {
            extras.add(Darkroom.Extra.CROP);
        }
        if (maps.isSelected()) {
            extras.add(Darkroom.Extra.MAPS);
        }
        if (scaleDarks.isSelected()) {
            extras.add(Darkroom.Extra.SCALED_DARKS);
        }
        return new Darkroom.Settings(
                school,
                keepAll.isSelected(),
                byHand,
                StackSettings.USUAL_MEMORY_BYTES,
                combinations(),
                extras,
                grain.getValue().drizzle());
    }
}
