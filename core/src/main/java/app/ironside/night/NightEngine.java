package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.BadInputException;
import app.ironside.device.DeviceException;
import app.ironside.image.FitsFiles;
import app.ironside.image.Header;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.point.Centering;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
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
    private static final Duration WARMING = Duration.ofMinutes(12);

    private final NightContext night;
    private final NightRecord record;

    public NightEngine(NightContext night) {
        this.night = night;
        this.record = night.record();
    }

    /**
     * Runs to the end.
     *
     * @throws InterruptedException if the night is stopped; the journal then holds all that was done, and another call goes on
     * @throws DeviceException if it cannot go on; the mount has then been parked, if it answered
     * @throws UncheckedIOException as well, if the disk refuses
     */
    public void run() throws InterruptedException {
        try {
            runThrough();
        } catch (DeviceException | UncheckedIOException e) {
            leaveSafely(e);
            throw e;
        }
    }

    /** A mount that is left tracking would in the end run into its pier. */
    private void leaveSafely(RuntimeException why) throws InterruptedException {
        String left;
        try {
            night.devices().mount().park();
            night.clock().await(night.devices().mount().remaining());
            left = "The mount is parked.";
        } catch (DeviceException unparked) {
            left = "The mount could not be parked (" + unparked.getMessage()
                    + "): stop it by hand before it runs into its" + " pier.";
        }
        try {
            record.fault(stage(), why.getMessage() + " " + left);
        } catch (UncheckedIOException unwritten) {
            why.addSuppressed(unwritten); // the disk may be what failed
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
        NightPlan plan = plan(before.started());
        if (before.started()) {
            before = reconcile(before);
        }
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
            RunStage run = new RunStage(night, pointing, focusing, guiding);
            for (PlannedBlock block : plan.blocks()) {
                run.run(block, before.subsOf(block.target().name(), block.span()));
            }
        }
        finish(before);
    }

    private NightPlan plan(boolean resumed) {
        NightPlan plan = NightPlanner.plan(night.site(), night.kit(), night.program());
        if (resumed) {
            record.event(EventKind.NIGHT_RESUMED, "The night goes on after a stop.", Map.of());
            return plan;
        }
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
                        night.program().date().toString()));
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
        PlannedBlock last = plan.blocks().get(plan.blocks().size() - 1);
        return night.clock().now().isBefore(last.span().until());
    }

    private void prepare(NightPlan plan, NightSoFar before, Centering centering, Focusing focusing)
            throws InterruptedException {
        boolean ready = new ReadyStage(night).run(plan.subs());
        if (!ready) {
            throw new DeviceException("ready", "not every device is proven", "See the list of steps in Ready.");
        }
        // Stars to focus and solve by come out at nautical dusk.
        Instant stars = plan.times().nauticalDusk().orElse(night.clock().now());
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

    private void finish(NightSoFar before) throws InterruptedException {
        NightSoFar now = NightSoFar.of(record.events());
        night.devices().mount().park();
        night.clock().await(night.devices().mount().remaining());
        record.event(EventKind.PARKED, "The mount is parked.", Map.of());
        new CalibrateStage(night, now).run();
        night.devices().camera().warmUp();
        record.doing(Stage.CALIBRATE, "The camera warms up", WARMING);
        night.clock().await(WARMING);
        record.event(
                EventKind.PARKED,
                String.format(
                        Locale.ROOT,
                        "The camera has warmed up to %.1f °C.",
                        night.devices().camera().sensorTemperatureC()),
                Map.of());
        new StackStage(night, before).run();
        record.stage(Stage.LOGBOOK);
        List<NightEvent> events = record.events();
        long taken = events.stream().filter(e -> e.kind() == EventKind.SUB).count();
        long kept = events.stream()
                .filter(e -> e.kind() == EventKind.SUB && e.isTrue("keep"))
                .count();
        record.event(
                EventKind.NIGHT_ENDED,
                "The night is done: " + kept + " of " + taken + " subs kept.",
                facts("taken", taken, "kept", kept));
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

    private void adopt(String file) {
        Header header = FitsFiles.read(night.archive().resolve(file)).header();
        record.event(
                EventKind.SUB,
                "A finished sub was found on the disk after the stop.",
                facts(
                        "target",
                        header.text("OBJECT").orElse("unknown"),
                        "filter",
                        header.text("FILTER").orElse("unknown"),
                        "seconds",
                        header.exposureSeconds().orElse(0),
                        "file",
                        file,
                        "keep",
                        true,
                        "full",
                        true,
                        "reason",
                        "found after a stop, not yet judged"));
    }
}
