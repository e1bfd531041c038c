package app.ironside.point;

import app.ironside.Progress;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.Mount.PierSide;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.SlewRefused;
import app.ironside.kit.Equipment.ContactLimit;
import app.ironside.kit.Kit;
import app.ironside.kit.MeridianRule;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Finds by day where a telescope touches: at each declination the mount is taken past the meridian in small pieces, first from the side on
 * which it looks east, then back from the other, and somebody who stands beside says of every place whether all is free. What was seen last
 * to be free, less a degree, is the limit. A search in pieces of 15°, 5° and 1°, each finer one from the last free place; common practice.
 */
public final class ContactWalk {
    /** Between what was seen to be free and the limit that is taken: a cable hangs otherwise on another night. */
    public static final double MARGIN_DEG = 1;

    private static final double FAR_DEG = 15;
    private static final double NEAR_DEG = 5;
    private static final double FINE_DEG = 1;

    /** The walk begins on the safe side of the meridian, where a telescope that looks at something higher than the mount is free. */
    private static final double BEGIN_DEG = 30;

    /** Nobody follows a target lower. */
    private static final double LOWEST_DEG = 5;

    /** Nobody follows a target further before it changes sides. */
    private static final double LAST_DEG = 60;

    private final Mount mount;
    private final Observer observer;
    private final Kit kit;
    private final NightClock clock;

    /**
     * A place at which the telescope stands.
     *
     * @param hourAngleDeg west positive
     * @param side of the pier on which the telescope is
     */
    public record Place(double hourAngleDeg, double declinationDeg, PierSide side) {
        /** "12° past the meridian at declination +30°, telescope west of the pier". */
        public String words() {
            double angle = Math.round(hourAngleDeg);
            String from = angle == 0
                    ? "on the meridian"
                    : String.format(
                            Locale.ROOT, "%.0f° %s the meridian", Math.abs(angle), angle > 0 ? "past" : "before");
            return String.format(
                    Locale.ROOT,
                    "%s at declination %+.0f°, telescope %s of the pier",
                    from,
                    declinationDeg,
                    side.name().toLowerCase(Locale.ROOT));
        }
    }

    /** Whoever stands beside the telescope. */
    @FunctionalInterface
    public interface Eyes {
        /** Whether nothing touches, pulls or is about to where it stands now. */
        boolean isFree(Place place) throws InterruptedException;
    }

    /**
     * What was found at a declination.
     *
     * @param limit empty if one of the sides could not be walked
     * @param text in a sentence
     */
    public record Found(double declinationDeg, Optional<ContactLimit> limit, String text) {}

    /**
     * One side's walk.
     *
     * @param lastFreeDeg hour angle; empty if no place was seen to be free
     * @param touched whether something was about to touch beyond it
     * @param refused why it went no further by itself; empty if it did not refuse
     */
    private record Walked(Optional<Double> lastFreeDeg, boolean touched, String refused) {}

    /**
     * @param mount itself: the limits that the kit has so far do not hold here, the Sun's and the horizon's do
     */
    public ContactWalk(Mount mount, Observer observer, Kit kit, NightClock clock) {
        Kit open = kit.withEquipment(kit.equipment().withContacts(List.of(new ContactLimit(0, 90, -90))));
        this.mount = new GuardedMount(mount, observer, open, clock);
        this.observer = observer;
        this.kit = kit;
        this.clock = clock;
    }

    /**
     * Walks both sides at each declination. The mount stands still whenever somebody is asked, and at the end, however it ends.
     *
     * @throws java.util.concurrent.CancellationException if the progress says so; the mount is stopped
     * @throws DeviceException if the mount does not answer
     */
    public List<Found> run(List<Double> declinationsDeg, Eyes eyes, Progress progress) throws InterruptedException {
        List<Found> found = new ArrayList<>();
        mount.unpark();
        try {
            for (double declination : declinationsDeg.stream().sorted().toList()) {
                Walked west = walked(declination, PierSide.WEST, eyes, progress);
                Walked east = walked(declination, PierSide.EAST, eyes, progress);
                found.add(found(declination, west, east));
            }
        } finally {
            mount.stop();
        }
        return List.copyOf(found);
    }

