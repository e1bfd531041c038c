package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.Check;
import java.io.BufferedReader;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** The skyline of a site: altitude against azimuth, straight between its points and around north. */
public final class Horizon {
    /** A level horizon at 0°. */
    public static final Horizon FLAT = new Horizon(List.of(new Horizontal(0, 0)));

    private final List<Horizontal> points;

    /**
     * @param points at least one, in any order
     * @throws IllegalArgumentException if there is none
     */
    public Horizon(List<Horizontal> points) {
        Check.atLeast("points.size", points.size(), 1);
        this.points = points.stream()
                .sorted(Comparator.comparingDouble(Horizontal::azimuthDeg))
                .toList();
    }

    /** The points, by azimuth. */
    public List<Horizontal> points() {
        return points;
    }

    /** Altitude of the skyline at an azimuth, degrees. */
    public double altitudeDeg(double azimuthDeg) {
        double azimuth = Angles.wrap360(azimuthDeg);
        int after = 0;
        while (after < points.size() && points.get(after).azimuthDeg() < azimuth) {
            after++;
        }
        Horizontal right = points.get(after % points.size());
        Horizontal left = points.get((after + points.size() - 1) % points.size());
        double gap = Angles.wrap360(right.azimuthDeg() - left.azimuthDeg());
        if (gap == 0) {
            return right.altitudeDeg();
        }
        double share = Angles.wrap360(azimuth - left.azimuthDeg()) / gap;
        return left.altitudeDeg() + share * (right.altitudeDeg() - left.altitudeDeg());
    }

    /** Whether a direction stands above the skyline by at least {@code marginDeg}. */
    public boolean clears(Horizontal direction, double marginDeg) {
        return clearanceDeg(direction, marginDeg) >= 0;
    }

    /** How far a direction stands above the skyline and a margin; negative below. */
    public double clearanceDeg(Horizontal direction, double marginDeg) {
        return direction.altitudeDeg() - altitudeDeg(direction.azimuthDeg()) - marginDeg;
    }

    /**
     * Reads one {@code azimuth altitude} pair a line, in degrees; {@code #} starts a comment.
     *
     * @param reader is left open
     * @param name for messages
     * @throws BadInputException naming the line for anything else
     */
    public static Horizon parse(BufferedReader reader, String name) throws IOException {
        List<Horizontal> points = new ArrayList<>();
        int number = 0;
        for (String line = reader.readLine(); line != null; line = reader.readLine()) {
            number++;
            String facts = line.replaceFirst("#.*", "").strip();
            if (!facts.isEmpty()) {
                points.add(point(facts.split("[\\s,;]+", -1), name + " line " + number));
            }
        }
        if (points.isEmpty()) {
            throw new BadInputException(name, "no azimuth and altitude in it", "one pair of degrees a line");
        }
        return new Horizon(points);
    }

    private static Horizontal point(String[] pair, String where) {
        String expected = "azimuth 0 to 360 and altitude -90 to 90, degrees";
        if (pair.length != 2) {
            throw new BadInputException(where, "has " + pair.length + " numbers", expected);
        }
        try {
            double azimuth = Check.inRange("azimuth", Double.parseDouble(pair[0]), -360, 360);
            return new Horizontal(azimuth, Double.parseDouble(pair[1]));
        } catch (IllegalArgumentException e) {
            throw new BadInputException(where, "\"" + String.join(" ", pair) + "\" is not a direction", expected, e);
        }
    }
}
