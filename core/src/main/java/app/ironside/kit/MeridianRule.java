package app.ironside.kit;

/**
 * What a German mount may do about the meridian at one declination. Hour angles in degrees, west positive.
 *
 * @param contactDeg to which the telescope may be followed from the side on which it looks east
 * @param freeDeg from which the other side may be used
 */
public record MeridianRule(double contactDeg, double freeDeg) {
    /** The sky's turn, degrees of hour angle a second of mean time. */
    public static final double DEG_PER_SECOND = 360.985_647_366 / 86_400;

    /** Past the point from which the other side is free by this much, so that the mount is sure to take it: 24 s. */
    private static final double SURE_DEG = 0.1;

    /** The rule of a kit. */
    public static MeridianRule of(Kit kit, double declinationDeg) {
        return new MeridianRule(kit.contactHourAngleDeg(declinationDeg), kit.freeAfterFlipDeg(declinationDeg));
    }

    /** Which side serves a target. */
    public enum Side {
        /** Looking east, before the flip. */
        BEFORE,
        /** Looking west, after it. */
        AFTER,
        /** Neither: the target has to move on first. */
        NEITHER
    }

    /**
     * The side on which a target can be followed for some time. Past the meridian the side that need not be left is taken.
     *
     * @param seconds for which it has to serve
     */
    public Side side(double hourAngleDeg, double seconds) {
        boolean before = hourAngleDeg + seconds * DEG_PER_SECOND <= contactDeg;
        boolean after = hourAngleDeg >= freeDeg;
        if (after && (hourAngleDeg >= 0 || !before)) {
            return Side.AFTER;
        }
        return before ? Side.BEFORE : Side.NEITHER;
    }

    /** Whether a sub that begins now would still be under way at the contact limit. */
    public boolean flipDue(double hourAngleDeg, double subSeconds) {
        return hourAngleDeg + subSeconds * DEG_PER_SECOND > contactDeg;
    }

    /** The hour angle from which the flip may be made. */
    public double flipFromDeg() {
        return freeDeg + SURE_DEG;
    }

    /** The hour angle at which the flip is to be expected: subs end half a sub before the limit on average. */
    public double expectedFlipDeg(double subSeconds) {
        return Math.max(flipFromDeg(), lastLightDeg(subSeconds));
    }

    /** Seconds before the flip in which neither side serves. */
    public double idleSeconds(double subSeconds) {
        return Math.max(0, flipFromDeg() - lastLightDeg(subSeconds)) / DEG_PER_SECOND;
    }

    private double lastLightDeg(double subSeconds) {
        return contactDeg - subSeconds / 2 * DEG_PER_SECOND;
    }
}
