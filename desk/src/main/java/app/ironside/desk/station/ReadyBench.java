package app.ironside.desk.station;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.RailState;
import app.ironside.desk.night.StandingMark;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.document.ReadyList;
import app.ironside.document.ReadyStep;
import app.ironside.journal.StepProven;
import app.ironside.logbook.Habits;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.Profiles;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.beans.binding.Bindings;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.text.TextAlignment;

/** The written order of steps, filled in as it is proven or confirmed. */
public final class ReadyBench implements Bench, AutoCloseable {
    /** A step that was right on so many nights costs more than it gives. */
    private static final int IDLE_NIGHTS = 30;

    private static final double LONGEST_VALUE = 260;
    private static final double SHORTEST_VALUE = 110;

    private final Supplier<NightModel> model;
    private final Profiles profiles;
    private final VBox steps = new VBox();
    private final ScrollPane scroll = new ScrollPane();
    private final VBox box = new VBox(8);
    private final CheckBox ownHands = new CheckBox("I confirm by hand");
    private final TextField lesson = new TextField();
    private final FlowPane lessons = new FlowPane(6, 4);
    private final Logbook logbook;
    private final BackgroundWork work = new BackgroundWork("lessons");
    private Optional<NightFile> file = Optional.empty();
    private List<Object> shown = List.of();

    /**
     * @param model of the night that runs
     * @param logbook which knows what each lesson found
     */
    public ReadyBench(Supplier<NightModel> model, Profiles profiles, Logbook logbook) {
        this.logbook = logbook;
        this.model = model;
        this.profiles = profiles;
        scroll.setContent(steps);
        scroll.setFitToWidth(true);
        steps.setPadding(new Insets(6));
        VBox.setVgrow(scroll, Priority.ALWAYS);
        ownHands.setId("own-hands");
        ownHands.setOnAction(e -> model.get().setOwnHands(ownHands.isSelected()));
        lesson.setPromptText("A lesson from a bad night, as a step: \u201cheater lead on the second plug\u201d");
        lesson.setId("lesson");
        HBox.setHgrow(lesson, Priority.ALWAYS);
        Button add = new Button("Add as a step");
        add.setMinWidth(Region.USE_PREF_SIZE);
        ownHands.setMinWidth(Region.USE_PREF_SIZE);
        add.setId("add-lesson");
        add.setOnAction(e -> addLesson());
        lesson.setOnAction(e -> addLesson());
        HBox tools = new HBox(8, ownHands, lesson, add);
        tools.setAlignment(Pos.CENTER_LEFT);
        lessons.setId("lessons");
        lessons.managedProperty().bind(Bindings.isNotEmpty(lessons.getChildren()));
        box.getChildren().addAll(scroll, lessons, tools);
    }

    private void addLesson() {
        String text = lesson.getText().strip();
        if (!text.isEmpty()) {
            List<String> lessons = new ArrayList<>(profiles.lessons());
            lessons.add(text);
            profiles.saveLessons(lessons);
            lesson.clear();
            lesson.setPromptText("Added: it is on the list of the next night.");
            listLessons();
        }
    }

    /** Each lesson with what it found so far; one that never found anything is offered to be taken off. */
    private void listLessons() {
        work.ask(progress -> {
                    List<String> all = profiles.lessons();
                    return new Lessons(
                            all, all.isEmpty() ? Map.of() : logbook.habits().lessons());
                })
                .onlyNewest()
                .failed(lesson::setPromptText)
                .then(known -> lessons.getChildren()
                        .setAll(known.all().stream()
                                .map(text -> lessonButton(
                                        text, Optional.ofNullable(known.record().get(text))))
                                .toList()));
    }

    private record Lessons(List<String> all, Map<String, Habits.LessonRecord> record) {}

    private Button lessonButton(String text, Optional<Habits.LessonRecord> record) {
        boolean idle =
                record.filter(r -> r.nights() >= IDLE_NIGHTS && r.found() == 0).isPresent();
        Button off = new Button(
                idle
                        ? Words.format(
                                "\u201c%s\u201d found nothing on %d nights: take it off",
                                text, record.get().nights())
                        : "Take off \u201c" + text + "\u201d");
        off.getStyleClass().add("quiet");
        off.setTooltip(new Tooltip(record.map(r -> Words.format(
                        "Looked at on %d nights, not so on %d of them. Off the list of the next night.",
                        r.nights(), r.found()))
                .orElse("Not looked at so far. Off the list of the next night.")));
        off.setOnAction(e -> {
            List<String> left = new ArrayList<>(profiles.lessons());
            left.remove(text);
            profiles.saveLessons(left);
            listLessons();
        });
        return off;
    }

    @Override
    public void close() {
        work.close();
    }

    /** Whether the person confirms the steps for hands; a night that begins is told so. */
    public boolean isOwnHands() {
        return ownHands.isSelected();
    }

