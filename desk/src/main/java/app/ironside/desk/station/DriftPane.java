package app.ironside.desk.station;

import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.polar.DriftFinder;
import app.ironside.polar.DriftFinder.DriftSight;
import app.ironside.polar.KnobAdvice;
import app.ironside.polar.KnobGearing;
import app.ironside.polar.PolarError;
import app.ironside.polar.PolarRefusal;
import app.ironside.polar.PolarResult;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.VBox;

/** Alignment by drift: two stars watched with declination not corrected, what each drifted, and what follows for the knobs. */
public final class DriftPane extends VBox {
    private static final double SIGMA_ARCSEC_PER_MINUTE = 0.1;

    private final TextField[][] fields = new TextField[2][3];
    private final Label verdict = new Label();
    private final Label words = new Label();
    private Optional<NightFile> file = Optional.empty();
    private Instant time = Instant.EPOCH;

    DriftPane() {
        super(10);
        getStyleClass().add("table");
        Label how = new Label(
                "Where the pole cannot be seen: guide in right ascension only, and note how far each star goes north (+) or south (−) in a minute.");
        how.setWrapText(true);
        how.getStyleClass().add("sentence");
        GridPane grid = new GridPane();
        grid.setHgap(10);
        grid.setVgap(8);
        String[] heads = {"", "hour angle, ° (west +)", "declination, °", "drift, ″ a minute (north +)"};
        for (int c = 0; c < heads.length; c++) {
            Label label = new Label(heads[c]);
            label.getStyleClass().add("dim");
            grid.add(label, c, 0);
        }
        String[] names = {"near the meridian", "low in the east or west"};
        String[][] usual = {{"0", "5", ""}, {"-75", "5", ""}};
        for (int r = 0; r < 2; r++) {
            grid.add(new Label(names[r]), 0, r + 1);
            for (int c = 0; c < 3; c++) {
                TextField field = new TextField(usual[r][c]);
                field.setPrefWidth(110);
                field.setId("drift-" + r + "-" + c);
                field.textProperty().addListener((o, was, is) -> reckon());
                fields[r][c] = field;
                grid.add(field, c + 1, r + 1);
            }
        }
        grid.setAlignment(Pos.CENTER_LEFT);
        verdict.getStyleClass().add("verdict");
        verdict.setId("drift-verdict");
        words.setWrapText(true);
        words.getStyleClass().add("sentence");
        getChildren().addAll(how, grid, verdict, words);
    }

    void show(NightFile night, Instant at) {
        boolean same = file.filter(f -> f.site().equals(night.site())).isPresent();
        file = Optional.of(night);
        time = at;
        if (!same) {
            reckon();
        }
    }

    private void reckon() {
        if (file.isEmpty()) {
            return;
        }
        Observer observer = Observer.at(file.get().site());
        DriftFinder finder = new DriftFinder(observer);
        List<DriftSight> sights = new ArrayList<>();
        try {
            for (TextField[] row : fields) {
                if (!row[2].getText().isBlank()) {
                    sights.add(sight(observer, row));
                }
            }
        } catch (NumberFormatException e) {
            verdict.setText("Not a number.");
            words.setText("Degrees and arcseconds as figures: 0.8 or −1.2.");
            return;
        } catch (IllegalArgumentException e) {
            verdict.setText("Not on the sky.");
            words.setText(e.getMessage());
            return;
        }
        if (sights.isEmpty()) {
            verdict.setText("No drift noted yet.");
            words.setText("Begin with the star near the meridian: it tells azimuth.");
        } else if (sights.size() == 1) {
            verdict.setText(finder.firstHint(sights.get(0)));
            words.setText("The other star tells the other knob.");
        } else {
            PolarResult result = finder.find(sights);
            if (result instanceof PolarError error) {
                verdict.setText(Words.format("%.1f′ from the pole.", error.totalArcmin()));
                words.setText(KnobAdvice.toRemove(error, KnobGearing.UNKNOWN).sentence());
            } else {
                verdict.setText("The two do not tell it.");
                words.setText(((PolarRefusal) result).reason());
            }
        }
    }

    private DriftSight sight(Observer observer, TextField[] row) {
        double hourAngle = number(row[0]);
        Equatorial star = new Equatorial(Angles.wrap360(observer.siderealTimeDeg(time) - hourAngle), number(row[1]));
        return new DriftSight(star, time, Duration.ofMinutes(1), number(row[2]), SIGMA_ARCSEC_PER_MINUTE);
    }

    private static double number(TextField field) {
        return Double.parseDouble(field.getText().strip().replace('−', '-').replace(',', '.'));
    }
}
