package app.ironside.guide;

import app.ironside.device.Camera;
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
import java.util.OptionalDouble;
import java.util.function.Consumer;

/**
 * Guides. Sequential: {@link #cycle} takes one exposure, corrects, and returns; whoever waits for something calls it again and again.
 */
public final class Guider {
    private static final double LEAST_SNR_TO_CHOOSE = 16;

    private static final Duration LONGEST_PULSE = Duration.ofMillis(2500);

    private static final Duration SETTLED_FOR = Duration.ofSeconds(12);
    private static final Duration SETTLE_LIMIT = Duration.ofSeconds(120);

    /** Until a night's own air is known, arcseconds both axes together. */
    private static final double USUAL_AIR_ARCSEC = 0.7;

    /** Guiding that stays within this many of the air's own deviations cannot be told from settled. */
    private static final double AIR_SIGMAS = 2.2;

    private final Mount mount;
    private final NightClock clock;
    private final Kit kit;
    private final StarLock star;
    private final Calibrating calibrating;
    private final AxisLoop raLoop;
    private final AxisLoop decLoop;
    private final Instant origin;
    private final List<GuideSample> samples = new ArrayList<>();
    private final List<GuideSample> recent = new ArrayList<>();
    private Consumer<GuideSample> log = sample -> {};
    private GuideRules rules;
    private Optional<GuideCalibration> calibration = Optional.empty();
    private double slackSeconds;
    private boolean guiding;
    private double lockX;
    private double lockY;
    private int lostSince;

    public Guider(Mount mount, Camera camera, NightClock clock, StarSearch finder, Kit kit, GuideRules rules) {
        this.mount = mount;
        this.clock = clock;
        this.kit = kit;
        this.rules = rules;
        this.star = new StarLock(camera, clock, finder, kit.guider(), this::cycleTime);
        this.star.many(rules.stars() == GuideRules.Stars.MANY);
        this.calibrating = new Calibrating(mount, clock, star, kit);
        this.raLoop = new AxisLoop(rules.ra(), rules.tunes());
        this.decLoop = new AxisLoop(rules.dec(), rules.tunes());
        this.origin = clock.now();
        raLoop.period(OptionalDouble.of(kit.equipment().wormSeconds()));
    }

    /** Tells of each guide exposure that shows the star, as it happens. */
    public void logTo(Consumer<GuideSample> listener) {
        log = listener;
    }

    /** Guides by other rules from the next exposure on. */
    public void use(GuideRules other) {
        if (!other.ra().equals(rules.ra()) || other.tunes() != rules.tunes()) {
            raLoop.use(other.ra(), other.tunes());
        }
        if (!other.dec().equals(rules.dec()) || other.tunes() != rules.tunes()) {
            decLoop.use(other.dec(), other.tunes());
        }
        rules = other;
        star.many(other.stars() == GuideRules.Stars.MANY);
        decLoop.slack(other.slackBy(), slackArcsec());
    }

    public GuideRules rules() {
        return rules;
    }

    /** The rules as the loop has set itself by now. */
    public GuideRules rulesInForce() {
        return rules.withRa(raLoop.rule()).withDec(decLoop.rule());
    }

    /**
     * Picks the guide star: the brightest that is not saturated, stands clear of the edges and of its like.
     *
     * @return empty if no star is good enough
     */
    public static Optional<Star> choose(StarField field) {
        double edge = StarLock.EDGE_PX;
        return field.stars().stream()
                .filter(s -> !s.saturated() && s.snr() >= LEAST_SNR_TO_CHOOSE)
                .filter(s -> s.x() > edge && s.y() > edge)
                .filter(s -> s.x() < field.width() - edge && s.y() < field.height() - edge)
                .filter(s -> field.stars().stream()
                        .noneMatch(o -> o != s
                                && o.fluxAdu() > 0.15 * s.fluxAdu()
                                && Math.hypot(o.x() - s.x(), o.y() - s.y()) < StarLock.WINDOW_PX / 2.0))
                .max(Comparator.comparingDouble(Star::fluxAdu));
    }

    /** Takes a full guide frame and starts to guide on the best star where it stands. */
    public Star acquire() throws InterruptedException {
        return acquire(Optional.empty());
    }

