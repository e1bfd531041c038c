package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideStatistics;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.star.FieldMap;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Takes the subs of one target: dither, refocus, recentre, flip, until dawn or until the target sinks. */
final class RunStage {
    private static final double SMALL_FRAME_SHARE = 0.25;
    private static final int MOST_RECOVERIES = 3;
    private static final Duration PAUSE_BEFORE_RECOVERY = Duration.ofMinutes(5);

    /** Past the meridian by this much before a flip, so that the mount is sure to choose the other side. */
    private static final double FLIP_AT_HOUR_ANGLE_DEG = 0.1;

    private final NightContext night;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final NightLoop loop;
    private final SubJudge judge;
    private final Observer observer;
    private int sinceLegBegan;

    RunStage(NightContext night, Pointing pointing, Focusing focusing, Guiding guiding) {
        this.night = night;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
        this.loop = new NightLoop(night.clock(), guiding.guider());
        this.judge = new SubJudge(night.kit().sensor().offsetAdu());
        this.observer = night.observer();
    }

    /**
     * Runs a block from where it stands.
     *
     * @param alreadyTaken subs of this target from before a stop
     */
    void run(PlannedBlock block, int alreadyTaken) throws InterruptedException {
        loop.waitUntil(block.span().from());
        int taken = alreadyTaken;
        int recoveries = 0;
        boolean begun = false;
        while (!isOver(block, taken)) {
            try {
                if (!begun) {
                    begin(block.target());
                    begun = true;
                }
                if (flipDue(block.target())) {
                    flip(block.target());
                }
                beforeSub(block.target(), taken);
                sub(block.target(), taken);
                taken++;
                guiding.check();
            } catch (DeviceException e) {
                night.record().fault(Stage.RUN, e.getMessage());
                guiding.stop();
                begun = false;
                if (++recoveries > MOST_RECOVERIES) {
                    night.record()
                            .fault(
                                    Stage.RUN,
                                    block.target().name() + " is given up after " + MOST_RECOVERIES
                                            + " recoveries; what was taken is kept.");
                    return;
                }
                loop.waitUntil(night.clock().now().plus(PAUSE_BEFORE_RECOVERY));
            }
        }
        guiding.stop();
    }

    private boolean isOver(PlannedBlock block, int taken) {
        Instant end = night.clock().now().plusMillis(Math.round(block.target().subSeconds() * 1000));
        if (end.isAfter(block.span().until())
                || taken >= block.target().mostSubs().orElse(Integer.MAX_VALUE)) {
            return true;
        }
        Horizontal seen = observer.observed(block.target().position(), end);
        return seen.altitudeDeg() < night.program().minimumAltitudeDeg()
                || !night.site().horizon().clears(seen, night.site().marginDeg());
    }

    private void begin(TargetPlan target) throws InterruptedException {
        night.record().stage(Stage.POINT);
        focusing.change(target.filters().get(0));
        pointing.centre(target, pointing.sideFor(target));
        night.record().stage(Stage.FOCUS);
        focusing.fine("start of " + target.name());
        night.record().stage(Stage.GUIDE);
        guiding.start(target);
        night.record().stage(Stage.RUN);
        sinceLegBegan = 0;
    }

    private boolean flipDue(TargetPlan target) {
        if (night.devices().mount().pierSide() != Mount.PierSide.WEST) {
            return false;
        }
        Instant end = night.clock()
                .now()
                .plusMillis(Math.round(
                        1000 * (target.subSeconds() + night.kit().sensor().readoutSeconds())));
        return observer.hourAngleDeg(target.position(), end)
                > night.kit().contactHourAngleDeg(target.position().decDeg());
    }

