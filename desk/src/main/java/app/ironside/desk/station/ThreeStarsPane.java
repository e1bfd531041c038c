package app.ironside.desk.station;

import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.point.AlignmentStars;
import app.ironside.sky.Angles;
import app.ironside.sky.NamedStar;
import app.ironside.sky.Observer;
import app.ironside.sky.Sexagesimal;
import app.ironside.sky.StarCatalogue;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Three stars by which a hand controller learns where it looks, when no frame is solved: in large words, one after the other. */
public final class ThreeStarsPane extends VBox {
    private static final String[] WAYS = {
        "north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"
    };

    private final Supplier<StarCatalogue> catalogue;
    private List<NamedStar> stars = List.of();
    private final Label verdict = new Label();
    private final Label sentence = new Label();
    private final VBox rows = new VBox(8);
    private final Button all = new Button("Show hidden ones again");
    private final Set<String> hidden = new HashSet<>();
    private Optional<NightFile> file = Optional.empty();
    private Instant at = Instant.MIN;

    /**
     * @param catalogue the stars that ship; asked for when the pane is first looked at
     */
    public ThreeStarsPane(Supplier<StarCatalogue> catalogue) {
        super(12);
        this.catalogue = catalogue;
        getStyleClass().add("table");
        verdict.getStyleClass().add("verdict");
        verdict.setId("three-stars");
        sentence.getStyleClass().add("sentence");
        sentence.setWrapText(true);
        all.setId("unhide-stars");
        all.setOnAction(e -> {
            hidden.clear();
            choose();
        });
        VBox.setVgrow(rows, Priority.ALWAYS);
        getChildren().addAll(verdict, sentence, rows, all);
    }

    /** The night whose place is meant. */
    public void setFile(NightFile night) {
        file = Optional.of(night);
        at = Instant.MIN;
    }

    /** Stars of a time; they are chosen anew when the sky has turned by a degree. */
    void show(Instant time) {
        if (getScene() == null) {
            return; // another pane of the station is looked at
        }
        if (stars.isEmpty()) {
            stars = NamedStar.of(catalogue.get());
        }
        if (file.isPresent()
                && (at.equals(Instant.MIN) || Duration.between(at, time).abs().compareTo(Duration.ofMinutes(4)) > 0)) {
            at = time;
            choose();
        }
    }

    private void choose() {
        Observer observer = Observer.at(file.orElseThrow().site());
        List<AlignmentStars.Pick> picks = AlignmentStars.choose(observer, at, stars, hidden);
        rows.getChildren().clear();
        all.setVisible(!hidden.isEmpty());
        if (picks.isEmpty()) {
            verdict.setText("No three stars will do now.");
            sentence.setText(
                    "Two on one side of the meridian and one on the other are wanted, 25° to 70° high. Wait, or show hidden ones.");
            return;
        }
        verdict.setText("Centre these three, in this order.");
        sentence.setText(
                "Two on one side of the meridian give the axis, the third what the telescope is not square by. Let the last"
                        + " touch of each key be the same two, so that slack lies on one side. Not needed where frames are solved.");
        for (int i = 0; i < picks.size(); i++) {
            rows.getChildren().add(row(i + 1, picks.get(i)));
        }
    }

    private Node row(int number, AlignmentStars.Pick pick) {
        Label name = new Label(number + "   " + pick.star().name());
        name.getStyleClass().add("verdict");
        name.setMinWidth(230);
        Label where = new Label(Words.format(
                "%s, %.0f° high, magnitude %.1f\n%s",
                WAYS[(int) Math.round(Angles.wrap360(pick.seen().azimuthDeg()) / 45) % WAYS.length],
                pick.seen().altitudeDeg(),
                pick.star().star().magnitude(),
                Sexagesimal.text(pick.place().raDeg(), pick.place().decDeg())));
        where.setWrapText(true);
        where.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(where, Priority.ALWAYS);
        Button hide = new Button("Hidden here");
        hide.setId("hide-star-" + number);
        hide.setMinWidth(Region.USE_PREF_SIZE);
        hide.setOnAction(e -> {
            hidden.add(pick.star().name());
            choose();
        });
        HBox row = new HBox(12, name, where, hide);
        row.setAlignment(Pos.CENTER_LEFT);
        row.getStyleClass().add("step");
        return row;
    }
}