    /**
     * The same on a star that a person chose.
     *
     * @param near about where it stands on the guide frame, pixels from 1
     */
    public Star acquire(Optional<double[]> near) throws InterruptedException {
        Star found = star.acquire(near);
        lockX = found.x();
        lockY = found.y();
        raLoop.begin();
        decLoop.begin();
        recent.clear();
        guiding = true;
        return found;
    }

    /** Where the star stands that is guided on, none is to be taken again: a hot pixel stays. */
    public void shunStar() {
        star.shun(lockX, lockY);
    }

    /** Measures how both axes move the star, taking up the backlash of declination first, and brings it back. */
    public CalibrationReport calibrate(double declinationDeg) throws InterruptedException {
        acquire();
        guiding = false;
        CalibrationReport report = calibrating.run(declinationDeg);
        slackSeconds = report.slackSeconds();
        use(report.calibration());
        return report;
    }

    /**
     * Tries whether an earlier calibration still holds, by a pulse along each axis, and takes it if it does.
     *
     * @param slack of declination, seconds of pulses, as it was measured then
     * @return what does not fit, in words; empty if it was taken
     */
    public String tryCalibration(GuideCalibration known, double slack) throws InterruptedException {
        acquire();
        guiding = false;
        String unfit = calibrating.unfit(known);
        if (unfit.isEmpty()) {
            slackSeconds = slack;
            use(known);
        }
        return unfit;
    }

    private double slackArcsec() {
        return slackSeconds
                * calibration.map(GuideCalibration::northArcsecPerSecond).orElse(0.0);
    }

    /** The last guide frame, for the eye. */
    public Optional<Frame> lastFrame() {
        return star.lastFrame();
    }

    /** What was found in it. */
    public Optional<StarField> lastField() {
        return star.lastField();
    }

    /** Stars whose common motion is followed. */
    public int starsSeen() {
        return star.seen();
    }

    /** One exposure and, if guiding, one correction. Takes about as long as the guide exposure. */
    public void cycle() throws InterruptedException {
        Instant began = clock.now();
        if (!star.locate()) {
            lostSince++;
            return;
        }
        GuideCalibration known = calibration.orElseThrow();
        double[] error = known.toAxesArcsec(star.x() - lockX, star.y() - lockY);
        Instant middle = began.plus(rules.exposure().dividedBy(2));
        double seconds = Duration.between(origin, middle).toNanos() / 1e9;
        long ra = pulse(raLoop, seconds, error[0], known.westArcsecPerSecond());
        long dec = pulse(decLoop, seconds, error[1], known.northArcsecPerSecond());
        tell(new GuideSample(middle, error[0], error[1], -ra, -dec, star.snr()));
        send(ra, Mount.Direction.EAST, Mount.Direction.WEST);
        send(dec, Mount.Direction.SOUTH, Mount.Direction.NORTH);
        // With a long guide telescope one pulse after a dither moves the star half a window.
        star.expectMoved(
                -(ra * known.westX() + dec * known.northX()) / 1000,
                -(ra * known.westY() + dec * known.northY()) / 1000);
        clock.await(Duration.ofMillis(Math.max(Math.abs(ra), Math.abs(dec))));
    }

    /** One exposure without a correction, to see what the mount does by itself. */
    public void watch() throws InterruptedException {
        Instant began = clock.now();
        if (!star.locate()) {
            lostSince++;
            return;
        }
        double[] error = calibration.orElseThrow().toAxesArcsec(star.x() - lockX, star.y() - lockY);
        tell(new GuideSample(began.plus(rules.exposure().dividedBy(2)), error[0], error[1], 0, 0, star.snr()));
    }

    private void tell(GuideSample sample) {
        samples.add(sample);
        recent.add(sample);
        if (recent.size() > Runaway.JUDGED) {
            recent.remove(0);
        }
        log.accept(sample);
    }

    /** Milliseconds of pulse that an axis is to be moved back by. */
    private static long pulse(AxisLoop loop, double seconds, double errorArcsec, double arcsecPerSecond) {
        double most = arcsecPerSecond * LONGEST_PULSE.toMillis() / 1000.0;
        double back = Math.max(-most, Math.min(most, loop.answer(seconds, errorArcsec)));
        return Math.round(1000 * loop.sent(back) / arcsecPerSecond);
    }