    private void flip(TargetPlan target) throws InterruptedException {
        double now = observer.hourAngleDeg(target.position(), night.clock().now());
        if (now < FLIP_AT_HOUR_ANGLE_DEG) {
            Duration wait = Duration.ofMillis(Math.round((FLIP_AT_HOUR_ANGLE_DEG - now) / 15 * 3_590_170));
            night.record().doing(Stage.RUN, "Waiting for " + target.name() + " to cross the meridian", wait);
            loop.waitUntil(night.clock().now().plus(wait));
        }
        guiding.stop();
        Instant began = night.clock().now();
        night.record().doing(Stage.RUN, "Meridian flip", Duration.ofSeconds(150));
        boolean centred = pointing.centre(target, Mount.PierSide.EAST);
        boolean guided = guiding.start(target);
        sinceLegBegan = 0;
        night.record()
                .event(
                        EventKind.FLIP,
                        String.format(
                                Locale.ROOT,
                                "Meridian flip done in %d s; the next sub is its proof.",
                                Duration.between(began, night.clock().now()).toSeconds()),
                        facts("target", target.name(), "centred", centred, "guided", guided));
    }

    private void beforeSub(TargetPlan target, int taken) throws InterruptedException {
        String filter = target.filterAfter(taken);
        if (focusing.due()) {
            double change = focusing.temperatureChangeC();
            guiding.stop();
            focusing.fine(String.format(
                    Locale.ROOT, "tube %s by %.1f °C", change < 0 ? "colder" : "warmer", Math.abs(change)));
            guiding.start(target);
        }
        focusing.change(filter);
        if (sinceLegBegan > 0 && sinceLegBegan % night.program().ditherEvery() == 0) {
            guiding.dither();
        }
    }

