package app.ironside.desk;

import java.util.concurrent.Callable;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/** The toolkit drawing into memory, for tests of a single view. */
public final class Headless {
    private Headless() {}

    public static void start() throws Exception {
        Main.headless();
        FxToolkit.registerPrimaryStage();
    }

    /** Asks on the interface thread. */
    public static <T> T on(Callable<T> question) {
        return WaitForAsyncUtils.waitForAsyncFx(20_000, question);
    }
}
