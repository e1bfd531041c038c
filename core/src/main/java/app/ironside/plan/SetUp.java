package app.ironside.plan;

/**
 * How a kit is brought up before the first target, where practitioners differ.
 *
 * @param sweepAxes whether the mount goes through its whole travel at Ready, so that somebody sees what catches
 * @param polarBy how the axis is set
 * @param atOnce whether everything is connected and the cooler begins before the first device is proven; else one follows the other, so
 *     that a fault has one possible cause
 * @param balanceBy how a mount with two axes is balanced
 */
public record SetUp(boolean sweepAxes, PolarBy polarBy, boolean atOnce, BalanceBy balanceBy) {
    public static final SetUp USUAL = new SetUp(true, PolarBy.IMAGES, false, BalanceBy.IN_STEPS);

    public SetUp withSweepAxes(boolean other) {
        return new SetUp(other, polarBy, atOnce, balanceBy);
    }

    public SetUp withPolarBy(PolarBy other) {
        return new SetUp(sweepAxes, other, atOnce, balanceBy);
    }

    public SetUp withAtOnce(boolean other) {
        return new SetUp(sweepAxes, polarBy, other, balanceBy);
    }

    public SetUp withBalanceBy(BalanceBy other) {
        return new SetUp(sweepAxes, polarBy, atOnce, other);
    }
}
