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
        List<Star> stars = field.good();
        List<Zone> zones = new ArrayList<>();
        for (int row = 0; row < ACROSS; row++) {
            for (int column = 0; column < ACROSS; column++) {
                zones.add(zone(field, stars, column, row));
            }
        }
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

    private static Zone zone(StarField field, List<Star> stars, int column, int row) {
        List<Star> inside = stars.stream()
                .filter(s -> (int) Math.min(ACROSS - 1, (s.x() - 0.5) * ACROSS / field.width()) == column
                        && (int) Math.min(ACROSS - 1, (s.y() - 0.5) * ACROSS / field.height()) == row)
                .toList();
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
            double[][] rows = new double[used.size()][];
            double[] sizes = new double[used.size()];
            for (int i = 0; i < rows.length; i++) {
                double u = (used.get(i).x() - x0) / half;
                double v = (used.get(i).y() - y0) / half;
                rows[i] = new double[] {1, u, v, u * u + v * v};
                sizes[i] = used.get(i).halfFluxRadiusPx();
            }
            Array2DRowRealMatrix matrix = new Array2DRowRealMatrix(rows, false);
            DecompositionSolver solver = new QRDecomposition(matrix, 1e-10).getSolver();
            if (!solver.isNonSingular()) {
                return new double[] {Statistics.median(sizes), 0, 0, 0, 1, 1};
            }
            double[] fit = solver.solve(new ArrayRealVector(sizes, false)).toArray();
            double[] off = new double[sizes.length];
            for (int i = 0; i < off.length; i++) {
                off[i] = sizes[i] - fit[0] - fit[1] * rows[i][1] - fit[2] * rows[i][2] - fit[3] * rows[i][3];
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

    /** Blends and knots of galaxies are many times as large as stars; before a first fit they would bend it. */
    private static List<Star> withoutOutliers(List<Star> stars) {
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
