package app.ironside.focus;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.hipparchus.distribution.continuous.TDistribution;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.LUDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * Where a kit's focus lies, from its own runs on many nights: a slope by the tube's temperature and a step for each filter, by least
 * squares. Runs of one night share what was unscrewed between nights, so that errors count nights and not runs.
 *
 * @param stepsPerDegree of the tube's temperature
 * @param slopeSigma its standard error
 * @param scatterSteps of the runs about the model, a standard deviation
 * @param meanTemperatureC of the runs
 * @param meanSteps of the reference filter at that temperature
 * @param filters in the order in which they were first used, with their steps from the first
 * @param supportedSince from which run on the record carries a compensation; empty if it does not yet
 */
public record FocusModel(
        int runs,
        int nights,
        double spanC,
        double stepsPerDegree,
        double slopeSigma,
        double scatterSteps,
        double meanTemperatureC,
        double meanSteps,
        List<FilterStep> filters,
        Optional<Instant> supportedSince) {
    /**
     * A run that was believed.
     *
     * @param night any number that runs of one night share
     */
    public record Run(long night, Instant time, String filter, double temperatureC, double position) {}

    /** A filter's best focus from the first filter's, steps. */
    public record FilterStep(String filter, double steps) {}

    private static final int FEWEST_RUNS = 4;
    private static final double LEAST_SPAN_C = 1.5;

    private static final int RUNS_TO_TRUST = 10;
    private static final int NIGHTS_TO_TRUST = 3;
    private static final double SPAN_TO_TRUST_C = 4;

    /** Degrees over which a compensation must not lead out of focus. */
    private static final double OVER_C = 3;

    /** A run farther off than so many spreads was none. */
    private static final double FAR_SPREADS = 4;

    private static final double NORMAL = 1.4826;

    /** Of a normal distribution, deviations that hold nineteen of twenty. */
    private static final double NORMAL_95 = 1.96;

    public FocusModel {
        filters = List.copyOf(filters);
    }

    /**
     * Fits the runs.
     *
     * @param runs in order of time
     * @param zoneSteps half the critical zone: what a compensation must stay within
     * @return empty if they are too few, or at one temperature
     */
    public static Optional<FocusModel> of(List<Run> runs, double zoneSteps) {
        Optional<FocusModel> whole = fitted(runs);
        if (whole.isEmpty()) {
            return whole;
        }
        Optional<Instant> since = Optional.empty();
        if (whole.get().supports(zoneSteps)) {
            for (int n = RUNS_TO_TRUST; n <= runs.size(); n++) {
                if (fitted(runs.subList(0, n))
                        .filter(m -> m.supports(zoneSteps))
                        .isPresent()) {
                    since = Optional.of(runs.get(n - 1).time());
                    break;
                }
            }
        }
        FocusModel m = whole.get();
        return Optional.of(new FocusModel(
                m.runs,
                m.nights,
                m.spanC,
                m.stepsPerDegree,
                m.slopeSigma,
                m.scatterSteps,
                m.meanTemperatureC,
                m.meanSteps,
                m.filters,
                since));
    }

    private static Optional<FocusModel> fitted(List<Run> runs) {
        Optional<FocusModel> all = solved(runs);
        if (all.isEmpty()) {
            return all;
        }
        FocusModel first = all.get();
        double[] off = runs.stream()
                .mapToDouble(r -> Math.abs(r.position() - first.expected(r.filter(), r.temperatureC())))
                .sorted()
                .toArray();
        double within = Math.max(1, FAR_SPREADS * NORMAL * off[off.length / 2]);
        List<Run> near = runs.stream()
                .filter(r -> Math.abs(r.position() - first.expected(r.filter(), r.temperatureC())) <= within)
                .toList();
        return near.size() == runs.size() ? all : solved(near).or(() -> all);
    }

    private static Optional<FocusModel> solved(List<Run> runs) {
        List<String> filters = runs.stream().map(Run::filter).distinct().toList();
        int unknowns = 1 + filters.size();
        double coldest = runs.stream().mapToDouble(Run::temperatureC).min().orElse(0);
        double warmest = runs.stream().mapToDouble(Run::temperatureC).max().orElse(0);
        if (runs.size() < FEWEST_RUNS || runs.size() <= unknowns || warmest - coldest < LEAST_SPAN_C) {
            return Optional.empty();
        }
        double mean = runs.stream().mapToDouble(Run::temperatureC).average().orElseThrow();
        RealMatrix normal = new Array2DRowRealMatrix(unknowns, unknowns);
        RealVector right = new ArrayRealVector(unknowns);
        for (Run r : runs) {
            RealVector row = row(r, filters, mean);
            normal = normal.add(row.outerProduct(row));
            right = right.add(row.mapMultiply(r.position()));
        }
        LUDecomposition decomposed = new LUDecomposition(normal);
        if (!decomposed.getSolver().isNonSingular()) {
            return Optional.empty();
        }
        RealMatrix inverse = decomposed.getSolver().getInverse();
        RealVector found = inverse.operate(right);
        double[] off = new double[runs.size()];
        double squares = 0;
        for (int i = 0; i < off.length; i++) {
            off[i] = runs.get(i).position() - row(runs.get(i), filters, mean).dotProduct(found);
            squares += off[i] * off[i];
        }
        double scatter = Math.sqrt(squares / (runs.size() - unknowns));
        double sigma = byNights(runs, filters, mean, off, inverse);
        List<FilterStep> steps = new ArrayList<>();
        for (int k = 0; k < filters.size(); k++) {
            steps.add(new FilterStep(filters.get(k), found.getEntry(1 + k) - found.getEntry(1)));
        }
        return Optional.of(new FocusModel(
                runs.size(),
                (int) runs.stream().mapToLong(Run::night).distinct().count(),
                warmest - coldest,
                found.getEntry(0),
                Math.max(sigma, scatter * Math.sqrt(inverse.getEntry(0, 0))),
                scatter,
                mean,
                found.getEntry(1),
                steps,
                Optional.empty()));
    }

    /** The slope's error where runs of a night err together (cluster-robust, Liang and Zeger 1986), enlarged so that twice it holds nineteen of twenty for few nights. */
    private static double byNights(
            List<Run> runs, List<String> filters, double mean, double[] off, RealMatrix inverse) {
        List<Long> nights = runs.stream().map(Run::night).distinct().toList();
        if (nights.size() < 2) {
            return 0;
        }
        RealMatrix meat = new Array2DRowRealMatrix(inverse.getRowDimension(), inverse.getRowDimension());
        for (long night : nights) {
            RealVector sum = new ArrayRealVector(inverse.getRowDimension());
            for (int i = 0; i < off.length; i++) {
                if (runs.get(i).night() == night) {
                    sum = sum.add(row(runs.get(i), filters, mean).mapMultiply(off[i]));
                }
            }
            meat = meat.add(sum.outerProduct(sum));
        }
        int freedom = Math.max(1, nights.size() - 2);
        double few = nights.size() / (double) freedom;
        // Nights at the ends of the temperatures weigh most: about half of them count.
        double student =
                new TDistribution(Math.max(1, (nights.size() - 1) / 2)).inverseCumulativeProbability(0.975) / NORMAL_95;
        return student
                * Math.sqrt(Math.max(
                        0, few * inverse.multiply(meat).multiply(inverse).getEntry(0, 0)));
    }

    private static RealVector row(Run run, List<String> filters, double mean) {
        RealVector row = new ArrayRealVector(1 + filters.size());
        row.setEntry(0, run.temperatureC() - mean);
        row.setEntry(1 + filters.indexOf(run.filter()), 1);
        return row;
    }

    /** Where focus is expected; a filter that was never used is taken for the first. */
    public double expected(String filter, double temperatureC) {
        double step = filters.stream()
                .filter(f -> f.filter().equals(filter))
                .mapToDouble(FilterStep::steps)
                .findFirst()
                .orElse(0);
        return meanSteps + step + stepsPerDegree * (temperatureC - meanTemperatureC);
    }

    /** How far off a run at a temperature may lie, a standard deviation. */
    public double expectedSigma(double temperatureC) {
        return Math.hypot(scatterSteps, slopeSigma * (temperatureC - meanTemperatureC));
    }

    /** Whether a compensation by this slope keeps focus: the slope is known to within the zone over some degrees. */
    private boolean supports(double zoneSteps) {
        return lacks(zoneSteps).isEmpty();
    }

    /** What the record still lacks for a compensation, in words; empty if it carries one. */
    public String lacks(double zoneSteps) {
        if (runs < RUNS_TO_TRUST || nights < NIGHTS_TO_TRUST) {
            return String.format(
                    Locale.ROOT,
                    "%d runs on %d nights; %d on %d are wanted",
                    runs,
                    nights,
                    RUNS_TO_TRUST,
                    NIGHTS_TO_TRUST);
        }
        if (spanC < SPAN_TO_TRUST_C) {
            return String.format(Locale.ROOT, "they span %.1f °C only; %.0f are wanted", spanC, SPAN_TO_TRUST_C);
        }
        if (slopeSigma * OVER_C > zoneSteps / 2) {
            return String.format(
                    Locale.ROOT,
                    "its error of ± %.2f steps a degree leads out of the critical zone within %.0f °C",
                    slopeSigma,
                    OVER_C);
        }
        return "";
    }
}
