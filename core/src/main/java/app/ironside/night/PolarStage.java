package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.device.TryLater;
import app.ironside.image.Frame;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.Gate;
import app.ironside.journal.KnobsTurned;
import app.ironside.journal.PlacementCompared;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.kit.MeridianRule;
import app.ironside.kit.PolarTolerance;
import app.ironside.plan.PolarBy;
import app.ironside.point.Centering;
import app.ironside.polar.AxisFinder;
import app.ironside.polar.AxisSight;
import app.ironside.polar.KnobAdvice;
import app.ironside.polar.KnobGearing;
import app.ironside.polar.LiveAxis;
import app.ironside.polar.PolarError;
import app.ironside.polar.PolarRefusal;
import app.ironside.polar.PolarResult;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveResult;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/** Aligns the polar axis: measure from three exposures, turn the knobs, measure again, until the gate is passed. */
final class PolarStage {
    /** The step of Ready by which the axis is set without a measurement. */
    static final String POLE_STAR = "pole star";

    private static final Duration EXPOSURE = Duration.ofSeconds(6);

    /** Of the limit: with knobs at hand a turn more costs a minute, and the ground gives until dawn. */
    private static final double AIMED_AT = 0.5;

    private static final double DECLINATION_DEG = 62;
    private static final double FIRST_HOUR_ANGLE_DEG = -62;

    /** The axis is followed for so many degrees of hour angle after the last exposure, while the knobs are turned: 40 minutes. */
    private static final double FOLLOWED_DEG = 10;

    private static final double TURN_DEG = 30;
    private static final int SIGHTS = 3;
    private static final int MOST_ADJUSTMENTS = 8;

    private static final int MOST_STEPS_ASIDE = 3;
    private static final double STEP_ASIDE_DEG = 5;

    /** So many turns of the knobs between two full measurements. */
    private static final int LIVE_ADJUSTMENTS = 3;

    /** In frames binned by two. */
    private static final double SOFT_HFR_PX = 4;

    /** More than a bad first setting-down of the base, less than an hour of the sky's turn. */
    private static final double CLOCK_AND_PLACE_DEG = 6;

    private final NightContext night;
    private final Centering centering;
    private final Conduct conduct;
    private final AxisFinder finder;

    PolarStage(NightContext night, Centering centering, Conduct conduct) {
        this.night = night;
        this.centering = centering;
        this.conduct = conduct;
        this.finder = new AxisFinder(night.observer());
    }

    /** Points to where the first exposure will be taken, for whoever needs stars before. */
    void goToStart() throws InterruptedException {
        double sign = night.site().latDeg() >= 0 ? 1 : -1;
        double declination = sign * DECLINATION_DEG;
        double contact = MeridianRule.of(night.kit(), declination).contactDeg();
        double first = Math.min(FIRST_HOUR_ANGLE_DEG, contact - (SIGHTS - 1) * TURN_DEG - FOLLOWED_DEG);
        double ra = night.observer().siderealTimeDeg(night.clock().now()) - first;
        night.devices()
                .mount()
                .slewAndWait(night.clock(), new Equatorial(Angles.wrap360(ra), declination), Mount.PierSide.WEST);
    }

    /** Returns whether the axis is within the limit that the program's subs allow. */
    boolean run() throws InterruptedException {
        NightRecord record = night.record();
        record.stage(Stage.POLAR);
        PolarTolerance.Limit allowed = night.program().polarLimit(night.kit());
        double limit = allowed.arcmin();
        double aim = AIMED_AT * limit;
        PolarError error = night.program().setUp().polarBy() == PolarBy.DRIFT ? byDrift(aim) : byImages(aim);
        return record.gate(
                Gate.atMost(Stage.POLAR, error.atMostArcmin(), limit, "′"),
                String.format(
                        Locale.ROOT,
                        "The axis is %.2f′ ± %.2f′ from the pole; %s subs of %.0f s allow %.2f′: %s.",
                        error.totalArcmin(),
                        error.uncertaintyArcmin(),
                        night.kit().guideOptics().isPresent() ? "guided" : "unguided",
                        night.program().longestSubSeconds(),
                        limit,
                        allowed.because()));
    }

