package app.ironside.focus;

import app.ironside.Check;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import java.util.stream.Collectors;
import org.hipparchus.exception.MathIllegalStateException;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.QRDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;
import org.hipparchus.linear.SingularValueDecomposition;
import org.hipparchus.optim.nonlinear.vector.leastsquares.LeastSquaresBuilder;
import org.hipparchus.optim.nonlinear.vector.leastsquares.LeastSquaresOptimizer;
import org.hipparchus.optim.nonlinear.vector.leastsquares.LevenbergMarquardtOptimizer;
import org.hipparchus.util.Pair;

/** Judges a sweep of star sizes against focuser position. */
public final class FocusCurve {
    /** A curve that explains less than this is not believed (common practice). */
    public static final double LEAST_R_SQUARED = 0.9;

    private static final int FEWEST_SAMPLES = 5;

    /** Sizes at both ends of the sweep must exceed the smallest by this factor, or there is no curve to read. */
    private static final double LEAST_RISE = 1.15;

    private FocusCurve() {}

    /**
     * A sweep as it was read.
     *
     * @param leftOut points that stand far off the curve of all the others: a gust, a cloud, a satellite
     */
    public record Judged(FocusVerdict verdict, List<FocusSample> leftOut) {
        public Judged {
            leftOut = List.copyOf(leftOut);
        }
    }

    /** As below, without the names of the points that were set aside; the reason tells them. */
    public static FocusVerdict judge(List<FocusSample> samples, FocusMethod method) {
        return judged(samples, method).verdict();
    }

    /**
     * Reads best focus from a sweep. One bad point or two cost nothing where enough others agree; more are no accident.
     *
     * @param samples at least 3, in any order
     * @throws IllegalArgumentException for fewer
     */
    public static Judged judged(List<FocusSample> samples, FocusMethod method) {
        Check.atLeast("samples.size", samples.size(), 3);
        List<FocusSample> sorted = samples.stream()
                .sorted(Comparator.comparingDouble(FocusSample::position))
                .toList();
        List<FocusSample> bad = FocusOutliers.of(sorted);
        if (bad.isEmpty()) {
            return new Judged(ofAll(sorted, method), List.of());
        }
        List<FocusSample> rest =
                sorted.stream().filter(s -> bad.stream().noneMatch(b -> b == s)).toList();
        FocusVerdict verdict = ofAll(rest, method);
        double[] abc = fitHyperbola(rest);
        String told = bad.stream()
                .map(b -> String.format(
                        Locale.ROOT,
                        "the %.2f at %.0f, where %.2f was due",
                        b.size(),
                        b.position(),
                        hyperbolaSize(abc, b.position())))
                .collect(Collectors.joining(", and "));
        return new Judged(
                new FocusVerdict(
                        verdict.bestPosition(),
                        verdict.bestSize(),
                        verdict.rSquared(),
                        verdict.positionSigma(),
                        method,
                        verdict.accepted(),
                        verdict.reason() + " Set aside: " + told + "."),
                bad);
    }

    private static FocusVerdict ofAll(List<FocusSample> sorted, FocusMethod method) {
        if (positions(sorted) < 3) {
            FocusSample smallest = sorted.stream()
                    .min(Comparator.comparingDouble(FocusSample::size))
                    .orElseThrow();
            return refused(
                    smallest.position(),
                    smallest.size(),
                    method,
                    "The sizes were taken at fewer than three positions: sweep wider.");
        }
        return switch (method) {
            case HYPERBOLA -> hyperbola(sorted);
            case PARABOLA -> parabola(sorted);
            case LOWEST_THREE -> lowestThree(sorted);
            case TREND_LINES -> trendLines(sorted);
        };
    }

    private static long positions(List<FocusSample> samples) {
        return samples.stream().mapToDouble(FocusSample::position).distinct().count();
    }

    private static FocusVerdict refused(double position, double size, FocusMethod method, String reason) {
        return new FocusVerdict(position, size, 0, 0, method, false, reason);
    }

