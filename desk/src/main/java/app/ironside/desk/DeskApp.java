package app.ironside.desk;

import app.ironside.Workers;
import app.ironside.logbook.Logbook;
import app.ironside.wiring.Wiring;
import atlantafx.base.theme.NordDark;
import java.nio.file.Path;
import java.util.Optional;
import javafx.application.Application;
import javafx.scene.Scene;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.stage.Stage;

/** The window. */
public final class DeskApp extends Application {
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
        stage.setMinWidth(1100);
        stage.setMinHeight(700);
        stage.show();
        desk.requestFocus();
        Opening opening = new Opening(desk, wiring, logbook);
        if (demo) {
            opening.demo();
        } else {
            opening.ownData();
        }
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
            desk.settings(desk.getScene().getWidth(), desk.getScene().getHeight())
                    .write(folder);
            desk.close();
        }
    }
}
