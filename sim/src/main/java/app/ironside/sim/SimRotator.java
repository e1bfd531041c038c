package app.ironside.sim;

import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.Rotator;
import app.ironside.device.Timed;
import app.ironside.sky.Angles;
import java.time.Duration;

/** A rotator that turns the simulated camera. */
final class SimRotator extends SimDevice implements Rotator {
    private static final double DEG_PER_SECOND = 4;

    private final NightClock clock;
    private double angleDeg;

    SimRotator(NightClock clock) {
        super("rotator");
        this.clock = clock;
    }

    @Override
    public double angleDeg() {
        mustAnswer();
        return angleDeg;
    }

    /** Where it really stands. */
    double turnedDeg() {
        return angleDeg;
    }

    @Override
    public Operation turnTo(double wantedDeg) {
        mustAnswer();
        double from = angleDeg;
        double way = Angles.wrap180(wantedDeg - from);
        angleDeg = Angles.wrap360(wantedDeg);
        Timed[] turn = new Timed[1];
        turn[0] = new Timed(
                name(),
                "the turn of the camera",
                clock,
                Duration.ofMillis(Math.round(1000 * Math.abs(way) / DEG_PER_SECOND)),
                () -> angleDeg = Angles.wrap360(from + turn[0].share() * way));
        return turn[0];
    }
}
