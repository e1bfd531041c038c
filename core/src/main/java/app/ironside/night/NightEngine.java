package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.device.PowerBox;
import app.ironside.device.TryLater;
import app.ironside.focus.FocusRun;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.CameraWarmed;
import app.ironside.journal.Command;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Gate;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.MountParked;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightStarted;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.plan.Ending;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.PolarBy;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.point.Centering;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.star.StarField;
import app.ironside.star.StarTable;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.stream.Collectors;

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

    private final NightDoctor doctor;
    private Optional<SecondCopy> second = Optional.empty();
    private SubJudge judge;

    public NightEngine(NightContext night) {
        this.night = night;
        this.record = night.record();
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
            leaveSafely(e.getMessage(), MountParked::new, e);
        } catch (InterruptedException e) {
            leaveSafely("The night is stopped.", MountParked::new, e);
            throw e;
        } catch (RuntimeException | Error e) {
            // Whatever it is: a mount that is left tracking would in the end run into its pier.
            String why = e instanceof OutOfMemoryError
                    ? "There was not enough memory; give more by setting IRONSIDE_MEMORY, and the night goes on from here."
                    : String.valueOf(e.getMessage());
            Optional<String> about = e instanceof DeviceException failed
                    ? Optional.of(failed.device())
                    : e instanceof UncheckedIOException ? Optional.of(FaultTold.DISK) : Optional.empty();
            leaveSafely(why, (time, text) -> new FaultTold(time, text, stage(), about), e);
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
            suppress(cause, unwritten);
        }
    }

    private Optional<SecondCopy> secondCopy() {
        return night.program()
                .ending()
                .copyTo()
                .filter(folder -> night.archive().keepsFrames())
                .map(folder -> new SecondCopy(night.archive().root(), Path.of(folder)));
    }

    /** Parks the mount and lets the camera warm up, before anything else is thought of; then tells. */
    private void leaveSafely(String why, BiFunction<Instant, String, NightEvent> event, Throwable cause) {
        // Somebody who stops the night interrupts its thread: the devices must still be reached.
        boolean interrupted = Thread.interrupted();
        String left = park(cause);
        try {
            if (night.kit().sensor().cooled()) {
                night.devices().camera().warmUp();
                left += " The camera warms up: leave its power on for " + NightBudget.WARM_UP.toMinutes() + " minutes.";
            }
        } catch (RuntimeException unheated) {
            suppress(cause, unheated);
        }
        try {
            record.tell(event.apply(record.now(), why + " " + left));
        } catch (RuntimeException | Error unwritten) {
            suppress(cause, unwritten); // the disk or the memory may be what failed
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    /** Keeps a second failure beside the first, which is the one to tell; they may be one and the same. */
    private static void suppress(Throwable first, Throwable second) {
        if (first != second) {
            first.addSuppressed(second);
        }
    }

    private String park(Throwable cause) {
        Mount mount = night.devices().mount();
        try {
            Operation parking = mount.park();
            if (!(cause instanceof InterruptedException)) {
                parking.await(night.clock());
            }
            return "The mount is parked.";
        } catch (InterruptedException again) {
            Thread.currentThread().interrupt();
            return "The mount is on its way to where it parks.";
        } catch (RuntimeException | Error unparked) {
            suppress(cause, unparked);
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
        return record.state().stage().orElse(Stage.READY);
    }

    private void runThrough() throws InterruptedException {
        if (record.state().ended()) {
            return;
        }
        judge = SubJudge.of(record.state(), night.observer(), this::keptStars);
        boolean resumed = record.state().started();
        if (resumed) {
            reconcile();
        }
        NightPlan plan = resumed ? resumed() : started();
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
            run(plan, new RunStage(night, conduct, pointing, focusing, guiding, judge, doctor));
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
            if (!record.state().subs().isEmpty()) {
                fillFreeTime(blocks);
            }
            if (blocks.isEmpty()) {
                break;
            }
            PlannedBlock block = blocks.removeFirst();
            RunStage.Left why = stage.run(block);
            if (why == RunStage.Left.GIVEN_UP) {
                givenUp.add(block.target().name());
            } else if (why == RunStage.Left.SKIPPED) {
                skipped.add(block.target().name());
            }
            tellOfCopies();
            Optional<Command.Replan> revision = conduct.takeRevision();
            if (revision.isPresent()) {
                blocks.clear();
                blocks.addAll(revised(revision.get()).blocks());
            }
        }
        stage.stand();
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

    /** Time that a target left, or never used, goes to the target that gathers most in it. */
    private void fillFreeTime(Deque<PlannedBlock> blocks) {
        Program program = night.program();
        if (!program.reactions().nextTarget() || conduct.hasRevision()) {
            return;
        }
        List<PlannedBlock> before = List.copyOf(blocks);
        Set<String> not = new HashSet<>(givenUp);
        not.addAll(skipped);
        new FreedTime(night.site(), night.kit(), program)
                .filled(before, night.clock().now(), done(program), not)
                .ifPresent(filled -> {
                    blocks.clear();
                    blocks.addAll(filled);
                    PlannedBlock first = filled.get(0);
                    int planned = before.stream()
                            .filter(b -> b.target().name().equals(first.target().name()))
                            .mapToInt(PlannedBlock::subs)
                            .sum();
                    tellBlock(
                            first,
                            first.subs() - planned,
                            "Free time goes to " + first.target().name());
                });
    }

    /** What is left of the night by a changed program. */
    private NightPlan revised(Command.Replan replan) {
        NightPlan plan = left();
        record.tell(new ProgramRevised(
                record.now(),
                "The program was changed: " + plan.subs() + " subs still fit.",
                replan.document(),
                plan.subs()));
        tellBlocks(plan);
        return plan;
    }

    /** What is left: the time that the stop took is given back to what was not reached. */
    private NightPlan resumed() {
        NightPlan plan = left();
        record.tell(new NightResumed(
                record.now(),
                plan.subs() > 0
                        ? "The night goes on after a stop: " + plan.subs() + " subs still fit."
                        : "The night goes on after a stop; no more subs fit.",
                plan.subs()));
        return plan;
    }

    /** What the program in force still has for the rest of the night. */
    private NightPlan left() {
        Program program = night.program();
        NightPlanner.Outlook outlook =
                NightPlanner.Outlook.of(night.site(), program.date(), program.minimumAltitudeDeg());
        return NightPlanner.plan(
                night.site(),
                night.kit(),
                program,
                outlook,
                new NightPlanner.Progress(night.clock().now(), done(program)));
    }

    /**
     * How many subs each of a program's targets has by filter, in their order; a target may come twice, and then its blocks are told apart by the
     * times that were planned for them.
     */
    private List<Map<String, Integer>> done(Program program) {
        Map<String, Deque<String>> left = record.state().filtersByTarget();
        Map<String, Deque<BlockPlanned>> planned = new HashMap<>();
        record.state().all(BlockPlanned.class).forEach(b -> planned.computeIfAbsent(b.target(), t -> new ArrayDeque<>())
                .addLast(b));
        List<Map<String, Integer>> done = new ArrayList<>();
        for (int i = 0; i < program.targets().size(); i++) {
            TargetPlan target = program.targets().get(i);
            Deque<String> filters = left.getOrDefault(target.name(), new ArrayDeque<>());
            int have = filters.size();
            boolean last = program.targets().subList(i + 1, program.targets().size()).stream()
                    .noneMatch(t -> t.name().equals(target.name()));
            Optional<BlockPlanned> block = Optional.ofNullable(
                    planned.getOrDefault(target.name(), new ArrayDeque<>()).pollFirst());
            int own = last
                    ? have
                    : Math.min(have, target.mostSubs().orElseGet(() -> block.map(
                                    b -> record.state().subsOf(target.name(), b.span()))
                            .orElse(0)));
            Map<String, Integer> counts = new HashMap<>();
            for (int k = 0; k < own; k++) {
                counts.merge(filters.removeFirst(), 1, Integer::sum);
            }
            done.add(counts);
        }
        return done;
    }

    private NightPlan started() {
        NightPlan plan = NightPlanner.plan(night.site(), night.kit(), night.program());
        record.tell(new NightStarted(
                record.now(),
                "Night of " + night.program().date() + " at " + night.site().name() + " with "
                        + night.kit().name() + ".",
                night.site().name(),
                night.kit().name(),
                night.program().date(),
                night.provenance()));
        record.stage(Stage.PLAN);
        tellBlocks(plan);
        record.gate(
                Gate.atLeast(Stage.PLAN, plan.subs(), 1, "subs"),
                plan.subs() > 0
                        ? String.format(
                                Locale.ROOT,
                                "%.1f h of darkness, %d subs fit.",
                                plan.times().darkHours(),
                                plan.subs())
                        : "No target is up in the dark tonight.");
        if (plan.subs() == 0) {
            throw new BadInputException(
                    "program",
                    "no target is up in the dark on " + night.program().date(),
                    "another target, date, skyline or minimum altitude");
        }
        return plan;
    }

    private void tellBlocks(NightPlan plan) {
        for (PlannedBlock block : plan.blocks()) {
            tellBlock(block, block.subs(), block.target().name());
        }
    }

    /**
     * Tells of a block.
     *
     * @param subs more than were told before
     * @param what begins the sentence
     */
    private void tellBlock(PlannedBlock block, int subs, String what) {
        record.tell(new BlockPlanned(
                record.now(),
                String.format(
                        Locale.ROOT,
                        "%s: %d subs of %s, highest %.0f°.",
                        what,
                        block.subs(),
                        lengths(block.target()),
                        block.window().transitAltitudeDeg()),
                block.target().name(),
                subs,
                block.subs() > 0
                        ? 3600 * block.hoursOfLight() / block.subs()
                        : block.target().longestSubSeconds(),
                block.span(),
                block.flip(),
                block.window().transit(),
                block.window().transitAltitudeDeg(),
                block.window().usableHours(),
                block.window().effectiveHours(),
                block.window().moonSeparationDeg()));
    }

    private static String lengths(TargetPlan target) {
        return target.goals().stream()
                .map(FilterGoal::subSeconds)
                .distinct()
                .map(s -> String.format(Locale.ROOT, "%.0f s", s))
                .collect(Collectors.joining(", "));
    }

    private boolean lightLeft(NightPlan plan) {
        return plan.blocks().stream()
                .anyMatch(b ->
                        b.subs() > 0 && night.clock().now().isBefore(b.span().until()));
    }

    private void prepare(NightPlan plan, Centering centering, Focusing focusing) throws InterruptedException {
        boolean ready = new ReadyStage(night, conduct).run(plan.subs());
        if (!conduct.gate(Stage.READY, ready, measured(Stage.READY), night.clock()::await)) {
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
            conduct.gate(Stage.POLAR, aligned, measured(Stage.POLAR), night.clock()::await);
        }
    }

    private void waitUntil(Instant time) throws InterruptedException {
        conduct.waitUntil(time, () -> {
            conduct.safePoint(Stage.POLAR);
            return !conduct.isEnding();
        });
    }

    private String measured(Stage stage) {
        return record.state().gate(stage).map(GateMeasured::text).orElse("");
    }

    private void finish(Focusing focusing) throws InterruptedException {
        boolean parkFirst = night.program().ending().order() == Ending.Order.PARK_FIRST;
        if (parkFirst) {
            park();
        } else {
            night.devices().mount().stop();
        }
        boolean calibrated = new CalibrateStage(night, record.state(), focusing, conduct).run();
        conduct.gate(Stage.CALIBRATE, calibrated, measured(Stage.CALIBRATE), night.clock()::await);
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
            conduct.gate(Stage.STACK, stacked, measured(Stage.STACK), night.clock()::await);
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

    /** After a stop: removes what is half-written, and takes in subs that were on the disk but not yet in the journal. */
    private void reconcile() {
        List<String> removed = night.archive().removeUnfinished();
        Set<String> known =
                record.state().subs().stream().map(SubTaken::file).collect(Collectors.toCollection(HashSet::new));
        List<String> found = new ArrayList<>(night.archive().lights());
        found.removeAll(known);
        for (String file : found) {
            adopt(file);
        }
        if (!removed.isEmpty() || !found.isEmpty()) {
            record.tell(new StepProven(
                    record.now(),
                    found.size() + " finished subs were taken in, " + removed.size() + " unfinished files removed.",
                    "disk",
                    "after a stop",
                    "",
                    true));
        }
    }

    /** A sub that was finished and not yet told: it keeps its own time and is measured and judged as the others were. */
    private void adopt(String file) {
        Frame frame = FitsFiles.read(night.archive().resolve(file));
        Header header = frame.header();
        String target = header.text("OBJECT").orElse("unknown");
        String filter = header.text("FILTER").orElse("unknown");
        double seconds = header.exposureSeconds().orElse(0);
        boolean full = frame.width() == night.kit().sensor().widthPx();
        StarField field = night.finder().find(frame);
        night.archive().keepStars(file, field);
        Duration length = Duration.ofMillis(Math.round(1000 * seconds));
        Instant opened = header.start().orElse(record.now().minus(length));
        SubMeasures measures = SubFacts.of(
                field,
                frame,
                night.kit().sensor().offsetAdu(),
                () -> judge.starLight(SubLooks.series(target, filter, seconds, frame.width()), field),
                night.gauge().slopeAdu(frame),
                full,
                night.workers());
        SubLook look = judge.looks()
                .of(
                        SubLooks.series(target, filter, seconds, frame.width()),
                        file,
                        opened.plus(length.dividedBy(2)),
                        seconds,
                        measures,
                        OptionalDouble.empty());
        Verdict verdict = judge.judge(look);
        record.tell(new SubTaken(
                opened.plus(length),
                String.format(Locale.ROOT, "A sub of %s %s %.0f s, finished before the stop,", target, filter, seconds),
                target,
                filter,
                seconds,
                new Interval(opened, opened.plus(length)),
                file,
                full,
                false,
                false,
                Set.of(),
                true,
                measures,
                new SubCircumstances(
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        header.number("FOCTEMP"),
                        whole(header.number("FOCUSPOS")),
                        header.text("PIERSIDE").flatMap(Mount.PierSide::named),
                        cooling(header)),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                Optional.empty(),
                verdict));
        SubFacts.tellRegraded(record, judge, look.series());
    }

    private static OptionalInt whole(OptionalDouble number) {
        return number.isPresent() ? OptionalInt.of((int) Math.round(number.getAsDouble())) : OptionalInt.empty();
    }

    private static Optional<SubCircumstances.Cooling> cooling(Header header) {
        OptionalDouble sensor = header.number("CCD-TEMP");
        OptionalDouble wanted = header.number("SET-TEMP");
        return sensor.isPresent() && wanted.isPresent()
                ? Optional.of(new SubCircumstances.Cooling(
                        sensor.getAsDouble(), wanted.getAsDouble(), OptionalDouble.empty()))
                : Optional.empty();
    }
}
