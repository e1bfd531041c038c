package app.ironside.desk;

import app.ironside.Workers;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.session.RunningNight;
import app.ironside.device.Mount;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.MasterMade;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TroubleSeen;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.logbook.SubFact;
import app.ironside.wiring.Wiring;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalTime;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.FutureTask;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javax.imageio.ImageIO;

/** Runs the demo night without a window and writes each main view as a PNG. */
final class Pictures {
    /** The station that shows the palette for the eyes at night. */
    private static final Stage IN_RED = Stage.RUN;

    private static final int WIDTH = 1280;
    private static final int HEIGHT = 800;
    private static final int TRIES = 300;

    private Pictures() {}

    /** Renders into a folder; returns an exit code. */
    static int render(Path folder) {
        try {
            Files.createDirectories(folder);
            CountDownLatch started = new CountDownLatch(1);
            Platform.startup(started::countDown);
            started.await();
            Path data = Files.createTempDirectory("ironside-pictures");
            System.err.println("ironside: the demo night runs through without a window; this takes some minutes");
            new Rendering(folder, data).run();
            Platform.exit();
            try (var files = Files.walk(data)) {
                for (Path path :
                        files.sorted(java.util.Comparator.reverseOrder()).toList()) {
                    Files.delete(path);
                }
            }
            return 0;
        } catch (IOException e) {
            System.err.println("ironside: " + folder + " cannot be written: " + e.getMessage());
            return 2;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return 1;
        }
    }

    /** So many lights show a night by folder. */
    private static final int WATCHED = 24;

    private static final class Rendering {
        private final Path folder;
        private final Path data;
        private Wiring wiring;
        private DeskView desk;
        private Scene scene;

        Rendering(Path folder, Path data) {
            this.folder = folder;
            this.data = data;
        }

        void run() throws InterruptedException {
            wiring = new Wiring(Workers.ALL_CORES);
            Logbook logbook = Logbook.open(data);
            DemoNights.importEarlier(logbook);
            Profiles profiles = new Profiles(logbook.folder());
            DemoNights.importProfiles(profiles);
            NightFile night = NightFile.parse(DemoNights.tonight(), "demo night", wiring.objects());
            NightEntry entry = logbook.begin(
                    night.program().date() + "  " + night.site().name() + ", M 33", "tonight", night.text());
            onToolkit(() -> {
                DeskApp.prepareToolkit();
                desk = new DeskView(
                        wiring, logbook, profiles, new DeskSettings(WIDTH, HEIGHT, Palette.DUSK, Stage.RUN, 0));
                scene = new Scene(desk, WIDTH, HEIGHT);
                // A stage is needed for the styles of some controls; it is drawn into memory only.
                javafx.stage.Stage stage = new javafx.stage.Stage();
                stage.setScene(scene);
                stage.show();
                desk.beginnings().rehearse(night, Optional.of(entry));
            });
            while (!ask(
                    () -> desk.nights().running().filter(RunningNight::isDone).isPresent())) {
                Thread.sleep(500);
            }
            NightState state = ask(() -> desk.model().night());
            for (Stage stage : Stage.values()) {
                if (stage != IN_RED) {
                    write(stage.title().toLowerCase(Locale.ROOT), stage, evidence(stage, state));
                }
            }
            writeAllNights();
            for (PlanDesk.Tab tab :
                    List.of(PlanDesk.Tab.FRAMING, PlanDesk.Tab.SEASON, PlanDesk.Tab.EXPOSURE, PlanDesk.Tab.PROFILES)) {
                onToolkit(() -> desk.planDesk().setTab(tab));
                settle(() -> desk.planDesk().isBusy());
                write("plan-" + tab.title().toLowerCase(Locale.ROOT).replace(' ', '-'), Stage.PLAN, Optional.empty());
            }
            writeRehearsal();
            writeInspection(entry, state);
            writeDarkroom(entry);
            onToolkit(() -> desk.setPalette(Palette.RED));
            write(IN_RED.title().toLowerCase(Locale.ROOT), IN_RED, evidence(IN_RED, state));
            onToolkit(() -> desk.setPalette(Palette.PAPER));
            onToolkit(() -> {
                desk.choose(Stage.STACK);
                desk.showStars();
            });
            settle(() -> !desk.starsPane().isMapReady());
            write("stars-paper");
            writeWatched(entry, state);
            onToolkit(desk::close);
        }

