package app.ironside.solve;

import app.ironside.image.Statistics;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;
import org.hipparchus.linear.RealVector;

/** Least-squares fit of a tangent-plane WCS to matched stars. */
final class WcsFit {
    private static final double CLIP_SIGMAS = 3.5;
    private static final int CLIP_ROUNDS = 4;

    /** A star of the picture, FITS pixels, and its place in the catalogue. */
    record Match(double x, double y, Equatorial sky) {}

    /** A fit with the residual of its stars, both axes together. */
    record Result(Wcs wcs, List<Match> used, double rmsArcsec) {}

    private WcsFit() {}

    /** Fits, drops stars far off the rest, fits again. Empty with fewer than 4 stars or stars in a line. */
    static Optional<Result> fit(List<Match> matches, int width, int height, Equatorial startCentre) {
        double x0 = (width + 1) / 2.0;
        double y0 = (height + 1) / 2.0;
        List<Match> used = matches;
        Equatorial centre = startCentre;
        Wcs wcs = null;
        for (int round = 0; round < CLIP_ROUNDS; round++) {
            Optional<Wcs> linear = used.size() < 4 ? Optional.empty() : linear(used, centre, x0, y0);
            if (linear.isEmpty()) {
                return Optional.empty();
            }
            // Moving the reference to the middle of the frame keeps the projection true where it is looked at.
            centre = linear.get().toSky(x0, y0);
            wcs = linear(used, centre, x0, y0).orElse(linear.get());
            List<Match> kept = clip(used, wcs);
            if (kept.size() == used.size() || kept.size() < 4) {
                break;
            }
            used = kept;
        }
        return Optional.of(new Result(wcs, used, rms(used, wcs)));
    }

    private static Optional<Wcs> linear(List<Match> matches, Equatorial centre, double x0, double y0) {
        TangentPlane plane = new TangentPlane(centre);
        double[][] rows = new double[matches.size()][];
        double[] xi = new double[matches.size()];
        double[] eta = new double[matches.size()];
        for (int i = 0; i < rows.length; i++) {
            Match m = matches.get(i);
            double[] xiEta = new double[2];
            if (!plane.projectInto(m.sky().raDeg(), m.sky().decDeg(), xiEta)) {
                return Optional.empty();
            }
            rows[i] = new double[] {1, (m.x() - x0) / 1000, (m.y() - y0) / 1000};
            xi[i] = xiEta[0];
            eta[i] = xiEta[1];
        }
        DecompositionSolver solver = new QRDecomposition(new Array2DRowRealMatrix(rows, false), 1e-9).getSolver();
        if (!solver.isNonSingular()) {
            return Optional.empty();
        }
        RealVector a = solver.solve(new ArrayRealVector(xi, false));
        RealVector b = solver.solve(new ArrayRealVector(eta, false));
        double cd11 = a.getEntry(1) / 1000;
        double cd12 = a.getEntry(2) / 1000;
        double cd21 = b.getEntry(1) / 1000;
        double cd22 = b.getEntry(2) / 1000;
        double determinant = cd11 * cd22 - cd12 * cd21;
        if (Math.abs(determinant) < 1e-14) {
            return Optional.empty();
        }
        double crpixX = x0 - (cd22 * a.getEntry(0) - cd12 * b.getEntry(0)) / determinant;
        double crpixY = y0 - (cd11 * b.getEntry(0) - cd21 * a.getEntry(0)) / determinant;
        return Optional.of(new Wcs(centre, crpixX, crpixY, cd11, cd12, cd21, cd22));
    }

    private static List<Match> clip(List<Match> matches, Wcs wcs) {
        double[] residuals = matches.stream().mapToDouble(m -> residual(m, wcs)).toArray();
        // The median of a two-dimensional Gaussian's radius is 1.177 sigma.
        double limit = CLIP_SIGMAS * Math.max(Statistics.median(residuals) / 1.177, 0.02 * wcs.scaleArcsecPerPixel());
        List<Match> kept = new ArrayList<>();
        for (int i = 0; i < residuals.length; i++) {
            if (residuals[i] <= limit) {
                kept.add(matches.get(i));
            }
        }
        return kept;
    }

    private static double rms(List<Match> matches, Wcs wcs) {
        double sum = 0;
        for (Match match : matches) {
            double r = residual(match, wcs);
            sum += r * r;
        }
        return Math.sqrt(sum / matches.size());
    }

    private static double residual(Match match, Wcs wcs) {
        return 3600 * wcs.toSky(match.x(), match.y()).separationDeg(match.sky());
    }
}
