package app.ironside.desk;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.TextFiles;
import app.ironside.desk.parts.FilePane;
import app.ironside.desk.session.Nights;
import app.ironside.document.FirstNight;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** Decides what the desk opens with: a night that was left, the demo's night, or a question. */
final class Opening {
    private final DeskView desk;
    private final Wiring wiring;
    private final Found found;

    /**
     * What lies in the logbook.
     *
     * @param left a night that was left under way and can go on
     * @param kind how that one was begun
     * @param rescued what had to be mended of it, in words
     */
    record Found(
            Logbook logbook,
            Optional<NightEntry> left,
            Nights.Kind kind,
            List<NightEntry> nights,
            Optional<String> rescued) {
        /** Reads it; not on the interface thread. */
        static Found in(Logbook logbook) {
            Optional<NightEntry> left = logbook.unfinished();
            Nights.Kind kind =
                    left.flatMap(logbook::provenance).map(Found::kind).orElse(Nights.Kind.REHEARSAL);
            // A night that was only looked on at went on without us.
            return new Found(
                    logbook, left.filter(n -> kind != Nights.Kind.WATCHED), kind, logbook.nights(), logbook.rescued());
        }

        private static Nights.Kind kind(Provenance began) {
            return switch (began) {
                case REAL, BY_FOLDER -> Nights.Kind.LIVE;
                case WATCHED -> Nights.Kind.WATCHED;
                case REHEARSED -> Nights.Kind.REHEARSAL;
            };
        }

        /** The night to be shown first. */
        Optional<NightEntry> first() {
            return left.or(() -> nights.isEmpty() ? Optional.empty() : Optional.of(nights.get(nights.size() - 1)));
        }
    }

    Opening(DeskView desk, Wiring wiring, Found found) {
        this.desk = desk;
        this.wiring = wiring;
        this.found = found;
    }

    /**
     * The demo: its night under way, which goes on. The desk does not follow it back to Ready, through which it goes again.
     *
     * @param onceDrawn runs what is to be done when the night as it was left is seen
     */
    void demo(Consumer<Runnable> onceDrawn) {
        desk.choose(Stage.RUN);
        onceDrawn.accept(() -> {
            found.left().ifPresentOrElse(this::goOn, this::beginDemo);
            desk.beginnings().complete(found.logbook(), DemoNights::complete);
        });
    }

    private void beginDemo() {
        begin(DemoNights.tonight(), "demo night");
    }

    private void walkThroughDemo() {
        dismiss();
        desk.walk(NightFile.parse(DemoNights.tonight(), "demo night", wiring.objects()));
    }

    /** The user's own data. */
    void ownData() {
        Optional<NightEntry> left = found.left();
        List<NightEntry> nights = found.nights();
        List<StartPane.Choice> choices = new ArrayList<>();
        left.ifPresent(night -> {
            choices.add(new StartPane.Choice("go-on", "Go on with the night that was left", () -> {
                goOn(night);
                desk.followTheNight();
            }));
        });
        choices.add(new StartPane.Choice("plan-night", "Plan a night", this::plan));
        choices.add(new StartPane.Choice("open-night", "Rehearse a night file…", this::chooseFile));
        choices.add(new StartPane.Choice("rehearse-example", "Rehearse the example night", this::beginDemo));
        if (nights.isEmpty()) {
            choices.add(new StartPane.Choice(
                    "walk-example", "Walk through the example night, station by station", this::walkThroughDemo));
        }
        if (left.isEmpty() && !nights.isEmpty()) {
            choices.add(new StartPane.Choice("look-back", "Look at the last night", this::dismiss));
        }
        String drivers =
                "Nights are rehearsed against the simulated observatory; real devices are connected at Plan, Site and kit. Drivers: "
                        + String.join(
                                ", ",
                                wiring.drivers().stream().map(d -> d.name()).toList()) + ".";
        ask(left.isPresent() ? "A night was left under way." : "Good evening.", drivers, choices);
    }

    /** From the last night, tonight; somebody who has none yet is asked where they are and what they own. */
    private void plan() {
        dismiss();
        List<NightEntry> nights = found.nights();
        if (nights.isEmpty()) {
            desk.questions().show(new FirstNightPane(LocalDate.now(), this::planFirst, this::ownData));
            return;
        }
        NightFile last = NightFile.parse(nights.get(nights.size() - 1).document(), "the last night", wiring.objects());
        desk.beginnings().plan(last.notBefore(LocalDate.now()));
    }

    /** The first night's first target is what stands best in it. */
    private void planFirst(FirstNight first, LocalDate date) {
        // Whatever is wrong with the answers is said while they can be changed.
        first.site();
        first.kit();
        desk.questions().dismiss();
        desk.beginnings().planFirst(first, date, desk.planDesk().profiles());
    }

    private void chooseFile() {
        FilePane.Ask ask = FilePane.Ask.open(FilePane.Kind.OPEN, "A night to rehearse", ".json");
        FilePane.ask(desk, ask, files -> rehearse(files.get(0)));
    }

    private void rehearse(Path file) {
        try {
            begin(TextFiles.read(file, "a night file"), file.getFileName().toString());
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
        dismiss();
        desk.beginnings().rehearse(night, Optional.empty());
        desk.followTheNight();
    }

    private void goOn(NightEntry left) {
        dismiss();
        desk.beginnings().goOn(found.kind(), NightFile.parse(left.document(), left.title(), wiring.objects()), left);
    }

    private void ask(String heading, String explanation, List<StartPane.Choice> choices) {
        desk.questions().ask(heading, found.rescued().map(told -> told + " ").orElse("") + explanation, choices);
    }

    private void dismiss() {
        desk.questions().dismiss();
    }

    /** Where a user's data lies: IRONSIDE_DATA, or the usual place of the system. */
    static Path dataFolder(boolean demo) {
        Path base = Wiring.usersData();
        return demo ? base.resolve("demo") : base;
    }
}
