package app.ironside.desk.station;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.picture.PicturePane;
import app.ironside.document.NightFile;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.Stage;
import app.ironside.polar.PolarReticle;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The Polar station: by images, by the reticle, by drift. */
public final class PolarBench implements Bench {
    private static final double GAP = 8;

    private final StarCatalogue stars;
    private final PicturePane picture = new PicturePane("Three exposures will come here.");
    private final PolarRuler ruler = new PolarRuler();
    private final ReticleView reticle = new ReticleView();
    private final CheckBox inverted = new CheckBox("my polar scope turns the view upside down");
    private final DriftPane drift = new DriftPane();
    private final StackPane middle = new StackPane();
    private final VBox box = new VBox(GAP);
    private Optional<NightFile> file = Optional.empty();
    private Optional<PolarReticle> finder = Optional.empty();
    private Optional<Look> last = Optional.empty();

    public PolarBench(StarCatalogue stars) {
        this.stars = stars;
        for (Region r : new Region[] {picture, ruler}) {
            r.setPrefWidth(100);
            HBox.setHgrow(r, Priority.ALWAYS);
        }
        HBox images = new HBox(GAP, picture, ruler);
        VBox byReticle = new VBox(GAP, inverted, reticle);
        VBox.setVgrow(reticle, Priority.ALWAYS);
        inverted.setSelected(true);
        inverted.setId("inverted");
        inverted.setOnAction(e -> last.ifPresent(this::show));
        ToggleGroup group = new ToggleGroup();
        HBox tabs = new HBox(3);
        Node[] panes = {images, byReticle, drift};
        String[] names = {"Images", "Reticle", "Drift"};
        for (int i = 0; i < panes.length; i++) {
            Node pane = panes[i];
            ToggleButton tab = new ToggleButton(names[i]);
            tab.setId("polar-" + names[i].toLowerCase(Locale.ROOT));
            tab.setToggleGroup(group);
            tab.setSelected(i == 0);
            tab.setOnAction(e -> {
                tab.setSelected(true);
                middle.getChildren().setAll(pane);
            });
            tabs.getChildren().add(tab);
        }
        middle.getChildren().setAll(images);
        VBox.setVgrow(middle, Priority.ALWAYS);
        box.getChildren().addAll(tabs, middle);
    }

    /** The night whose place counts. */
    public void setFile(NightFile night) {
        file = Optional.of(night);
        finder = Optional.of(new PolarReticle(Observer.at(night.site()), stars));
    }

    @Override
    public Node node() {
        return box;
    }

    @Override
    public void show(Look look) {
        last = Optional.of(look);
        List<AxisMeasured> errors = look.moment().night().all(AxisMeasured.class);
        int upTo = look.chosen().map(errors::indexOf).filter(i -> i >= 0).orElse(errors.size() - 1);
        double allowed = file.map(f -> f.program().polarLimit(f.kit()).arcmin()).orElse(1.0);
        double limit = look.moment()
                .night()
                .gate(Stage.POLAR)
                .map(g -> g.gate().limit())
                .orElse(allowed);
        List<AxisMeasured> shown = errors.subList(0, upTo + 1);
        boolean good = !shown.isEmpty()
                && shown.get(upTo).totalErrorArcmin() + shown.get(upTo).uncertaintyArcmin() <= limit;
        String advice = shown.isEmpty()
                ? ""
                : good
                        ? "Good enough. Clamp the base gently and leave it."
                        : shown.get(upTo).advice();
        ruler.show(shown, limit, good, advice);
        picture.show(look.shown(), Optional.empty());
        finder.ifPresent(f -> reticle.show(f.at(look.moment().time(), inverted.isSelected())));
        file.ifPresent(f -> drift.show(f, look.moment().time()));
    }
}
