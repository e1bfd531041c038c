package app.ironside.polar;

import app.ironside.Check;

/**
 * How far one turn of each knob moves the axis, learned from the adjustments seen.
 */
public record KnobGearing(double altitudeArcminPerTurn, double azimuthArcminPerTurn) {
    /** A guess for a base nobody has turned yet: 45′ a turn, corrected by the first turn. */
    public static final KnobGearing UNKNOWN = new KnobGearing(45, 45);

    private static final double LEAST_TURN = 0.02;
    private static final double SLOWEST = 2;
    private static final double FASTEST = 400;

    public KnobGearing {
        Check.positive("altitudeArcminPerTurn", altitudeArcminPerTurn);
        Check.positive("azimuthArcminPerTurn", azimuthArcminPerTurn);
    }

    /** What an adjustment taught; turns too small to measure, or answers beyond any real knob, teach nothing. */
    public KnobGearing learnedFrom(KnobAdvice done, PolarError before, PolarError after) {
        return new KnobGearing(
                learned(
                        altitudeArcminPerTurn,
                        done.altitudeTurns(),
                        after.altitudeErrorArcmin() - before.altitudeErrorArcmin()),
                learned(
                        azimuthArcminPerTurn,
                        done.azimuthTurns(),
                        after.azimuthErrorArcmin() - before.azimuthErrorArcmin()));
    }

    private static double learned(double known, double turns, double movedArcmin) {
        double gearing = movedArcmin / turns;
        return Math.abs(turns) < LEAST_TURN || !(gearing >= SLOWEST && gearing <= FASTEST) ? known : gearing;
    }
}