    /** The curve's size at a position, for drawing: √(a² + b²(x − c)²) of a hyperbola through a verdict and the sweep's far arm. */
    public static double hyperbolaSize(double[] abc, double position) {
        return Math.hypot(abc[0], abc[1] * (position - abc[2]));
    }

    /**
     * Smallest size a (px), slope b (px a step) and position c (steps) of the hyperbola that fits a sweep best; a rough guess from
     * the sweep's ends if none does.
     */
    public static double[] fitHyperbola(List<FocusSample> samples) {
        try {
            return fit(samples).getPoint().toArray();
        } catch (MathIllegalStateException e) {
            return start(samples);
        }
    }

    /**
     * How well a sweep determines its curve: the standard error of the hyperbola's size at a position, px, from the scatter of the points that
     * are not set aside; empty where the points do not determine three numbers.
     *
     * @see "Bevington and Robinson 2003, Data Reduction and Error Analysis, 3rd ed., section 3.2 (propagation of errors by the covariance matrix)"
     */
    public static Optional<DoubleUnaryOperator> sigma(List<FocusSample> samples) {
        if (samples.size() <= 3) {
            return Optional.empty();
        }
        List<FocusSample> sorted = samples.stream()
                .sorted(Comparator.comparingDouble(FocusSample::position))
                .toList();
        List<FocusSample> bad = FocusOutliers.of(sorted);
        List<FocusSample> rest =
                sorted.stream().filter(s -> bad.stream().noneMatch(b -> b == s)).toList();
        if (rest.size() <= 3 || positions(rest) <= 3) {
            return Optional.empty();
        }
        LeastSquaresOptimizer.Optimum optimum;
        try {
            optimum = fit(rest);
        } catch (MathIllegalStateException e) {
            return Optional.empty();
        }
        double[] singular = new SingularValueDecomposition(optimum.getJacobian()).getSingularValues();
        if (singular[singular.length - 1] <= 1e-12 * singular[0]) {
            return Optional.empty();
        }
        double variance = optimum.getCost() * optimum.getCost() / (rest.size() - 3);
        RealMatrix covariance = optimum.getCovariances(1e-14);
        double[] abc = optimum.getPoint().toArray();
        return Optional.of(position -> {
            double size = hyperbolaSize(abc, position);
            double away = position - abc[2];
            double[] gradient = {abc[0] / size, abc[1] * away * away / size, -abc[1] * abc[1] * away / size};
            double sum = 0;
            for (int i = 0; i < gradient.length; i++) {
                for (int j = 0; j < gradient.length; j++) {
                    sum += gradient[i] * covariance.getEntry(i, j) * gradient[j];
                }
            }
            return Math.sqrt(variance * Math.max(0, sum));
        });
    }

    private static FocusVerdict hyperbola(List<FocusSample> samples) {
        LeastSquaresOptimizer.Optimum optimum;
        try {
            optimum = fit(samples);
        } catch (MathIllegalStateException e) {
            // A sweep that only rises or only falls has its minimum at infinity: the fit runs after it without end.
            double[] start = start(samples);
            return refused(
                    start[2], start[0], FocusMethod.HYPERBOLA, "The sizes only rise or only fall: sweep further.");
        }
        double[] abc = optimum.getPoint().toArray();
        double position = abc[2];
        double[] predicted = samples.stream()
                .mapToDouble(s -> hyperbolaSize(abc, s.position()))
                .toArray();
        double r2 = rSquared(samples, predicted);
        double sigma = positionSigma(optimum, samples.size());
        return verdict(samples, position, Math.abs(abc[0]), r2, sigma, FocusMethod.HYPERBOLA);
    }

    /** Standard error of the position, from the residuals; 0 if the fit does not determine it. */
    private static double positionSigma(LeastSquaresOptimizer.Optimum optimum, int samples) {
        RealMatrix jacobian = optimum.getJacobian();
        double[] singular = new SingularValueDecomposition(jacobian).getSingularValues();
        if (singular[singular.length - 1] <= 1e-12 * singular[0] || samples <= 3) {
            return 0;
        }
        double variance = optimum.getCost() * optimum.getCost() / (samples - 3);
        return Math.sqrt(variance * optimum.getCovariances(1e-14).getEntry(2, 2));
    }