    /** The axis as the reticle left it at Ready: a person's word, and no measurement. */
    boolean takeByReticle() {
        night.record().stage(Stage.POLAR);
        boolean set = night.record().state().all(StepProven.class).stream()
                .anyMatch(step -> step.subject().equals(POLE_STAR) && step.proven());
        return night.record()
                .gate(
                        Gate.atLeast(Stage.POLAR, set ? 1 : 0, 1, "confirmed"),
                        set
                                ? "The axis was set by the reticle, by your word, and is not measured; 5′ to 10′ is usual."
                                : "Nobody has confirmed that the pole star stands in its place.");
    }

    private PolarError byDrift(double aim) throws InterruptedException {
        KnobGearing gearing = night.earlier().gearing();
        DriftWatch drift = new DriftWatch(night, centering);
        PolarError error = told(drift.measure(), gearing, 0, drift.frames());
        for (int adjustment = 1;
                adjustment <= MOST_ADJUSTMENTS && mustTurn(error, aim) && !isOverruled();
                adjustment++) {
            conduct.announce("after this turn of the knobs", Duration.ofSeconds(60));
            conduct.safePoint(Stage.POLAR);
            KnobAdvice advice = KnobAdvice.toRemove(error, gearing);
            turnKnobs(advice);
            PolarError now = drift.measure();
            gearing = gearing.learnedFrom(advice, error, now);
            error = told(now, gearing, adjustment, drift.frames());
        }
        return error;
    }

    private PolarError told(PolarError error, KnobGearing gearing, int adjustment, List<AxisMeasured.Sight> frames) {
        tell(error, gearing, adjustment, false, frames);
        return error;
    }

    private PolarError byImages(double aim) throws InterruptedException {
        NightRecord record = night.record();
        Measured measured = measure(0, night.earlier().gearing());
        int adjustment = 0;
        while (adjustment < MOST_ADJUSTMENTS && mustTurn(measured.error(), aim) && !isOverruled()) {
            // The knobs are followed live from where the last exposure was taken; then the axis is measured afresh.
            Measured live = measured;
            for (int k = 0; k < LIVE_ADJUSTMENTS && mustTurn(live.error(), aim); k++) {
                conduct.announce("after this turn of the knobs", Duration.ofSeconds(60));
                conduct.safePoint(Stage.POLAR);
                if (isOverruled()) {
                    break;
                }
                live = adjustLive(live, ++adjustment);
            }
            measured = measure(adjustment, live.gearing());
            LiveAxis.knock(live.error(), measured.error()).ifPresent(sentence -> record.fault(Stage.POLAR, sentence));
        }
        return measured.error();
    }

    /** What is measured is sure to be inside, or turning on would follow the measurement's own error. */
    private static boolean mustTurn(PolarError error, double aimArcmin) {
        return error.atMostArcmin() > aimArcmin && !error.isWithinMeasurement();
    }

    /** Whether a person goes on with the axis as it stands, or ends the night. */
    private boolean isOverruled() {
        return conduct.isEnding() || conduct.overruled().contains(Stage.POLAR);
    }

    /**
     * A measurement with what follows from it.
     *
     * @param live follows the axis from here on
     */
    private record Measured(PolarError error, KnobGearing gearing, LiveAxis live) {
        KnobAdvice advice() {
            return KnobAdvice.toRemove(error, gearing);
        }
    }

    /** Has the knobs turned and looks, from one exposure, where the axis has gone. */
    private Measured adjustLive(Measured before, int adjustment) throws InterruptedException {
        KnobAdvice advice = before.advice();
        turnKnobs(advice);
        List<AxisMeasured.Sight> frames = new ArrayList<>();
        PolarResult result = before.live()
                .update(sight("After adjustment " + adjustment, frames).sight());
        if (result instanceof PolarRefusal refusal) {
            throw new TryLater("polar alignment", "the axis could not be followed", refusal.reason());
        }
        PolarError now = (PolarError) result;
        Measured after = new Measured(now, before.gearing().learnedFrom(advice, before.error(), now), before.live());
        tell(after.error(), after.gearing(), adjustment, true, frames);
        return after;
    }

