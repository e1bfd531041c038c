package app.ironside.desk.plan;

import app.ironside.JsonText;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.device.DeviceRole;
import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.kit.Sensor;
import app.ironside.night.NightWatcher;
import app.ironside.wiring.CameraTrial;
import app.ironside.wiring.Wiring;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** One frame with the camera's driver, before a night relies on it: what it tells, and whether the kit says the same. */
final class TrialBar extends VBox {
    private final Wiring wiring;
    private final Supplier<NightFile> plan;
    private final Consumer<Kit> use;
    private final BackgroundWork work;
    private final Button take = new Button("Take one frame");
    private final Button takeOver = new Button();
    private final Label said = new Label();
    private Optional<BackgroundWork.Ticket<?>> waiting = Optional.empty();

    TrialBar(Wiring wiring, BackgroundWork work, Supplier<NightFile> plan, Consumer<Kit> use) {
        super(4);
        this.wiring = wiring;
        this.work = work;
        this.plan = plan;
        this.use = use;
        take.setId("try-camera");
        take.setMinWidth(USE_PREF_SIZE);
        take.setOnAction(e -> toggle());
        takeOver.setId("take-sensor-size");
        said.setId("trial-said");
        said.setWrapText(true);
        HBox.setHgrow(said, Priority.ALWAYS);
        HBox row = new HBox(10, take, said);
        row.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(row, takeOver);
        offer(Optional.empty());
    }

    /** A trial is of the kit's own driver: there must be one. */
    void show(Kit kit) {
        boolean chosen = kit.equipment().drivers().containsKey(DeviceRole.CAMERA.word());
        setVisible(chosen);
        setManaged(chosen);
    }

    private void toggle() {
        if (waiting.isPresent()) {
            waiting.get().cancel();
            return;
        }
        NightFile file = plan.get();
        take.setText("Stop waiting");
        said.setText("The camera is waited for: let it take a frame.");
        offer(Optional.empty());
        NightWatcher person = new NightWatcher() {
            @Override
            public void wanted(String what) {
                if (!what.isEmpty()) {
                    Platform.runLater(() -> said.setText(what + "."));
                }
            }
        };
        waiting = Optional.of(
                work.<CameraTrial>ask(progress -> wiring.tryCamera(file, DeviceRole.CAMERA, person, progress))
                        .failed(why -> over(why + "."))
                        .cancelled(() -> over("No frame was waited for any longer."))
                        .then(trial -> {
                            over(trial.sentence());
                            offer(Optional.of(trial));
                        }));
    }

    private void over(String words) {
        waiting = Optional.empty();
        take.setText("Take one frame");
        said.setText(words.replaceAll("\\.+$", "."));
    }

    /** Where the frame is of another size than the kit's sensor, its size can be taken over. */
    private void offer(Optional<CameraTrial> trial) {
        Optional<CameraTrial> differs =
                trial.filter(t -> !isOfSize(plan.get().kit().sensor(), t));
        differs.ifPresent(t -> {
            Sensor sensor = plan.get().kit().sensor();
            takeOver.setText("The kit says " + sensor.widthPx() + " x " + sensor.heightPx() + " px: take " + t.width()
                    + " x " + t.height() + " into the kit");
            takeOver.setOnAction(e -> {
                ObjectNode tree = KitFile.tree(plan.get().kit());
                ((ObjectNode) tree.at("/sensor")).put("widthPx", t.width()).put("heightPx", t.height());
                use.accept(KitFile.parse(JsonText.write(tree), "kit"));
                offer(Optional.empty());
            });
        });
        takeOver.setVisible(differs.isPresent());
        takeOver.setManaged(differs.isPresent());
    }

    private static boolean isOfSize(Sensor sensor, CameraTrial trial) {
        return sensor.widthPx() == trial.width() && sensor.heightPx() == trial.height();
    }
}
