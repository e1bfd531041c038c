package app.ironside.desk;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.night.NightFile;
import app.ironside.wiring.Wiring;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.stage.FileChooser;

/** Decides what the desk opens with: a night that was left, the demo's night, or a question. */
final class Opening {
    private final DeskView desk;
    private final Wiring wiring;
    private final Logbook logbook;

    Opening(DeskView desk, Wiring wiring, Logbook logbook) {
        this.desk = desk;
        this.wiring = wiring;
        this.logbook = logbook;
    }

    /** The demo: the night of the example under way, or the offer to go on with one that was left. */
    void demo() {
        if (logbook.nights().isEmpty()) {
            DemoNights.importInto(logbook);
            DemoNights.importProfiles(new Profiles(logbook.folder()));
        }
        Optional<NightEntry> left = logbook.unfinished();
        if (left.isEmpty()) {
            beginDemo();
            return;
        }
        desk.openNight(left.get());
        ask(
                "A night was left under way.",
                "All finished subs and the whole journal are here. It can go on from where it stopped.",
                List.of(
                        new StartPane.Choice("go-on", "Go on with the night", () -> goOn(left.get())),
                        new StartPane.Choice("begin-again", "Begin the demo night again", this::beginDemo)));
    }

    private void beginDemo() {
        begin(DemoNights.tonight(), "demo night");
    }

    /** The user's own data. */
    void ownData() {
        Optional<NightEntry> left = logbook.unfinished();
        List<StartPane.Choice> choices = new ArrayList<>();
        left.ifPresent(night -> {
            desk.openNight(night);
            choices.add(new StartPane.Choice("go-on", "Go on with the night that was left", () -> goOn(night)));
        });
        choices.add(new StartPane.Choice("plan-night", "Plan a night", this::plan));
        choices.add(new StartPane.Choice("open-night", "Rehearse a night file…", this::chooseFile));
        choices.add(new StartPane.Choice("rehearse-example", "Rehearse the example night", this::beginDemo));
        if (left.isEmpty() && !logbook.nights().isEmpty()) {
            NightEntry last = logbook.nights().get(logbook.nights().size() - 1);
            desk.openNight(last);
            choices.add(new StartPane.Choice("look-back", "Look at the last night", this::dismiss));
        }
        String drivers = wiring.drivers().isEmpty()
                ? "No driver of a real device is beside the application, so nights are rehearsed against the simulated observatory."
                : "Drivers: "
                        + String.join(
                                ", ",
                                wiring.drivers().stream().map(d -> d.name()).toList()) + ".";
        ask(left.isPresent() ? "A night was left under way." : "Good evening.", drivers, choices);
    }

    /** From the last night, or from the example where there is none. */
    private void plan() {
        dismiss();
        List<NightEntry> nights = logbook.nights();
        String text = nights.isEmpty()
                ? DemoNights.tonight()
                : nights.get(nights.size() - 1).document();
        desk.plan(NightFile.parse(text, "the last night", wiring.objects()));
    }

    private void chooseFile() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("A night to rehearse");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("Night files", "*.json"));
        File file = chooser.showOpenDialog(desk.getScene().getWindow());
        if (file == null) {
            return;
        }
        try {
            begin(TextFiles.read(file.toPath(), "a night file"), file.getName());
        } catch (BadInputException e) {
            dismiss();
            ask(
                    "This night cannot be rehearsed.",
                    e.getMessage(),
                    List.of(new StartPane.Choice("open-night", "Choose another file…", this::chooseFile)));
        }
    }

    private void begin(String text, String name) {
        NightFile night = NightFile.parse(text, name, wiring.objects());
        try {
            wiring.check(night);
        } catch (BadInputException e) {
            throw e.in(name);
        }
        NightEntry entry = logbook.begin(
                night.program().date() + "  " + night.site().name() + ", "
                        + night.program().targets().get(0).name(),
                "night-" + night.program().date() + "-" + (logbook.nights().size() + 1),
                text);
        dismiss();
        desk.rehearse(night, entry);
        desk.followTheNight();
    }

    private void goOn(NightEntry left) {
        dismiss();
        desk.rehearse(NightFile.parse(left.document(), left.title(), wiring.objects()), left);
    }

    private void ask(String heading, String explanation, List<StartPane.Choice> choices) {
        desk.ask(heading, logbook.rescued().map(told -> told + " ").orElse("") + explanation, choices);
    }

    private void dismiss() {
        desk.dismissQuestion();
    }

    /** Where a user's data lies: IRONSIDE_DATA, or the usual place of the system. */
    static Path dataFolder(boolean demo) {
        Path base = Wiring.usersData();
        return demo ? base.resolve("demo") : base;
    }
}
