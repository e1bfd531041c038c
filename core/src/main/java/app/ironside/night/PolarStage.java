package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.kit.PolarTolerance;
import app.ironside.point.Centering;
import app.ironside.polar.AxisFinder;
import app.ironside.polar.AxisSight;
import app.ironside.polar.KnobAdvice;
import app.ironside.polar.KnobGearing;
import app.ironside.polar.PolarError;
import app.ironside.polar.PolarRefusal;
import app.ironside.polar.PolarResult;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/** Aligns the polar axis: measure from three exposures, turn the knobs, measure again, until the gate is passed. */
final class PolarStage {
    private static final Duration EXPOSURE = Duration.ofSeconds(6);
    private static final double DECLINATION_DEG = 62;
    private static final double FIRST_HOUR_ANGLE_DEG = -62;
    private static final double TURN_DEG = 24;
    private static final int SIGHTS = 3;
    private static final int MOST_ADJUSTMENTS = 8;

    /** More than a bad first setting-down of the base, less than an hour of the sky's turn. */
    private static final double CLOCK_AND_PLACE_DEG = 6;

    private final NightContext night;
    private final Centering centering;
    private final AxisFinder finder;

    PolarStage(NightContext night, Centering centering) {
        this.night = night;
        this.centering = centering;
        this.finder = new AxisFinder(night.observer());
    }

    /** Points to where the first exposure will be taken, for whoever needs stars before. */
    void goToStart() throws InterruptedException {
        double sign = night.site().latDeg() >= 0 ? 1 : -1;
        double ra = night.observer().siderealTimeDeg(night.clock().now()) - FIRST_HOUR_ANGLE_DEG;
        night.devices()
                .mount()
                .slewAndWait(
                        night.clock(), new Equatorial(Angles.wrap360(ra), sign * DECLINATION_DEG), Mount.PierSide.WEST);
    }

    /** Returns whether the axis is within the limit that the program's subs allow. */
    boolean run() throws InterruptedException {
        NightRecord record = night.record();
        record.stage(Stage.POLAR);
        double declination = night.program().targets().stream()
                .mapToDouble(t -> Math.abs(t.position().decDeg()))
                .max()
                .orElseThrow();
        double limit = PolarTolerance.limitArcmin(night.kit(), night.program().longestSubSeconds(), declination);
        Measured measured = measure(0, error -> KnobGearing.UNKNOWN);
        for (int n = 1; n <= MOST_ADJUSTMENTS && measured.error().totalArcmin() > limit; n++) {
            KnobAdvice advice = measured.advice();
            Measured before = measured;
            record.doing(Stage.POLAR, advice.sentence(), Duration.ofSeconds(45));
            night.devices().hands().turn(advice.altitudeTurns(), advice.azimuthTurns());
            record.event(
                    EventKind.KNOBS,
                    advice.sentence(),
                    facts("altitudeTurns", advice.altitudeTurns(), "azimuthTurns", advice.azimuthTurns()));
            measured = measure(n, after -> before.gearing().learnedFrom(advice, before.error(), after));
        }
        PolarError error = measured.error();
        return record.gate(new Gate(
                Stage.POLAR,
                error.totalArcmin(),
                limit,
                "′",
                true,
                String.format(
                        Locale.ROOT,
                        "The axis is %.2f′ ± %.2f′ from the pole; %.0f s subs at %.0f mm allow %.2f′.",
                        error.totalArcmin(),
                        error.uncertaintyArcmin(),
                        night.program().longestSubSeconds(),
                        night.kit().optics().focalLengthMm(),
                        limit)));
    }

    /** A measurement with what follows from it. */
    private record Measured(PolarError error, KnobGearing gearing) {
        KnobAdvice advice() {
            return KnobAdvice.toRemove(error, gearing);
        }
    }