    /** Where the fit begins: the lowest point and the slope of the longer arm. */
    private static double[] start(List<FocusSample> samples) {
        FocusSample lowest = samples.stream()
                .min(Comparator.comparingDouble(FocusSample::size))
                .orElseThrow();
        FocusSample first = samples.get(0);
        FocusSample last = samples.get(samples.size() - 1);
        double slope = Math.max(first.size(), last.size())
                / Math.max(1, Math.max(lowest.position() - first.position(), last.position() - lowest.position()));
        return new double[] {lowest.size(), slope, lowest.position()};
    }

    private static LeastSquaresOptimizer.Optimum fit(List<FocusSample> samples) {
        double[] weights =
                samples.stream().mapToDouble(s -> 1 / (s.sigma() * s.sigma())).toArray();
        return new LevenbergMarquardtOptimizer()
                .optimize(new LeastSquaresBuilder()
                        .start(start(samples))
                        .target(samples.stream().mapToDouble(FocusSample::size).toArray())
                        .weight(MatrixUtils.createRealDiagonalMatrix(weights))
                        .model(p -> model(samples, p))
                        .maxEvaluations(2000)
                        .maxIterations(1000)
                        .build());
    }

    private static Pair<RealVector, RealMatrix> model(List<FocusSample> samples, RealVector p) {
        double[] values = new double[samples.size()];
        double[][] jacobian = new double[samples.size()][3];
        for (int i = 0; i < values.length; i++) {
            double d = samples.get(i).position() - p.getEntry(2);
            double b = p.getEntry(1);
            values[i] = Math.max(1e-9, Math.hypot(p.getEntry(0), b * d));
            jacobian[i][0] = p.getEntry(0) / values[i];
            jacobian[i][1] = b * d * d / values[i];
            jacobian[i][2] = -b * b * d / values[i];
        }
        return new Pair<>(new ArrayRealVector(values, false), new Array2DRowRealMatrix(jacobian, false));
    }

    private static FocusVerdict parabola(List<FocusSample> samples) {
        double middle =
                samples.stream().mapToDouble(FocusSample::position).average().orElseThrow();
        double reach = Math.max(1, samples.get(samples.size() - 1).position() - middle);
        double[] c = polynomial(samples, 2, middle, reach);
        double position = c[2] > 0 ? middle - reach * c[1] / (2 * c[2]) : Double.NEGATIVE_INFINITY;
        double[] predicted = samples.stream()
                .mapToDouble(s -> evaluate(c, (s.position() - middle) / reach))
                .toArray();
        double size = c[2] > 0 ? c[0] - c[1] * c[1] / (4 * c[2]) : c[0];
        double r2 = rSquared(samples, predicted);
        if (c[2] <= 0) {
            return new FocusVerdict(
                    middle,
                    c[0],
                    r2,
                    0,
                    FocusMethod.PARABOLA,
                    false,
                    "The sizes do not fall and rise again: sweep wider.");
        }
        return verdict(samples, position, size, r2, 0, FocusMethod.PARABOLA);
    }

    private static FocusVerdict lowestThree(List<FocusSample> samples) {
        List<FocusSample> three = samples.stream()
                .sorted(Comparator.comparingDouble(FocusSample::size))
                .limit(3)
                .toList();
        double position =
                three.stream().mapToDouble(FocusSample::position).average().orElseThrow();
        double size = three.stream().mapToDouble(FocusSample::size).average().orElseThrow();
        // It has no curve of its own; the hyperbola tells whether there was one to read.
        FocusVerdict curve = hyperbola(samples);
        return verdict(samples, position, size, curve.rSquared(), 0, FocusMethod.LOWEST_THREE);
    }

