package app.ironside.guide;

/** Slack in a gear, followed by what was sent: the motor runs before the axis moves, wherever it turns round. */
final class Slack {
    /** Of the slack so much is added where the way turns round: too much would throw the star across. */
    private static final double TAKEN_SHARE = 0.85;

    private final double arcsec;

    /**
     * Where the motor stands within its slack, 0 where it presses one way, {@link #arcsec} where it presses the other; no number before it
     * has run: then it is taken to press.
     */
    private double held;

    Slack(double arcsec) {
        this(arcsec, Double.NaN);
    }

    private Slack(double arcsec, double held) {
        this.arcsec = arcsec;
        this.held = held;
    }

    double arcsec() {
        return arcsec;
    }

    Slack copy() {
        return new Slack(arcsec, held);
    }

    /** The motor runs; returns by how much the axis follows. */
    double moves(double sent) {
        if (Double.isNaN(held)) {
            if (sent == 0) {
                return 0;
            }
            held = sent > 0 ? arcsec : 0;
        }
        double wanted = held + sent;
        held = wanted < 0 ? 0 : wanted > arcsec ? arcsec : wanted;
        return wanted - held;
    }

    /** What is best added to a way of the motor so that the axis follows it. */
    double added(double sent) {
        if (sent == 0 || Double.isNaN(held)) {
            return 0;
        }
        return TAKEN_SHARE * (sent > 0 ? arcsec - held : -held);
    }
}
