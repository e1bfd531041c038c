package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.focus.FocusRun;
import app.ironside.guide.GuideSample;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.MeridianRule;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.point.Centering;
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
import java.util.Set;

/** Takes the subs of one target: dither, refocus, recentre, flip, until dawn or until the target sinks. */
final class RunStage {
    private static final double SMALL_FRAME_SHARE = 0.25;

    /** So often in a row a device that fails is tried again; what the sky does is waited for as long as the block lasts. */
    private static final int MOST_RECOVERIES = 3;

    /** A focus run with guiding begun anew, a dither with its settling, and a whole start: none may run into the meridian's limit. */
    private static final double REFOCUS_SECONDS = 180;

    private static final double DITHER_SECONDS = 30;
    private static final double STARTING_SECONDS = 300;

    private static final Duration PAUSE_BEFORE_RECOVERY = Duration.ofMinutes(5);

    /** What complains when the sky is shut: each of these sees stars or nothing. */
    private static final Set<String> SEES_THE_SKY = Set.of("guider", "guide camera", FocusRun.NAME, Centering.NAME);

    private final NightContext night;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final NightLoop loop;
    private final SubJudge judge;
    private final Observer observer;
    private int sinceLegBegan;

    RunStage(NightContext night, Pointing pointing, Focusing focusing, Guiding guiding, SubJudge judge) {
        this.night = night;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
        this.loop = new NightLoop(night.clock(), guiding.guider());
        this.judge = judge;
        this.observer = night.observer();
    }

    /** Runs a block from where it stands; returns whether it was given up. */
    boolean run(PlannedBlock block) throws InterruptedException {
        rest("Waiting for " + block.target().name(), block.span().from());
        int taken = block.done();
        int recoveries = 0;
        boolean begun = false;
        boolean givenUp = false;
        while (!isOver(block, taken)) {
            try {
                if (!begun) {
                    begin(block.target());
                    begun = true;
                }
                if (flipDue(block.target(), focusing.due() ? REFOCUS_SECONDS : DITHER_SECONDS)) {
                    flip(block.target());
                    continue; // the flip took minutes: whether the block is over is asked anew
                }
                beforeSub(block.target(), taken);
                if (flipDue(block.target(), 0)) {
                    flip(block.target());
                    continue;
                }
                boolean kept = sub(block.target(), taken);
                taken++;
                recoveries = kept ? 0 : recoveries;
                guiding.check();
            } catch (DeviceException e) {
                night.record().fault(Stage.RUN, e.getMessage());
                begun = false;
                if (++recoveries > MOST_RECOVERIES && !SEES_THE_SKY.contains(e.device())) {
                    night.record()
                            .fault(
                                    Stage.RUN,
                                    block.target().name() + " is given up after " + MOST_RECOVERIES
                                            + " recoveries; what was taken is kept.");
                    givenUp = true;
                    break;
                }
                rest(
                        "A pause of five minutes, then " + block.target().name() + " again",
                        night.clock().now().plus(PAUSE_BEFORE_RECOVERY));
            }
        }
        guiding.stop();
        night.devices().mount().stop();
        return givenUp;
    }

    /** Waits with the mount standing still: nothing is followed that nobody looks at. */
    private void rest(String why, Instant until) throws InterruptedException {
        guiding.stop();
        if (night.clock().now().isBefore(until)) {
            night.devices().mount().stop();
            night.record().doing(Stage.RUN, why, Duration.between(night.clock().now(), until));
            loop.waitUntil(until);
        }
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
        pointing.centre(target, sideFor(target));
        night.record().stage(Stage.FOCUS);
        focusing.fine("start of " + target.name());
        night.record().stage(Stage.GUIDE);
        guiding.start(target);
        night.record().stage(Stage.RUN);
        sinceLegBegan = 0;
    }

    /** Whether a sub that begins so many seconds from now would still be under way where something touches. */
    private boolean flipDue(TargetPlan target, double before) {
        if (night.devices().mount().pierSide() != Mount.PierSide.WEST) {
            return false;
        }
        double seconds = before + target.subSeconds() + night.kit().sensor().readoutSeconds();
        return rule(target).flipDue(hourAngleDeg(target), seconds);
    }

    private MeridianRule rule(TargetPlan target) {
        return MeridianRule.of(night.kit(), target.position().decDeg());
    }

    private double hourAngleDeg(TargetPlan target) {
        return observer.hourAngleDeg(target.position(), night.clock().now());
    }