    private void turnKnobs(KnobAdvice advice) throws InterruptedException {
        night.record().doing(Stage.POLAR, advice.sentence(), Duration.ofSeconds(45));
        night.devices().hands().turn(advice.altitudeTurns(), advice.azimuthTurns());
        night.record()
                .tell(new KnobsTurned(
                        night.record().now(), advice.sentence(), advice.altitudeTurns(), advice.azimuthTurns()));
    }

    /** A solved exposure. */
    private record Seen(AxisSight sight, PlateSolution solution) {}

    private Seen sight(String caption, List<AxisMeasured.Sight> frames) throws InterruptedException {
        night.record().doing(Stage.POLAR, caption, EXPOSURE);
        Taken taken = new Taken(caption, frames);
        return taken.seen(centering.look(night.devices().mount().pointing(), EXPOSURE, taken));
    }

    private Optional<Seen> glance(String caption, List<AxisMeasured.Sight> frames) throws InterruptedException {
        night.record().doing(Stage.POLAR, caption, EXPOSURE);
        Taken taken = new Taken(caption, frames);
        return centering
                .glance(night.devices().mount().pointing(), EXPOSURE, taken)
                .map(taken::seen);
    }

    /** Keeps each frame as it is solved, with when it was taken and how sharp it is. */
    private final class Taken implements Centering.Watcher {
        private final String caption;
        private final List<AxisMeasured.Sight> frames;
        private Instant middle = night.clock().now();
        private double halfFluxRadiusPx;

        Taken(String caption, List<AxisMeasured.Sight> frames) {
            this.caption = caption;
            this.frames = frames;
        }

        @Override
        public void solved(Frame frame, StarField stars, SolveResult result, double offsetArcsec) {
            night.record().frame(Stage.POLAR, caption, frame, Optional.of(stars));
            frames.add(saved(caption, frame, result));
            middle = frame.header().middle().orElse(night.clock().now());
            halfFluxRadiusPx = stars.medianHalfFluxRadiusPx().orElse(0);
        }

        Seen seen(PlateSolution solution) {
            if (halfFluxRadiusPx > SOFT_HFR_PX) {
                throw new TryLater(
                        "polar alignment",
                        String.format(Locale.ROOT, "the stars are soft (half-flux radius %.1f px)", halfFluxRadiusPx),
                        "focus first: places measured on swollen stars mislead.");
            }
            return new Seen(
                    new AxisSight(solution.centre(), middle, OptionalDouble.of(solution.rotationDeg())), solution);
        }
    }

    /** @param asideDeg how far east of where it was meant to be taken */
    private record Stepped(Seen seen, double asideDeg) {}

    /**
     * Where the catalogue is too thin to recognise a field, one a little further on does as well: any turn about the axis will do. Steps
     * lead east, away from where something might touch; the next turn makes up for them.
     */
    private Stepped sightOrNextToIt(String caption, List<AxisMeasured.Sight> frames) throws InterruptedException {
        double aside = 0;
        for (int step = 0; step < MOST_STEPS_ASIDE; step++) {
            Optional<Seen> seen = glance(caption, frames);
            if (seen.isPresent()) {
                return new Stepped(seen.get(), aside);
            }
            night.record().doing(Stage.POLAR, caption + ": not recognised, a little further on", EXPOSURE);
            turn(-STEP_ASIDE_DEG);
            aside += STEP_ASIDE_DEG;
        }
        return new Stepped(sight(caption, frames), aside);
    }

    private void turn(double degrees) throws InterruptedException {
        night.devices().mount().turnRightAscensionAxis(degrees).await(night.clock());
    }

