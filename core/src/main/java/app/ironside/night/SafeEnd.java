package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.journal.NightEvent;
import app.ironside.plan.NightBudget;
import java.time.Instant;
import java.util.function.BiFunction;

/** How a night is left when it does not end by itself: the mount first, then the camera, then the journal. */
final class SafeEnd {
    private final NightContext night;
    private final NightRecord record;

    SafeEnd(NightContext night) {
        this.night = night;
        this.record = night.record();
    }

    /** Parks the mount and lets the camera warm up, before anything else is thought of; then tells. */
    void leave(String why, BiFunction<Instant, String, NightEvent> event, Throwable cause) {
        // Somebody who stops the night interrupts its thread: the devices must still be reached.
        boolean interrupted = Thread.interrupted();
        String left = park(cause);
        try {
            if (night.kit().sensor().cooled()) {
                night.devices().camera().warmUp();
                left += " The camera warms up: leave its power on for " + NightBudget.WARM_UP.toMinutes() + " minutes.";
            }
        } catch (RuntimeException unheated) {
            suppress(cause, unheated);
        }
        try {
            record.tell(event.apply(record.now(), why + " " + left));
        } catch (RuntimeException | Error unwritten) {
            suppress(cause, unwritten); // the disk or the memory may be what failed
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    /** Keeps a second failure beside the first, which is the one to tell; they may be one and the same. */
    static void suppress(Throwable first, Throwable second) {
        if (first != second) {
            first.addSuppressed(second);
        }
    }

    private String park(Throwable cause) {
        Mount mount = night.devices().mount();
        try {
            Operation parking = mount.park();
            if (!(cause instanceof InterruptedException)) {
                parking.await(night.clock());
            }
            return "The mount is parked.";
        } catch (InterruptedException again) {
            Thread.currentThread().interrupt();
            return "The mount is on its way to where it parks.";
        } catch (RuntimeException | Error unparked) {
            suppress(cause, unparked);
            return stopped(mount, unparked);
        }
    }

    private static String stopped(Mount mount, Throwable unparked) {
        try {
            mount.stop();
            return "The mount could not be parked (" + unparked.getMessage() + ") and was stopped where it stands.";
        } catch (RuntimeException | Error moving) {
            return "The mount could not be parked (" + unparked.getMessage()
                    + "): stop it by hand before it runs into its pier.";
        }
    }
}
