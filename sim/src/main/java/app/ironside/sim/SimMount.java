package app.ironside.sim;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.Timed;
import app.ironside.document.FaultKind;
import app.ironside.kit.MountSpec;
import app.ironside.point.GuardedMount;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * A German equatorial mount: two axes on a base whose polar axis points somewhere near the pole, a worm that errs with its turn,
 * slack in the declination gear, a telescope not quite square to its axis, and an idea of its own where it points.
 */
final class SimMount extends SimDevice implements Mount {
    /** Sidereal rate, degrees of hour angle a second of mean time. */
    private static final double SIDEREAL_DEG_PER_S = 360.985_647_366 / 86_400;

    private static final double HOME_HOUR_ANGLE_DEG = -90;
    private static final double HOME_DECLINATION_DEG = 60;

    private final double latDeg;
    private final MountSpec spec;
    private final Optional<Double> ownFlipDeg;
    private final SimSettings settings;
    private final NightClock clock;
    private final Surroundings surroundings;
    private final Faults faults;
    private final Observer observer;
    private final Observer airless;

    private double altitudeErrorArcmin;
    private double azimuthErrorArcmin;
    private double axisHourAngleDeg;
    private double axisDeclinationDeg;
    private Instant anchor;
    private boolean tracking;
    private boolean parked = true;
    private PierSide side = PierSide.WEST;
    private Motion motion = Motion.NONE;
    private double modelHourAngleDeg;
    private double modelDeclinationDeg;
    private double slackArcsec;

    /** A turn of the axes that may still be under way: where it began. */
    private record Motion(Optional<Timed> operation, double hourAngleDeg, double declinationDeg) {
        static final Motion NONE = new Motion(Optional.empty(), 0, 0);
    }

    private final GuidePulses pulses = new GuidePulses();

    SimMount(
            MountSpec spec,
            Optional<Double> ownFlipDeg,
            SimSettings settings,
            NightClock clock,
            Surroundings surroundings) {
        super("mount");
        this.spec = spec;
        this.ownFlipDeg = ownFlipDeg;
        this.settings = settings;
        this.clock = clock;
        this.surroundings = surroundings;
        this.faults = surroundings.faults();
        this.observer = surroundings.observer();
        this.airless = observer.airless();
        this.latDeg = observer.site().latDeg();
        this.altitudeErrorArcmin = settings.polarAltitudeArcmin();
        this.azimuthErrorArcmin = settings.polarAzimuthArcmin();
        this.anchor = clock.now();
        this.axisHourAngleDeg = HOME_HOUR_ANGLE_DEG;
        this.axisDeclinationDeg = HOME_DECLINATION_DEG;
        this.modelHourAngleDeg = settings.pointingErrorDeg();
        this.modelDeclinationDeg = -0.6 * settings.pointingErrorDeg();
    }

    // ---- what the truth is
    // -------------------------------------------------------------------------------------------

    double altitudeErrorArcmin() {
        return altitudeErrorArcmin + faults.axisArcmin(clock.now());
    }

    double azimuthErrorArcmin() {
        return azimuthErrorArcmin;
    }

    void moveAxis(double altitudeArcmin, double azimuthArcmin) {
        altitudeErrorArcmin += altitudeArcmin;
        azimuthErrorArcmin += azimuthArcmin;
    }

    /** Where the telescope really looks, as seen through the air. */
    Horizontal direction(Instant time) {
        return horizontal(hourAngleDeg(time), declinationDeg(time));
    }

    /** The same among the stars. */
    Equatorial looksAt(Instant time) {
        return observer.catalogue(direction(time), time);
    }

    /** Position angle of the direction in which the telescope's declination grows, east of north. */
    double rollDeg(Instant time, Equatorial here) {
        double step = declinationDeg(time) > 89 ? -0.01 : 0.01;
        Equatorial there = observer.catalogue(horizontal(hourAngleDeg(time), declinationDeg(time) + step), time);
        double angle = here.positionAngleDeg(there);
        return Angles.wrap180((step > 0 ? angle : angle + 180) + (side == PierSide.EAST ? 180 : 0));
    }

    private Horizontal horizontal(double hourAngle, double declination) {
        double cone = settings.coneArcmin() / 60 * (side == PierSide.EAST ? 1 : -1);
        double h = hourAngle + cone / Math.max(0.05, Angles.cosDeg(declination));
        return Horizontal.fromEastNorthUp(tilted(ideal(h, declination)));
    }

    /** East, north, up of an hour angle and declination about the true pole. */
    private double[] ideal(double hourAngleDeg, double declinationDeg) {
        double cosD = Angles.cosDeg(declinationDeg);
        double sinD = Angles.sinDeg(declinationDeg);
        double south = cosD * Angles.cosDeg(hourAngleDeg);
        double west = cosD * Angles.sinDeg(hourAngleDeg);
        double sinLat = Angles.sinDeg(latDeg);
        double cosLat = Angles.cosDeg(latDeg);
        return new double[] {-west, sinD * cosLat - south * sinLat, sinD * sinLat + south * cosLat};
    }