    private static FocusVerdict trendLines(List<FocusSample> samples) {
        int lowest = 0;
        for (int i = 0; i < samples.size(); i++) {
            lowest = samples.get(i).size() < samples.get(lowest).size() ? i : lowest;
        }
        if (positions(samples.subList(0, lowest)) < 2 || positions(samples.subList(lowest + 1, samples.size())) < 2) {
            FocusSample at = samples.get(lowest);
            return refused(
                    at.position(),
                    at.size(),
                    FocusMethod.TREND_LINES,
                    "The smallest size lies at the end of the sweep: sweep further that way.");
        }
        double[] left = polynomial(samples.subList(0, lowest), 1, 0, 1);
        double[] right = polynomial(samples.subList(lowest + 1, samples.size()), 1, 0, 1);
        double position = (right[0] - left[0]) / (left[1] - right[1]);
        double[] predicted = samples.stream()
                .mapToDouble(s -> evaluate(s.position() < position ? left : right, s.position()))
                .toArray();
        return verdict(
                samples, position, evaluate(left, position), rSquared(samples, predicted), 0, FocusMethod.TREND_LINES);
    }

    private static double[] polynomial(List<FocusSample> samples, int degree, double middle, double reach) {
        double[][] rows = new double[samples.size()][degree + 1];
        for (int i = 0; i < rows.length; i++) {
            double x = (samples.get(i).position() - middle) / reach;
            for (int k = 0; k <= degree; k++) {
                rows[i][k] = Math.pow(x, k);
            }
        }
        double[] sizes = samples.stream().mapToDouble(FocusSample::size).toArray();
        return new QRDecomposition(new Array2DRowRealMatrix(rows, false))
                .getSolver()
                .solve(new ArrayRealVector(sizes, false))
                .toArray();
    }

    private static double evaluate(double[] coefficients, double x) {
        double value = 0;
        for (int k = coefficients.length - 1; k >= 0; k--) {
            value = value * x + coefficients[k];
        }
        return value;
    }

    private static double rSquared(List<FocusSample> samples, double[] predicted) {
        double mean = samples.stream().mapToDouble(FocusSample::size).average().orElseThrow();
        double total = 0;
        double left = 0;
        for (int i = 0; i < predicted.length; i++) {
            double size = samples.get(i).size();
            total += (size - mean) * (size - mean);
            left += (size - predicted[i]) * (size - predicted[i]);
        }
        return total == 0 ? 0 : 1 - left / total;
    }

    private static FocusVerdict verdict(
            List<FocusSample> samples, double position, double size, double r2, double sigma, FocusMethod method) {
        String problem = problem(samples, position, r2);
        String reason = problem.isEmpty()
                ? String.format(Locale.ROOT, "The curve explains %.1f %% of the sizes.", 100 * r2)
                : problem;
        return new FocusVerdict(position, size, r2, sigma, method, problem.isEmpty(), reason);
    }

    private static String problem(List<FocusSample> samples, double position, double r2) {
        double first = samples.get(0).position();
        double last = samples.get(samples.size() - 1).position();
        double[] sizes =
                samples.stream().mapToDouble(FocusSample::size).sorted().toArray();
        if (samples.size() < FEWEST_SAMPLES) {
            return "Only " + samples.size() + " sizes were measured; " + FEWEST_SAMPLES + " are needed.";
        }
        if (Arrays.stream(sizes).max().orElseThrow() < LEAST_RISE * sizes[0]) {
            return "The sizes hardly change: sweep wider.";
        }
        if (!(position > first && position < last)) {
            return "Best focus lies outside the sweep: go on " + (position <= first ? "inward" : "outward") + ".";
        }
        if (r2 < LEAST_R_SQUARED) {
            return String.format(
                    Locale.ROOT,
                    "The curve explains only %.0f %% of the sizes; %.0f %% are needed. Look for cloud, wind or backlash.",
                    100 * Math.max(0, r2),
                    100 * LEAST_R_SQUARED);
        }
        return "";
    }
}
