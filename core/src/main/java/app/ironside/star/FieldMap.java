package app.ironside.star;

import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;

/**
 * Star shapes over the field, and what they tell: tilt of the sensor, a curved field or a wrong distance behind the flattener, or
 * trailing, which is the same everywhere.
 *
 * <p>Sizes follow h = m (1 + t·r + c r²), r from the middle in half diagonals: a tilted sensor is out of focus on one side, t, a curved
 * field in all corners, c. Elongations are added as vectors of twice their angle, so that opposite ends of a line are one direction.
 *
 * @param zones nine, row by row from the lowest, each from the left
 * @param tiltShare growth of the half-flux radius from the middle to the far corner along the tilt, as a share of it
 * @param tiltTowardDeg where stars are largest, from +x toward +y, −180 to 180
 * @param curvatureShare growth of the half-flux radius from the middle to the corners, as a share of it
 * @param trailing elongation that all zones share, 1 − b/a, 0 round
 * @param trailingAngleDeg its direction, from +x toward +y, −90 to 90
 * @param radialShare elongation in the corners along the line to the middle, negative across it
 * @param findings what is wrong, worst first; empty for a good field
 */
public record FieldMap(
        List<Zone> zones,
        double tiltShare,
        double tiltTowardDeg,
        double curvatureShare,
        double trailing,
        double trailingAngleDeg,
        double radialShare,
        List<Finding> findings) {
    private static final int ACROSS = 3;
    private static final int FEWEST = 20;

    /** The brightest of a crowd: more tell no more, as their tilt is known to a fraction of a percent. */
    private static final int MOST = 1500;

    /** What is told apart. */
    public enum Kind {
        TOO_FEW_STARS,
        TRAILED,
        TILTED,
        CURVED
    }

    /**
     * One thing that is wrong.
     *
     * @param weight how much of the star size or shape it is, for sorting
     */
    public record Finding(Kind kind, double weight, String sentence) {}

    /**
     * A ninth of the frame.
     *
     * @param halfFluxRadiusPx median; 0 without stars
     * @param elongation 1 − b/a of the mean shape
     * @param angleDeg of the mean shape, from +x toward +y
     */
    public record Zone(int column, int row, int stars, double halfFluxRadiusPx, double elongation, double angleDeg) {}

    /** Below these shares nothing is said (common practice: a tenth is seen by a critical eye). */
    private static final double VISIBLE_GROWTH = 0.10;

    private static final double VISIBLE_ELONGATION = 0.12;
    private static final double SIGNIFICANT_SIGMAS = 4;

    public FieldMap {
        zones = List.copyOf(zones);
        findings = List.copyOf(findings);
    }

    /** Maps a frame's stars. */
    public static FieldMap of(StarField field) {
        List<Star> good = field.good();
        List<Star> stars = good.subList(0, Math.min(MOST, good.size()));
        List<Zone> zones = zones(field, stars);
        if (stars.size() < FEWEST) {
            Finding few = new Finding(
                    Kind.TOO_FEW_STARS,
                    0,
                    "Only " + stars.size() + " good stars: " + FEWEST + " are needed to map the field. Expose longer.");
            return new FieldMap(zones, 0, 0, 0, 0, 0, 0, List.of(few));
        }
        double[] size = sizeSurface(field, stars);
        double tilt = Math.hypot(size[1], size[2]) / size[0];
        double toward = Math.toDegrees(Math.atan2(size[2], size[1]));
        double curvature = size[3] / size[0];
        double[] shared = sharedElongation(stars);
        double trailing = Math.hypot(shared[0], shared[1]);
        double angle = Math.toDegrees(Math.atan2(shared[1], shared[0]) / 2);
        double radial = radial(field, stars, shared);
        List<Finding> findings = new ArrayList<>();
        if (trailing > Math.max(VISIBLE_ELONGATION, SIGNIFICANT_SIGMAS * shared[2])) {
            findings.add(new Finding(
                    Kind.TRAILED,
                    trailing,
                    String.format(
                            Locale.ROOT,
                            "Stars are %.0f %% longer than wide at %.0f° in the whole field: trailing, not the optics.",
                            100 * trailing / (1 - trailing),
                            angle)));
        }
        if (tilt > Math.max(VISIBLE_GROWTH, SIGNIFICANT_SIGMAS * size[4])) {
            findings.add(new Finding(
                    Kind.TILTED,
                    tilt,
                    String.format(
                            Locale.ROOT,
                            "Stars grow by %.0f %% toward the %s: the sensor or the focuser is tilted.",
                            100 * tilt,
                            side(toward))));
        }
        if (curvature > Math.max(VISIBLE_GROWTH, SIGNIFICANT_SIGMAS * size[5])) {
            String spacing = Math.abs(radial) < VISIBLE_ELONGATION / 2
                    ? "a curved field, or focus set on the middle only"
                    : radial > 0
                            ? "they point to the middle: the sensor's distance behind the flattener is off (usually too short)"
                            : "they lie around the middle: the sensor's distance behind the flattener is off (usually too long)";
            findings.add(new Finding(
                    Kind.CURVED,
                    curvature,
                    String.format(
                            Locale.ROOT,
                            "Stars in all corners are %.0f %% larger than in the middle; %s.",
                            100 * curvature,
                            spacing)));
        }
        findings.sort(Comparator.comparingDouble(Finding::weight).reversed());
        return new FieldMap(zones, tilt, toward, curvature, trailing, angle, radial, findings);
    }

    private static List<Zone> zones(StarField field, List<Star> stars) {
        List<List<Star>> inside = new ArrayList<>();
        for (int i = 0; i < ACROSS * ACROSS; i++) {
            inside.add(new ArrayList<>());
        }
        for (Star star : stars) {
            int column = (int) Math.min(ACROSS - 1, (star.x() - 0.5) * ACROSS / field.width());
            int row = (int) Math.min(ACROSS - 1, (star.y() - 0.5) * ACROSS / field.height());
            inside.get(row * ACROSS + column).add(star);
        }
        List<Zone> zones = new ArrayList<>();
        for (int i = 0; i < inside.size(); i++) {
            zones.add(zone(i % ACROSS, i / ACROSS, inside.get(i)));
        }
        return zones;
    }

    private static Zone zone(int column, int row, List<Star> inside) {
        if (inside.isEmpty()) {
            return new Zone(column, row, 0, 0, 0, 0);
        }
        double[] e = sharedElongation(inside);
        return new Zone(
                column,
                row,
                inside.size(),
                Statistics.median(
                        inside.stream().mapToDouble(Star::halfFluxRadiusPx).toArray()),
                Math.hypot(e[0], e[1]),
                Math.toDegrees(Math.atan2(e[1], e[0]) / 2));
    }

    /** m, m·t in x and y, m·c, and the standard errors of t and c; two rounds, the second without outliers. */
    private static double[] sizeSurface(StarField field, List<Star> stars) {
        double half = Math.hypot(field.width(), field.height()) / 2;
        double x0 = (field.width() + 1) / 2.0;
        double y0 = (field.height() + 1) / 2.0;
        List<Star> used = withoutOutliers(stars);
        double[] a = new double[6];
        for (int round = 0; round < 8; round++) {
            int n = used.size();
            double[] u = new double[n];
            double[] v = new double[n];
            double[] sizes = new double[n];
            for (int i = 0; i < n; i++) {
                u[i] = (used.get(i).x() - x0) / half;
                v[i] = (used.get(i).y() - y0) / half;
                sizes[i] = used.get(i).halfFluxRadiusPx();
            }
            DecompositionSolver solver = new QRDecomposition(squares(u, v), 1e-10).getSolver();
            if (!solver.isNonSingular()) {
                return new double[] {Statistics.median(sizes), 0, 0, 0, 1, 1};
            }
            double[] fit = solver.solve(new ArrayRealVector(products(u, v, sizes), false))
                    .toArray();
            double[] off = new double[n];
            for (int i = 0; i < n; i++) {
                off[i] = sizes[i] - fit[0] - fit[1] * u[i] - fit[2] * v[i] - fit[3] * (u[i] * u[i] + v[i] * v[i]);
            }
            double sigma = Math.max(1e-6, Statistics.noise(off));
            System.arraycopy(fit, 0, a, 0, 4);
            // Star places fill the field: each of u and v has a variance of about 1/6, u² + v² one of about 0.1.
            a[4] = sigma / Math.sqrt(off.length / 6.0) / fit[0];
            a[5] = sigma / Math.sqrt(off.length / 10.0) / fit[0];
            List<Star> kept = new ArrayList<>();
            for (int i = 0; i < off.length; i++) {
                if (Math.abs(off[i]) < 3 * sigma) {
                    kept.add(used.get(i));
                }
            }
            if (kept.size() < FEWEST / 2 || kept.size() == used.size()) {
                break;
            }
            used = kept;
        }
        return a;
    }

    /** The matrix of the normal equations for the terms 1, u, v, u² + v², all of them within one. */
    private static Array2DRowRealMatrix squares(double[] u, double[] v) {
        double[][] sums = new double[4][4];
        for (int i = 0; i < u.length; i++) {
            double[] row = {1, u[i], v[i], u[i] * u[i] + v[i] * v[i]};
            for (int j = 0; j < 4; j++) {
                for (int k = 0; k < 4; k++) {
                    sums[j][k] += row[j] * row[k];
                }
            }
        }
        return new Array2DRowRealMatrix(sums, false);
    }

    /** Their right side. */
    private static double[] products(double[] u, double[] v, double[] sizes) {
        double[] sums = new double[4];
        for (int i = 0; i < u.length; i++) {
            sums[0] += sizes[i];
            sums[1] += u[i] * sizes[i];
            sums[2] += v[i] * sizes[i];
            sums[3] += (u[i] * u[i] + v[i] * v[i]) * sizes[i];
        }
        return sums;
    }

    /** Blends and knots of galaxies are many times as large as stars; before a first fit they would bend it. */
    static List<Star> withoutOutliers(List<Star> stars) {
        double[] sizes = stars.stream().mapToDouble(Star::halfFluxRadiusPx).toArray();
        double middle = Statistics.median(sizes);
        double spread = Math.max(0.03 * middle, Statistics.noise(sizes));
        return stars.stream()
                .filter(s -> Math.abs(s.halfFluxRadiusPx() - middle) < 4 * spread)
                .toList();
    }

    /** Mean of the elongations as vectors of twice the angle, and the standard error of its length. */
    private static double[] sharedElongation(List<Star> stars) {
        double[] c = new double[stars.size()];
        double[] s = new double[stars.size()];
        for (int i = 0; i < c.length; i++) {
            double[] e = vector(stars.get(i));
            c[i] = e[0];
            s[i] = e[1];
        }
        double mc = Statistics.median(c);
        double ms = Statistics.median(s);
        double scatter = c.length < 3 ? 1 : Math.hypot(Statistics.noise(c), Statistics.noise(s));
        // The median's standard error is 1.25 of the mean's.
        return new double[] {mc, ms, 1.25 * scatter / Math.sqrt(2.0 * c.length)};
    }

    /** Elongation 1 − b/a with twice its angle. */
    static double[] vector(Star star) {
        double axes = Math.sqrt(Math.max(0, 1 - star.eccentricity() * star.eccentricity()));
        double twice = Math.toRadians(2 * star.angleDeg());
        return new double[] {(1 - axes) * Math.cos(twice), (1 - axes) * Math.sin(twice)};
    }

    /** Elongation of the outer stars along the line to the middle, what all share taken off. */
    private static double radial(StarField field, List<Star> stars, double[] shared) {
        double x0 = (field.width() + 1) / 2.0;
        double y0 = (field.height() + 1) / 2.0;
        double half = Math.hypot(field.width(), field.height()) / 2;
        double[] along = stars.stream()
                .filter(s -> Math.hypot(s.x() - x0, s.y() - y0) > 0.6 * half)
                .mapToDouble(s -> {
                    double[] e = vector(s);
                    double twice = 2 * Math.atan2(s.y() - y0, s.x() - x0);
                    return (e[0] - shared[0]) * Math.cos(twice) + (e[1] - shared[1]) * Math.sin(twice);
                })
                .toArray();
        return along.length == 0 ? 0 : Statistics.median(along);
    }

    private static String side(double towardDeg) {
        String[] sides = {"right", "upper right", "top", "upper left", "left", "lower left", "bottom", "lower right"};
        return sides[(int) Math.floorMod(Math.round(towardDeg / 45), 8L)];
    }
}