    /**
     * @param learn tells the knobs' gearing from the new error
     */
    private Measured measure(int adjustment, Function<PolarError, KnobGearing> learn) throws InterruptedException {
        goToStart();
        List<AxisSight> sights = new ArrayList<>();
        List<Map<String, Object>> frames = new ArrayList<>();
        double rms = 0;
        for (int k = 0; k < SIGHTS; k++) {
            if (k > 0) {
                night.devices().mount().turnRightAscensionAxis(TURN_DEG);
                night.clock().await(night.devices().mount().remaining());
            }
            String caption = "Polar exposure " + (k + 1) + " of " + SIGHTS;
            night.record().doing(Stage.POLAR, caption, EXPOSURE);
            List<Instant> middles = new ArrayList<>();
            PlateSolution solution =
                    centering.look(night.devices().mount().pointing(), EXPOSURE, (frame, stars, result, offset) -> {
                        night.record().frame(Stage.POLAR, caption, frame, Optional.of(stars));
                        frames.add(saved(caption, frame, result));
                        middles.add(frame.header().middle().orElse(night.clock().now()));
                    });
            if (adjustment == 0 && k == 0) {
                proveClockAndPlace(solution);
            }
            sights.add(new AxisSight(solution.centre(), middles.get(middles.size() - 1)));
            rms = Math.max(rms, solution.rmsArcsec() / Math.sqrt(solution.matchedStars()));
        }
        PolarResult result = finder.find(sights, Math.max(AxisFinder.USUAL_CENTRE_SIGMA_ARCSEC, rms));
        if (result instanceof PolarRefusal refusal) {
            throw new DeviceException("polar alignment", "the axis could not be measured", refusal.reason());
        }
        PolarError error = (PolarError) result;
        Measured measured = new Measured(error, learn.apply(error));
        night.record()
                .event(
                        EventKind.POLAR,
                        String.format(
                                Locale.ROOT,
                                "Polar axis %.1f′ off: %.1f′ %s, %.1f′ %s.",
                                error.totalArcmin(),
                                Math.abs(error.altitudeErrorArcmin()),
                                error.altitudeErrorArcmin() > 0 ? "too high" : "too low",
                                Math.abs(error.azimuthErrorArcmin()),
                                error.azimuthErrorArcmin() > 0 ? "too far east" : "too far west"),
                        facts(
                                "altitudeErrorArcmin", error.altitudeErrorArcmin(),
                                "azimuthErrorArcmin", error.azimuthErrorArcmin(),
                                "totalErrorArcmin", error.totalArcmin(),
                                "uncertaintyArcmin", error.uncertaintyArcmin(),
                                "turnDeg", error.turnDeg(),
                                "adjustment", adjustment,
                                "advice", measured.advice().sentence(),
                                "frames", frames));
        return measured;
    }

    /** A wrong hour or a wrong place shows as the mount's idea of the sky being degrees from the solved one. */
    private void proveClockAndPlace(PlateSolution solution) {
        double apart = night.devices().mount().pointing().separationDeg(solution.centre());
        boolean proven = apart < CLOCK_AND_PLACE_DEG;
        String measured = String.format(Locale.ROOT, "the mount is %.1f° from the solved sky", apart);
        night.record()
                .event(
                        EventKind.DEVICE,
                        "clock and place: they agree with the sky, " + measured + ".",
                        facts(
                                "device",
                                "clock and place",
                                "step",
                                "they agree with the solved sky",
                                "measured",
                                measured,
                                "proven",
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

    private Map<String, Object> saved(
            String caption, app.ironside.image.Frame frame, app.ironside.solve.SolveResult result) {
        String file = night.archive().save("polar", "polar", frame);
        if (result instanceof PlateSolution s) {
            return facts(
                    "caption", caption,
                    "file", file,
                    "raDeg", s.centre().raDeg(),
                    "decDeg", s.centre().decDeg(),
                    "rotationDeg", s.rotationDeg(),
                    "matchedStars", s.matchedStars(),
                    "rmsArcsec", s.rmsArcsec());
        }
        return facts("caption", caption, "file", file, "reason", ((NoSolution) result).reason());
    }
}
