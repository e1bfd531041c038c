package app.ironside.desk;

import app.ironside.Workers;
import app.ironside.logbook.Logbook;
import app.ironside.wiring.Wiring;
import atlantafx.base.theme.NordDark;
import java.nio.file.Path;
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

    private DeskView desk;
    private Path folder;

    @Override
    public void start(Stage stage) {
        boolean demo = getParameters().getRaw().contains("demo");
        folder = Opening.dataFolder(demo);
        prepareToolkit();
        Wiring wiring = new Wiring(Workers.ALL_CORES, Optional.of(folder));
        Logbook logbook = Logbook.open(folder);
        DeskSettings settings = DeskSettings.read(folder);
        desk = new DeskView(wiring, logbook, settings);
        Scene scene = new Scene(desk, settings.width(), settings.height(), Color.BLACK);
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
        desk.setOpener(path -> getHostServices().showDocument(path.toUri().toString()));
        desk.requestFocus();
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
            if (desk.isNightRunning()) {
                e.consume();
                askToClose(stage);
            }
        });
        Opening opening = new Opening(desk, wiring, logbook);
        if (demo) {
            opening.demo();
        } else {
            opening.ownData();
        }
    }

    /** The night does not end with its window unless the person says so. */
    private void askToClose(Stage stage) {
        desk.ask(
                "A night is running.",
                "Without its window the night goes on; starting Ironside again shows it. Ended now, the mount is parked, everything taken is"
                        + " kept, and the night can go on later.",
                List.of(
                        new StartPane.Choice("stay", "Stay", desk::dismissQuestion),
                        new StartPane.Choice("go-on-without", "Close the window, let the night go on", () -> {
                            desk.dismissQuestion();
                            Platform.setImplicitExit(false);
                            desk.endWithTheNight(Platform::exit);
                            stage.hide();
                        }),
                        new StartPane.Choice("park-and-close", "Park the mount and close", Platform::exit)));
    }

    /** Theme and fonts, once for the application. */
    static void prepareToolkit() {
        Application.setUserAgentStylesheet(new NordDark().getUserAgentStylesheet());
        for (String weight : new String[] {"400Regular", "700Bold"}) {
            Font.loadFont(
                    DeskApp.class
                            .getResource("fonts/IBMPlexSans_" + weight + ".ttf")
                            .toExternalForm(),
                    14);
        }
    }

    @Override
    public void stop() {
        if (desk != null) {
            desk.settings(
                            desk.getScene().getWindow().getWidth(),
                            desk.getScene().getWindow().getHeight())
                    .write(folder);
            desk.close();
        }
    }
}
