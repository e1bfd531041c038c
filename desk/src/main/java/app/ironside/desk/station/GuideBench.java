package app.ironside.desk.station;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.PlotStates;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.FilePane;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.PicturePane;
import app.ironside.desk.plan.GuideRulesPane;
import app.ironside.desk.reckon.Intent;
import app.ironside.document.NightFile;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideLog;
import app.ironside.guide.GuideRules;
import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideSpectrum;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.journal.Command;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuiderSet;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.NightEvent;
import app.ironside.journal.UnguidedWatched;
import app.ironside.kit.Kit;
import app.ironside.sky.Interval;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The star's way, live and of each sub; how the guider was calibrated; by which rules it guides; and before and after of a change. */
final class GuideBench implements Bench, AutoCloseable {
    private static final double GAP = 8;
    private static final Duration LIVE = Duration.ofMinutes(4);

    /** What can be tried against what is in force, with hands or without. */
    private enum Change {
        LAW_RA("right ascension by another law"),
        LAW_DEC("declination by another law"),
        LONGER("exposures twice as long"),
        MANY("many stars, or one"),
        HANDS("something that hands change: a filter, balance, a cable");

        private final String words;

        Change(String words) {
            this.words = words;
        }
    }

    private final GuideLanes trace = new GuideLanes();
    private final CalibrationView calibration = new CalibrationView();
    private final GuideRulesPane rules;
    private final PicturePane picture = new PicturePane("The guide camera's field will come here.");
    private final Plot bySub = new Plot();
    private final Plot periods = new Plot();
    private Optional<Kit> kit = Optional.empty();
    private Optional<UnguidedWatched> swung = Optional.empty();
    private final StackPane upper = new StackPane(trace);
    private final BackgroundWork work = new BackgroundWork("guide record");
    private final Label said = new Label();
    private final ToggleButton choose = new ToggleButton("Choose the star");
    private final ChoiceBox<Change> change = new ChoiceBox<>();
    private final TextField what = new TextField();
    private final TextField minutes = new TextField("10");
    private final Label results = new Label();
    private final Consumer<Command> command;
    private final HBox toggles = new HBox(3);
    private final Plot unguided = new Plot();
    private final HBox below;
    private final VBox box;
    private GuideRules inForce = GuideRules.USUAL;
    private List<GuideSample> all = List.of();

    /**
     * @param intents takes other rules, for the plan and the night that runs
     * @param command is given to the night that runs
     */
    GuideBench(Consumer<Intent> intents, Consumer<Command> command) {
        this.command = command;
        below = new HBox(GAP, picture, bySub);
        periods.show(PlotStates.periods(List.of(), ""));
        rules = new GuideRulesPane(r -> intents.accept(new Intent.GuideByRules(r)), true);
        ToggleGroup group = new ToggleGroup();
        toggle(toggles, group, "Trace", "guide-trace", trace).setSelected(true);
        toggle(toggles, group, "Calibration", "guide-calibration", calibration);
        toggle(toggles, group, "Periods", "guide-periods", periods);
        toggle(toggles, group, "Rules", "guide-rules-tab", rules);
        toggle(toggles, group, "Before and after", "guide-compare", compare());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button export = new Button("Record as CSV…");
        export.setId("guide-export");
        export.setOnAction(e -> export());
        said.getStyleClass().add("dim");
        choose.setId("guide-choose");
        choose.setTooltip(new Tooltip("Then click a star in the guide camera's picture"));
        toggles.getChildren().addAll(gap, said, choose, export);
        for (Region half : new Region[] {picture, bySub}) {
            half.setPrefWidth(100);
            HBox.setHgrow(half, Priority.ALWAYS);
        }
        below.setPrefHeight(210);
        below.setMinHeight(180);
        VBox.setVgrow(upper, Priority.ALWAYS);
        picture.view().setOnPicked((x, y) -> {
            if (choose.isSelected()) {
                choose.setSelected(false);
                command.accept(new Command.PickGuideStar(x, y));
                said.setText("Asked of the night that runs.");
            }
        });
        VBox.setVgrow(unguided, Priority.ALWAYS);
        box = new VBox(GAP, toggles, upper, below);
    }