    /** Turns a direction with the base: first the altitude of the axis, then its azimuth. */
    private double[] tilted(double[] v) {
        boolean north = latDeg >= 0;
        double altitude = Math.toRadians(altitudeErrorArcmin() / 60);
        double azimuth = Math.toRadians(azimuthErrorArcmin / 60) / Math.max(0.02, Math.abs(Angles.cosDeg(latDeg)));
        // About east by the right-hand rule north rises; about up, azimuth falls.
        double[] raised = Vectors.turn(v, new double[] {1, 0, 0}, north ? altitude : -altitude);
        return Vectors.turn(raised, new double[] {0, 0, 1}, north ? -azimuth : azimuth);
    }

    private double hourAngleDeg(Instant time) {
        double drive = tracking ? SIDEREAL_DEG_PER_S * seconds(anchor, time) : 0;
        return axisHourAngleDeg
                + drive
                + (periodicArcsec(time) + pulses.hourAngleArcsec(time) + faults.hourAngleArcsec(time)) / 3600;
    }

    private double declinationDeg(Instant time) {
        return axisDeclinationDeg + (pulses.declinationArcsec(time) + faults.declinationArcsec(time)) / 3600;
    }

    /** Where the mount itself believes its axis to be: of what knocked or held it, it knows nothing. */
    private double toldHourAngleDeg(Instant time) {
        return hourAngleDeg(time) - faults.hourAngleArcsec(time) / 3600;
    }

    private double toldDeclinationDeg(Instant time) {
        return declinationDeg(time) - faults.declinationArcsec(time) / 3600;
    }

    private double periodicArcsec(Instant time) {
        if (!tracking) {
            return 0;
        }
        double phase =
                2 * Math.PI * (time.toEpochMilli() / 1000.0 % settings.periodicSeconds()) / settings.periodicSeconds();
        return faults.gear(time)
                * settings.periodicArcsec()
                * (Math.sin(phase) + 0.25 * Math.sin(2 * phase + 1) + 0.12 * Math.sin(5 * phase));
    }

    private static double seconds(Instant from, Instant to) {
        return Duration.between(from, to).toNanos() / 1e9;
    }

    // ---- the port
    // ----------------------------------------------------------------------------------------------------

    @Override
    public Abilities abilities() {
        return new Abilities(ownFlipDeg.isPresent(), true, true);
    }

    @Override
    public void unpark() {
        mustAnswer();
        parked = false;
        settle();
        tracking = true;
    }

    @Override
    public Operation park() {
        mustAnswer();
        Operation parking = turnAxes("the way to the park position", HOME_HOUR_ANGLE_DEG, HOME_DECLINATION_DEG, 40);
        tracking = false;
        parked = true;
        return parking;
    }

    @Override
    public boolean isParked() {
        mustAnswer();
        return parked;
    }

    @Override
    public Operation home() {
        mustBeFree();
        Operation homing = turnAxes("the search for home", HOME_HOUR_ANGLE_DEG, HOME_DECLINATION_DEG, 40);
        tracking = false;
        return homing;
    }

    @Override
    public void track(boolean on) {
        mustBeFree();
        settle();
        tracking = on;
    }

    @Override
    public void stop() {
        mustAnswer();
        motion.operation().ifPresent(Timed::abort);
        settle();
        tracking = false;
    }

    @Override
    public boolean isTracking() {
        mustAnswer();
        return tracking;
    }

    /** Turns both axes; ended early, they stand where they have got to. The drive keeps up with the sky meanwhile. */
    private Operation turnAxes(String what, double hourAngleDeg, double declinationDeg, double seconds) {
        settle();
        motion.operation().ifPresent(Timed::abort);
        if (faults.isOn(FaultKind.MOUNT_STUCK, clock.now())) {
            // It says that it moves, and stays where it is.
            return new Timed(name(), what, clock, Duration.ofMillis(Math.round(1000 * seconds)), () -> {});
        }
        double fromHourAngle = axisHourAngleDeg;
        double fromDeclination = axisDeclinationDeg;
        axisHourAngleDeg = hourAngleDeg;
        axisDeclinationDeg = declinationDeg;
        Timed turn =
                new Timed(name(), what, clock, Duration.ofMillis(Math.round(1000 * seconds)), this::standWhereItIs);
        motion = new Motion(Optional.of(turn), fromHourAngle, fromDeclination);
        return turn;
    }

    private void standWhereItIs() {
        double left = 1 - motion.operation().orElseThrow().share();
        axisHourAngleDeg -= left * (axisHourAngleDeg - motion.hourAngleDeg());
        axisDeclinationDeg -= left * (axisDeclinationDeg - motion.declinationDeg());
        motion = Motion.NONE;
    }

    /** Folds drive and pulses into the axes, so that a new movement starts from here. */
    private void settle() {
        Instant now = clock.now();
        double h = toldHourAngleDeg(now) - periodicArcsec(now) / 3600;
        double d = toldDeclinationDeg(now);
        axisHourAngleDeg = h;
        axisDeclinationDeg = d;
        anchor = now;
        pulses.clear();
    }

