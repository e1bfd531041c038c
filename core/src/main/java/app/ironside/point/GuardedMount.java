package app.ironside.point;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.SunAndMoon;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.util.Locale;

/**
 * A mount that is sent nowhere it must not go, whatever its driver would do: not toward the Sun, not below the horizon, not where
 * something touches; and that is believed to have moved only when it has.
 */
public final class GuardedMount implements Mount {
    private static final double SUN_DEG = 20;
    private static final double LOWEST_DEG = 3;
    private static final double NOTICEABLE_DEG = 0.5;
    private static final double ARRIVED_DEG = 1;

    /** Limits are taken by day with a margin of their own. */
    private static final double SLACK_DEG = 0.5;

    private final Mount mount;
    private final Observer observer;
    private final SunAndMoon bodies;
    private final Kit kit;
    private final NightClock clock;

    public GuardedMount(Mount mount, Observer observer, Kit kit, NightClock clock) {
        this.mount = mount;
        this.observer = observer;
        this.bodies = new SunAndMoon(observer);
        this.kit = kit;
        this.clock = clock;
    }

    @Override
    public void slewTo(Equatorial target, PierSide side) {
        if (mount.isParked()) {
            throw new DeviceException("mount", "it is parked and does not move", "Unpark it, then try again.");
        }
        Horizontal seen = observer.observed(target, clock.now());
        double sun = Math.toDegrees(
                Vectors.angle(seen.toEastNorthUp(), bodies.sun(clock.now()).toEastNorthUp()));
        if (sun < SUN_DEG) {
            throw new DeviceException(
                    "mount",
                    "the target is " + Math.round(sun) + "° from the Sun and the slew is refused",
                    "Never point a telescope toward the Sun: it blinds and burns.");
        }
        if (seen.altitudeDeg() < LOWEST_DEG) {
            throw new DeviceException(
                    "mount",
                    String.format(
                            Locale.ROOT,
                            "the target stands at %.0f° altitude and the slew is refused",
                            seen.altitudeDeg()),
                    "Choose one that is up; look at date, time and place if it should be.");
        }
        double hourAngle = observer.hourAngleDeg(target, clock.now());
        double beyond = side == PierSide.WEST
                ? hourAngle - kit.contactHourAngleDeg(target.decDeg())
                : kit.freeAfterFlipDeg(target.decDeg()) - hourAngle;
        if (beyond > SLACK_DEG && Math.abs(hourAngle) < 90) {
            throw new DeviceException(
                    "mount",
                    String.format(
                            Locale.ROOT,
                            "from the %s side of the pier something touches %.1f° before the target",
                            side.name().toLowerCase(Locale.ROOT),
                            beyond),
                    "Slew to the other side of the pier.");
        }
        mount.slewTo(target, side);
    }

    /** Slews and waits, and finds out whether the mount went there. */
    @Override
    public void slewAndWait(NightClock waiting, Equatorial target, PierSide side) throws InterruptedException {
        Equatorial before = mount.pointing();
        double asked = before.separationDeg(target);
        slewTo(target, side);
        waiting.await(mount.remaining());
        Equatorial after = mount.pointing();
        if (asked > NOTICEABLE_DEG && after.separationDeg(target) > ARRIVED_DEG) {
            double moved = before.separationDeg(after);
            throw new DeviceException(
                    "mount",
                    String.format(Locale.ROOT, "a slew of %.0f° was commanded and it moved by %.1f°", asked, moved),
                    moved < NOTICEABLE_DEG
                            ? "Look at power, clutches and the driver's connection; it may still be parked."
                            : "Something stopped it on the way: look for contact and at the clutches before you try again.");
        }
    }

    @Override
    public void unpark() {
        mount.unpark();
    }

    @Override
    public void park() {
        mount.park();
    }

    @Override
    public boolean isParked() {
        return mount.isParked();
    }

    @Override
    public void turnRightAscensionAxis(double degrees) {
        mount.turnRightAscensionAxis(degrees);
    }

    @Override
    public Duration remaining() {
        return mount.remaining();
    }

    @Override
    public void sync(Equatorial truth) {
        mount.sync(truth);
    }

    @Override
    public Equatorial pointing() {
        return mount.pointing();
    }

    @Override
    public PierSide pierSide() {
        return mount.pierSide();
    }

    @Override
    public void pulse(Direction direction, Duration length) {
        mount.pulse(direction, length);
    }
}
