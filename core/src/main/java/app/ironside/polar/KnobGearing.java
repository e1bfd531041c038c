package app.ironside.polar;

import app.ironside.Check;

/**
 * How the two knobs of a base move the axis, learned from the movements seen. On a level base each knob moves one coordinate; on a tilted
 * one both move both, and that is learned too.
 *
 * <p>Each coordinate's answer to a turn of either knob is known with an uncertainty; every adjustment narrows it (least squares with the
 * first guess as one observation among the others).
 *
 * @param altitude how altitude answers
 * @param azimuth how azimuth, as an angle on the sky at the pole, answers
 */
public record KnobGearing(Answer altitude, Answer azimuth) {
    /** A hand misses the turn it was asked for by about this share. */
    private static final double CLUMSINESS = 0.08;

    private static final double GUESS_ARCMIN_A_TURN = 45;
    private static final double GUESS_SIGMA = 60;

    /** Of the other knob: a base tilted by 10° mixes a sixth of a turn. */
    private static final double MIXING_SIGMA = 8;

    private static final double LEAST_MOVEMENT_ARCMIN = 0.3;

    /** A guess for a base nobody has turned yet, corrected by the first turn. */
    public static final KnobGearing UNKNOWN = of(GUESS_ARCMIN_A_TURN, GUESS_ARCMIN_A_TURN);

    /**
     * How one coordinate answers, arcminutes a turn.
     *
     * @param own to a turn of its own knob
     * @param other to a turn of the other knob
     * @param ownVariance of own, and so on
     */
    public record Answer(double own, double other, double ownVariance, double otherVariance, double covariance) {
        /** What the coordinate moves by. */
        double move(double ownTurns, double otherTurns) {
            return own * ownTurns + other * otherTurns;
        }

        /** After a movement seen with a standard deviation (Kalman's update for a constant). */
        Answer learned(double ownTurns, double otherTurns, double moved, double sigma) {
            double pa = ownVariance * ownTurns + covariance * otherTurns;
            double pb = covariance * ownTurns + otherVariance * otherTurns;
            double innovation = ownTurns * pa + otherTurns * pb + sigma * sigma;
            double ka = pa / innovation;
            double kb = pb / innovation;
            double off = moved - move(ownTurns, otherTurns);
            return new Answer(
                    own + ka * off,
                    other + kb * off,
                    Math.max(1e-6, ownVariance - ka * pa),
                    Math.max(1e-6, otherVariance - kb * pb),
                    covariance - ka * pb);
        }
    }

    /** Whether it was seen what a turn does; before that it is a guess. */
    public boolean isLearned() {
        return !equals(UNKNOWN);
    }

    /** A level base with a gearing that is only guessed. */
    public static KnobGearing of(double altitudeArcminPerTurn, double azimuthArcminPerTurn) {
        return new KnobGearing(guess(altitudeArcminPerTurn), guess(azimuthArcminPerTurn));
    }

    private static Answer guess(double arcminPerTurn) {
        Check.positive("arcminPerTurn", arcminPerTurn);
        return new Answer(arcminPerTurn, 0, GUESS_SIGMA * GUESS_SIGMA, MIXING_SIGMA * MIXING_SIGMA, 0);
    }

    /** The turns of both knobs that move the axis by so much: altitude, azimuth. */
    double[] turnsFor(double altitudeArcmin, double azimuthArcmin) {
        double determinant = altitude.own() * azimuth.own() - altitude.other() * azimuth.other();
        if (Math.abs(determinant) < 0.2 * Math.abs(altitude.own() * azimuth.own())) {
            // Two knobs that seem to do the same: better one coordinate after the other.
            return new double[] {altitudeArcmin / altitude.own(), azimuthArcmin / azimuth.own()};
        }
        return new double[] {
            (altitudeArcmin * azimuth.own() - azimuthArcmin * altitude.other()) / determinant,
            (azimuthArcmin * altitude.own() - altitudeArcmin * azimuth.other()) / determinant
        };
    }

    /** What an adjustment taught; a movement too small to measure teaches nothing. */
    public KnobGearing learnedFrom(KnobAdvice done, PolarError before, PolarError after) {
        double up = after.altitudeErrorArcmin() - before.altitudeErrorArcmin();
        double east = after.azimuthErrorArcmin() - before.azimuthErrorArcmin();
        double measured = Math.hypot(before.uncertaintyArcmin(), after.uncertaintyArcmin());
        if (Math.hypot(up, east) < Math.max(LEAST_MOVEMENT_ARCMIN, 3 * measured)) {
            return this;
        }
        double missed = CLUMSINESS * Math.hypot(up, east);
        double sigma = Math.hypot(measured, missed);
        KnobGearing next = new KnobGearing(
                altitude.learned(done.altitudeTurns(), done.azimuthTurns(), up, sigma),
                azimuth.learned(done.azimuthTurns(), done.altitudeTurns(), east, sigma));
        // A knob that seems to work the other way round was not the knob that was turned.
        return next.altitude().own() > 1 && next.azimuth().own() > 1 ? next : this;
    }

    /** What is left of it when the base has been set down anew: its screws are the same, its tilt is not, and a little is forgotten. */
    public KnobGearing onAnotherNight() {
        return isLearned() ? new KnobGearing(setDownAnew(altitude), setDownAnew(azimuth)) : this;
    }

    private static Answer setDownAnew(Answer answer) {
        double forgotten = CLUMSINESS * answer.own();
        return new Answer(
                answer.own(), 0, answer.ownVariance() + forgotten * forgotten, MIXING_SIGMA * MIXING_SIGMA, 0);
    }

    /** How far the base seems tilted, degrees: one knob's share in the other's coordinate. */
    public double tiltDeg() {
        return Math.toDegrees(Math.atan(
                Math.max(Math.abs(altitude.other() / azimuth.own()), Math.abs(azimuth.other() / altitude.own()))));
    }
}