        /** Some of the night's lights as another program's, in a folder that is watched. */
        private void writeWatched(NightEntry entry, NightState night) throws InterruptedException {
            Path incoming = data.resolve("incoming");
            List<SubTaken> some =
                    night.subs().stream().filter(SubTaken::full).limit(WATCHED).toList();
            try {
                Files.createDirectories(incoming);
                for (SubTaken sub : some) {
                    Path file = entry.folder().resolve(sub.file());
                    Files.copy(file, incoming.resolve(file.getFileName()));
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            onToolkit(() -> {
                desk.station(Stage.RUN.ordinal() + 1);
                desk.take(List.of(incoming));
                ((Button) desk.lookup("#watch-folder")).fire();
            });
            while (ask(() -> !desk.isSettled() || desk.model().night().subs().size() < some.size())) {
                Thread.sleep(200);
            }
            onToolkit(() -> {
                desk.choose(Stage.RUN);
                desk.backToNow();
            });
            write("run-by-folder");
        }

        /** A hundred nights of the plan, with a fault of its own. */
        private void writeRehearsal() throws InterruptedException {
            onToolkit(() -> {
                desk.planDesk().setTab(PlanDesk.Tab.REHEARSAL);
                desk.planDesk().setFaults(all -> all.add(new RehearsedFault(FaultKind.DEW, LocalTime.of(23, 40))));
            });
            settle(() -> !desk.planDesk().isSettled());
            onToolkit(() -> desk.planDesk().obey(new Intent.RehearseManyTimes()));
            while (ask(() -> desk.planDesk().isRehearsing())) {
                Thread.sleep(500);
            }
            write("plan-rehearsal", Stage.PLAN, Optional.empty());
        }

        private void writeInspection(NightEntry entry, NightState night) throws InterruptedException {
            Optional<SubTaken> sub = sub(night);
            if (sub.isPresent()) {
                onToolkit(() -> {
                    desk.inspect(List.of(entry.folder().resolve(sub.get().file())));
                    ((TextField) desk.inspection().lookup("#nudge-target")).setText("NGC 7331");
                });
                settle(() -> desk.inspection().shown().isEmpty());
                write("inspect");
                onToolkit(() -> ((Button) desk.inspection().lookup("#keep-stars")).fire());
                settle(() -> wiring.shelf().holding().own() == 0);
                onToolkit(() -> ((Button) desk.inspection().lookup("#close-inspect")).fire());
            }
        }

        /** The night's own frames in the darkroom, judged. */
        @SuppressWarnings("unchecked")
        private void chooseFact(String box, SubFact fact) {
            ((ComboBox<SubFact>) desk.lookup(box)).setValue(fact);
        }

        /** The luminance of the night's target: the longest series. */
        private static void chooseLights(ListView<?> lines) {
            for (int i = 0; i < lines.getItems().size(); i++) {
                if (lines.getItems().get(i).toString().contains("M 33 · L · ")) {
                    lines.getSelectionModel().clearAndSelect(i);
                    return;
                }
            }
        }

        private void writeAllNights() throws InterruptedException {
            onToolkit(() -> {
                desk.choose(Stage.LOGBOOK);
                ((ToggleButton) desk.lookup("#all-nights")).fire();
                chooseFact("#trend-of", SubFact.FOCUS);
                chooseFact("#trend-against", SubFact.TEMPERATURE);
                ((TextField) desk.lookup("#ask-logbook")).setText("Wren kept since October");
            });
            settle(() -> !desk.isAnswered());
            write("logbook");
            onToolkit(() -> ((ToggleButton) desk.lookup("#this-night")).fire());
        }

        private void writeDarkroom(NightEntry entry) throws InterruptedException {
            onToolkit(() -> {
                desk.take(List.of(entry.folder()));
                ((Button) desk.lookup("#develop-folder")).fire();
            });
            settle(() -> desk.darkroom().isBusy());
            onToolkit(() -> chooseLights((ListView<?>) desk.darkroom().lookup("#darkroom-list")));
            onToolkit(() -> ((Button) desk.darkroom().lookup("#darkroom-judge")).fire());
            while (ask(() -> desk.darkroom().isBusy())) {
                Thread.sleep(200);
            }
            onToolkit(() -> ((ToggleButton) desk.darkroom().lookup("#darkroom-sheet")).fire());
            Thread.sleep(500);
            settle(() -> desk.darkroom().isLooking());
            write("develop");
            onToolkit(() -> ((Button) desk.darkroom().lookup("#close-darkroom")).fire());
        }

        /** The event whose evidence shows a station best. */
        private static Optional<NightEvent> evidence(Stage stage, NightState night) {
            return switch (stage) {
                case POLAR -> nth(night, AxisMeasured.class, 2);
                case POINT -> nth(night, FrameSolved.class, 1);
                case FOCUS -> nth(night, FocusSwept.class, 4);
                case GUIDE -> sub(night).map(NightEvent.class::cast);
                case RUN -> nth(night, TroubleSeen.class, 0).or(() -> sub(night).map(NightEvent.class::cast));
                case CALIBRATE -> night.all(MasterMade.class).stream()
                        .filter(m -> m.file().contains("flat_L"))
                        .map(NightEvent.class::cast)
                        .findFirst();
                case STACK -> nth(night, StackMade.class, 0);
                case PLAN, READY, LOGBOOK -> Optional.empty();
            };
        }

        /** The second whole one after a flip. */
        private static Optional<SubTaken> sub(NightState night) {
            return night.subs().stream()
                    .filter(s -> s.full()
                            && s.circumstances()
                                    .pierSide()
                                    .filter(p -> p == Mount.PierSide.EAST)
                                    .isPresent())
                    .skip(1)
                    .findFirst();
        }

        private static Optional<NightEvent> nth(NightState night, Class<? extends NightEvent> kind, int n) {
            List<? extends NightEvent> all = night.all(kind);
            return all.isEmpty() ? Optional.empty() : Optional.of(all.get(Math.min(n, all.size() - 1)));
        }

        private void write(String name, Stage stage, Optional<NightEvent> event) throws InterruptedException {
            onToolkit(() -> {
                event.ifPresentOrElse(desk::pick, desk::backToNow);
                desk.choose(stage);
            });
            settle(() -> !desk.isPictureReady());
            write(name);
        }

        private void write(String name) throws InterruptedException {
            onToolkit(() -> desk.refresh());
            Thread.sleep(250);
            BufferedImage image = ask(() -> Snapshots.of(scene));
            Path file = folder.resolve(name + ".png");
            app.ironside.image.AtomicFile.write(file, out -> ImageIO.write(image, "png", out));
            System.err.println("ironside: " + file);
        }

        private static void settle(java.util.concurrent.Callable<Boolean> busy) throws InterruptedException {
            for (int i = 0; i < TRIES && ask(busy); i++) {
                Thread.sleep(50);
            }
        }

        private static void onToolkit(Runnable action) throws InterruptedException {
            ask(() -> {
                action.run();
                return true;
            });
        }

        private static <T> T ask(java.util.concurrent.Callable<T> question) throws InterruptedException {
            FutureTask<T> task = new FutureTask<>(question);
            Platform.runLater(task);
            try {
                return task.get();
            } catch (java.util.concurrent.ExecutionException e) {
                throw new UncheckedIOException(new IOException("a view could not be drawn", e.getCause()));
            }
        }
    }
}
