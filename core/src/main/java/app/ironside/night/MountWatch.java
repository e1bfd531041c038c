package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.point.GuardedMount;
import java.time.Instant;
import java.util.function.Consumer;

/** Stops a mount that tracks to where it must not go, and tells it once. */
public final class MountWatch implements WatchedClock.Watch {
    private final GuardedMount mount;
    private final Consumer<String> tell;
    private boolean told;

    /**
     * @param tell takes a sentence for the journal
     */
    public MountWatch(GuardedMount mount, Consumer<String> tell) {
        this.mount = mount;
        this.tell = tell;
    }

    @Override
    public void look(Instant now) {
        try {
            mount.stopBeforeHarm().ifPresentOrElse(this::once, () -> told = false);
        } catch (DeviceLost e) {
            once("The mount does not answer, so nobody sees whether it runs toward a limit: look at it.");
        } catch (DeviceException e) {
            once("The mount tracks toward a limit and could not be stopped (" + e.getMessage() + "): stop it by hand.");
        }
    }

    private void once(String sentence) {
        if (!told) {
            told = true;
            tell.accept(sentence);
        }
    }
}
