package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.PowerBox;
import app.ironside.device.TryLater;
import app.ironside.focus.FocusRun;
import app.ironside.journal.CameraWarmed;
import app.ironside.journal.Command;
import app.ironside.journal.FaultTold;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightEnded;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.plan.Ending;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.PolarBy;
import app.ironside.point.Centering;
import app.ironside.sky.NightTimes;
import app.ironside.star.StarField;
import app.ironside.star.StarTable;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * Runs a night from dusk to the stacked picture, or goes on with one that was stopped.
 *
 * <p>Order: plan, devices, rough focus, polar alignment; then for each target point, focus, guide, a test sub that counts, and
 * the run; then park, calibration frames while the sensor is still cold, warm up, masters, stacks.
 */
public final class NightEngine implements NightWork {
    private static final Duration FIRST_PAUSE = Duration.ofMinutes(5);
    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(80);

    private final NightContext night;
    private final NightRecord record;
    private final Conduct conduct;
    private final Set<String> givenUp = new LinkedHashSet<>();

    /** What a person left is not begun again in free time. */
    private final Set<String> skipped = new HashSet<>();

    private final NightPlans plans;
    private final SafeEnd safeEnd;
    private final NightDoctor doctor;
    private Optional<SecondCopy> second = Optional.empty();
    private SubJudge judge;

    public NightEngine(NightContext night) {
        this.night = night;
        this.record = night.record();
        this.plans = new NightPlans(night);
        this.safeEnd = new SafeEnd(night);
        this.doctor = new NightDoctor(night);
        this.conduct = new Conduct(night.control(), record, night.clock(), night.inForce());
    }

    /**
     * Runs to the end. However it ends, the mount has been stopped or parked first, if it answered.
     *
     * @throws InterruptedException if the night is stopped; the journal then holds all that was done, and another call goes on
     * @throws DeviceException if it cannot go on
     * @throws UncheckedIOException as well, if the disk refuses
     */
    @Override
    public void run() throws InterruptedException {
        try {
            second = secondCopy();
            runThrough();
        } catch (NightLeft e) {
            safeEnd.leave(e.getMessage(), MountParked::new, e);
        } catch (InterruptedException e) {
            safeEnd.leave("The night is stopped.", MountParked::new, e);
            throw e;
        } catch (RuntimeException | Error e) {
            // Whatever it is: a mount that is left tracking would in the end run into its pier.
            String why = e instanceof OutOfMemoryError
                    ? "There was not enough memory; give more by setting IRONSIDE_MEMORY, and the night goes on from here."
                    : String.valueOf(e.getMessage());
            Optional<String> about = e instanceof DeviceException failed
                    ? Optional.of(failed.device())
                    : e instanceof UncheckedIOException ? Optional.of(FaultTold.DISK) : Optional.empty();
            safeEnd.leave(why, (time, text) -> new FaultTold(time, text, stage(), about), e);
            look(e);
            throw e;
        } finally {
            // After the mount is safe: what waits for a slow disk comes last.
            second.ifPresent(SecondCopy::letGo);
            night.control().over();
        }
    }

    /** What ended the night is told as what it is, with its remedy. */
    private void look(Throwable cause) {
        try {
            doctor.look();
        } catch (RuntimeException | Error unwritten) {
            SafeEnd.suppress(cause, unwritten);
        }
    }

    private Optional<SecondCopy> secondCopy() {
        return night.program()
                .ending()
                .copyTo()
                .filter(folder -> night.archive().keepsFrames())
                .map(folder -> new SecondCopy(night.archive().root(), Path.of(folder)));
    }

    /** The stage that began last. */
    private Stage stage() {
        return record.state().stage().orElse(Stage.READY);
    }

