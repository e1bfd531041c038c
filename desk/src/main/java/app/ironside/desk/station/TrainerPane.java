package app.ironside.desk.station;

import app.ironside.BadInputException;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.Chore;
import app.ironside.desk.parts.Words;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.journal.NightState;
import app.ironside.trainer.Debrief;
import app.ironside.trainer.Exercise;
import app.ironside.trainer.Exercises;
import app.ironside.trainer.ScoreBook;
import app.ironside.wiring.Training;
import app.ironside.wiring.Wiring;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/** Exercises: a night in which something goes wrong is played on the stations, and looked back on here. */
final class TrainerPane implements AutoCloseable {
    private static final String[] GRADES = {"", "shows at once", "grows, or is easily mistaken", "two things"};

    private static final String OWN = "A night of your own";

    private final ScoreBook scores;
    private final Training training;
    private final Supplier<Optional<NightFile>> plan;
    private final Consumer<NightFile> play;
    private final BackgroundWork book = new BackgroundWork("exercises");
    private final Chore chore;
    private final ListView<Listed> list = new ListView<>();
    private final Label title = new Label();
    private final Label told = new Label();
    private final Label points = new Label();
    private final ComboBox<FaultKind> first = named("exercise-named", "what was it?");
    private final ComboBox<FaultKind> second = named("exercise-also", "and what else?");
    private final VBox said = new VBox(6);
    private final Button begin = new Button("Play it");
    private final Button again = new Button("This night's troubles as an exercise");
    private final Button back = new Button("Look back");
    private final VBox box;
    private Optional<NightFile> file = Optional.empty();
    private Optional<NightFile> base = Optional.empty();
    private NightState night = NightState.EMPTY;
    private Optional<Exercise> own = Optional.empty();

    /** An exercise with the most that was reached in it. */
    private record Listed(Exercise exercise, OptionalInt best) {
        String words() {
            return exercise.title()
                    + "\n"
                    + GRADES[exercise.grade()]
                    + (best.isPresent() ? ", " + best.getAsInt() + " points so far" : "");
        }
    }

