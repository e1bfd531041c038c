package app.ironside.guide;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.QRDecomposition;

/**
 * Periods in unevenly spaced samples: at each period a sine with a line is fitted by least squares, and the strongest is taken out until
 * what is left is noise.
 *
 * @see "Zechmeister and Kürster 2009, A&A 496, 577 (generalised Lomb-Scargle periodogram); with a slope beside the constant, because mounts
 *     drift"
 */
public final class Periodogram {
    private static final int MOST = 5;

    /** Steps of frequency over the width of a peak. */
    private static final int OVERSAMPLING = 6;

    /** A chance peak as strong is rarer than this. */
    private static final double FALSE_ALARM = 0.001;

    private static final int MOST_FREQUENCIES = 6000;

    /**
     * A sine in the record.
     *
     * @param amplitude half of its swing, in the samples' unit
     * @param falseAlarm how probable a peak as strong is in noise
     */
    public record Peak(double periodSeconds, double amplitude, double falseAlarm) {}

    private final double[] t;
    private final double[] y;

    private Periodogram(double[] t, double[] y) {
        this.t = t;
        this.y = y;
    }

    /**
     * The significant periods, strongest first.
     *
     * @param shortestSeconds of the periods looked for
     */
    public static List<Peak> of(double[] seconds, double[] values, double shortestSeconds) {
        double span = seconds[seconds.length - 1] - seconds[0];
        double longest = span / 2;
        if (longest <= shortestSeconds || seconds.length < GuideLog.FEWEST) {
            return List.of();
        }
        double[] left = values.clone();
        List<Peak> peaks = new ArrayList<>();
        for (int round = 0; round < MOST; round++) {
            Optional<Peak> peak = new Periodogram(seconds, left).strongest(shortestSeconds, longest, span);
            if (peak.isEmpty()) {
                break;
            }
            peaks.add(peak.get());
            left = new Periodogram(seconds, left).without(peak.get().periodSeconds());
        }
        List<Peak> together = new Periodogram(seconds, values).together(peaks);
        together.sort((a, b) -> Double.compare(b.amplitude, a.amplitude));
        return together;
    }

    /** The same periods with their amplitudes fitted at once: one after the other, each takes a little of the next. */
    private List<Peak> together(List<Peak> peaks) {
        double[] c = solve(rows(peaks));
        List<Peak> out = new ArrayList<>();
        for (int k = 0; k < peaks.size(); k++) {
            Peak p = peaks.get(k);
            out.add(new Peak(p.periodSeconds, Math.hypot(c[2 + 2 * k], c[3 + 2 * k]), p.falseAlarm));
        }
        return out;
    }

    /** What a line and sines of these periods, fitted at once, leave. */
    static double[] without(double[] seconds, double[] values, List<Peak> peaks) {
        Periodogram p = new Periodogram(seconds, values);
        double[][] rows = p.rows(peaks);
        double[] c = p.solve(rows);
        double[] left = values.clone();
        for (int i = 0; i < left.length; i++) {
            for (int k = 0; k < c.length; k++) {
                left[i] -= c[k] * rows[i][k];
            }
        }
        return left;
    }

    private double[][] rows(List<Peak> peaks) {
        double[][] rows = new double[t.length][2 + 2 * peaks.size()];
        double middle = (t[0] + t[t.length - 1]) / 2;
        for (int i = 0; i < t.length; i++) {
            rows[i][0] = 1;
            rows[i][1] = (t[i] - middle) / Math.max(1e-9, middle - t[0]);
            for (int k = 0; k < peaks.size(); k++) {
                double phase = 2 * Math.PI * t[i] / peaks.get(k).periodSeconds;
                rows[i][2 + 2 * k] = Math.cos(phase);
                rows[i][3 + 2 * k] = Math.sin(phase);
            }
        }
        return rows;
    }

    private double[] solve(double[][] rows) {
        return new QRDecomposition(MatrixUtils.createRealMatrix(rows))
                .getSolver()
                .solve(MatrixUtils.createRealVector(y))
                .toArray();
    }

    /** Share of the variance about a line that a sine of a period takes: the normalised power, 0 to 1. */
    public static double power(double[] seconds, double[] values, double periodSeconds) {
        Periodogram p = new Periodogram(seconds, values);
        double without = p.residual(0);
        return without <= 0 ? 0 : 1 - p.residual(1 / periodSeconds) / without;
    }

