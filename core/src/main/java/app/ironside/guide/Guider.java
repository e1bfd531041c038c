package app.ironside.guide;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.image.Frame;
import app.ironside.kit.Kit;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import org.hipparchus.stat.regression.SimpleRegression;

/**
 * Guides on one star. Sequential: {@link #cycle} takes one exposure, corrects, and returns; whoever waits for something calls it
 * again and again.
 */
public final class Guider {
    private static final int WINDOW_PX = 48;
    private static final double EDGE_PX = 60;
    private static final double LEAST_SNR = 8;

    /** Calibration pulses go on until the star has moved this far on the sky, and so many pixels where those are coarse. */
    private static final double CALIBRATION_ARCSEC = 25;

    private static final double CALIBRATION_PX = 7;

    /** A step may take the star no further than this, or it leaves the window in which it is looked for. */
    private static final double STEP_PX = WINDOW_PX / 5.0;

    private static final double SHUNNED_PX = 4;

    private static final Duration LONGEST_STEP = Duration.ofMillis(900);
    private static final int FEWEST_STEPS = 6;
    private static final int MOST_STEPS = 80;

    /** The slack of a gear is taken up when the star has moved this far. */
    private static final double SLACK_TAKEN_ARCSEC = 3;

    /** Measured rates further from the kit's than this were not measured. */
    private static final double RATE_WITHIN = 0.4;

    private static final Duration LONGEST_PULSE = Duration.ofMillis(2500);

    private final Mount mount;
    private final Camera camera;
    private final NightClock clock;
    private final StarSearch finder;
    private final Kit kit;
    private final GuideSettings settings;
    private final List<GuideSample> samples = new ArrayList<>();
    private final List<double[]> shunned = new ArrayList<>();
    private Consumer<GuideSample> log = sample -> {};
    private Optional<GuideCalibration> calibration = Optional.empty();
    private boolean guiding;
    private double lockX;
    private double lockY;
    private double lastX;
    private double lastY;

    /** Where it was seen before the last pulse. */
    private Optional<double[]> beforePulse = Optional.empty();

    private int lost;
    private int lostSince;
    private Frame lastFrame;

    public Guider(Mount mount, Camera camera, NightClock clock, StarSearch finder, Kit kit, GuideSettings settings) {
        this.mount = mount;
        this.camera = camera;
        this.clock = clock;
        this.finder = finder;
        this.kit = kit;
        this.settings = settings;
    }

    /** Tells of each guide exposure that shows the star, as it happens. */
    public void logTo(Consumer<GuideSample> listener) {
        log = listener;
    }

    /**
     * Picks the guide star: the brightest that is not saturated, stands clear of the edges and of its like.
     *
     * @return empty if no star is good enough
     */
    public static Optional<Star> choose(StarField field) {
        return field.stars().stream()
                .filter(s -> !s.saturated() && s.snr() >= 2 * LEAST_SNR)
                .filter(s -> s.x() > EDGE_PX && s.y() > EDGE_PX)
                .filter(s -> s.x() < field.width() - EDGE_PX && s.y() < field.height() - EDGE_PX)
                .filter(s -> field.stars().stream()
                        .noneMatch(o -> o != s
                                && o.fluxAdu() > 0.15 * s.fluxAdu()
                                && Math.hypot(o.x() - s.x(), o.y() - s.y()) < WINDOW_PX / 2.0))
                .max(Comparator.comparingDouble(Star::fluxAdu));
    }

    /** Takes a full guide frame and starts to guide on the best star where it stands. */
    public Star acquire() throws InterruptedException {
        Frame frame = camera.expose(clock, Camera.Exposure.light(settings.exposure()));
        lastFrame = frame;
        StarField field = withoutShunned(finder.find(frame));
        Star star = choose(field)
                .orElseThrow(() -> new DeviceException(
                        "guide camera",
                        field.stars().size() + " stars in view, none fit to guide on",
                        "Look for cloud, focus the guide scope, or expose longer than "
                                + settings.exposure().toSeconds() + " s."));
        lockX = star.x();
        lockY = star.y();
        lastX = star.x();
        lastY = star.y();
        beforePulse = Optional.empty();
        lost = 0;
        guiding = true;
        return star;
    }