    private void sub(TargetPlan target, int taken) throws InterruptedException {
        String filter = target.filterAfter(taken);
        boolean test = sinceLegBegan == 0;
        boolean small =
                night.program().fullFramesPerLeg().map(k -> sinceLegBegan >= k).orElse(false);
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(target.subSeconds() * 1000)));
        if (small) {
            exposure = exposure.of(middle());
        }
        String name = String.format(Locale.ROOT, "Sub %d %s %.0f s", taken + 1, filter, target.subSeconds());
        night.record().doing(Stage.RUN, name + " of " + target.name(), exposure.length());
        guiding.guider().takeSamples();
        Frame raw = loop.expose(night.devices().camera(), exposure);
        List<GuideSample> samples = guiding.guider().takeSamples();
        night.record().guiding(samples);
        StarField field = night.finder().find(raw);
        SubJudge.Verdict verdict = judge.judge(target.name() + filter + raw.width(), field);
        Frame frame = raw.withHeader(header(raw.header(), target, filter));
        String file = night.archive()
                .save(
                        String.join("/", "lights", FrameArchive.plainName(target.name()), filter),
                        String.format(
                                Locale.ROOT,
                                "%s_%s_%.0fs",
                                FrameArchive.plainName(target.name()),
                                filter,
                                target.subSeconds()),
                        frame);
        Optional<PlateSolution> place = small ? Optional.empty() : place(target, field);
        night.record().frame(Stage.RUN, name, frame, Optional.of(field));
        Map<String, Object> facts = measured(target, filter, field, GuideStatistics.of(samples));
        facts.put("file", file);
        facts.put("keep", verdict.keep());
        facts.put("reason", verdict.reason());
        facts.put("test", test);
        facts.put("full", !small);
        facts.put("trace", Guiding.trace(samples));
        if (!small) {
            FieldMap map = FieldMap.of(field);
            facts.put("trailing", map.trailing());
            facts.put("trailingAngleDeg", map.trailingAngleDeg());
            facts.put(
                    "field",
                    map.findings().stream().map(FieldMap.Finding::sentence).toList());
        }
        facts.put(
                "hourAngleDeg",
                observer.hourAngleDeg(target.position(), night.clock().now()));
        place.ifPresent(p -> {
            facts.put("offsetArcsec", 3600 * p.centre().separationDeg(target.position()));
            facts.put("wcs", p.wcs().toKeywords());
        });
        sinceLegBegan++;
        night.record()
                .event(
                        EventKind.SUB,
                        String.format(
                                Locale.ROOT,
                                "%s of %s %s.",
                                name,
                                target.name(),
                                verdict.keep() ? "kept" : "out: " + verdict.reason()),
                        facts);
        if (test) {
            gate(target, verdict, field);
        }
        recentreIfCrept(target, place);
    }

    private void gate(TargetPlan target, SubJudge.Verdict verdict, StarField field) {
        night.record()
                .gate(new Gate(
                        Stage.RUN,
                        verdict.keep() ? 1 : 0,
                        1,
                        "test sub",
                        false,
                        verdict.keep()
                                ? String.format(
                                        Locale.ROOT,
                                        "The test sub of %s is good, %d stars, %.2f px; it counts.",
                                        target.name(),
                                        field.stars().size(),
                                        field.medianHalfFluxRadiusPx().orElse(0))
                                : "The test sub of " + target.name() + " is not good: " + verdict.reason() + "."));
    }

    private void recentreIfCrept(TargetPlan target, Optional<PlateSolution> place) throws InterruptedException {
        if (place.isEmpty()) {
            return;
        }
        double crept = 3600 * place.get().centre().separationDeg(target.position());
        if (crept > night.program().recentreBeyondArcsec()) {
            guiding.stop();
            pointing.centre(target, night.devices().mount().pierSide());
            guiding.start(target);
        }
    }

    private Camera.Region middle() {
        int width = (int) (night.kit().sensor().widthPx() * SMALL_FRAME_SHARE) / 2 * 2;
        int height = (int) (night.kit().sensor().heightPx() * SMALL_FRAME_SHARE) / 2 * 2;
        return new Camera.Region(
                (night.kit().sensor().widthPx() - width) / 2,
                (night.kit().sensor().heightPx() - height) / 2,
                width,
                height);
    }

    private Optional<PlateSolution> place(TargetPlan target, StarField field) {
        SolveResult result = night.solver()
                .solve(
                        field,
                        SolveHints.NONE
                                .withNear(target.position(), 1)
                                .withScale(night.kit().arcsecPerPixel(), 0.02));
        return result instanceof PlateSolution s ? Optional.of(s) : Optional.empty();
    }

    private Map<String, Object> measured(TargetPlan target, String filter, StarField field, GuideStatistics guide) {
        Horizontal seen = observer.observed(target.position(), night.clock().now());
        return facts(
                "target", target.name(),
                "filter", filter,
                "seconds", target.subSeconds(),
                "hfrPx", field.medianHalfFluxRadiusPx().orElse(0),
                "fwhmPx", field.medianFwhmPx().orElse(0),
                "eccentricity", field.medianEccentricity().orElse(0),
                "stars", field.stars().size(),
                "backgroundAdu", field.backgroundAdu(),
                "noiseAdu", field.noiseAdu(),
                "altitudeDeg", seen.altitudeDeg(),
                "temperatureC", night.devices().focuser().temperatureC(),
                "focusSteps", night.devices().focuser().positionSteps(),
                "guideRmsArcsec", guide.rmsTotalArcsec(),
                "guideRmsRaArcsec", guide.rmsRaArcsec(),
                "guideRmsDecArcsec", guide.rmsDecArcsec(),
                "pierSide", night.devices().mount().pierSide().name());
    }

    private Header header(Header camera, TargetPlan target, String filter) {
        return camera.with("OBJECT", target.name())
                .with("FILTER", filter)
                .with("RA", target.position().raDeg())
                .with("DEC", target.position().decDeg())
                .with("TELESCOP", night.kit().name())
                .with("FOCALLEN", night.kit().optics().focalLengthMm())
                .with("APTDIA", night.kit().optics().apertureMm())
                .with("FOCUSPOS", night.devices().focuser().positionSteps())
                .with("FOCTEMP", night.devices().focuser().temperatureC())
                .with("PIERSIDE", night.devices().mount().pierSide().name())
                .with("SITELAT", night.site().latDeg())
                .with("SITELONG", night.site().lonDeg())
                .with("SITEELEV", night.site().elevationM());
    }
}
