package app.ironside.point;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.SlewRefused;
import app.ironside.kit.Kit;
import app.ironside.kit.MeridianRule;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.SunAndMoon;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.util.Locale;
import java.util.Optional;

/**
 * A mount that is sent nowhere it must not go, whatever its driver would do: not toward the Sun, not below the horizon, not where
 * something touches; and that is believed to have moved only when it has.
 */
public final class GuardedMount implements Mount {
    /** No slew ends nearer to the Sun than this, degrees, and nothing is followed toward it. */
    public static final double SUN_DEG = 20;

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
    public Operation slewTo(Equatorial target, PierSide side) {
        if (mount.isParked()) {
            throw new DeviceException("mount", "it is parked and does not move", "Unpark it, then try again.");
        }
        mustBeSafe(target, mount.arrivesOn(target, side));
        return mount.slewTo(target, side);
    }

    private void mustBeSafe(Equatorial target, PierSide side) {
        Horizontal seen = observer.observed(target, clock.now());
        double sun = sunDeg(seen);
        if (sun < SUN_DEG) {
            throw new SlewRefused(
                    "the target is " + Math.round(sun) + "° from the Sun and the slew is refused",
                    "Never point a telescope toward the Sun: it blinds and burns.");
        }
        if (seen.altitudeDeg() < LOWEST_DEG) {
            throw new SlewRefused(
                    String.format(
                            Locale.ROOT,
                            "the target stands at %.0f° altitude and the slew is refused",
                            seen.altitudeDeg()),
                    "Choose one that is up; look at date, time and place if it should be.");
        }
        double beyond = beyondContactDeg(target, side);
        if (beyond > SLACK_DEG) {
            throw new SlewRefused(
                    String.format(
                            Locale.ROOT,
                            "from the %s side of the pier something touches %.1f° before the target",
                            side.name().toLowerCase(Locale.ROOT),
                            beyond),
                    "Slew to the other side of the pier.");
        }
    }

    private double sunDeg(Horizontal seen) {
        return Math.toDegrees(
                Vectors.angle(seen.toEastNorthUp(), bodies.sun(clock.now()).toEastNorthUp()));
    }

    /** How far a place lies beyond where something touches, degrees of hour angle; negative before it. Within 90° of the meridian. */
    private double beyondContactDeg(Equatorial place, PierSide side) {
        MeridianRule rule = MeridianRule.of(kit, place.decDeg());
        double hourAngle = observer.hourAngleDeg(place, clock.now());
        if (Math.abs(hourAngle) >= 90) {
            return -90;
        }
        return side == PierSide.WEST ? hourAngle - rule.contactDeg() : rule.freeDeg() - hourAngle;
    }

    /**
     * Stops the mount if it tracks where it must not: beyond the contact limit of its side, below the horizon, or toward the Sun. Slews
     * are guarded when they begin; this is for all the time in between.
     *
     * @return what was stopped and why, in a sentence; empty if all is well
     */
    public Optional<String> stopBeforeHarm() {
        if (mount.isParked() || !mount.isTracking()) {
            return Optional.empty();
        }
        Equatorial place = mount.pointing();
        Horizontal seen = observer.observed(place, clock.now());
        double beyond = mount.pierSide() == PierSide.WEST ? beyondContactDeg(place, PierSide.WEST) : -90;
        String why = beyond > 0
                ? String.format(
                        Locale.ROOT, "it has reached the contact limit, %.1f° past the meridian", contactDeg(place))
                : seen.altitudeDeg() < 0
                        ? "it has reached the horizon"
                        : seen.altitudeDeg() > 0 && sunDeg(seen) < SUN_DEG
                                ? String.format(Locale.ROOT, "the Sun comes within %.0f° of where it looks", SUN_DEG)
                                : "";
        if (why.isEmpty()) {
            return Optional.empty();
        }
        mount.stop();
        return Optional.of("The mount no longer tracks: " + why + ".");
    }

    private double contactDeg(Equatorial place) {
        return MeridianRule.of(kit, place.decDeg()).contactDeg();
    }

    /** Slews and waits, and finds out whether the mount went there. */
    @Override
    public void slewAndWait(NightClock waiting, Equatorial target, PierSide side) throws InterruptedException {
        Equatorial before = mount.pointing();
        double asked = before.separationDeg(target);
        slewTo(target, side).await(waiting);
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
    public Abilities abilities() {
        return mount.abilities();
    }

    @Override
    public String name() {
        return mount.name();
    }

    @Override
    public Link link() {
        return mount.link();
    }

    @Override
    public void connect() {
        mount.connect();
    }

    @Override
    public void disconnect() {
        mount.disconnect();
    }

    @Override
    public void unpark() {
        mount.unpark();
    }

    @Override
    public Operation park() {
        return mount.park();
    }

    @Override
    public boolean isParked() {
        return mount.isParked();
    }

    @Override
    public Operation home() {
        return mount.home();
    }

    @Override
    public void track(boolean on) {
        if (on) {
            mustBeSafe(mount.pointing(), mount.pierSide());
        }
        mount.track(on);
    }

    @Override
    public Operation turnRightAscensionAxis(double degrees) {
        Equatorial here = mount.pointing();
        // West positive: the hour angle grows, so that the right ascension under the telescope falls.
        mustBeSafe(new Equatorial(Angles.wrap360(here.raDeg() - degrees), here.decDeg()), mount.pierSide());
        return mount.turnRightAscensionAxis(degrees);
    }

    @Override
    public void stop() {
        mount.stop();
    }

    @Override
    public boolean isTracking() {
        return mount.isTracking();
    }

    @Override
    public PierSide arrivesOn(Equatorial target, PierSide wanted) {
        return mount.arrivesOn(target, wanted);
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
    public Operation pulse(Direction direction, Duration length) {
        return mount.pulse(direction, length);
    }
}
