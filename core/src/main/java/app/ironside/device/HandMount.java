package app.ironside.device;

import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.util.Optional;
import java.util.function.DoubleSupplier;

/** A tracker that follows the sky and is pointed by hand: it knows only what it was told. */
public final class HandMount extends ByHand implements Mount {
    private static final Abilities ABILITIES = new Abilities(false, false, false);

    private final Hands hands;
    private final DoubleSupplier siderealDeg;
    private Equatorial pointing;
    private boolean known;
    private boolean parked = true;
    private double stoppedAtDeg;

    /**
     * @param start a direction to begin with
     * @param siderealDeg of the place, now
     */
    public HandMount(Hands hands, Equatorial start, DoubleSupplier siderealDeg) {
        this.hands = hands;
        this.pointing = start;
        this.siderealDeg = siderealDeg;
        this.stoppedAtDeg = siderealDeg.getAsDouble();
    }

    @Override
    public Abilities abilities() {
        return ABILITIES;
    }

    @Override
    public void unpark() {
        // It is switched on when it is first pointed: nobody is sent to it twice before.
        parked = false;
    }

    @Override
    public Operation park() {
        track(false);
        parked = true;
        return Operation.done(name(), "the end of tracking");
    }

    @Override
    public boolean isParked() {
        return parked;
    }

    @Override
    public Operation home() {
        throw new DeviceException(name(), "it has no home to find", "Point it by hand.");
    }

    @Override
    public void track(boolean on) {
        if (on == isTracking()) {
            return;
        }
        by("switching the tracker", () -> hands.track(on));
        if (on) {
            pointing = pointing();
            stoppedAtDeg = Double.NaN;
        } else {
            stoppedAtDeg = siderealDeg.getAsDouble();
        }
    }

    @Override
    public void stop() {
        track(false);
    }

    @Override
    public boolean isTracking() {
        return Double.isNaN(stoppedAtDeg);
    }

    @Override
    public Operation slewTo(Equatorial target, PierSide side) {
        if (parked) {
            throw new DeviceException(name(), "it is switched off", "Switch its tracking on, then try again.");
        }
        track(true);
        Equatorial from = pointing();
        Operation done =
                by("pointing by hand", () -> hands.point(known ? Optional.of(from) : Optional.empty(), target));
        pointing = target;
        return done;
    }

    @Override
    public PierSide arrivesOn(Equatorial target, PierSide wanted) {
        return PierSide.WEST;
    }

    @Override
    public Operation turnRightAscensionAxis(double degrees) {
        track(true);
        Equatorial from = pointing();
        Operation done = by("the turn of the axis", () -> hands.turnAxis(degrees));
        pointing = new Equatorial(Angles.wrap360(from.raDeg() - degrees), from.decDeg());
        return done;
    }

    @Override
    public void sync(Equatorial truth) {
        pointing = truth;
        known = true;
        if (!isTracking()) {
            stoppedAtDeg = siderealDeg.getAsDouble();
        }
    }

    /** Standing still, it looks further east among the stars with every minute. */
    @Override
    public Equatorial pointing() {
        return isTracking()
                ? pointing
                : new Equatorial(
                        Angles.wrap360(pointing.raDeg() + siderealDeg.getAsDouble() - stoppedAtDeg), pointing.decDeg());
    }

    @Override
    public PierSide pierSide() {
        return PierSide.WEST;
    }

    @Override
    public Operation pulse(Direction direction, Duration length) {
        throw new DeviceException(name(), "it takes no guide pulses", "Rehearse and capture without a guider.");
    }
}