    private void runThrough() throws InterruptedException {
        if (record.state().ended()) {
            return;
        }
        judge = SubJudge.of(record.state(), night.observer(), this::keptStars);
        boolean resumed = record.state().started();
        if (resumed) {
            new FrameAdoption(night, judge).reconcile();
        }
        NightPlan plan = resumed ? plans.resumed() : plans.started();
        NightTimes times = plan.times();
        conduct.endsAt(
                times.nauticalDawn().or(times::sunrise).orElse(times.night().until()));
        Centering centering = new Centering(
                night.devices().mount(),
                night.devices().camera(),
                night.clock(),
                night.quickFinder(),
                night.solver(),
                night.kit());
        night.earlier().pointingModel().ifPresent(model -> centering.use(model, night.observer()));
        Focusing focusing = new Focusing(night);
        Guiding guiding = new Guiding(night);
        Pointing pointing = new Pointing(night, centering);
        if (lightLeft(plan)) {
            prepare(plan, centering, focusing);
            run(plan, new RunStage(night, conduct, pointing, focusing, guiding, judge, doctor, plans));
        }
        finish(focusing);
    }

    /** The stars of a sub as they were measured, from the table beside its frame. */
    private Optional<StarField> keptStars(SubTaken sub) {
        try {
            int width = sub.measures().widthPx();
            int height = (int) Math.round((double) width
                    * night.kit().sensor().heightPx()
                    / night.kit().sensor().widthPx());
            return StarTable.kept(night.archive().resolve(sub.file()))
                    .map(stars -> new StarField(
                            width,
                            height,
                            stars,
                            sub.measures().backgroundAdu(),
                            sub.measures().noiseAdu()));
        } catch (BadInputException damaged) {
            return Optional.empty(); // the next sub is a yardstick too
        }
    }

    private void run(NightPlan plan, RunStage stage) throws InterruptedException {
        Deque<PlannedBlock> blocks = new ArrayDeque<>(plan.blocks());
        while (!conduct.isEnding()) {
            if (!record.state().subs().isEmpty() && !conduct.hasRevision()) {
                plans.fillFreeTime(blocks, notAgain());
            }
            if (blocks.isEmpty()) {
                break;
            }
            PlannedBlock block = plans.withTaken(blocks.removeFirst());
            RunStage.Left why = stage.run(block, notAgain());
            if (why == RunStage.Left.GIVEN_UP) {
                givenUp.add(block.target().name());
            } else if (why == RunStage.Left.SKIPPED) {
                skipped.add(block.target().name());
            } else if (why == RunStage.Left.CLOUDED) {
                PlannedBlock clear = stage.takeClear();
                plans.standsIn(clear);
                blocks.addFirst(clear);
            }
            tellOfCopies();
            Optional<Command.Replan> revision = conduct.takeRevision();
            if (revision.isPresent()) {
                blocks.clear();
                blocks.addAll(plans.revised(revision.get()).blocks());
            }
        }
        stage.stand();
    }

    private Set<String> notAgain() {
        Set<String> not = new HashSet<>(givenUp);
        not.addAll(skipped);
        return not;
    }

    private void tellOfCopies() {
        second.flatMap(SecondCopy::news).ifPresent(words -> record.fault(Stage.RUN, words));
    }

    /** How many frames lie in two places. */
    private void proveCopies() {
        second.ifPresent(copy -> {
            copy.close();
            tellOfCopies();
            record.step(
                    "second copy",
                    "every frame lies in two places",
                    copy.copied() + " proven in " + copy.folder()
                            + (copy.behind() > 0 ? ", " + copy.behind() + " not" : ""),
                    copy.behind() == 0);
        });
    }

    private boolean lightLeft(NightPlan plan) {
        return plan.blocks().stream()
                .anyMatch(b ->
                        b.subs() > 0 && night.clock().now().isBefore(b.span().until()));
    }

