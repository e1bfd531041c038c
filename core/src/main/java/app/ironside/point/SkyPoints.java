package app.ironside.point;

import app.ironside.device.Mount;
import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.SunAndMoon;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Points spread evenly over the sky that a mount can reach, in an order that saves slewing: one side of the pier, then the other. */
public final class SkyPoints {
    /** The angle that spreads points along a spiral most evenly, degrees (golden angle). */
    private static final double GOLDEN_DEG = 137.507_764;

    private static final double LOWEST_DEG = 20;
    private static final double ZENITH_DEG = 85;
    private static final double OFF_MERIDIAN_DEG = 3;
    private static final double POLE_DEG = 85;
    /** A little further from the Sun than the mount lets itself be sent: it moves while points are taken. */
    private static final double SUN_DEG = GuardedMount.SUN_DEG + 5;

    /** A place with the side of the pier from which it is reached. */
    public record Place(Equatorial place, Mount.PierSide side) {}

    private SkyPoints() {}

    /**
     * @param count how many are wanted; fewer come where the skyline leaves no room
     */
    public static List<Place> spread(Observer observer, Kit kit, Instant time, int count) {
        SunAndMoon bodies = new SunAndMoon(observer);
        Horizontal sun = bodies.sun(time);
        List<Place> best = List.of();
        // A denser spiral until enough of it is above the skyline.
        for (int total = count; total <= 6 * count && best.size() < count; total += Math.max(1, count / 4)) {
            List<Place> found = new ArrayList<>();
            for (int i = 0; i < total; i++) {
                double altitude = Math.toDegrees(Math.asin((i + 0.5) / total));
                Horizontal seen = new Horizontal((i * GOLDEN_DEG) % 360, altitude);
                boolean up = altitude >= LOWEST_DEG
                        && altitude <= ZENITH_DEG
                        && observer.site()
                                .horizon()
                                .clears(seen, observer.site().marginDeg());
                if (up && apartDeg(seen, sun) > SUN_DEG) {
                    Equatorial place = observer.catalogue(seen, time);
                    double hourAngle = observer.hourAngleDeg(place, time);
                    boolean clear = Math.abs(hourAngle) > OFF_MERIDIAN_DEG && Math.abs(place.decDeg()) < POLE_DEG;
                    if (clear) {
                        found.add(new Place(place, hourAngle < 0 ? Mount.PierSide.WEST : Mount.PierSide.EAST));
                    }
                }
            }
            best = found;
        }
        List<Place> ordered = new ArrayList<>(best);
        ordered.sort(Comparator.comparing(Place::side).thenComparing(p -> observer.hourAngleDeg(p.place(), time)));
        return ordered.size() > count ? every(ordered, count) : ordered;
    }

    private static List<Place> every(List<Place> all, int count) {
        List<Place> some = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            some.add(all.get(i * all.size() / count));
        }
        return some;
    }

    private static double apartDeg(Horizontal a, Horizontal b) {
        return Math.toDegrees(app.ironside.sky.Vectors.angle(a.toEastNorthUp(), b.toEastNorthUp()));
    }
}