    private void send(long ms, Mount.Direction positive, Mount.Direction negative) {
        if (ms != 0) {
            mount.pulse(ms > 0 ? positive : negative, Duration.ofMillis(Math.abs(ms)));
        }
    }

    /** Whether the star does not come nearer though it is pulsed, and why. */
    public Optional<Runaway> runsAway() {
        return star.lostInARow() > 0 ? Optional.empty() : calibration.flatMap(known -> Runaway.of(recent, known));
    }

    /** Shifts the lock position, so that the next sub lands on other pixels. */
    public void dither(double westArcsec, double northArcsec) {
        double[] shift = calibration.orElseThrow().toPixels(westArcsec, northArcsec);
        double beforeX = lockX;
        double beforeY = lockY;
        lockX = held(lockX + shift[0], kit.guider().widthPx());
        lockY = held(lockY + shift[1], kit.guider().heightPx());
        double[] moved = calibration.get().toAxesArcsec(lockX - beforeX, lockY - beforeY);
        raLoop.shifted(-moved[0]);
        decLoop.shifted(-moved[1]);
        recent.clear();
    }

    private static double held(double value, int size) {
        return Math.max(StarLock.EDGE_PX / 2, Math.min(size - StarLock.EDGE_PX / 2, value));
    }

    /** Within how many arcseconds guiding counts as settled: as told, else by the kit's pixels and tonight's air. */
    public double settleArcsec() {
        return rules.settleArcsec()
                .orElseGet(() -> Math.max(
                        kit.arcsecPerPixel() / 2, AIR_SIGMAS * airArcsec().orElse(USUAL_AIR_ARCSEC)));
    }

    /** The part of the star's motion that is faster than the mount, both axes together, once it is known. */
    private OptionalDouble airArcsec() {
        OptionalDouble ra = GuideTuning.quick(raLoop.history());
        OptionalDouble dec = GuideTuning.quick(decLoop.history());
        return ra.isPresent() && dec.isPresent()
                ? OptionalDouble.of(Math.hypot(ra.getAsDouble(), dec.getAsDouble()))
                : OptionalDouble.empty();
    }

    /** Guides until the star has stayed near the lock position long enough; false if it did not in time. */
    public boolean settle() throws InterruptedException {
        Instant limit = clock.now().plus(SETTLE_LIMIT);
        Instant calmSince = clock.now();
        double within = settleArcsec();
        while (clock.now().isBefore(limit)) {
            int before = samples.size();
            cycle();
            boolean calm = samples.size() > before && Math.hypot(last().raArcsec(), last().decArcsec()) < within;
            if (!calm) {
                calmSince = clock.now();
            } else if (Duration.between(calmSince, clock.now()).compareTo(SETTLED_FOR) >= 0) {
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
        return star.lostInARow();
    }

    /** Exposures without the star since the last call. */
    public int takeLost() {
        int taken = lostSince;
        lostSince = 0;
        return taken;
    }

    /** What the axes have set themselves to since the last call, in words. */
    public Optional<String> takeTuned() {
        Optional<String> ra = raLoop.takeTuned().map(t -> "right ascension " + words(t));
        Optional<String> dec = decLoop.takeTuned().map(t -> "declination " + words(t));
        return ra.isEmpty() ? dec : dec.map(d -> ra.get() + "; " + d).or(() -> ra);
    }

    private static String words(GuideTuning tuning) {
        return String.format(
                Locale.ROOT,
                "%s: the last minutes would have been held to %.2f″ instead of %.2f″",
                tuning.rule().words(),
                tuning.bestArcsec(),
                tuning.heldArcsec());
    }

    /** How long one cycle takes at least. */
    public Duration cycleTime() {
        return rules.exposure();
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
        decLoop.slack(rules.slackBy(), slackArcsec());
    }

    /** Hands over the samples since the last call. */
    public List<GuideSample> takeSamples() {
        List<GuideSample> taken = List.copyOf(samples);
        samples.clear();
        return taken;
    }
}