    /** The side that serves until the first sub is taken; where neither does yet, the target is waited for. */
    private Mount.PierSide sideFor(TargetPlan target) throws InterruptedException {
        double seconds = STARTING_SECONDS + target.subSeconds();
        if (rule(target).side(hourAngleDeg(target), seconds) == MeridianRule.Side.NEITHER) {
            waitUntilFree(target);
        }
        return rule(target).side(hourAngleDeg(target), seconds) == MeridianRule.Side.BEFORE
                ? Mount.PierSide.WEST
                : Mount.PierSide.EAST;
    }

    /** The mount stands still meanwhile: followed on, the telescope would run into what the limit keeps it from. */
    private void waitUntilFree(TargetPlan target) throws InterruptedException {
        double left = rule(target).flipFromDeg() - hourAngleDeg(target);
        rest(
                "Waiting until " + target.name() + " can be followed from the other side",
                night.clock().now().plusMillis(Math.round(1000 * Math.max(0, left) / MeridianRule.DEG_PER_SECOND)));
    }

    private void flip(TargetPlan target) throws InterruptedException {
        guiding.stop();
        waitUntilFree(target);
        Instant began = night.clock().now();
        night.record().doing(Stage.RUN, "Meridian flip", Duration.ofSeconds(150));
        boolean centred = pointing.centre(target, Mount.PierSide.EAST);
        if (night.devices().mount().pierSide() != Mount.PierSide.EAST) {
            throw new DeviceException(
                    "mount",
                    "it was told to change sides and did not",
                    "Look at its own meridian limits; something touches if it goes on as it is.");
        }
        boolean guided = guiding.start(target);
        sinceLegBegan = 0;
        night.record()
                .event(
                        EventKind.FLIP,
                        String.format(
                                Locale.ROOT,
                                "Meridian flip done in %d s, %s, %s.",
                                Duration.between(began, night.clock().now()).toSeconds(),
                                centred ? "centred" : "not centred",
                                guided ? "guiding" : "guiding not as good as it should be"),
                        facts("target", target.name(), "centred", centred, "guided", guided));
    }

    private void beforeSub(TargetPlan target, int taken) throws InterruptedException {
        String filter = target.filterAfter(taken);
        if (focusing.due()) {
            guiding.stop();
            focusing.fine(focusing.dueBecause());
            guiding.start(target);
        }
        focusing.change(filter);
        if (sinceLegBegan > 0 && sinceLegBegan % night.program().ditherEvery() == 0) {
            guiding.dither();
        }
    }

    /** Takes a sub; returns whether it is kept. */
    private boolean sub(TargetPlan target, int taken) throws InterruptedException {
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
        guiding.guider().takeLost();
        Frame raw = loop.expose(night.devices().camera(), exposure);
        List<GuideSample> samples = guiding.guider().takeSamples();
        night.record().guiding(samples);
        StarField field = night.finder().find(raw);
        Frame frame = raw.withHeader(header(raw.header(), target, filter));
        String file = night.archive()
                .save(
                        String.join(
                                "/", "lights", FrameArchive.plainName(target.name()), FrameArchive.plainName(filter)),
                        FrameArchive.plainName(target.name()) + "_" + FrameArchive.plainName(filter) + "_"
                                + FrameArchive.seconds(target.subSeconds()),
                        frame);
        SubJudge.Measured measured = SubJudge.measured(
                SubJudge.set(target.name(), filter, target.subSeconds(), raw.width()),
                file,
                field,
                night.kit().sensor().offsetAdu());
        SubJudge.Verdict verdict = judge.judge(measured);
        Optional<PlateSolution> place = small ? Optional.empty() : place(target, field);
        night.record().frame(Stage.RUN, name, frame, Optional.of(field));
        Map<String, Object> facts = facts("target", target.name(), "filter", filter, "seconds", target.subSeconds());
        facts.putAll(SubFacts.of(field, raw.width(), measured, verdict));
        facts.putAll(circumstances(target));
        facts.putAll(SubFacts.guiding(samples, guiding.guider().takeLost()));
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
        facts.put("hourAngleDeg", hourAngleDeg(target));
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
        SubFacts.tellRegraded(night.record(), judge, measured.set());
        if (test) {
            gate(target, verdict, field);
        }
        recentreIfCrept(target, place);
        return verdict.keep();
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

    private Map<String, Object> circumstances(TargetPlan target) {
        Horizontal seen = observer.observed(target.position(), night.clock().now());
        return facts(
                "altitudeDeg", seen.altitudeDeg(),
                "temperatureC", night.devices().focuser().temperatureC(),
                "focusSteps", night.devices().focuser().positionSteps(),
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
