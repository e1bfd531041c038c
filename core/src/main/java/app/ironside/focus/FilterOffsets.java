package app.ironside.focus;

import app.ironside.Check;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.LUDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * The filters' focus against one of them, from sweeps one after the other: weighted least squares of a step for each filter and a steady
 * drift, which the reference at both ends tells apart from the filters.
 *
 * @param drift of focus, steps an hour
 * @param offsets of all filters but the reference
 */
public record FilterOffsets(double drift, List<Offset> offsets) {
    /**
     * A sweep that was believed.
     *
     * @param hours since the first
     * @param position of best focus, steps
     * @param sigma its standard error
     */
    public record Sweep(String filter, double hours, double position, double sigma) {
        public Sweep {
            Check.positive("sigma", sigma);
        }
    }

    /**
     * A filter's.
     *
     * @param steps beyond the reference, positive outward
     * @param sigma its standard error
     */
    public record Offset(String filter, double steps, double sigma) {
        /**
         * What it means for who trusts one focus for both, in a sentence.
         *
         * @param zoneSteps half the critical zone
         */
        public String sentence(String reference, double zoneSteps) {
            double zones = steps / zoneSteps;
            String measured = String.format(
                    Locale.ROOT,
                    "%s lies %+.1f ± %.1f steps from %s, %.1f critical zones",
                    filter,
                    steps,
                    sigma,
                    reference,
                    Math.abs(zones));
            if (sigma > zoneSteps) {
                return measured + ": not known well enough to trust.";
            }
            if (Math.abs(zones) <= 0.5) {
                return measured + ": parfocal for this telescope.";
            }
            return measured + (Math.abs(zones) <= 1 ? ": at the edge of sharp." : ": not parfocal.");
        }
    }

    private static final double NO_DRIFT = 1e-9;

    public FilterOffsets {
        offsets = List.copyOf(offsets);
    }

    /**
     * Solves for all filters.
     *
     * @param sweeps the first is of the reference; without a later one of it there is no drift to tell
     * @throws IllegalArgumentException if only one filter was swept
     */
    public static FilterOffsets of(List<Sweep> sweeps) {
        String reference = sweeps.get(0).filter();
        List<String> others =
                new ArrayList<>(sweeps.stream().map(Sweep::filter).distinct().toList());
        others.remove(reference);
        Check.atLeast("filters besides the reference", others.size(), 1);
        boolean drifts =
                sweeps.stream().filter(s -> s.filter().equals(reference)).count() > 1;
        int unknowns = 1 + others.size() + (drifts ? 1 : 0);
        RealMatrix normal = new Array2DRowRealMatrix(unknowns, unknowns);
        RealVector right = new ArrayRealVector(unknowns);
        for (Sweep s : sweeps) {
            double[] row = new double[unknowns];
            row[0] = 1;
            int k = others.indexOf(s.filter());
            if (k >= 0) {
                row[1 + k] = 1;
            }
            if (drifts) {
                row[unknowns - 1] = s.hours() - sweeps.get(0).hours();
            }
            double weight = 1 / (s.sigma() * s.sigma());
            RealVector r = new ArrayRealVector(row, false);
            normal.setSubMatrix(
                    normal.add(r.outerProduct(r).scalarMultiply(weight)).getData(), 0, 0);
            right = right.add(r.mapMultiply(weight * s.position()));
        }
        if (drifts) {
            normal.addToEntry(unknowns - 1, unknowns - 1, NO_DRIFT);
        }
        RealMatrix covariance = new LUDecomposition(normal).getSolver().getInverse();
        RealVector found = covariance.operate(right);
        List<Offset> offsets = new ArrayList<>();
        for (int k = 0; k < others.size(); k++) {
            offsets.add(new Offset(others.get(k), found.getEntry(1 + k), Math.sqrt(covariance.getEntry(1 + k, 1 + k))));
        }
        return new FilterOffsets(drifts ? found.getEntry(unknowns - 1) : 0, offsets);
    }
}
