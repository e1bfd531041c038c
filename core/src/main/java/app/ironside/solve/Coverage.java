package app.ironside.solve;

import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.TangentPlane;
import java.util.Locale;
import java.util.Optional;

/**
 * Whether a frame can be recognised by the stars of a catalogue: how many of them it holds.
 *
 * @param stars of the catalogue in the frame
 */
public record Coverage(int stars) {
    /** Some are missed or hidden; patterns want four that are neighbours in frame and catalogue. */
    private static final int BY_PATTERNS = 10;

    private static final double AROUND_DEG = 2;

    /** 2π (1 − cos 2°) steradians. */
    private static final double AROUND_SQUARE_DEGREES = 12.565;

    /**
     * Counts a frame's catalogue stars.
     *
     * @param centre of the frame, J2000
     * @param angleDeg position angle of its upward side
     */
    public static Coverage of(
            StarCatalogue catalogue, Equatorial centre, double widthDeg, double heightDeg, double angleDeg) {
        TangentPlane plane = new TangentPlane(centre);
        double cos = Math.cos(Math.toRadians(angleDeg));
        double sin = Math.sin(Math.toRadians(angleDeg));
        int inside = 0;
        for (int index : catalogue.indicesWithin(centre, Math.min(60, Math.hypot(widthDeg, heightDeg) / 2))) {
            Optional<TangentPlane.Point> point =
                    plane.project(new Equatorial(catalogue.raDeg(index), catalogue.decDeg(index)));
            if (point.isPresent()) {
                double across = point.get().xiDeg() * cos - point.get().etaDeg() * sin;
                double up = point.get().xiDeg() * sin + point.get().etaDeg() * cos;
                inside += Math.abs(across) <= widthDeg / 2 && Math.abs(up) <= heightDeg / 2 ? 1 : 0;
            }
        }
        return new Coverage(inside);
    }

    /** How many stars a frame of some size holds on average within two degrees of a place. */
    public static double expected(StarCatalogue catalogue, Equatorial place, double squareDegrees) {
        return catalogue.indicesWithin(place, AROUND_DEG).length * squareDegrees / AROUND_SQUARE_DEGREES;
    }

    /** Whether the frame is recognised wherever the mount points. */
    public boolean isAmple() {
        return stars >= BY_PATTERNS;
    }

    /** Whether the frame is recognised at all, if place and scale are roughly known. */
    public boolean suffices() {
        return stars >= PlateSolver.FEWEST_STARS;
    }

    /** What to expect, in a clause. */
    public String words() {
        if (isAmple()) {
            return "enough, wherever the mount points";
        }
        if (suffices()) {
            return "enough once the mount knows its place to a degree or so";
        }
        return String.format(Locale.ROOT, "too few: %d at least", PlateSolver.FEWEST_STARS);
    }
}