    private ToggleButton toggle(HBox into, ToggleGroup group, String words, String id, Node shown) {
        ToggleButton button = new ToggleButton(words);
        button.setId(id);
        button.setToggleGroup(group);
        button.setOnAction(e -> {
            button.setSelected(true);
            upper.getChildren().setAll(shown);
            // What is filled in needs the room.
            boolean looks = shown == trace || shown == calibration || shown == periods;
            below.setVisible(looks);
            below.setManaged(looks);
        });
        into.getChildren().add(button);
        return button;
    }

    /** What is changed, for how long, and the button. */
    private Node compare() {
        change.setId("compare-change");
        change.getItems().setAll(Change.values());
        change.setConverter(Words.naming(c -> c.words));
        change.setValue(Change.LAW_RA);
        what.setId("compare-what");
        what.setPromptText("what hands change, in words");
        what.setPrefColumnCount(26);
        what.disableProperty().bind(change.valueProperty().isNotEqualTo(Change.HANDS));
        minutes.setId("compare-minutes");
        minutes.setPrefColumnCount(4);
        Button begin = new Button("Begin");
        begin.setId("compare-begin");
        begin.setOnAction(e -> begin());
        FlowPane row = new FlowPane(8, 8, change, what, minutes, new Label("minutes a run"), begin);
        Label how = new Label(
                "As it is, changed, as it is, changed, at one place in the sky: the air changes in between, and only what holds in both turns"
                        + " counts. Runs of ten minutes tell a tenth apart seldom; the answer may be \"open\", with how long it would take. No"
                        + " subs are taken meanwhile.");
        how.setWrapText(true);
        how.getStyleClass().add("sentence");
        results.setId("compare-results");
        results.setWrapText(true);
        VBox pane = new VBox(12, how, row, results);
        pane.setId("guide-comparison");
        return pane;
    }

    private void begin() {
        try {
            int each = Integer.parseInt(minutes.getText().strip());
            if (each < 2 || each > 60) {
                throw new NumberFormatException();
            }
            command.accept(asked(each));
            said.setText("Asked of the night that runs.");
        } catch (NumberFormatException e) {
            said.setText("Minutes: a whole number from 2 to 60.");
        } catch (IllegalArgumentException e) {
            said.setText(Words.capital(e.getMessage()) + ".");
        }
    }

    private Command.CompareGuiding asked(int each) {
        GuideRules r = inForce;
        return switch (change.getValue()) {
            case LAW_RA -> {
                GuideLaw other = other(r.ra().law(), GuideLaw.FORESEEING);
                yield new Command.CompareGuiding(
                        "right ascension " + other.word(), each, Optional.of(r.withRa(r.ra().withLaw(other))));
            }
            case LAW_DEC -> {
                GuideLaw other = other(r.dec().law(), GuideLaw.LOW_PASS);
                yield new Command.CompareGuiding(
                        "declination " + other.word(),
                        each,
                        Optional.of(r.withDec(r.dec().withLaw(other))));
            }
            case LONGER -> new Command.CompareGuiding(
                    Words.format("exposures of %s s", Words.number(2 * r.exposureSeconds())),
                    each,
                    Optional.of(r.withExposure(Math.min(30, 2 * r.exposureSeconds()))));
            case MANY -> {
                GuideRules.Stars other =
                        r.stars() == GuideRules.Stars.MANY ? GuideRules.Stars.ONE : GuideRules.Stars.MANY;
                yield new Command.CompareGuiding(
                        other == GuideRules.Stars.MANY ? "many stars" : "one star",
                        each,
                        Optional.of(r.withStars(other)));
            }
            case HANDS -> new Command.CompareGuiding(
                    what.getText().isBlank()
                            ? "what was changed"
                            : what.getText().strip(),
                    each,
                    Optional.empty());
        };
    }

    private static GuideLaw other(GuideLaw now, GuideLaw wanted) {
        return now == wanted ? GuideLaw.PROPORTIONAL : wanted;
    }

