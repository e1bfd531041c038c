package app.ironside.desk.plan;

import app.ironside.desk.parts.FilePane;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceRole;
import app.ironside.kit.Equipment.DriverChoice;
import app.ironside.kit.Kit;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;

/** What connects each device of a kit on a real night: a driver, and where the device is. A rehearsal needs none. */
final class DriversPane extends GridPane {
    private static final String NONE = "none";
    private static final String HANDS = "by hand";

    private final List<DeviceDriver> drivers;
    private final Consumer<Kit> use;
    private Optional<Kit> shown = Optional.empty();

    DriversPane(List<DeviceDriver> drivers, Consumer<Kit> use) {
        this.drivers = drivers;
        this.use = use;
        setId("drivers");
        setHgap(10);
        setVgap(4);
    }

    void show(Kit kit) {
        if (shown.filter(kit::equals).isPresent()) {
            return;
        }
        shown = Optional.of(kit);
        getChildren().clear();
        Label head = new Label("connected on a real night by");
        head.getStyleClass().add("bench-title");
        add(head, 0, 0, 4, 1);
        int row = 1;
        for (DeviceRole role : roles(kit)) {
            addRole(kit, role, row++);
        }
    }

    /** The devices that the kit has, or could have. */
    private static Set<DeviceRole> roles(Kit kit) {
        Set<DeviceRole> roles = EnumSet.allOf(DeviceRole.class);
        if (kit.guideOptics().isEmpty()) {
            roles.remove(DeviceRole.GUIDE_CAMERA);
        }
        if (kit.motorFocuser().isEmpty()) {
            roles.remove(DeviceRole.FOCUSER);
        }
        if (!kit.equipment().goTo()) {
            roles.remove(DeviceRole.MOUNT);
        }
        if (!kit.equipment().rotator()) {
            roles.remove(DeviceRole.ROTATOR);
        }
        return roles;
    }

    /** What is without a driver is moved by hand, or is not there. */
    private static String without(DeviceRole role) {
        return role == DeviceRole.FILTER_WHEEL || role == DeviceRole.FLAT_PANEL ? HANDS : NONE;
    }

    private void addRole(Kit kit, DeviceRole role, int row) {
        Label name = new Label(role.word());
        name.getStyleClass().add("dim");
        name.setMinWidth(116);
        Optional<DriverChoice> chosen =
                Optional.ofNullable(kit.equipment().drivers().get(role.word()));
        List<String> names = new ArrayList<>();
        names.add(without(role));
        drivers.stream()
                .filter(d -> d.roles().contains(role))
                .map(DeviceDriver::name)
                .forEach(names::add);
        chosen.map(DriverChoice::driver).filter(d -> !names.contains(d)).ifPresent(names::add);
        ComboBox<String> choice = new ComboBox<>();
        choice.getItems().setAll(names);
        choice.setValue(chosen.map(DriverChoice::driver).orElse(without(role)));
        choice.setId("driver-" + role.word().replace(' ', '-'));
        choice.setMinWidth(208);
        TextField address = new TextField(chosen.map(DriverChoice::address).orElse(""));
        address.setPromptText(byFolder(choice.getValue()) ? "the folder that its frames come into" : "address");
        address.setId("address-" + role.word().replace(' ', '-'));
        address.setDisable(chosen.isEmpty());
        GridPane.setHgrow(address, Priority.ALWAYS);
        choice.setOnAction(e -> set(role, choice.getValue(), address.getText()));
        address.setOnAction(e -> set(role, choice.getValue(), address.getText()));
        address.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                set(role, choice.getValue(), address.getText());
            }
        });
        add(name, 0, row);
        add(choice, 1, row);
        add(address, 2, row);
        if (byFolder(choice.getValue())) {
            Button folder = new Button("Folder…");
            folder.setId("folder-" + role.word().replace(' ', '-'));
            folder.setOnAction(e -> FilePane.ask(
                    this,
                    FilePane.Ask.open(
                            FilePane.Kind.FOLDER, "The folder that the " + role.word() + "'s frames come into"),
                    files -> set(role, choice.getValue(), files.get(0).toString())));
            add(folder, 3, row);
        }
    }

    private boolean byFolder(String driver) {
        return drivers.stream().anyMatch(d -> d.name().equals(driver) && d.isByFolder());
    }

    private void set(DeviceRole role, String driver, String address) {
        Kit kit = shown.orElseThrow();
        Map<String, DriverChoice> next = new HashMap<>(kit.equipment().drivers());
        if (driver.equals(without(role))) {
            next.remove(role.word());
        } else {
            next.put(role.word(), new DriverChoice(driver, address.strip()));
        }
        if (!next.equals(kit.equipment().drivers())) {
            use.accept(kit.withEquipment(kit.equipment().withDrivers(next)));
        }
    }

    /** What a driver says of itself, for whoever asks which to take. */
    String about() {
        return drivers.stream()
                .map(d -> d.name() + ": " + d.about())
                .reduce("", (a, b) -> a.isEmpty() ? b : a + "\n" + b);
    }
}