    private void prepare(NightPlan plan, Centering centering, Focusing focusing) throws InterruptedException {
        boolean ready = new ReadyStage(night, conduct).run(plan.subs());
        if (!conduct.gate(Stage.READY, ready, night.clock()::await)) {
            return;
        }
        // Stars to focus and solve by come out at nautical dusk.
        Instant stars = plan.times().nauticalDusk().orElse(night.clock().now());
        if (night.devices().mount().isParked()) {
            night.devices().mount().unpark(); // one that is pointed by hand proves no turn at Ready
        }
        // Nothing is followed while nobody looks.
        night.devices().mount().stop();
        if (night.clock().now().isBefore(stars)) {
            record.doing(
                    Stage.POLAR,
                    "Waiting for nautical dusk",
                    Duration.between(night.clock().now(), stars));
            waitUntil(stars);
        }
        if (conduct.isEnding()) {
            return;
        }
        PolarStage polar = new PolarStage(night, centering, conduct);
        Duration pause = FIRST_PAUSE;
        // While the night rested it may have gone by.
        while (!conduct.isEnding() && lightLeft(plan)) {
            try {
                align(polar, focusing);
                return;
            } catch (DeviceException e) {
                if (!(e instanceof TryLater) && night.devices().lost().isEmpty()) {
                    throw e;
                }
                record.fault(stage(), e, "The next try is in " + pause.toMinutes() + " minutes.");
                if (night.devices().mount().link() != Device.Link.LOST) {
                    night.devices().mount().stop();
                }
                waitUntil(night.clock().now().plus(pause));
                night.takeBackLost(stage());
                pause = pause.compareTo(LONGEST_PAUSE) < 0 ? pause.multipliedBy(2) : pause;
            }
        }
    }

    private void align(PolarStage polar, Focusing focusing) throws InterruptedException {
        record.stage(Stage.FOCUS);
        polar.goToStart();
        if (!focusing.rough()) {
            throw new TryLater(
                    FocusRun.NAME,
                    "no run was believed, and without focus no frame is recognised",
                    "Most often this is cloud; else look for a cap, and for a focuser that slips.");
        }
        conduct.safePoint(Stage.FOCUS);
        if (!record.state().passed(Stage.POLAR)) {
            boolean aligned =
                    night.program().setUp().polarBy() == PolarBy.RETICLE ? polar.takeByReticle() : polar.run();
            conduct.gate(Stage.POLAR, aligned, night.clock()::await);
        }
    }

    private void waitUntil(Instant time) throws InterruptedException {
        conduct.waitUntil(time, () -> {
            conduct.safePoint(Stage.POLAR);
            return !conduct.isEnding();
        });
    }

    private void finish(Focusing focusing) throws InterruptedException {
        boolean parkFirst = night.program().ending().order() == Ending.Order.PARK_FIRST;
        if (parkFirst) {
            park();
        } else {
            night.devices().mount().stop();
        }
        boolean calibrated = new CalibrateStage(night, record.state(), focusing, conduct).run();
        conduct.gate(Stage.CALIBRATE, calibrated, night.clock()::await);
        warmUp();
        if (!parkFirst) {
            park();
        }
        night.devices().power().ifPresent(this::heatersOff);
        if (night.program().ending().disconnect()) {
            night.devices().disconnect();
        }
        if (night.archive().keepsFrames()) {
            boolean stacked = new StackStage(night, conduct).run();
            conduct.gate(Stage.STACK, stacked, night.clock()::await);
        }
        proveCopies();
        record.stage(Stage.LOGBOOK);
        int taken = record.state().subs().size();
        int kept = record.state().kept();
        record.tell(new NightEnded(
                record.now(),
                (givenUp.isEmpty()
                                ? "The night is done: "
                                : "The night is over, with " + String.join(", ", givenUp) + " given up: ")
                        + kept + " of " + taken + " subs kept.",
                taken,
                kept));
    }

    private void park() throws InterruptedException {
        night.devices().mount().park().await(night.clock());
        record.tell(new MountParked(record.now(), "The mount is parked."));
    }

    private void heatersOff(PowerBox power) {
        try {
            power.heat(false);
        } catch (DeviceException e) {
            record.fault(Stage.CALIBRATE, e);
        }
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
            double sensorC = night.devices().camera().sensorTemperatureC();
            record.tell(new CameraWarmed(
                    record.now(),
                    String.format(Locale.ROOT, "The camera has warmed up to %.1f °C.", sensorC),
                    sensorC));
        } catch (DeviceException e) {
            record.fault(Stage.CALIBRATE, "The camera could not be warmed up: " + e.getMessage());
        }
    }
}
