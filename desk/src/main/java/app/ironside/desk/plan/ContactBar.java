package app.ironside.desk.plan;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.plan.TargetPlan;
import app.ironside.point.ContactWalk;
import app.ironside.point.GuardedMount;
import app.ironside.wiring.Wiring;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** By day, beside the telescope: the mount goes piece by piece past the meridian, and whoever stands there says of each place what is. */
final class ContactBar extends VBox {
    /** Targets so near to each other are walked once. */
    private static final double APART_DEG = 5;

    private static final String CAUTION = String.format(
            Locale.ROOT,
            "By day: cap on, and never toward the Sun (a slew within %.0f° of it is refused). Balance and clutches first, somebody beside the"
                    + " telescope all the time, a hand at the switch.",
            GuardedMount.SUN_DEG);

    private final Wiring wiring;
    private final Supplier<NightFile> plan;
    private final Consumer<Kit> use;
    private final BackgroundWork work;
    private final Button begin = new Button("Find where it touches");
    private final TextField declinations = new TextField();
    private final Label said = new Label();
    private final Label question = new Label();
    private final Button free = new Button("All free here");
    private final Button touches = new Button("It touches, or nearly");
    private final Button stop = new Button("Stop");
    private final Button takeOver = new Button("Take into the kit");
    private final FlowPane answers = new FlowPane(10, 6, free, touches, stop);
    private Optional<BackgroundWork.Ticket<?>> walking = Optional.empty();
    private CompletableFuture<Boolean> answer = new CompletableFuture<>();
    private String proposed = "";

    ContactBar(Wiring wiring, BackgroundWork work, Supplier<NightFile> plan, Consumer<Kit> use) {
        super(6);
        this.wiring = wiring;
        this.work = work;
        this.plan = plan;
        this.use = use;
        begin.setId("walk-contacts");
        begin.setMinWidth(USE_PREF_SIZE);
        begin.setOnAction(e -> begin());
        declinations.setId("contact-declinations");
        declinations.setPrefWidth(160);
        question.setId("contact-question");
        question.getStyleClass().add("trouble-headline");
        question.setWrapText(true);
        said.setId("contacts-said");
        said.setWrapText(true);
        said.managedProperty().bind(said.textProperty().isNotEmpty());
        // The scrolled values below give way, not what is said here.
        question.setMinHeight(USE_PREF_SIZE);
        said.setMinHeight(USE_PREF_SIZE);
        setMinHeight(USE_PREF_SIZE);
        free.setId("contact-free");
        free.getStyleClass().add("chief");
        free.setOnAction(e -> answer.complete(true));
        touches.setId("contact-touches");
        touches.setOnAction(e -> answer.complete(false));
        stop.setId("contact-stop");
        stop.setOnAction(e -> stop());
        takeOver.setId("take-contacts");
        takeOver.getStyleClass().add("chief");
        Label at = new Label("at the declinations");
        at.getStyleClass().add("dim");
        Label unit = new Label("°");
        unit.getStyleClass().add("dim");
        FlowPane row = new FlowPane(10, 6, begin, at, declinations, unit);
        row.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(row, said, question, answers, takeOver);
        asking(false);
        shown(takeOver, false);
    }

    /** Only what moves by motors about two axes can be walked; by hand the angles are typed. */
    void show(NightFile file) {
        boolean walks = file.kit().equipment().goTo();
        setVisible(walks);
        setManaged(walks);
        String own = ofTargets(file);
        if (walking.isEmpty()
                && (declinations.getText().isBlank() || declinations.getText().equals(proposed))) {
            declinations.setText(own);
        }
        proposed = own;
    }

    private static String ofTargets(NightFile file) {
        List<Double> apart = new ArrayList<>();
        file.program().targets().stream()
                .map(TargetPlan::position)
                .mapToDouble(p -> Math.rint(p.decDeg()))
                .sorted()
                .filter(d -> apart.stream().noneMatch(a -> Math.abs(a - d) < APART_DEG))
                .forEach(apart::add);
        return apart.stream().map(d -> String.format(Locale.ROOT, "%.0f", d)).collect(Collectors.joining(", "));
    }

    private Optional<List<Double>> asked() {
        try {
            List<Double> all = java.util.Arrays.stream(declinations.getText().split("[,; ]+"))
                    .filter(t -> !t.isBlank())
                    .map(Double::valueOf)
                    .toList();
            return all.isEmpty() || all.stream().anyMatch(d -> !(Math.abs(d) <= 90))
                    ? Optional.empty()
                    : Optional.of(all);
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private void begin() {
        Optional<List<Double>> at = asked();
        if (at.isEmpty()) {
            said.setText(
                    "\"" + declinations.getText()
                            + "\" is no list of declinations; expected degrees from -90 to 90 with commas between, such as 30, 65.");
            return;
        }
        NightFile file = plan.get();
        boolean own = Wiring.movesOwnMount(file);
        said.setText(
                CAUTION
                        + (own
                                ? ""
                                : " This kit has no driver for its mount: a simulated one moves, to show how it goes, and nothing of it is kept."));
        shown(takeOver, false);
        begin.setDisable(true);
        question.setText("The mount is being connected…");
        asking(true);
        waitingForEyes(false);
        walking = Optional.of(
                work.<List<ContactWalk.Found>>ask(progress -> wiring.walkContacts(file, at.get(), this::eyes, progress))
                        .step((what, done) -> question.setText(what + "…"))
                        .failed(why -> over(why + "."))
                        .cancelled(() -> over("Stopped. The mount stands still where it is; nothing was kept."))
                        .then(found -> {
                            over(found.stream().map(ContactWalk.Found::text).collect(Collectors.joining("\n")));
                            offer(file, found, own);
                        }));
    }

    /** Called where the mount is moved, and waits there. */
    private boolean eyes(ContactWalk.Place place) throws InterruptedException {
        CompletableFuture<Boolean> asked = new CompletableFuture<>();
        Platform.runLater(() -> {
            answer = asked;
            question.setText("It stands " + place.words() + ". Is everything free, a hand's breadth and cables too?");
            waitingForEyes(true);
        });
        try {
            return asked.get();
        } catch (ExecutionException e) {
            throw new IllegalStateException(e);
        } finally {
            Platform.runLater(() -> waitingForEyes(false));
        }
    }

    private void stop() {
        walking.ifPresent(BackgroundWork.Ticket::cancel);
        answer.cancel(false);
    }

    private void over(String words) {
        walking = Optional.empty();
        begin.setDisable(false);
        asking(false);
        said.setText(words.replaceAll("\\.+$", "."));
    }

    private void offer(NightFile file, List<ContactWalk.Found> found, boolean own) {
        boolean any = found.stream().anyMatch(f -> f.limit().isPresent());
        if (!own) {
            said.setText(said.getText() + "\nOf a simulated mount: not taken into the kit.");
        }
        takeOver.setOnAction(e -> {
            Kit kit = plan.get().kit();
            use.accept(kit.withEquipment(kit.equipment()
                    .withContacts(ContactWalk.merged(kit.equipment().contacts(), found))));
            shown(takeOver, false);
        });
        shown(takeOver, own && any && plan.get().kit().name().equals(file.kit().name()));
    }

    private void asking(boolean is) {
        shown(question, is);
        shown(answers, is);
    }

    private void waitingForEyes(boolean is) {
        free.setDisable(!is);
        touches.setDisable(!is);
    }

    private static void shown(Node node, boolean is) {
        node.setVisible(is);
        node.setManaged(is);
    }
}
