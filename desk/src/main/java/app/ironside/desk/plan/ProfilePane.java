package app.ironside.desk.plan;

import app.ironside.BadInputException;
import app.ironside.JsonText;
import app.ironside.TextFiles;
import app.ironside.desk.parts.FilePane;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Horizon;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import app.ironside.sky.SkyScale;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The editor of sites and kits: the one place where their values are changed and saved. */
public final class ProfilePane extends VBox {
    /** What is longer is not seen whole in its field. */
    private static final int LONG_VALUE = 12;

    private final PlanDesk plan;
    private final ToggleButton siteButton = new ToggleButton("Site");
    private final ToggleButton kitButton = new ToggleButton("Kit");
    private final ComboBox<String> saved = new ComboBox<>();
    private final GridPane grid = new GridPane();
    private final Label fault = new Label();
    private final HorizonEditor horizon = new HorizonEditor(this::setHorizon);
    private final DriversPane drivers;
    private final Label aboutDrivers = new Label();
    private final TrialBar trial;
    private final ContactBar contacts;
    private boolean filling;
    private String shown = "";

    ProfilePane(PlanDesk plan) {
        super(8);
        this.plan = plan;
        ToggleGroup group = new ToggleGroup();
        siteButton.setToggleGroup(group);
        kitButton.setToggleGroup(group);
        kitButton.setSelected(true);
        siteButton.setId("edit-site");
        kitButton.setId("edit-kit");
        for (ToggleButton button : List.of(siteButton, kitButton)) {
            button.setOnAction(e -> {
                button.setSelected(true);
                shown = "";
                refresh();
            });
        }
        saved.setPromptText("saved ones");
        saved.setId("saved-profiles");
        saved.setOnAction(e -> useSaved());
        Button save = new Button("Save");
        save.setId("save-profile");
        save.getStyleClass().add("chief");
        save.setOnAction(e -> save());
        Button open = new Button("Open file…");
        open.setOnAction(e -> open());
        Button skyline = new Button("Skyline file…");
        skyline.setOnAction(e -> openSkyline());
        skyline.visibleProperty().bind(siteButton.selectedProperty());
        skyline.managedProperty().bind(siteButton.selectedProperty());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox tools = new HBox(8, siteButton, kitButton, saved, gap, skyline, open, save);
        tools.setAlignment(Pos.CENTER_LEFT);
        grid.setHgap(10);
        grid.setVgap(4);
        drivers = new DriversPane(plan.drivers(), kit -> plan.use(plan.file().site(), kit));
        trial = plan.trial();
        contacts = plan.contacts();
        aboutDrivers.setText(drivers.about());
        aboutDrivers.getStyleClass().add("dim");
        aboutDrivers.setWrapText(true);
        ScrollPane scroll = new ScrollPane(new VBox(12, drivers, trial, aboutDrivers, grid));
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        fault.getStyleClass().add("warning");
        fault.setWrapText(true);
        fault.setId("profile-fault");
        // What asks while a mount moves is never scrolled out of sight.
        getChildren().addAll(tools, fault, contacts, scroll, horizon);
    }

    private boolean editsKit() {
        return kitButton.isSelected();
    }

    private ObjectNode tree() {
        return editsKit()
                ? KitFile.tree(plan.file().kit())
                : SiteFile.tree(plan.file().site());
    }

    void refresh() {
        Site site = plan.file().site();
        horizon.setVisible(!editsKit());
        horizon.setManaged(!editsKit());
        for (Node node : List.of(drivers, trial, contacts, aboutDrivers)) {
            node.setVisible(editsKit());
            node.setManaged(editsKit());
        }
        drivers.show(plan.file().kit());
        if (editsKit()) {
            trial.show(plan.file().kit());
            contacts.show(plan.file());
        }
        horizon.show(site.horizon(), site.marginDeg(), site.dome());
        String now = editsKit()
                + tree().toString()
                + plan.profiles().kits().size()
                + plan.profiles().sites().size();
        if (now.equals(shown)) {
            return;
        }
        shown = now;
        filling = true;
        saved.getItems()
                .setAll(
                        editsKit()
                                ? plan.profiles().kits().stream().map(Kit::name).toList()
                                : plan.profiles().sites().stream()
                                        .map(Site::name)
                                        .toList());
        saved.setValue(editsKit() ? plan.file().kit().name() : site.name());
        List<String> broken = plan.profiles().broken();
        if (!broken.isEmpty()) {
            fault.setText("Not read: " + String.join("; ", broken) + ".");
        }
        filling = false;
        fill();
    }

    private void fill() {
        Map<String, String> differences = (editsKit()
                        ? plan.profiles().differences(plan.file().kit())
                        : plan.profiles().differences(plan.file().site()))
                .stream().collect(Collectors.toMap(JsonText.Difference::path, JsonText.Difference::saved, (a, b) -> a));
        grid.getChildren().clear();
        String group = "";
        int row = 0;
        if (editsKit()) {
            grid.add(additions(), 0, row++, 8, 1);
        }
        int column = 0;
        for (ProfileFields.Field field : ProfileFields.of(tree(), editsKit() ? ProfileShape.KIT : ProfileShape.SITE)) {
            if (!field.group().equals(group)) {
                group = field.group();
                row += 1;
                grid.add(heading(field), 0, row, 8, 1);
                row += 1;
                column = 0;
            }
            addField(field, row, column * 4, differences.get(field.dotted()));
            column++;
            if (column == 2) {
                column = 0;
                row++;
            }
        }
    }

