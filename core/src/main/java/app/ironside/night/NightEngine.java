package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.BadInputException;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.point.Centering;
import app.ironside.star.StarField;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Runs a night from dusk to the stacked picture, or goes on with one that was stopped.
 *
 * <p>Order: plan, devices, rough focus, polar alignment; then for each target point, focus, guide, a test sub that counts, and
 * the run; then park, calibration frames while the sensor is still cold, warm up, masters, stacks.
 */
public final class NightEngine {
    private final NightContext night;
    private final NightRecord record;
    private final Set<String> givenUp = new LinkedHashSet<>();
    private SubJudge judge = new SubJudge();

    public NightEngine(NightContext night) {
        this.night = night;
        this.record = night.record();
    }

    /**
     * Runs to the end. However it ends, the mount has been stopped or parked first, if it answered.
     *
     * @throws InterruptedException if the night is stopped; the journal then holds all that was done, and another call goes on
     * @throws DeviceException if it cannot go on
     * @throws UncheckedIOException as well, if the disk refuses
     */
    public void run() throws InterruptedException {
        try {
            runThrough();
        } catch (InterruptedException e) {
            leaveSafely("The night is stopped.", EventKind.PARKED, e);
            throw e;
        } catch (RuntimeException | Error e) {
            // Whatever it is: a mount that is left tracking would in the end run into its pier.
            String why = e instanceof OutOfMemoryError
                    ? "There was not enough memory; give more by setting IRONSIDE_MEMORY, and the night goes on from here."
                    : String.valueOf(e.getMessage());
            leaveSafely(why, EventKind.FAULT, e);
            throw e;
        }
    }