    private Measured measure(int adjustment, KnobGearing gearing) throws InterruptedException {
        goToStart();
        List<AxisSight> sights = new ArrayList<>();
        List<AxisMeasured.Sight> frames = new ArrayList<>();
        double sigma = AxisFinder.USUAL_CENTRE_SIGMA_ARCSEC;
        double aside = 0;
        for (int k = 0; k < SIGHTS; k++) {
            if (k > 0) {
                turn(TURN_DEG + aside);
            }
            Stepped stepped = sightOrNextToIt("Polar exposure " + (k + 1) + " of " + SIGHTS, frames);
            Seen seen = stepped.seen();
            if (adjustment == 0 && k == 1 && night.kit().equipment().goTo()) {
                new MountProof(night)
                        .byFrames(
                                sights.get(0).centre(),
                                seen.solution().centre(),
                                TURN_DEG + aside - stepped.asideDeg());
            }
            aside = stepped.asideDeg();
            if (adjustment == 0 && k == 0) {
                proveClockAndPlace(seen.solution());
            }
            sights.add(seen.sight());
            sigma = Math.max(
                    sigma,
                    seen.solution().rmsArcsec() / Math.sqrt(seen.solution().matchedStars()));
        }
        PolarResult result = finder.find(
                sights, sigma, AxisFinder.rollSigmaArcsec(sigma, night.kit().fieldRadiusDeg()));
        if (result instanceof PolarRefusal refusal) {
            throw new TryLater("polar alignment", "the axis could not be measured", refusal.reason());
        }
        PolarError error = (PolarError) result;
        Measured measured = new Measured(error, gearing, LiveAxis.after(night.observer(), sights, error, sigma));
        tell(measured.error(), measured.gearing(), adjustment, false, frames);
        return measured;
    }

    /** The first measurement tells how well the kit was set down. */
    private void compare(PolarError error) {
        double[] earlier = night.earlier().placements().stream()
                .flatMapToDouble(p -> p.axisArcmin().stream())
                .toArray();
        if (earlier.length > 0 && night.record().state().all(AxisMeasured.class).isEmpty()) {
            night.record()
                    .tell(new PlacementCompared(
                            night.record().now(),
                            Placement.compared("the axis", error.totalArcmin(), earlier),
                            Stage.POLAR,
                            error.totalArcmin(),
                            Arrays.stream(earlier).boxed().toList()));
        }
    }

    private void tell(
            PolarError error, KnobGearing gearing, int adjustment, boolean live, List<AxisMeasured.Sight> frames) {
        if (adjustment == 0) {
            compare(error);
        }
        KnobAdvice advice = KnobAdvice.toRemove(error, gearing);
        night.record()
                .tell(new AxisMeasured(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "Polar axis %.1f′ off: %.1f′ %s, %.1f′ %s.",
                                error.totalArcmin(),
                                Math.abs(error.altitudeErrorArcmin()),
                                error.altitudeErrorArcmin() > 0 ? "too high" : "too low",
                                Math.abs(error.azimuthErrorArcmin()),
                                error.azimuthErrorArcmin() > 0 ? "too far east" : "too far west"),
                        error.altitudeErrorArcmin(),
                        error.azimuthErrorArcmin(),
                        error.totalArcmin(),
                        error.uncertaintyArcmin(),
                        error.turnDeg(),
                        adjustment,
                        live,
                        OptionalDouble.of(gearing.tiltDeg()),
                        OptionalDouble.of(advice.altitudeTurns()),
                        OptionalDouble.of(advice.azimuthTurns()),
                        advice.sentence(),
                        frames));
    }

    /** A wrong hour or a wrong place shows as the mount's idea of the sky being degrees from the solved one. */
    private void proveClockAndPlace(PlateSolution solution) {
        double apart = night.devices().mount().pointing().separationDeg(solution.centre());
        boolean proven = apart < CLOCK_AND_PLACE_DEG;
        String measured = String.format(Locale.ROOT, "the mount is %.1f° from the solved sky", apart);
        night.record()
                .tell(new StepProven(
                        night.record().now(),
                        "clock and place: "
                                + (proven ? "they agree with the sky, " : "they do not agree with the sky, ")
                                + measured + ".",
                        "clock and place",
                        "they agree with the solved sky",
                        measured,
                        proven));
        if (!proven) {
            night.record()
                    .fault(
                            Stage.POLAR,
                            String.format(
                                    Locale.ROOT,
                                    "The sky is %.0f° from where clock and place put it: look at date, hour, time zone and coordinates.",
                                    apart));
        }
    }

    private AxisMeasured.Sight saved(String caption, Frame frame, SolveResult result) {
        String file = night.archive().save("polar", "polar", frame);
        if (result instanceof PlateSolution s) {
            return new AxisMeasured.Sight(
                    caption,
                    file,
                    Optional.of(new AxisMeasured.Place(s.centre(), s.rotationDeg(), s.matchedStars(), s.rmsArcsec())),
                    "");
        }
        return new AxisMeasured.Sight(caption, file, Optional.empty(), ((NoSolution) result).reason());
    }
}
