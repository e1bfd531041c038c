package app.ironside.journal;

import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusVerdict;
import app.ironside.focus.SweepZones;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * A focus run.
 *
 * @param why what it was made for
 * @param points in the order in which they were taken
 * @param curve the hyperbola through them
 * @param filter that was in
 * @param filterOffsetSteps by which that filter focuses beyond the kit's reference, where the journal tells it
 * @param temperatureC of the tube
 * @param zones where middle and corners were in focus, where enough stars showed and the journal tells it
 * @param strip one of its stars in each of its frames, where that was kept
 */
public record FocusSwept(
        Instant time,
        String text,
        String why,
        List<Point> points,
        FocusVerdict verdict,
        Hyperbola curve,
        String filter,
        OptionalInt filterOffsetSteps,
        double temperatureC,
        Duration took,
        Optional<SweepZones> zones,
        Optional<Strip> strip)
        implements NightEvent {
    /**
     * A point of the sweep.
     *
     * @param size half-flux radius, px
     * @param sigma its standard error, px, where the journal tells it
     */
    public record Point(double position, double size, OptionalDouble sigma) {}

    /**
     * A picture of squares beside one another.
     *
     * @param file below the night's folder, PNG
     * @param positions of the focuser, steps, one for each square
     */
    public record Strip(String file, List<Integer> positions) {
        public Strip {
            positions = List.copyOf(positions);
        }
    }

    /** size² = a² + b²(x − c)², x in steps, sizes in px. */
    public record Hyperbola(double a, double b, double c) {
        public double sizeAt(double position) {
            return FocusCurve.hyperbolaSize(new double[] {a, b, c}, position);
        }
    }

    public FocusSwept {
        points = List.copyOf(points);
    }

    /** Why a coarse sweep at the beginning of a night is made. */
    public static final String ROUGH = "Rough focus";

    /** Whether it is good for a filter's own position. */
    public boolean isFine() {
        return !why.equals(ROUGH);
    }

    @Override
    public Stage station() {
        return Stage.FOCUS;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
