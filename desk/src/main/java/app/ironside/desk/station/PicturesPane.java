package app.ironside.desk.station;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.document.Project;
import app.ironside.logbook.Gathering;
import app.ironside.logbook.Logbook;
import app.ironside.sky.DeepSkyCatalogue;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What is being gathered over many nights: hours kept and wanted by filter, what is left, and the first picture beside the last. */
final class PicturesPane extends HBox implements AutoCloseable {
    private final Logbook logbook;
    private final DeepSkyCatalogue objects;
    private final Supplier<Optional<NightFile>> plan;
    private final BackgroundWork work = new BackgroundWork("pictures");
    private final ListView<Gathering> list = new ListView<>();
    private final Label headline = new Label();
    private final Label sentence = new Label();
    private final Label filters = new Label();
    private final Plot growth = new Plot();
    private final TwoPictures pictures = new TwoPictures();
    private final ReportTools.OfProject report = new ReportTools.OfProject();

    /** All that is told of a target. */
    private record Answer(Project of, String sentence, Optional<GreyPicture> before, Optional<GreyPicture> now) {}

    /**
     * @param plan on the desk, whose wishes are the newest; empty while there is none
     * @param onNight shows a night, by its number in the logbook
     */
    PicturesPane(Logbook logbook, DeepSkyCatalogue objects, Supplier<Optional<NightFile>> plan, LongConsumer onNight) {
        super(10);
        this.logbook = logbook;
        this.objects = objects;
        this.plan = plan;
        setId("pictures");
        Label title = new Label("Targets");
        list.setTooltip(new Tooltip("Double click opens the last night that kept light of it"));
        title.getStyleClass().add("bench-title");
        list.setId("gathered");
        list.setPrefWidth(290);
        list.setMinWidth(220);
        SentenceCell.of(list, g -> g.target() + "   " + Words.format("%.1f h", g.hoursKept()));
        list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> look(is));
        list.setOnMouseClicked(e -> {
            Gathering picked = list.getSelectionModel().getSelectedItem();
            if (picked != null && e.getClickCount() == 2) {
                onNight.accept(picked.nights().get(picked.nights().size() - 1).night());
            }
        });
        VBox.setVgrow(list, Priority.ALWAYS);
        VBox left = new VBox(6, title, list);
        headline.getStyleClass().add("verdict");
        headline.setId("gathered-headline");
        sentence.setId("gathered-sentence");
        filters.setId("gathered-filters");
        filters.getStyleClass().add("dim");
        for (Label l : List.of(headline, sentence, filters)) {
            l.setWrapText(true);
            l.setMinHeight(Region.USE_PREF_SIZE);
        }
        growth.setPrefHeight(190);
        growth.setMinHeight(150);
        VBox.setVgrow(pictures, Priority.ALWAYS);
        VBox right = new VBox(6, headline, sentence, filters, report, pictures, growth);
        HBox.setHgrow(right, Priority.ALWAYS);
        getChildren().addAll(left, right);
    }

    /** Asks the logbook again. */
    void renew() {
        String chosen = Optional.ofNullable(list.getSelectionModel().getSelectedItem())
                .map(Gathering::target)
                .orElse("");
        work.ask(progress -> Project.all(logbook, objects))
                .failed(headline::setText)
                .then(found -> {
                    list.getItems().setAll(found);
                    if (found.isEmpty()) {
                        headline.setText("No night has kept light so far.");
                    } else {
                        list.getSelectionModel()
                                .select(found.stream()
                                        .filter(g -> g.target().equals(chosen))
                                        .findFirst()
                                        .orElse(found.get(0)));
                    }
                });
    }

    private void look(Gathering of) {
        if (of == null) {
            return;
        }
        Optional<NightFile> onDesk = plan.get();
        work.ask(progress -> {
                    Project project = Project.of(of, logbook, objects, onDesk, LocalDate.now());
                    Optional<Gathering.Night> first = of.baseline();
                    Optional<Gathering.Night> last = of.latest().filter(n -> !n.equals(first.orElse(null)));
                    return new Answer(
                            project,
                            project.sentence(),
                            first.flatMap(n -> picture(of, n)),
                            last.flatMap(n -> picture(of, n)));
                })
                .onlyNewest()
                .failed(sentence::setText)
                .then(this::show);
    }

    private static Optional<GreyPicture> picture(Gathering of, Gathering.Night night) {
        return night.picture()
                .flatMap(file -> GreyPicture.read(
                        file,
                        Words.format(
                                "%s: that night's stack; %.1f h in all by then", night.date(), of.hoursUntil(night))));
    }

    private void show(Answer a) {
        Gathering of = a.of().of();
        Map<String, Double> wanted = a.of().wanted();
        headline.setText(a.of().title());
        sentence.setText(a.sentence());
        report.show(a.of());
        List<String> words = new ArrayList<>();
        for (String filter : a.of().filters()) {
            double kept = of.kept().getOrDefault(filter, 0.0);
            words.add(
                    wanted.containsKey(filter)
                            ? Words.format("%s %.1f of %.1f h", filter, kept, wanted.get(filter))
                            : Words.format("%s %.1f h", filter, kept));
        }
        filters.setText(String.join("   ", words));
        List<double[]> points = new ArrayList<>();
        points.add(new double[] {0, 0});
        double sum = 0;
        for (int i = 0; i < of.nights().size(); i++) {
            sum += of.nights().get(i).hoursKept();
            points.add(new double[] {i + 1.0, sum});
        }
        growth.show(new Plot.State(
                "Hours of light kept, night by night",
                Plot.State.NIGHTS,
                "hours",
                List.of(new Plot.Curve("kept", points, Plot.Ink.ACCENT, Plot.Style.BOTH)),
                List.of(),
                false));
        pictures.show(a.before(), a.now());
    }

    /** Whether what is shown is what was asked. */
    boolean isReady() {
        return work.isIdle() && report.isReady();
    }

    @Override
    public void close() {
        work.close();
        report.close();
    }
}
