package app.ironside.plan;

/**
 * How a kit is brought up before the first target, where practitioners differ.
 *
 * @param sweepAxes whether the mount goes through its whole travel at Ready, so that somebody sees what catches
 * @param polarBy how the axis is set
 * @param atOnce whether everything is connected and the cooler begins before the first device is proven; else one follows the other, so
 *     that a fault has one possible cause
 */
public record SetUp(boolean sweepAxes, PolarBy polarBy, boolean atOnce) {
    public static final SetUp USUAL = new SetUp(true, PolarBy.IMAGES, false);

    public SetUp withSweepAxes(boolean other) {
        return new SetUp(other, polarBy, atOnce);
    }

    public SetUp withPolarBy(PolarBy other) {
        return new SetUp(sweepAxes, other, atOnce);
    }

    public SetUp withAtOnce(boolean other) {
        return new SetUp(sweepAxes, polarBy, other);
    }
}