    /** Where the star stands that is guided on, none is to be taken again: a hot pixel stays. */
    public void shunStar() {
        shunned.add(new double[] {lockX, lockY});
    }

    private StarField withoutShunned(StarField field) {
        return shunned.isEmpty()
                ? field
                : new StarField(
                        field.width(),
                        field.height(),
                        field.stars().stream()
                                .filter(s -> shunned.stream()
                                        .noneMatch(p -> Math.hypot(s.x() - p[0], s.y() - p[1]) < SHUNNED_PX))
                                .toList(),
                        field.backgroundAdu(),
                        field.noiseAdu());
    }

    /** Measures how both axes move the star, taking up the backlash of declination first, and brings it back. */
    public GuideCalibration calibrate(double declinationDeg) throws InterruptedException {
        acquire();
        guiding = false;
        double rate = kit.mount().guideArcsecPerSecond();
        Duration step = step(rate);
        Drive west = drive(Mount.Direction.WEST, step, declinationDeg);
        driveBack(Mount.Direction.EAST, west.seconds(), step);
        takeUpSlack(step);
        Drive north = drive(Mount.Direction.NORTH, step, 0);
        driveBack(Mount.Direction.SOUTH, north.seconds(), step);
        GuideCalibration found = new GuideCalibration(
                west.xPerSecond(),
                west.yPerSecond(),
                north.xPerSecond(),
                north.yPerSecond(),
                kit.guider().arcsecPerPixel(),
                declinationDeg);
        double angle = found.axesAngleDeg();
        if (Math.abs(angle - 90) > 20) {
            throw new DeviceException(
                    "guider",
                    "the axes seem " + Math.round(angle) + "° apart instead of 90°",
                    "Look for a slipping clutch or a dragging cable and calibrate again.");
        }
        mustBeNear("declination", found.northArcsecPerSecond(), rate);
        mustBeNear("right ascension", found.westArcsecPerSecond(), rate * Math.cos(Math.toRadians(declinationDeg)));
        calibration = Optional.of(found);
        return found;
    }

    private static void mustBeNear(String axis, double measured, double expected) {
        if (Math.abs(measured / expected - 1) > RATE_WITHIN) {
            throw new DeviceException(
                    "guider",
                    String.format(
                            Locale.ROOT,
                            "pulses in %s move the star %.1f″/s and should move it %.1f″/s",
                            axis,
                            measured,
                            expected),
                    "Look at the kit's guide rate and guide focal length; then for slack and a dragging cable.");
        }
    }

    /** As long as a step may be without taking the star out of the window. */
    private Duration step(double arcsecPerSecond) {
        double ms = 1000 * STEP_PX * kit.guider().arcsecPerPixel() / arcsecPerSecond;
        return Duration.ofMillis(Math.min(LONGEST_STEP.toMillis(), Math.max(20, Math.round(ms))));
    }

    /** How the star moved, pixels a second of pulse, and how many seconds were pulsed. */
    private record Drive(double xPerSecond, double yPerSecond, double seconds) {}

    /** Pulses one way until the star has moved far enough; a straight line through where it was seen gives the rates. */
    private Drive drive(Mount.Direction direction, Duration step, double declinationDeg) throws InterruptedException {
        double wanted =
                Math.max(CALIBRATION_PX, CALIBRATION_ARCSEC / kit.guider().arcsecPerPixel());
        int most = (int) Math.min(400, Math.ceil(MOST_STEPS / Math.max(0.1, Math.cos(Math.toRadians(declinationDeg)))));
        List<double[]> seen = new ArrayList<>();
        seen.add(new double[] {0, lastX, lastY});
        double seconds = 0;
        while (seen.size() <= most && (moved(seen) < wanted || seen.size() <= FEWEST_STEPS)) {
            pulse(direction, step);
            seconds += step.toMillis() / 1000.0;
            hold();
            seen.add(new double[] {seconds, lastX, lastY});
        }
        if (moved(seen) < wanted / 2) {
            throw new DeviceException(
                    "mount",
                    String.format(
                            Locale.ROOT,
                            "the star moved only %.1f px in %.0f s of pulses %s",
                            moved(seen),
                            seconds,
                            direction.name().toLowerCase(Locale.ROOT)),
                    "Check the guide cable and that the mount is not parked.");
        }
        return new Drive(slope(seen, 1), slope(seen, 2), seconds);
    }