    /** All guide exposures of the night up to the moment that is shown, as `guiding` reads them. */
    private void export() {
        List<GuideSample> samples = all;
        if (samples.isEmpty()) {
            said.setText("There is nothing to write yet.");
            return;
        }
        FilePane.ask(
                box,
                FilePane.Ask.save("The guide record as a table", "guiding.csv", Optional.empty()),
                files -> work.ask(progress -> {
                            Destination.file(files.get(0), "the table", List.of());
                            byte[] csv = GuideLog.csv(samples).getBytes(StandardCharsets.UTF_8);
                            AtomicFile.write(files.get(0), out -> out.write(csv));
                            return files.get(0);
                        })
                        .failed(said::setText)
                        .then(file -> said.setText("Written: " + file)));
    }

    /** A kit that nothing guides has no trace: what its gear and axis allow stands in its place. */
    void setFile(NightFile night) {
        if (kit.filter(night.kit()::equals).isEmpty()) {
            kit = Optional.of(night.kit());
            boolean guided = night.kit().guideOptics().isPresent();
            if (!guided) {
                unguided.show(PlotStates.roundShares(night.kit(), night.site()));
            }
            box.getChildren().setAll(guided ? List.of(toggles, upper, below) : List.of(unguided));
        }
        if (all.isEmpty()) {
            inForce = night.program().guiding();
            rules.show(inForce);
        }
    }

    @Override
    public Node node() {
        return box;
    }

    @Override
    public void show(Look look) {
        all = look.moment().guiding();
        Optional<PlotStates.Stretch> stretch = look.chosen()
                .flatMap(PlotStates::stretch)
                .or(() -> live(look))
                .or(() -> look.moment().night().events().stream()
                        .flatMap(e -> PlotStates.stretch(e).stream())
                        .reduce((a, b) -> b));
        trace.show(stretch.map(s -> lanes(s, look)).orElse(GuideLanes.State.EMPTY));
        calibration.show(look.moment().evidence(look.chosen(), GuiderCalibrated.class));
        look.moment().night().last(GuiderSet.class).map(GuiderSet::rules).ifPresent(r -> {
            if (!r.equals(inForce)) {
                inForce = r;
                rules.show(r);
            }
        });
        showPeriods(look);
        results.setText(look.moment().night().all(GuidingCompared.class).stream()
                .map(GuidingCompared::text)
                .collect(Collectors.joining("\n")));
        bySub.show(PlotStates.guidingBySub(look.moment()));
        picture.show(look.shown(), Optional.empty());
    }

    /** How the gear swings, in the last record that nothing corrected; fitted beside the interface, once for each. */
    private void showPeriods(Look look) {
        Optional<UnguidedWatched> watched = look.moment().evidence(look.chosen(), UnguidedWatched.class);
        if (watched.equals(swung)) {
            return;
        }
        swung = watched;
        if (watched.isEmpty()) {
            periods.show(PlotStates.periods(List.of(), ""));
            return;
        }
        List<GuideSample> samples =
                List.copyOf(look.moment().guided(watched.get().span()));
        work.ask(progress -> GuideSpectrum.of(samples, GuideSample::raArcsec))
                .failed(said::setText)
                .then(found ->
                        periods.show(PlotStates.periods(found, watched.get().target())));
    }

    /** The last minutes of a night that is under way. */
    private static Optional<PlotStates.Stretch> live(Look look) {
        if (!look.moment().live() || look.moment().guiding().isEmpty()) {
            return Optional.empty();
        }
        Interval last =
                new Interval(look.moment().time().minus(LIVE), look.moment().time());
        return look.moment().guided(last).size() < 2
                ? Optional.empty()
                : Optional.of(new PlotStates.Stretch("Guiding now", last));
    }

    private static GuideLanes.State lanes(PlotStates.Stretch stretch, Look look) {
        List<GuideSample> samples = look.moment().guided(stretch.span());
        List<Double> changes = samples.isEmpty()
                ? List.of()
                : look.moment().night().all(GuiderSet.class).stream()
                        .map(NightEvent::time)
                        .filter(t -> !t.isBefore(samples.get(0).time())
                                && !t.isAfter(samples.get(samples.size() - 1).time()))
                        .map(t -> Duration.between(samples.get(0).time(), t).toMillis() / 1000.0)
                        .toList();
        return new GuideLanes.State(
                stretch.title(), samples, look.arcsecPerPixel(), PlotStates.excursions(samples), changes);
    }

    @Override
    public void close() {
        work.close();
    }
}