    /** A hand moves the telescope about its axes. */
    void nudge(double hourAngleDeg, double declinationDeg) {
        settle();
        axisHourAngleDeg += hourAngleDeg;
        axisDeclinationDeg = Math.max(-90, Math.min(90, axisDeclinationDeg + declinationDeg));
    }

    private void mustBeFree() {
        mustAnswer();
        if (parked) {
            throw new DeviceException("mount", "it is parked and does not move", "Unpark it, then try again.");
        }
    }

    @Override
    public Operation slewTo(Equatorial target, PierSide wantedSide) {
        mustBeFree();
        double sun = surroundings.sunSeparationDeg(target, clock.now());
        if (sun < GuardedMount.SUN_DEG) {
            throw new DeviceException(
                    "mount",
                    "the target is " + Math.round(sun) + "° from the Sun and the slew is refused",
                    "Never point a telescope toward the Sun: it blinds and burns.");
        }
        settle();
        PierSide arriveOn = arrivesOn(target, wantedSide);
        double[] wanted = hourAngleAndDeclination(target, clock.now());
        double h = wanted[0] - modelHourAngleDeg;
        double d = Math.max(-90, Math.min(90, wanted[1] - modelDeclinationDeg));
        double way = Math.max(Math.abs(Angles.wrap180(h - axisHourAngleDeg)), Math.abs(d - axisDeclinationDeg));
        double throughPole = side == arriveOn ? way : 180;
        double travel = throughPole / spec.slewDegPerSecond();
        double settleTime = way < 0.001 ? 0.5 : spec.settleSeconds();
        // The drive keeps up with the sky during the slew, so that it arrives where the target then is.
        Operation slew = turnAxes("the slew", h, d, travel + settleTime);
        side = arriveOn;
        tracking = true;
        return slew;
    }

    @Override
    public PierSide arrivesOn(Equatorial target, PierSide wanted) {
        mustAnswer();
        return ownFlipDeg
                .map(limit -> Angles.wrap180(hourAngleAndDeclination(target, clock.now())[0]) >= limit
                        ? PierSide.EAST
                        : PierSide.WEST)
                .orElse(wanted);
    }

    @Override
    public Operation turnRightAscensionAxis(double degrees) {
        mustBeFree();
        settle();
        return turnAxes(
                "the turn of the axis",
                axisHourAngleDeg + degrees,
                axisDeclinationDeg,
                Math.abs(degrees) / spec.slewDegPerSecond() + spec.settleSeconds());
    }

    @Override
    public void sync(Equatorial truth) {
        mustAnswer();
        Instant now = clock.now();
        double[] place = hourAngleAndDeclination(truth, now);
        modelHourAngleDeg = Angles.wrap180(place[0] - toldHourAngleDeg(now));
        modelDeclinationDeg = place[1] - toldDeclinationDeg(now);
    }

    @Override
    public Equatorial pointing() {
        mustAnswer();
        Instant now = clock.now();
        double h = toldHourAngleDeg(now) + modelHourAngleDeg;
        double d = Math.max(-90, Math.min(90, toldDeclinationDeg(now) + modelDeclinationDeg));
        return airless.catalogue(Horizontal.fromEastNorthUp(ideal(h, d)), now);
    }

    @Override
    public PierSide pierSide() {
        mustAnswer();
        return side;
    }

    @Override
    public Operation pulse(Direction direction, Duration length) {
        mustBeFree();
        Instant now = clock.now();
        double arcsec = spec.guideArcsecPerSecond() * length.toMillis() / 1000.0;
        double hourAngle = direction == Direction.WEST ? arcsec : direction == Direction.EAST ? -arcsec : 0;
        double declination = direction == Direction.NORTH
                ? throughSlack(arcsec)
                : direction == Direction.SOUTH ? throughSlack(-arcsec) : 0;
        pulses.add(now, length, hourAngle, declination);
        return new Timed(name(), "the guide pulse", clock, length, () -> {});
    }

    /** What is left of a movement of the motor after the slack of the gear is taken up. */
    private double throughSlack(double arcsec) {
        double wanted = slackArcsec + arcsec;
        double held = Math.max(0, Math.min(settings.decBacklashArcsec(), wanted));
        slackArcsec = held;
        return wanted - held;
    }

    /** Hour angle and declination that the mount computes for a target: no refraction, no base error, no cone. */
    private double[] hourAngleAndDeclination(Equatorial target, Instant time) {
        double[] v = airless.observed(target, time).toEastNorthUp();
        double sinLat = Angles.sinDeg(latDeg);
        double cosLat = Angles.cosDeg(latDeg);
        double sinD = v[1] * cosLat + v[2] * sinLat;
        double south = v[2] * cosLat - v[1] * sinLat;
        return new double[] {
            Math.toDegrees(Math.atan2(-v[0], south)), Math.toDegrees(Math.asin(Math.max(-1, Math.min(1, sinD))))
        };
    }
}
