package app.ironside.desk;

import app.ironside.Workers;
import app.ironside.desk.session.RunningNight;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.Profiles;
import app.ironside.wiring.Wiring;
import java.awt.image.BufferedImage;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterAll;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/** The real desk in a window of the toolkit's offscreen mode, and a robot in front of it. */
abstract class DeskHarness {
    final FxRobot robot = new FxRobot();
    Wiring wiring;
    Logbook logbook;
    DeskView desk;
    Scene scene;

    void openOn(Path data) throws Exception {
        Main.headless();
        FxToolkit.registerPrimaryStage();
        wiring = new Wiring(Workers.ALL_CORES);
        logbook = Logbook.open(data);
    }

    void open(DeskSettings settings) throws Exception {
        FxToolkit.setupStage(stage -> {
            DeskApp.prepareToolkit();
            desk = new DeskView(wiring, logbook, new Profiles(logbook.folder()), settings);
            scene = new Scene(desk, settings.width(), settings.height());
            stage.setScene(scene);
            stage.show();
            desk.requestFocus();
        });
    }

    @AfterAll
    void closeTheDesk() throws Exception {
        on(() -> {
            desk.close();
            return true;
        });
        FxToolkit.cleanupStages();
    }

    static <T> T on(Callable<T> question) {
        return WaitForAsyncUtils.waitForAsyncFx(60_000, question);
    }

    void until(String what, Predicate<DeskView> condition) throws Exception {
        try {
            WaitForAsyncUtils.waitFor(300, TimeUnit.SECONDS, () -> on(() -> condition.test(desk)));
        } catch (java.util.concurrent.TimeoutException e) {
            throw new AssertionError("waited in vain for: " + what + "; status: " + text("#status"), e);
        }
        WaitForAsyncUtils.waitForFxEvents();
    }

    /** Has the desk made ready for a night, and waits until it is. */
    void onDesk(Runnable asked) throws Exception {
        on(() -> {
            asked.run();
            return true;
        });
        settled();
    }

    /** Waits until what was asked for is on the desk. */
    void settled() throws Exception {
        until("what was asked for", d -> d.isSettled() && d.planDesk().isSettled());
    }

    /** The night that runs, or ran last. */
    RunningNight night() {
        return on(() -> desk.nights().running().orElseThrow());
    }

    String text(String id) {
        return on(() -> ((Label) desk.lookup(id)).getText());
    }

    void press(KeyCode key) {
        robot.push(key);
        WaitForAsyncUtils.waitForFxEvents();
    }

    BufferedImage picture() {
        return on(() -> Snapshots.of(scene));
    }
}
