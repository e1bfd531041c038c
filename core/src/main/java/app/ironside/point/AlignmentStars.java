package app.ironside.point;

import app.ironside.sky.Angles;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.NamedStar;
import app.ironside.sky.Observer;
import app.ironside.sky.Vectors;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Three bright stars for a hand controller that is told where it looks, where no frame is solved. Two on one side of the meridian give
 * the axis, a third on the other side what the telescope is not square by; each in the order they are centred in. None is low, where the
 * air lifts it, near the zenith, where it is hard to reach, or near the pole, where right ascension says little (common practice).
 */
public final class AlignmentStars {
    private static final double LOWEST_DEG = 25;
    private static final double HIGHEST_DEG = 70;
    private static final double NEAR_POLE_DEG = 70;

    /** Nearer to the meridian a controller may take the star from either side. */
    private static final double OFF_MERIDIAN_DEG = 8;

    private static final double LEAST_APART_DEG = 25;

    private AlignmentStars() {}

    /**
     * A star where it stands.
     *
     * @param seen where it stands now
     * @param place J2000, moved on by its own motion
     */
    public record Pick(NamedStar star, Horizontal seen, Equatorial place, double hourAngleDeg) {
        public boolean east() {
            return hourAngleDeg < 0;
        }
    }

    /**
     * Chooses.
     *
     * @param hidden names of stars behind a tree or a roof, which are left out
     * @return three, or none if the sky has no such three now
     */
    public static List<Pick> choose(Observer observer, Instant time, List<NamedStar> stars, Set<String> hidden) {
        List<Pick> up = up(observer, time, stars, hidden);
        List<Pick> best = List.of();
        double most = 0;
        for (int i = 0; i < up.size(); i++) {
            for (int j = i + 1; j < up.size(); j++) {
                for (Pick other : up) {
                    Pick one = up.get(i);
                    Pick two = up.get(j);
                    if (one.east() != two.east() || other.east() == one.east()) {
                        continue;
                    }
                    double worth = worth(one, two, other);
                    if (worth > most) {
                        most = worth;
                        best = one.star().star().magnitude()
                                        <= two.star().star().magnitude()
                                ? List.of(one, two, other)
                                : List.of(two, one, other);
                    }
                }
            }
        }
        return best;
    }

    private static List<Pick> up(Observer observer, Instant time, List<NamedStar> stars, Set<String> hidden) {
        double year = CatalogueStar.julianYear(time);
        List<Pick> up = new ArrayList<>();
        for (NamedStar star : stars) {
            Equatorial place = star.star().positionAt(year);
            Horizontal seen = observer.observed(place, time);
            double hourAngle = observer.hourAngleDeg(place, time);
            if (!hidden.contains(star.name())
                    && seen.altitudeDeg() >= LOWEST_DEG
                    && seen.altitudeDeg() <= HIGHEST_DEG
                    && Math.abs(place.decDeg()) <= NEAR_POLE_DEG
                    && Math.abs(Angles.wrap180(hourAngle)) >= OFF_MERIDIAN_DEG
                    && observer.site().horizon().clears(seen, observer.site().marginDeg())) {
                up.add(new Pick(star, seen, place, hourAngle));
            }
        }
        return up;
    }

    /** The volume that their directions span, which is how well three directions fix an attitude; a bright star is found sooner. */
    private static double worth(Pick one, Pick two, Pick other) {
        double[] a = one.seen().toEastNorthUp();
        double[] b = two.seen().toEastNorthUp();
        double[] c = other.seen().toEastNorthUp();
        double nearest =
                Math.toDegrees(Math.min(Vectors.angle(a, b), Math.min(Vectors.angle(a, c), Vectors.angle(b, c))));
        if (nearest < LEAST_APART_DEG) {
            return 0;
        }
        double volume = Math.abs(a[0] * (b[1] * c[2] - b[2] * c[1])
                - a[1] * (b[0] * c[2] - b[2] * c[0])
                + a[2] * (b[0] * c[1] - b[1] * c[0]));
        double faintest = Math.max(
                one.star().star().magnitude(),
                Math.max(two.star().star().magnitude(), other.star().star().magnitude()));
        return volume / (1 + 0.2 * Math.max(0, faintest));
    }
}