    /** From the side's own half of the sky toward and past the meridian. */
    private Walked walked(double declination, PierSide side, Eyes eyes, Progress progress) throws InterruptedException {
        // In degrees of the way that this side goes: east of the pier it comes from the west.
        double way = side == PierSide.WEST ? 1 : -1;
        Optional<Double> free = Optional.empty();
        double touching = Double.POSITIVE_INFINITY;
        double step = FAR_DEG;
        double next = -BEGIN_DEG;
        while (next <= LAST_DEG) {
            Place place = new Place(way * next, declination, side);
            if (altitudeDeg(place) < LOWEST_DEG) {
                // The same at every hour: a walk that began ends here, one that did not never will.
                return new Walked(
                        free.map(f -> way * f),
                        touching <= LAST_DEG,
                        free.isPresent() ? "" : String.format(Locale.ROOT, "there it stands under %.0f°", LOWEST_DEG));
            }
            try {
                goTo(place, progress);
            } catch (SlewRefused refused) {
                return new Walked(free.map(f -> way * f), touching <= LAST_DEG, refused.problem());
            }
            if (eyes.isFree(place)) {
                free = Optional.of(next);
                step = next >= 0 ? Math.min(step, NEAR_DEG) : step;
            } else if (free.isEmpty()) {
                return new Walked(free, true, "");
            } else {
                touching = next;
                goTo(new Place(way * free.get(), declination, side), progress);
            }
            while (step > FINE_DEG && free.get() + step >= touching) {
                step = step > NEAR_DEG ? NEAR_DEG : FINE_DEG;
            }
            next = free.get() + step;
            if (next >= touching) {
                break;
            }
        }
        return new Walked(free.map(f -> way * f), touching <= LAST_DEG, "");
    }

    private Equatorial there(Place place) {
        double sidereal = observer.siderealTimeDeg(clock.now());
        return new Equatorial(Angles.wrap360(sidereal - place.hourAngleDeg()), place.declinationDeg());
    }

    private double altitudeDeg(Place place) {
        return observer.observed(there(place), clock.now()).altitudeDeg();
    }

    private void goTo(Place place, Progress progress) throws InterruptedException {
        progress.step("It goes to " + place.words(), 0);
        Operation slew = mount.slewTo(there(place), place.side());
        try {
            while (slew.state() == Operation.State.UNDER_WAY) {
                progress.step("It goes to " + place.words(), 0);
                clock.await(slew.remaining()
                        .filter(r -> r.compareTo(Operation.ASK_EVERY) < 0)
                        .orElse(Operation.ASK_EVERY));
            }
            slew.await(clock);
        } finally {
            // It tracks on arrival, toward what is looked for.
            mount.stop();
        }
        if (mount.pierSide() != place.side()) {
            throw new DeviceException(
                    "mount",
                    "it went to the other side of the pier than it was told",
                    "A mount that chooses its side by itself cannot be walked past its own flip: enter the angles by hand.");
        }
    }

    private Found found(double declination, Walked west, Walked east) {
        String at = String.format(Locale.ROOT, "At %+.0f°: ", declination);
        Optional<String> lacking =
                lacking(west, "from the side that looks east").or(() -> lacking(east, "from the side that looks west"));
        if (lacking.isPresent()) {
            return new Found(declination, Optional.empty(), at + lacking.get());
        }
        double before = west.lastFreeDeg().orElseThrow() - (west.touched() ? MARGIN_DEG : 0);
        double after = east.lastFreeDeg().orElseThrow() + (east.touched() ? MARGIN_DEG : 0);
        MeridianRule known = MeridianRule.of(kit, declination);
        return new Found(
                declination,
                Optional.of(new ContactLimit(declination, before, after)),
                String.format(
                        Locale.ROOT,
                        "%sfree to %+.0f° of hour angle before it changes sides%s, from %+.0f° after it%s; the kit says %+.0f° and %+.0f°.",
                        at,
                        before,
                        end(west),
                        after,
                        end(east),
                        known.contactDeg(),
                        known.freeDeg()));
    }

    /** Why a side gives no figure; one that ended at the Sun before anything touched tells nothing of what lies beyond. */
    private static Optional<String> lacking(Walked side, String words) {
        if (side.lastFreeDeg().isEmpty()) {
            return Optional.of(
                    side.refused().isEmpty()
                            ? String.format(
                                    Locale.ROOT,
                                    "%s something touches already %.0f° from the meridian; see to that first.",
                                    words,
                                    BEGIN_DEG)
                            : words + " it was not walked: " + side.refused() + ".");
        }
        return side.touched() || side.refused().isEmpty()
                ? Optional.empty()
                : Optional.of(String.format(
                        Locale.ROOT,
                        "%s nothing touches to %+.0f°, and it went no further: %s. If that is the Sun, try again at another hour.",
                        words,
                        side.lastFreeDeg().get(),
                        side.refused()));
    }

    private static String end(Walked side) {
        return side.touched()
                ? String.format(Locale.ROOT, " (%.0f° less than was seen to be free)", MARGIN_DEG)
                : " (nothing touched)";
    }

    /** A kit's limits with what was found: measured ones take the place of those within some degrees of them. */
    public static List<ContactLimit> merged(List<ContactLimit> known, List<Found> found) {
        List<ContactLimit> measured =
                found.stream().flatMap(f -> f.limit().stream()).toList();
        List<ContactLimit> all = new ArrayList<>(measured);
        known.stream()
                .filter(k ->
                        measured.stream().noneMatch(m -> Math.abs(m.declinationDeg() - k.declinationDeg()) < NEAR_DEG))
                .forEach(all::add);
        return all.stream()
                .sorted(Comparator.comparingDouble(ContactLimit::declinationDeg))
                .toList();
    }
}