    /** Parks the mount and lets the camera warm up, before anything else is thought of; then tells. */
    private void leaveSafely(String why, EventKind kind, Throwable cause) {
        // Somebody who stops the night interrupts its thread: the devices must still be reached.
        boolean interrupted = Thread.interrupted();
        String left = park(cause);
        try {
            if (night.kit().sensor().cooled()) {
                night.devices().camera().warmUp();
                left += " The camera warms up: leave its power on for " + NightBudget.WARM_UP.toMinutes() + " minutes.";
            }
        } catch (RuntimeException unheated) {
            cause.addSuppressed(unheated);
        }
        try {
            record.event(kind, why + " " + left, facts("stage", stage().name()));
        } catch (RuntimeException | Error unwritten) {
            cause.addSuppressed(unwritten); // the disk or the memory may be what failed
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private String park(Throwable cause) {
        Mount mount = night.devices().mount();
        try {
            mount.park();
            if (!(cause instanceof InterruptedException)) {
                night.clock().await(mount.remaining());
            }
            return "The mount is parked.";
        } catch (InterruptedException again) {
            Thread.currentThread().interrupt();
            return "The mount is on its way to where it parks.";
        } catch (RuntimeException | Error unparked) {
            cause.addSuppressed(unparked);
            return stopped(mount, unparked);
        }
    }

    private static String stopped(Mount mount, Throwable unparked) {
        try {
            mount.stop();
            return "The mount could not be parked (" + unparked.getMessage() + ") and was stopped where it stands.";
        } catch (RuntimeException | Error moving) {
            return "The mount could not be parked (" + unparked.getMessage()
                    + "): stop it by hand before it runs into its pier.";
        }
    }

    /** The stage that began last. */
    private Stage stage() {
        return record.events().stream()
                .filter(e -> e.kind() == EventKind.STAGE)
                .reduce((a, b) -> b)
                .flatMap(e -> e.text("stage"))
                .map(Stage::valueOf)
                .orElse(Stage.READY);
    }

    private void runThrough() throws InterruptedException {
        NightSoFar before = NightSoFar.of(record.events());
        if (before.ended()) {
            return;
        }
        judge = SubJudge.of(record.events());
        if (before.started()) {
            before = reconcile(before);
        }
        NightPlan plan = before.started() ? resumed(before) : started();
        Centering centering = new Centering(
                night.devices().mount(),
                night.devices().camera(),
                night.clock(),
                night.quickFinder(),
                night.solver(),
                night.kit());
        night.pointingModel().ifPresent(model -> centering.use(model, night.observer()));
        Focusing focusing = new Focusing(night);
        Guiding guiding = new Guiding(night);
        Pointing pointing = new Pointing(night, centering);
        if (lightLeft(plan)) {
            prepare(plan, before, centering, focusing);
            RunStage run = new RunStage(night, pointing, focusing, guiding, judge);
            for (PlannedBlock block : plan.blocks()) {
                if (run.run(block)) {
                    givenUp.add(block.target().name());
                }
            }
        }
        finish(before, focusing);
    }

    /** What is left: the time that the stop took is given back to what was not reached. */
    private NightPlan resumed(NightSoFar before) {
        Program program = night.program();
        NightPlanner.Outlook outlook =
                NightPlanner.Outlook.of(night.site(), program.date(), program.minimumAltitudeDeg());
        NightPlan first = NightPlanner.plan(night.site(), night.kit(), program, outlook);
        NightPlan plan = NightPlanner.plan(
                night.site(),
                night.kit(),
                program,
                outlook,
                new NightPlanner.Progress(night.clock().now(), before.done(program, first)));
        record.event(
                EventKind.NIGHT_RESUMED,
                plan.subs() > 0
                        ? "The night goes on after a stop: " + plan.subs() + " subs still fit."
                        : "The night goes on after a stop; no more subs fit.",
                facts("subs", plan.subs()));
        return plan;
    }

    private NightPlan started() {
        NightPlan plan = NightPlanner.plan(night.site(), night.kit(), night.program());
        record.event(
                EventKind.NIGHT_STARTED,
                "Night of " + night.program().date() + " at " + night.site().name() + " with "
                        + night.kit().name() + ".",
                facts(
                        "site",
                        night.site().name(),
                        "kit",
                        night.kit().name(),
                        "date",
                        night.program().date().toString(),
                        "provenance",
                        night.provenance().word()));
        record.stage(Stage.PLAN);
        for (PlannedBlock block : plan.blocks()) {
            record.event(
                    EventKind.PLAN,
                    String.format(
                            Locale.ROOT,
                            "%s: %d subs of %.0f s, highest %.0f°.",
                            block.target().name(),
                            block.subs(),
                            block.target().subSeconds(),
                            block.window().transitAltitudeDeg()),
                    facts(
                            "target", block.target().name(),
                            "subs", block.subs(),
                            "seconds", block.target().subSeconds(),
                            "from", block.span().from().toString(),
                            "until", block.span().until().toString(),
                            "flip", block.flip().map(Instant::toString).orElse(""),
                            "transit", block.window().transit().toString(),
                            "transitAltitudeDeg", block.window().transitAltitudeDeg(),
                            "usableHours", block.window().usableHours(),
                            "effectiveHours", block.window().effectiveHours(),
                            "moonSeparationDeg", block.window().moonSeparationDeg()));
        }
        record.gate(new Gate(
                Stage.PLAN,
                plan.subs(),
                1,
                "subs",
                false,
                plan.subs() > 0
                        ? String.format(
                                Locale.ROOT,
                                "%.1f h of darkness, %d subs fit.",
                                plan.times().darkHours(),
                                plan.subs())
                        : "No target is up in the dark tonight."));
        if (plan.subs() == 0) {
            throw new BadInputException(
                    "program",
                    "no target is up in the dark on " + night.program().date(),
                    "another target, date, skyline or minimum altitude");
        }
        return plan;
    }

    private boolean lightLeft(NightPlan plan) {
        return plan.blocks().stream()
                .anyMatch(b ->
                        b.subs() > 0 && night.clock().now().isBefore(b.span().until()));
    }

    private void prepare(NightPlan plan, NightSoFar before, Centering centering, Focusing focusing)
            throws InterruptedException {
        boolean ready = new ReadyStage(night).run(plan.subs());
        if (!ready) {
            throw new DeviceException("ready", "not every device is proven", "See the list of steps in Ready.");
        }
        // Stars to focus and solve by come out at nautical dusk.
        Instant stars = plan.times().nauticalDusk().orElse(night.clock().now());
        // Nothing is followed while nobody looks.
        night.devices().mount().stop();
        if (night.clock().now().isBefore(stars)) {
            record.doing(
                    Stage.POLAR,
                    "Waiting for nautical dusk",
                    Duration.between(night.clock().now(), stars));
            night.clock().await(Duration.between(night.clock().now(), stars));
        }
        PolarStage polar = new PolarStage(night, centering);
        record.stage(Stage.FOCUS);
        polar.goToStart();
        focusing.rough();
        if (!before.gatesPassed().contains(Stage.POLAR)) {
            polar.run();
        }
    }

    private void finish(NightSoFar before, Focusing focusing) throws InterruptedException {
        NightSoFar now = NightSoFar.of(record.events());
        night.devices().mount().park();
        night.clock().await(night.devices().mount().remaining());
        record.event(EventKind.PARKED, "The mount is parked.", Map.of());
        new CalibrateStage(night, now, focusing).run();
        warmUp();
        new StackStage(night, before).run();
        record.stage(Stage.LOGBOOK);
        List<NightEvent> events = record.events();
        long taken = events.stream().filter(e -> e.kind() == EventKind.SUB).count();
        long kept = SubVerdicts.kept(events);
        record.event(
                EventKind.NIGHT_ENDED,
                (givenUp.isEmpty()
                                ? "The night is done: "
                                : "The night is over, with " + String.join(", ", givenUp) + " given up: ")
                        + kept + " of " + taken + " subs kept.",
                facts("taken", taken, "kept", kept));
    }

    /** A camera that no longer answers is told of; the masters and stacks need it no more. */
    private void warmUp() throws InterruptedException {
        if (!night.kit().sensor().cooled()) {
            return;
        }
        try {
            night.devices().camera().warmUp();
            record.doing(Stage.CALIBRATE, "The camera warms up", NightBudget.WARM_UP);
            night.clock().await(NightBudget.WARM_UP);
            record.event(
                    EventKind.PARKED,
                    String.format(
                            Locale.ROOT,
                            "The camera has warmed up to %.1f °C.",
                            night.devices().camera().sensorTemperatureC()),
                    Map.of());
        } catch (DeviceException e) {
            record.fault(Stage.CALIBRATE, "The camera could not be warmed up: " + e.getMessage());
        }
    }

    /** After a stop: removes what is half-written, and takes in subs that were on the disk but not yet in the journal. */
    private NightSoFar reconcile(NightSoFar before) {
        List<String> removed = night.archive().removeUnfinished();
        Set<String> known = new HashSet<>();
        before.subs().values().forEach(known::addAll);
        List<String> found = new ArrayList<>(night.archive().lights());
        found.removeAll(known);
        for (String file : found) {
            adopt(file);
        }
        if (!removed.isEmpty() || !found.isEmpty()) {
            record.event(
                    EventKind.DEVICE,
                    found.size() + " finished subs were taken in, " + removed.size() + " unfinished files removed.",
                    facts("device", "disk", "step", "after a stop", "measured", "", "proven", true));
        }
        return NightSoFar.of(record.events());
    }

    /** A sub that was finished and not yet told: it keeps its own time and is measured and judged as the others were. */
    private void adopt(String file) {
        Frame frame = FitsFiles.read(night.archive().resolve(file));
        Header header = frame.header();
        String target = header.text("OBJECT").orElse("unknown");
        String filter = header.text("FILTER").orElse("unknown");
        double seconds = header.exposureSeconds().orElse(0);
        StarField field = night.finder().find(frame);
        SubJudge.Measured measured = SubJudge.measured(
                SubJudge.set(target, filter, seconds, frame.width()),
                file,
                field,
                night.kit().sensor().offsetAdu());
        SubJudge.Verdict verdict = judge.judge(measured);
        Instant ended = header.start()
                .map(s -> s.plusMillis(Math.round(1000 * seconds)))
                .orElse(night.clock().now());
        Map<String, Object> facts = facts("target", target, "filter", filter, "seconds", seconds);
        facts.putAll(SubFacts.of(field, frame.width(), measured, verdict));
        facts.put("full", frame.width() == night.kit().sensor().widthPx());
        facts.put("foundAfterStop", true);
        header.number("FOCUSPOS").ifPresent(steps -> facts.put("focusSteps", steps));
        header.number("FOCTEMP").ifPresent(c -> facts.put("temperatureC", c));
        header.text("PIERSIDE").ifPresent(side -> facts.put("pierSide", side));
        record.eventAt(
                ended,
                EventKind.SUB,
                String.format(
                        Locale.ROOT,
                        "A sub of %s %s %.0f s, finished before the stop, %s.",
                        target,
                        filter,
                        seconds,
                        verdict.keep() ? "kept" : "out: " + verdict.reason()),
                facts);
        SubFacts.tellRegraded(record, judge, measured.set());
    }
}