    /**
     * @param data the user's folder
     * @param plan the night whose kit, site and target are taken
     * @param play begins a night
     * @param walk takes a newcomer through a night, station by station
     */
    TrainerPane(
            Wiring wiring,
            Path data,
            Supplier<Optional<NightFile>> plan,
            Consumer<NightFile> play,
            Consumer<NightFile> walk) {
        this.scores = new ScoreBook(data);
        this.training = new Training(wiring);
        this.plan = plan;
        this.play = play;
        this.chore = new Chore("exercise", busy -> back.setDisable(busy), this::say);
        chore.managedProperty().bind(chore.visibleProperty());
        list.setId("exercises");
        list.setPrefWidth(290);
        list.setMinWidth(230);
        SentenceCell.of(list, Listed::words);
        list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> showChosen());
        title.getStyleClass().add("verdict");
        told.setWrapText(true);
        told.getStyleClass().add("dim");
        points.setId("exercise-points");
        points.getStyleClass().add("live-number");
        begin.setId("play-exercise");
        begin.getStyleClass().add("chief");
        begin.setOnAction(e -> begin());
        again.setId("own-exercise");
        again.setTooltip(
                new Tooltip("What the journal of the night on the desk says went wrong, once more and yours to mend"));
        again.setOnAction(e -> own.ifPresent(this::begin));
        back.setId("debrief");
        back.setTooltip(
                new Tooltip("What happened, when it could be seen, what it cost, and what the policy would have done"));
        back.setOnAction(e -> debrief());
        Button walkThrough = new Button("Walk through a night");
        walkThrough.setId("walk-night");
        walkThrough.setMinWidth(Region.USE_PREF_SIZE);
        walkThrough.setTooltip(
                new Tooltip("The night of your plan, held at each station with what it is for; Space goes on"));
        walkThrough.setOnAction(e -> from().ifPresentOrElse(
                        walk, () -> say("Plan a night first: its kit, site and target are what you walk through.")));
        HBox doing = new HBox(8, begin, again, walkThrough);
        doing.setAlignment(Pos.CENTER_LEFT);
        FlowPane naming = new FlowPane(8, 8, first, second, back);
        naming.setAlignment(Pos.CENTER_LEFT);
        for (Button b : List.of(begin, back, again)) {
            b.setMinWidth(Region.USE_PREF_SIZE);
        }
        ScrollPane scroll = new ScrollPane(said);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        VBox right = new VBox(8, title, told, doing, naming, chore, points, scroll);
        HBox.setHgrow(right, Priority.ALWAYS);
        HBox both = new HBox(10, list, right);
        VBox.setVgrow(both, Priority.ALWAYS);
        box = new VBox(both);
        fill(List.of());
        renew();
    }

    private static ComboBox<FaultKind> named(String id, String asks) {
        ComboBox<FaultKind> box = new ComboBox<>();
        box.setId(id);
        box.setPromptText(asks);
        box.setAccessibleText(asks);
        box.getItems().add(null);
        box.getItems()
                .addAll(Arrays.stream(FaultKind.values())
                        .sorted(Comparator.comparing(FaultKind::sentence))
                        .toList());
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(FaultKind kind) {
                return kind == null ? asks : kind.sentence();
            }

            @Override
            public FaultKind fromString(String text) {
                return null; // nothing is typed here
            }
        });
        box.setMaxWidth(300);
        return box;
    }

    private Set<FaultKind> named() {
        return Stream.of(first.getValue(), second.getValue())
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
    }

    Node node() {
        return box;
    }

    /** The night that is on the desk. */
    void setFile(NightFile shown) {
        file = Optional.of(shown);
        if (shown.training().isEmpty()) {
            base = Optional.of(shown);
        }
    }

    /**
     * The night on the desk.
     *
     * @param whole as far as it went
     */
    void show(NightState whole, ZoneId zone) {
        boolean exercise = file.flatMap(NightFile::training).isPresent();
        if (whole != night) {
            night = whole;
            own = Exercise.of(night, zone, OWN);
        }
        back.setDisable(!exercise || night.subs().isEmpty() || chore.isVisible());
        first.setDisable(back.isDisabled());
        second.setDisable(back.isDisabled());
        again.setDisable(exercise || own.isEmpty());
    }

    /** What was reached is read again. */
    void renew() {
        book.ask(progress -> scores.tries()).onlyNewest().failed(this::say).then(this::fill);
    }

    private void fill(List<ScoreBook.Try> tries) {
        int chosen = Math.max(0, list.getSelectionModel().getSelectedIndex());
        list.getItems()
                .setAll(Exercises.ALL.stream()
                        .map(e -> new Listed(
                                e,
                                tries.stream()
                                        .filter(t -> t.exercise().equals(e.id()))
                                        .mapToInt(ScoreBook.Try::points)
                                        .max()))
                        .toList());
        list.getSelectionModel().select(chosen);
    }

    private void showChosen() {
        Listed chosen = list.getSelectionModel().getSelectedItem();
        if (chosen != null) {
            title.setText(chosen.exercise().title());
            told.setText(chosen.exercise().told());
        }
    }

    private void say(String words) {
        Label label = new Label(words);
        label.setWrapText(true);
        said.getChildren().setAll(label);
    }

    /** Of an exercise that is on the desk, the plan that it was made from; empty while nothing is on it. */
    private Optional<NightFile> from() {
        return plan.get().map(now -> now.training().isPresent() ? base.orElseGet(now::withoutTraining) : now);
    }

    private void begin() {
        Listed chosen = list.getSelectionModel().getSelectedItem();
        if (chosen != null) {
            begin(chosen.exercise());
        }
    }

    private void begin(Exercise exercise) {
        Optional<NightFile> from = from();
        if (from.isEmpty()) {
            say("Plan a night first: its kit, site and target are what an exercise is played with.");
            return;
        }
        points.setText("");
        first.setValue(null);
        second.setValue(null);
        book.ask(progress -> {
                    // Tried again it is another sky; the same one comes by its seed.
                    long tries = scores.tries().stream()
                            .filter(t -> t.exercise().equals(exercise.id()))
                            .count();
                    return Training.night(from.get(), exercise, 1 + tries);
                })
                .failed(this::say)
                .then(night -> {
                    say(
                            "It runs. Look at Guide and Run, and act there; when it is over, or you have had enough, come back here and say what it was.");
                    play.accept(night);
                });
    }

    private static Exercise exerciseOf(NightFile.Training of) {
        return Exercises.named(of.exercise()).orElseGet(() -> new Exercise(of.exercise(), 2, OWN, "", List.of(), ""));
    }

    private void debrief() {
        NightFile played = file.orElseThrow();
        NightFile.Training of = played.training().orElseThrow();
        NightState yours = night;
        Set<FaultKind> named = named();
        chore.begin(
                progress -> {
                    Debrief debrief = training.debrief(played, exerciseOf(of), named, yours, progress);
                    LocalDate on = yours.events()
                            .get(0)
                            .time()
                            .atZone(played.site().zone())
                            .toLocalDate();
                    String unkept = keep(new ScoreBook.Try(of.exercise(), on, of.seed(), debrief.points()));
                    return () -> tell(debrief, unkept);
                },
                () -> say("Stopped."),
                this::say);
    }

    /** Returns why the points are not kept, or nothing. What is named after it was told is no finding. */
    private String keep(ScoreBook.Try made) {
        try {
            return scores.add(made) ? "" : "The points of the first look back at this night stand.";
        } catch (BadInputException | UncheckedIOException e) {
            return "The points are not kept: " + e.getMessage();
        }
    }

    /** @param unkept why the points are not kept, or nothing */
    private void tell(Debrief debrief, String unkept) {
        points.setText(Words.format("%d points", debrief.points()));
        said.getChildren().clear();
        Stream.concat(debrief.sentences().stream(), Stream.of(unkept))
                .filter(sentence -> !sentence.isEmpty())
                .forEach(sentence -> {
                    Label label = new Label(sentence);
                    label.setWrapText(true);
                    label.getStyleClass().add("debrief");
                    said.getChildren().add(label);
                });
        renew();
    }

    @Override
    public void close() {
        chore.close();
        book.close();
    }
}
