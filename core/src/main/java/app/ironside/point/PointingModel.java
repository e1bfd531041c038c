package app.ironside.point;

import app.ironside.BadInputException;
import app.ironside.Check;
import app.ironside.JsonText;
import app.ironside.device.Mount;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;
import org.hipparchus.linear.RealMatrix;

/**
 * Where a permanent mount really points when it believes to point somewhere: the classical geometric terms of an equatorial mount,
 * fitted to solved frames.
 *
 * @param terms that the points prove, with their uncertainties
 * @param rmsBeforeArcsec residual without any term
 * @param rmsAfterArcsec residual of the points that were fitted
 * @param rmsUnseenArcsec residual of each point when the model is fitted to the others
 * @param points how many were fitted
 * @param made when
 */
public record PointingModel(
        List<Term> terms,
        double rmsBeforeArcsec,
        double rmsAfterArcsec,
        double rmsUnseenArcsec,
        int points,
        Instant made) {
    private static final double SIGNIFICANT = 2.5;
    private static final int POINTS_A_TERM = 2;

    /**
     * A term by its geometry. Each adds to the hour angle (times cos δ) and the declination at which the mount really points, h and δ
     * being where it believes to point.
     *
     * @see "Trueblood and Genet 1985, Microcomputer Control of Telescopes, ch. 5 (from memory)"
     */
    public enum Kind {
        HOUR_ANGLE_INDEX("zero of hour angle") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {Angles.cosDeg(d), 0};
            }
        },
        DECLINATION_INDEX("zero of declination") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {0, 1};
            }
        },
        DECLINATION_AXIS_ZERO("zero of declination, turning over with the telescope") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {0, side};
            }
        },
        COLLIMATION("telescope not square to the declination axis") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {side, 0};
            }
        },
        AXES_NOT_SQUARE("axes not square to each other") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {side * Angles.sinDeg(d), 0};
            }
        },
        POLE_LEFT_RIGHT("polar axis in azimuth") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {-Angles.cosDeg(h) * Angles.sinDeg(d), Angles.sinDeg(h)};
            }
        },
        POLE_UP_DOWN("polar axis in altitude") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {Angles.sinDeg(h) * Angles.sinDeg(d), Angles.cosDeg(h)};
            }
        },
        TUBE_FLEXURE("tube bends under its weight") {
            @Override
            double[] effect(double h, double d, double side, double latitude) {
                return new double[] {
                    Angles.cosDeg(latitude) * Angles.sinDeg(h),
                    Angles.cosDeg(latitude) * Angles.cosDeg(h) * Angles.sinDeg(d)
                            - Angles.sinDeg(latitude) * Angles.cosDeg(d)
                };
            }
        };

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /**
         * Change of h cos δ and of δ for a unit of the term.
         *
         * @param side 1 west of the pier, −1 east of it
         */
        abstract double[] effect(double h, double d, double side, double latitude);
    }

    /** A term with its standard deviation. */
    public record Term(Kind kind, double arcsec, double sigmaArcsec) {
        public double significance() {
            return Math.abs(arcsec) / Math.max(1e-9, sigmaArcsec);
        }
    }

    /**
     * A solved frame.
     *
     * @param believed where the mount believed to point
     * @param solved where it pointed
     */
    public record Point(Equatorial believed, Equatorial solved, Instant time, Mount.PierSide side) {}

    /** An answer of the fit: a model, or why there is none. */
    public sealed interface Result permits Fitted, NotFitted {}

    public record Fitted(PointingModel model) implements Result {}

    public record NotFitted(String reason) implements Result {}

    public PointingModel {
        terms = List.copyOf(terms);
    }

    /** Terms that stand out of the noise, the two index terms always; the others are dropped one by one, the weakest first. */
    public static Result fit(List<Point> points, Observer observer, Instant now) {
        Set<Kind> kinds = EnumSet.allOf(Kind.class);
        boolean bothSides = points.stream().map(Point::side).distinct().count() > 1;
        if (!bothSides) {
            // On one side of the pier these cannot be told from the index terms.
            kinds.remove(Kind.COLLIMATION);
            kinds.remove(Kind.AXES_NOT_SQUARE);
            kinds.remove(Kind.DECLINATION_AXIS_ZERO);
        }
        if (points.size() < POINTS_A_TERM * 3) {
            return new NotFitted("Only " + points.size() + " points were solved and " + POINTS_A_TERM * 3
                    + " are needed: take more, spread over the sky.");
        }
        while (points.size() < POINTS_A_TERM * kinds.size()) {
            kinds.remove(List.copyOf(kinds).get(kinds.size() - 1));
        }
        Solution solution = solve(points, kinds, observer);
        while (solution != null) {
            Term weakest = null;
            for (Term t : solution.terms) {
                boolean index = t.kind() == Kind.HOUR_ANGLE_INDEX || t.kind() == Kind.DECLINATION_INDEX;
                if (!index && (weakest == null || t.significance() < weakest.significance())) {
                    weakest = t;
                }
            }
            if (weakest == null || weakest.significance() >= SIGNIFICANT) {
                break;
            }
            kinds.remove(weakest.kind());
            solution = solve(points, kinds, observer);
        }
        if (solution == null) {
            return new NotFitted(
                    "The points lie too close together to tell the terms apart: spread them over the sky.");
        }
        return new Fitted(new PointingModel(
                solution.terms,
                rms(points, List.of(), observer),
                rms(points, solution.terms, observer),
                unseen(points, kinds, observer),
                points.size(),
                now));
    }

    private record Solution(List<Term> terms) {}

    private static Solution solve(List<Point> points, Set<Kind> kinds, Observer observer) {
        double[][] rows = new double[points.size() * 2][kinds.size()];
        double[] off = new double[rows.length];
        for (int i = 0; i < points.size(); i++) {
            Point p = points.get(i);
            double[] error = error(p);
            off[2 * i] = error[0];
            off[2 * i + 1] = error[1];
            int k = 0;
            for (Kind kind : kinds) {
                double[] effect = effect(kind, p.believed(), p.time(), p.side(), observer);
                rows[2 * i][k] = effect[0];
                rows[2 * i + 1][k++] = effect[1];
            }
        }
        RealMatrix matrix = new Array2DRowRealMatrix(rows, false);
        DecompositionSolver solver = new QRDecomposition(matrix, 1e-8).getSolver();
        if (!solver.isNonSingular()) {
            return null;
        }
        double[] fitted = solver.solve(new ArrayRealVector(off, false)).toArray();
        double squares = 0;
        double[] model = matrix.operate(fitted);
        for (int i = 0; i < off.length; i++) {
            squares += (off[i] - model[i]) * (off[i] - model[i]);
        }
        double variance = squares / Math.max(1, off.length - fitted.length);
        RealMatrix covariance = new QRDecomposition(matrix.transposeMultiply(matrix), 1e-12)
                .getSolver()
                .getInverse();
        List<Term> terms = new ArrayList<>();
        int k = 0;
        for (Kind kind : kinds) {
            terms.add(new Term(kind, fitted[k], Math.sqrt(variance * covariance.getEntry(k, k))));
            k++;
        }
        return new Solution(terms);
    }

    /** Hour angle (times cos δ) and declination solved less believed, arcseconds. */
    private static double[] error(Point p) {
        double west = -Angles.wrap180(p.solved().raDeg() - p.believed().raDeg());
        return new double[] {
            west * Angles.cosDeg(p.believed().decDeg()) * 3600,
            (p.solved().decDeg() - p.believed().decDeg()) * 3600
        };
    }

    private static double[] effect(Kind kind, Equatorial at, Instant time, Mount.PierSide side, Observer observer) {
        return kind.effect(
                observer.hourAngleDeg(at, time),
                at.decDeg(),
                side == Mount.PierSide.WEST ? 1 : -1,
                observer.site().latDeg());
    }

    private static double[] expected(
            List<Term> terms, Equatorial at, Instant time, Mount.PierSide side, Observer observer) {
        double[] sum = new double[2];
        for (Term term : terms) {
            double[] effect = effect(term.kind(), at, time, side, observer);
            sum[0] += term.arcsec() * effect[0];
            sum[1] += term.arcsec() * effect[1];
        }
        return sum;
    }

    private static double rms(List<Point> points, List<Term> terms, Observer observer) {
        double sum = 0;
        for (Point p : points) {
            double[] error = error(p);
            double[] expected = expected(terms, p.believed(), p.time(), p.side(), observer);
            sum += Math.pow(error[0] - expected[0], 2) + Math.pow(error[1] - expected[1], 2);
        }
        return Math.sqrt(sum / points.size());
    }

    /** Each point against a model of all others. */
    private static double unseen(List<Point> points, Set<Kind> kinds, Observer observer) {
        double sum = 0;
        int counted = 0;
        for (Point left : points) {
            List<Point> others = points.stream().filter(p -> p != left).toList();
            Solution solution = solve(others, kinds, observer);
            if (solution != null) {
                sum += Math.pow(rms(List.of(left), solution.terms, observer), 2);
                counted++;
            }
        }
        return Math.sqrt(sum / Math.max(1, counted));
    }

    /** Where to send the mount so that it points at a target. */
    public Equatorial commandFor(Equatorial target, Instant time, Mount.PierSide side, Observer observer) {
        Equatorial command = target;
        // Twice: the terms are those of where the mount believes to point.
        for (int round = 0; round < 2; round++) {
            double[] off = expected(terms, command, time, side, observer);
            double cos = Math.max(0.02, Angles.cosDeg(command.decDeg()));
            command = new Equatorial(
                    Angles.wrap360(target.raDeg() + off[0] / 3600 / cos),
                    Math.max(-90, Math.min(90, target.decDeg() - off[1] / 3600)));
        }
        return command;
    }

    /** Whether a new frame contradicts the model: what moved since, in a sentence, or empty. */
    public Optional<String> staleness(Point check, Observer observer) {
        double off = rms(List.of(check), terms, observer);
        double limit = Math.max(60, 6 * rmsUnseenArcsec);
        return off <= limit
                ? Optional.empty()
                : Optional.of(String.format(
                        Locale.ROOT,
                        "The model is stale: this frame lies %.1f′ from where it should (limit %.1f′). The mount was moved or the camera refitted; targets are centred without it. Clear it at Point, Model, and take new points.",
                        off / 60,
                        limit / 60));
    }

    /** As open JSON. */
    public String toJson() {
        return JsonText.write(JsonText.tree(
                new Saved(terms, rmsBeforeArcsec, rmsAfterArcsec, rmsUnseenArcsec, points, made.toString())));
    }

    private record Saved(
            List<Term> terms,
            double rmsBeforeArcsec,
            double rmsAfterArcsec,
            double rmsUnseenArcsec,
            int points,
            String made) {}

    /**
     * @param name of the file, for messages
     * @throws BadInputException if it is no saved model
     */
    public static PointingModel parse(String json, String name) {
        Saved saved = JsonText.read(json, Saved.class, name, "a pointing model saved by Ironside");
        Check.atLeast("points", saved.points(), 1);
        return new PointingModel(
                saved.terms(),
                saved.rmsBeforeArcsec(),
                saved.rmsAfterArcsec(),
                saved.rmsUnseenArcsec(),
                saved.points(),
                Instant.parse(saved.made()));
    }
}