    private static double moved(List<double[]> seen) {
        double[] first = seen.get(0);
        double[] last = seen.get(seen.size() - 1);
        return Math.hypot(last[1] - first[1], last[2] - first[2]);
    }

    /** Least squares of a coordinate over the seconds pulsed. */
    private static double slope(List<double[]> seen, int coordinate) {
        SimpleRegression line = new SimpleRegression();
        seen.forEach(s -> line.addData(s[0], s[coordinate]));
        return line.getSlope();
    }

    /** North, in steps like any other, until the star follows: only what comes after that is measured. */
    private void takeUpSlack(Duration step) throws InterruptedException {
        double x0 = lastX;
        double y0 = lastY;
        double enough = Math.max(1.5, SLACK_TAKEN_ARCSEC / kit.guider().arcsecPerPixel());
        for (int i = 0; i < MOST_STEPS && Math.hypot(lastX - x0, lastY - y0) < enough; i++) {
            pulse(Mount.Direction.NORTH, step);
            hold();
        }
    }

    private void driveBack(Mount.Direction direction, double seconds, Duration step) throws InterruptedException {
        double left = seconds;
        while (left > 0.02) {
            double now = Math.min(left, step.toMillis() / 1000.0);
            pulse(direction, Duration.ofMillis(Math.round(now * 1000)));
            left -= now;
            hold();
        }
    }

    /** Finds the star again; while calibrating, one that is gone makes every figure after it wrong. */
    private void hold() throws InterruptedException {
        for (int attempt = 0; attempt < 3; attempt++) {
            if (locate().isPresent()) {
                return;
            }
        }
        throw new DeviceException(
                "guider",
                "the guide star was lost while calibrating",
                "Most often this is cloud; else look for a knock or a guide scope out of focus.");
    }

    private void pulse(Mount.Direction direction, Duration length) throws InterruptedException {
        mount.pulse(direction, length);
        clock.await(length);
    }

    /** Exposes the window around the star and finds it; empty if it is not there. */
    private Optional<Star> locate() throws InterruptedException {
        int left = (int) Math.max(0, Math.min(kit.guider().widthPx() - WINDOW_PX, lastX - WINDOW_PX / 2.0));
        int bottom = (int) Math.max(0, Math.min(kit.guider().heightPx() - WINDOW_PX, lastY - WINDOW_PX / 2.0));
        Camera.Region window = new Camera.Region(left, bottom, WINDOW_PX, WINDOW_PX);
        lastFrame =
                camera.expose(clock, Camera.Exposure.light(settings.exposure()).of(window));
        Optional<Star> star = finder.find(lastFrame).stars().stream()
                .filter(s -> s.snr() >= LEAST_SNR)
                .min(Comparator.comparingDouble(s -> Math.hypot(s.x() + left - lastX, s.y() + bottom - lastY)));
        star.ifPresent(s -> {
            lastX = s.x() + left;
            lastY = s.y() + bottom;
        });
        return star;
    }

    /** The last guide frame, for the eye. */
    public Optional<Frame> lastFrame() {
        return Optional.ofNullable(lastFrame);
    }

    /** One exposure and, if guiding, one correction. Takes about as long as the guide exposure. */
    public void cycle() throws InterruptedException {
        Instant began = clock.now();
        Optional<Star> star = locate();
        if (star.isEmpty()) {
            lost++;
            lostSince++;
            backToWhereItWas();
            return;
        }
        lost = 0;
        double[] error = calibration.orElseThrow().toAxesArcsec(lastX - lockX, lastY - lockY);
        long ra = correction(
                error[0], settings.raAggressiveness(), calibration.get().westArcsecPerSecond());
        long dec = correction(
                error[1], settings.decAggressiveness(), calibration.get().northArcsecPerSecond());
        Instant middle = began.plus(settings.exposure().dividedBy(2));
        GuideSample sample = new GuideSample(
                middle, error[0], error[1], -ra, -dec, star.get().snr());
        samples.add(sample);
        log.accept(sample);
        send(ra, Mount.Direction.EAST, Mount.Direction.WEST);
        send(dec, Mount.Direction.SOUTH, Mount.Direction.NORTH);
        expectAfter(ra, dec);
        clock.await(Duration.ofMillis(Math.max(Math.abs(ra), Math.abs(dec))));
    }