    /** The night whose list is shown. */
    public void setFile(NightFile night) {
        file = Optional.of(night);
        shown = List.of();
        listLessons();
    }

    @Override
    public Node node() {
        return box;
    }

    @Override
    public void show(Look look) {
        if (file.isEmpty()) {
            return;
        }
        ownHands.setVisible(!model.get().isHandsOnly());
        ownHands.setManaged(!model.get().isHandsOnly());
        List<StepProven> events = look.moment().night().all(StepProven.class);
        String asked = look.moment().live() ? model.get().asked() : "";
        List<Object> now = List.of(events.size(), asked, file.get().program().date());
        if (now.equals(shown)) {
            return;
        }
        shown = now;
        NightFile night = file.get();
        ReadyList list = ReadyList.of(night.site(), night.kit(), night.program(), night.lessons());
        List<Node> rows = new ArrayList<>();
        List<StepProven> left = new ArrayList<>(events);
        boolean begun = !events.isEmpty();
        boolean nextFound = false;
        for (ReadyStep step : list.steps()) {
            Optional<StepProven> event = left.stream()
                    .filter(e -> e.subject().equals(step.subject())
                            && (!step.subject().equals("lesson") || e.step().equals(step.what())))
                    .findFirst();
            event.ifPresent(left::remove);
            boolean next = begun && event.isEmpty() && !nextFound;
            nextFound |= next;
            rows.add(row(step, event, next, asked));
        }
        // What is proven later, by the sky itself, or told after a stop.
        left.forEach(e -> rows.add(row(
                new ReadyStep(e.subject(), e.step(), true, Optional.empty(), Optional.empty()),
                Optional.of(e),
                false,
                "")));
        steps.getChildren().setAll(rows);
        list.steps().stream()
                .filter(step -> asked.equals(step.question()))
                .findFirst()
                // Rows have their places once they are laid out.
                .ifPresent(step -> Platform.runLater(
                        () -> bringIntoSight(rows.get(list.steps().indexOf(step)))));
    }

    /** What waits for a word is in the middle of what is seen of the list. */
    private void bringIntoSight(Node row) {
        scroll.applyCss();
        scroll.layout();
        double seen = scroll.getViewportBounds().getHeight();
        double room = steps.getHeight() - seen;
        double middle = row.getBoundsInParent().getCenterY();
        scroll.setVvalue(room <= 0 ? 0 : Math.max(0, Math.min(1, (middle - seen / 2) / room)));
    }

    private HBox row(ReadyStep step, Optional<StepProven> event, boolean next, String asked) {
        StandingMark mark = new StandingMark();
        mark.show(event.map(e -> e.proven() ? RailState.Standing.PASSED : RailState.Standing.FAILED)
                .orElse(next ? RailState.Standing.WORKING : RailState.Standing.WAITING));
        Label subject = new Label(step.subject());
        subject.setMinWidth(118);
        subject.getStyleClass().add("bench-title");
        Label what = new Label(step.what());
        what.setWrapText(true);
        what.getStyleClass().add("dim");
        VBox words = new VBox(1, what);
        boolean waits = asked.equals(step.question());
        if (event.isEmpty()) {
            step.after().ifPresent(order -> {
                Label reason = new Label("after " + order.subject() + ": " + order.reason());
                reason.getStyleClass().add("station-value");
                reason.setWrapText(true);
                words.getChildren().add(reason);
            });
            step.remedy().filter(remedy -> waits).ifPresent(remedy -> {
                Label remedyWords = new Label("if not: " + remedy);
                remedyWords.getStyleClass().add("station-value");
                remedyWords.setWrapText(true);
                words.getChildren().add(remedyWords);
            });
        }
        HBox.setHgrow(words, Priority.ALWAYS);
        HBox row = new HBox(mark, subject, words);
        if (waits) {
            Button done = new Button("It is so");
            done.setId("confirm-step");
            done.getStyleClass().add("chief");
            done.setOnAction(e -> model.get().confirmed());
            Button not = new Button("It is not");
            not.setId("deny-step");
            not.setOnAction(e -> model.get().denied());
            not.setMinWidth(Region.USE_PREF_SIZE);
            done.setMinWidth(Region.USE_PREF_SIZE);
            row.getChildren().addAll(not, done);
        } else {
            Label value =
                    new Label(event.map(StepProven::measured).orElse(step.measured() ? "to be measured" : "by hand"));
            value.getStyleClass().add(event.isPresent() ? "step-value" : "dim");
            // A long answer takes more lines, not more room than there is.
            value.setWrapText(true);
            value.setAlignment(Pos.CENTER_RIGHT);
            value.setTextAlignment(TextAlignment.RIGHT);
            value.setMaxWidth(LONGEST_VALUE);
            value.setMinWidth(SHORTEST_VALUE);
            row.getChildren().add(value);
        }
        row.getStyleClass().add("step");
        return row;
    }
}
