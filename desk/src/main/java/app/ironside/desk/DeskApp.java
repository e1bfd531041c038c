package app.ironside.desk;

import app.ironside.FaultReport;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.document.Typeface;
import atlantafx.base.theme.NordDark;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.stage.Stage;
import javafx.util.Duration;

/** The window. */
public final class DeskApp extends Application {
    private static final double LEAST_WIDTH = 1024;
    private static final double LEAST_HEIGHT = 700;

    private final BackgroundWork opening = new BackgroundWork("opening");
    private Optional<DeskView> desk = Optional.empty();
    private Path folder;

    @Override
    public void start(Stage stage) {
        boolean demo = getParameters().getRaw().contains("demo");
        folder = Opening.dataFolder(demo);
        prepareToolkit();
        DeskSettings settings = DeskSettings.read(folder);
        Splash splash = new Splash(settings.palette(), demo ? "Opening the demo night" : "Opening the logbook");
        Scene scene = new Scene(splash, settings.width(), settings.height(), Color.BLACK);
        stage.setScene(scene);
        stage.setTitle(demo ? "Ironside, demo night" : "Ironside");
        stage.show();
        // Least sizes that are set before the window is shown would be its first size on some window managers.
        stage.setMinWidth(LEAST_WIDTH);
        stage.setMinHeight(LEAST_HEIGHT);
        Platform.runLater(() -> {
            stage.setWidth(settings.width());
            stage.setHeight(settings.height());
        });
        Loading loading = Main.loading().orElseGet(() -> Loading.begin(folder, demo));
        opening.ask(progress -> loading.await())
                .failed(splash::fail)
                .then(ready -> open(stage, scene, settings, ready));
    }

    private void open(Stage stage, Scene scene, DeskSettings settings, Loading.Loaded ready) {
        DeskView view = new DeskView(ready.wiring(), ready.logbook(), ready.profiles(), settings);
        desk = Optional.of(view);
        scene.setRoot(view);
        view.setOpener(path -> getHostServices().showDocument(path.toUri().toString()));
        view.requestFocus();
        Summons summons = new Summons(folder);
        summons.take(); // of a start that is long over
        Timeline looking = new Timeline(new KeyFrame(Duration.seconds(1), e -> {
            if (summons.take()) {
                stage.show();
                stage.toFront();
            }
        }));
        looking.setCycleCount(Animation.INDEFINITE);
        looking.play();
        stage.setOnCloseRequest(e -> {
            if (view.isNightRunning()) {
                e.consume();
                askToClose(view, stage);
            }
        });
        watchForFaults(view, folder);
        ready.first().ifPresent(view.beginnings()::show);
        Opening first = new Opening(view, ready.wiring(), ready.found());
        if (getParameters().getRaw().contains("demo")) {
            first.demo(goesOn -> onceDrawn(scene, goesOn));
        } else {
            first.ownData();
        }
        Main.said().ifPresent(view::say);
    }

    /** What would keep a window from being seen that is about to be drawn. */
    private static void onceDrawn(Scene scene, Runnable what) {
        Runnable[] once = new Runnable[1];
        once[0] = () -> {
            scene.removePostLayoutPulseListener(once[0]);
            Platform.runLater(what);
        };
        scene.addPostLayoutPulseListener(once[0]);
    }

    /** Whatever nobody catches is told, and written down; the night goes on on its own threads. */
    static void watchForFaults(DeskView view, Path folder) {
        BackgroundWork.report(Optional.of(new FaultReport(folder.resolve("reports"), Clock.systemUTC())));
        Thread.setDefaultUncaughtExceptionHandler((thread, fault) -> {
            String words = BackgroundWork.words(fault);
            Platform.runLater(() -> view.say(words + ". The night and its files are not touched by it."));
        });
    }

    /** The night does not end with its window unless the person says so. */
    private static void askToClose(DeskView desk, Stage stage) {
        boolean watched = desk.isFolderWatched();
        desk.questions()
                .ask(
                        watched ? "A folder is being watched." : "A night is running.",
                        watched
                                ? "Without its window it is watched on; starting Ironside again shows it. Closed, what was judged stays in the"
                                        + " Logbook, and whoever takes the frames goes on taking them."
                                : "Without its window the night goes on; starting Ironside again shows it. Ended now, the mount is parked,"
                                        + " everything taken is kept, and the night can go on later.",
                        List.of(
                                new StartPane.Choice("stay", "Stay", desk.questions()::dismiss),
                                new StartPane.Choice("go-on-without", "Close the window, let it go on", () -> {
                                    desk.questions().dismiss();
                                    Platform.setImplicitExit(false);
                                    desk.endWithTheNight(Platform::exit);
                                    stage.hide();
                                }),
                                new StartPane.Choice(
                                        "park-and-close",
                                        watched ? "Stop watching and close" : "Park the mount and close",
                                        Platform::exit)));
    }

    /** Theme and fonts, once for the application. */
    static void prepareToolkit() {
        Application.setUserAgentStylesheet(new NordDark().getUserAgentStylesheet());
        for (Typeface face : Typeface.values()) {
            Font.loadFont(face.resource().toExternalForm(), 14);
        }
    }

    @Override
    public void stop() {
        desk.ifPresent(view -> {
            view.settings(
                            view.getScene().getWindow().getWidth(),
                            view.getScene().getWindow().getHeight())
                    .write(folder);
            view.close();
        });
        opening.close();
    }
}