    /**
     * Where the star will be looked for: with a long guide telescope one pulse after a dither moves it half a window.
     *
     * @param ra milliseconds of pulse to the east, negative to the west
     * @param dec to the south, negative to the north
     */
    private void expectAfter(long ra, long dec) {
        GuideCalibration known = calibration.orElseThrow();
        beforePulse = Optional.of(new double[] {lastX, lastY});
        lastX -= (ra * known.westX() + dec * known.northX()) / 1000;
        lastY -= (ra * known.westY() + dec * known.northY()) / 1000;
    }

    /** Where a pulse did not move the star, in slack gears, it is looked for where it was. */
    private void backToWhereItWas() {
        beforePulse.ifPresent(place -> {
            lastX = place[0];
            lastY = place[1];
        });
        beforePulse = Optional.empty();
    }

    /** Milliseconds of pulse against a displacement; 0 below the least move. */
    private long correction(double arcsec, double aggressiveness, double arcsecPerSecond) {
        if (Math.abs(arcsec) < settings.leastMoveArcsec()) {
            return 0;
        }
        double ms = 1000 * aggressiveness * arcsec / arcsecPerSecond;
        long most = LONGEST_PULSE.toMillis();
        return Math.round(Math.max(-most, Math.min(most, ms)));
    }

    private void send(long ms, Mount.Direction positive, Mount.Direction negative) {
        if (ms != 0) {
            mount.pulse(ms > 0 ? positive : negative, Duration.ofMillis(Math.abs(ms)));
        }
    }

    /** Shifts the lock position, so that the next sub lands on other pixels. */
    public void dither(double westArcsec, double northArcsec) {
        double[] shift = calibration.orElseThrow().toPixels(westArcsec, northArcsec);
        lockX = held(lockX + shift[0], kit.guider().widthPx());
        lockY = held(lockY + shift[1], kit.guider().heightPx());
    }

    private static double held(double value, int size) {
        return Math.max(EDGE_PX / 2, Math.min(size - EDGE_PX / 2, value));
    }

    /** Guides until the star has stayed near the lock position long enough; false if it did not in time. */
    public boolean settle() throws InterruptedException {
        Instant limit = clock.now().plus(settings.settleLimit());
        Instant calmSince = clock.now();
        while (clock.now().isBefore(limit)) {
            int before = samples.size();
            cycle();
            boolean calm = samples.size() > before
                    && Math.hypot(last().raArcsec(), last().decArcsec()) < settings.settleArcsec();
            if (!calm) {
                calmSince = clock.now();
            } else if (Duration.between(calmSince, clock.now()).compareTo(settings.settleFor()) >= 0) {
                return true;
            }
        }
        return false;
    }

    private GuideSample last() {
        return samples.get(samples.size() - 1);
    }

    public boolean isGuiding() {
        return guiding;
    }

    /** Exposures in a row without the star. */
    public int lostInARow() {
        return lost;
    }

    /** Exposures without the star since the last call. */
    public int takeLost() {
        int taken = lostSince;
        lostSince = 0;
        return taken;
    }

    /** How long one cycle takes at least. */
    public Duration cycleTime() {
        return settings.exposure();
    }

    public void stop() {
        guiding = false;
    }

    /** The calibration in force. */
    public Optional<GuideCalibration> calibration() {
        return calibration;
    }

    /** Puts a calibration in force, for example the old one adapted to the other side of the pier. */
    public void use(GuideCalibration known) {
        calibration = Optional.of(known);
    }

    /** Hands over the samples since the last call. */
    public List<GuideSample> takeSamples() {
        List<GuideSample> taken = List.copyOf(samples);
        samples.clear();
        return taken;
    }
}