    private Optional<Peak> strongest(double shortest, double longest, double span) {
        double from = 1 / longest;
        double to = 1 / shortest;
        int count = (int) Math.min(MOST_FREQUENCIES, Math.max(10, (to - from) * span * OVERSAMPLING));
        double without = residual(0);
        double best = 0;
        double at = from;
        for (int i = 0; i <= count; i++) {
            double frequency = from + (to - from) * i / count;
            double power = 1 - residual(frequency) / Math.max(1e-300, without);
            if (power > best) {
                best = power;
                at = frequency;
            }
        }
        double step = (to - from) / count;
        for (int i = 0; i < 40; i++) {
            step /= 1.5;
            for (double tried : new double[] {at - step, at + step}) {
                double power = tried >= from && tried <= to ? 1 - residual(tried) / Math.max(1e-300, without) : 0;
                if (power > best) {
                    best = power;
                    at = tried;
                }
            }
        }
        double independent = Math.max(1, (to - from) * span);
        double single = Math.pow(1 - best, (t.length - 5) / 2.0);
        double falseAlarm = 1 - Math.pow(1 - Math.min(1, single), independent);
        double[] c = fit(at);
        return falseAlarm < FALSE_ALARM
                ? Optional.of(new Peak(1 / at, Math.hypot(c[2], c[3]), falseAlarm))
                : Optional.empty();
    }

    private double[] without(double period) {
        double[] c = fit(1 / period);
        double[] out = y.clone();
        for (int i = 0; i < out.length; i++) {
            double phase = 2 * Math.PI * t[i] / period;
            out[i] -= c[2] * Math.cos(phase) + c[3] * Math.sin(phase);
        }
        return out;
    }

    private double[] fit(double frequency) {
        double[][] normal = new double[4][4];
        double[] right = new double[4];
        sums(frequency, normal, right);
        return new QRDecomposition(MatrixUtils.createRealMatrix(normal))
                .getSolver()
                .solve(MatrixUtils.createRealVector(right))
                .toArray();
    }

    /** Sum of squares that a line and, for a frequency above 0, a sine leave. */
    private double residual(double frequency) {
        int terms = frequency == 0 ? 2 : 4;
        double[][] normal = new double[4][4];
        double[] right = new double[4];
        double all = sums(frequency, normal, right);
        return Math.max(0, all - explained(normal, right, terms));
    }

    private double sums(double frequency, double[][] normal, double[] right) {
        double all = 0;
        double middle = (t[0] + t[t.length - 1]) / 2;
        double half = Math.max(1e-9, (t[t.length - 1] - t[0]) / 2);
        double[] row = {1, 0, 0, 0};
        for (int i = 0; i < t.length; i++) {
            double phase = 2 * Math.PI * frequency * t[i];
            row[1] = (t[i] - middle) / half;
            row[2] = Math.cos(phase);
            row[3] = Math.sin(phase);
            all += y[i] * y[i];
            for (int a = 0; a < 4; a++) {
                right[a] += row[a] * y[i];
                for (int b = a; b < 4; b++) {
                    normal[a][b] += row[a] * row[b];
                }
            }
        }
        for (int a = 1; a < 4; a++) {
            for (int b = 0; b < a; b++) {
                normal[a][b] = normal[b][a];
            }
        }
        return all;
    }

    /** Of the sum of squares, by Cholesky's factor: the squared length of what is left of the right side. */
    private static double explained(double[][] normal, double[] right, int terms) {
        double[][] l = new double[terms][terms];
        double[] z = new double[terms];
        double sum = 0;
        for (int i = 0; i < terms; i++) {
            for (int j = 0; j <= i; j++) {
                double s = normal[i][j];
                for (int k = 0; k < j; k++) {
                    s -= l[i][k] * l[j][k];
                }
                if (i == j) {
                    l[i][i] = Math.sqrt(Math.max(1e-12, s));
                } else {
                    l[i][j] = s / l[j][j];
                }
            }
            double s = right[i];
            for (int k = 0; k < i; k++) {
                s -= l[i][k] * z[k];
            }
            z[i] = s / l[i][i];
            sum += z[i] * z[i];
        }
        return sum;
    }
}