    /** The name of a group, with what takes it out of the kit. */
    private HBox heading(ProfileFields.Field first) {
        Label head = new Label(first.group());
        head.getStyleClass().add("bench-title");
        HBox box = new HBox(10, head);
        box.setAlignment(Pos.CENTER_LEFT);
        List<String> path = first.path().subList(0, first.path().size() - 1);
        if (editsKit()) {
            KitParts.ofGroup(path, tree()).ifPresent(part -> {
                Button out = new Button("Take out");
                out.getStyleClass().add("quiet");
                out.setId("take-out-" + String.join("-", path));
                out.setOnAction(e -> change(part.takenFrom(tree(), path)));
                box.getChildren().add(out);
            });
        }
        return box;
    }

    /** What the kit may have more of. */
    private FlowPane additions() {
        Label add = new Label("Add");
        add.getStyleClass().add("dim");
        FlowPane row = new FlowPane(6, 4, add);
        row.setAlignment(Pos.CENTER_LEFT);
        for (KitParts part : KitParts.toAdd(tree())) {
            Button button = new Button(part.words());
            button.getStyleClass().add("narrow");
            button.setId("add-" + part.name().toLowerCase(Locale.ROOT));
            button.setOnAction(e -> change(part.addedTo(tree())));
            row.getChildren().add(button);
        }
        return row;
    }

    private void change(ObjectNode next) {
        try {
            use(next);
            fault.setText("");
        } catch (BadInputException e) {
            fault.setText(e.getMessage() + ".");
        }
    }

    private void addField(ProfileFields.Field field, int row, int column, String savedValue) {
        Label name = new Label(field.name());
        name.getStyleClass().add("dim");
        name.setMinWidth(132);
        TextField value = new TextField(field.value());
        value.setPrefWidth(120);
        if (value.getText().length() > LONG_VALUE) {
            value.setTooltip(new Tooltip(value.getText()));
        }
        field.optional().map(ProfileShape.Kind::unset).ifPresent(value::setPromptText);
        value.setId("field-" + field.dotted().replace('.', '-'));
        value.setOnAction(e -> set(field, value));
        value.focusedProperty().addListener((o, was, is) -> {
            if (!is && !value.getText().equals(field.value())) {
                set(field, value);
            }
        });
        String extra = field.name().equals("sky")
                ? ", class " + SkyScale.classOf(plan.file().site().skyMagPerArcsec2())
                : "";
        Label unit = new Label(field.unit() + extra + (savedValue == null ? "" : "   saved: " + savedValue));
        unit.getStyleClass().add(savedValue == null ? "dim" : "warning");
        unit.setMinWidth(80);
        grid.add(name, column, row);
        grid.add(value, column + 1, row);
        grid.add(unit, column + 2, row);
    }

    private void set(ProfileFields.Field field, TextField value) {
        try {
            use(ProfileFields.with(tree(), field, value.getText()));
            fault.setText("");
        } catch (NumberFormatException e) {
            fault.setText(field.group() + ", " + field.name() + ": \"" + value.getText() + "\" is not a number"
                    + (field.unit().isEmpty() ? "." : "; expected " + field.unit() + "."));
            value.setText(field.value());
        } catch (BadInputException e) {
            fault.setText(e.getMessage() + ".");
            value.setText(field.value());
        } catch (IllegalArgumentException e) {
            fault.setText(field.group() + ", " + field.name() + ": " + e.getMessage() + ".");
            value.setText(field.value());
        }
    }

    private void use(ObjectNode tree) {
        String text = JsonText.write(tree);
        if (editsKit()) {
            plan.use(plan.file().site(), KitFile.parse(text, "kit"));
        } else {
            plan.use(SiteFile.parse(text, "site"), plan.file().kit());
        }
    }

    private void setHorizon(Horizon next) {
        Site s = plan.file().site();
        plan.use(
                new Site(
                        s.name(),
                        s.latDeg(),
                        s.lonDeg(),
                        s.elevationM(),
                        s.zone(),
                        s.skyMagPerArcsec2(),
                        next,
                        s.marginDeg(),
                        s.dome(),
                        s.seeingArcsec()),
                plan.file().kit());
    }

    private void save() {
        Kit kit = plan.file().kit();
        Site site = plan.file().site();
        boolean edits = editsKit();
        plan.saveProfile(profiles -> {
            if (edits) {
                profiles.save(kit);
            } else {
                profiles.save(site);
            }
        });
        shown = "";
    }

    private void useSaved() {
        String name = saved.getValue();
        if (filling || name == null) {
            return;
        }
        if (editsKit()) {
            plan.profiles().kit(name).ifPresent(k -> plan.use(plan.file().site(), k));
        } else {
            plan.profiles().site(name).ifPresent(s -> plan.use(s, plan.file().kit()));
        }
    }

    private void open() {
        FilePane.Ask ask = FilePane.Ask.open(FilePane.Kind.OPEN, editsKit() ? "A kit" : "A site", ".json");
        FilePane.ask(this, ask, files -> open(files.get(0)));
    }

    private void open(Path file) {
        String name = file.getFileName().toString();
        try {
            String text = TextFiles.read(file, "a profile");
            if (editsKit()) {
                plan.use(plan.file().site(), KitFile.parse(text, name));
            } else {
                plan.use(SiteFile.parse(text, name), plan.file().kit());
            }
            fault.setText("");
        } catch (BadInputException e) {
            fault.setText(e.getMessage() + ".");
        }
    }

    private void openSkyline() {
        FilePane.Ask ask = FilePane.Ask.open(FilePane.Kind.OPEN, "A skyline: azimuth and altitude, a line each");
        FilePane.ask(this, ask, files -> openSkyline(files.get(0)));
    }

    private void openSkyline(Path file) {
        try (BufferedReader reader = TextFiles.reader(file, "a skyline")) {
            setHorizon(Horizon.parse(reader, file.getFileName().toString()));
            fault.setText("");
        } catch (IOException | BadInputException e) {
            fault.setText(e.getMessage() + ".");
        }
    }
}
