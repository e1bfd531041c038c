package app.ironside.night;

import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.device.Mount;
import app.ironside.focus.FocusRun;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.Command;
import app.ironside.journal.Flipped;
import app.ironside.journal.Gate;
import app.ironside.journal.Reacted;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.journal.TargetLeft;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Verdict;
import app.ironside.kit.MeridianRule;
import app.ironside.night.NightControl.Order;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.point.Centering;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.watch.Case;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/** Takes the subs of one target: dither, refocus, recentre, flip, until dawn or until the target sinks. */
final class RunStage {
    /** So often in a row a device that fails is tried again; what the sky does is waited for as long as the block lasts. */
    private static final int MOST_RECOVERIES = 3;

    /** A focus run with guiding begun anew, a dither with its settling, and a whole start: none may run into the meridian's limit. */
    private static final double REFOCUS_SECONDS = 180;

    private static final double DITHER_SECONDS = 30;
    private static final double STARTING_SECONDS = 300;

    private static final Duration PAUSE_BEFORE_RECOVERY = Duration.ofMinutes(5);

    /** Mounts that choose their side do so within an hour past the meridian (common practice). */
    private static final Duration LONGEST_WAIT_FOR_THE_MOUNT = Duration.ofMinutes(75);

    /** What complains when the sky is shut: each of these sees stars or nothing. */
    private static final Set<String> SEES_THE_SKY = Set.of("guider", "guide camera", FocusRun.NAME, Centering.NAME);

    private final NightContext night;
    private final Conduct conduct;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final NightLoop loop;
    private final SubTaker subs;
    private final LengthLadder ladder;
    private final TelescopeOrders telescope;
    private final NightDoctor doctor;
    private final Reacting reacting;
    private final Observer observer;
    private int sinceLegBegan;

    /** A target that is being followed and guided while the program is changed. */
    private Optional<String> standing = Optional.empty();

    RunStage(
            NightContext night,
            Conduct conduct,
            Pointing pointing,
            Focusing focusing,
            Guiding guiding,
            SubJudge judge,
            NightDoctor doctor) {
        this.night = night;
        this.conduct = conduct;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
        this.loop = new NightLoop(night.clock(), guiding.guider(), conduct);
        this.subs = new SubTaker(night, conduct, loop, guiding, judge);
        this.ladder = new LengthLadder(night, conduct, loop);
        this.telescope = new TelescopeOrders(night, conduct, pointing, focusing, guiding);
        this.doctor = doctor;
        this.reacting = new Reacting(night, pointing, focusing, guiding);
        this.observer = night.observer();
    }

    /** One target's part of the night as it stands, commands included. */
    private static final class Leg {
        private final PlannedBlock block;
        private TargetPlan target;
        private Instant until;
        private final Map<String, Integer> taken;
        private boolean begun;
        private boolean left;

        /** When a sub was last kept, or the first was begun. */
        private Instant lastGood;

        Leg(PlannedBlock block) {
            this.block = block;
            this.target = block.target();
            this.until = block.span().until();
            this.taken = new HashMap<>(block.done());
        }

        int subs() {
            return taken.values().stream().mapToInt(Integer::intValue).sum();
        }
    }

    /** Why a block is over. */
    enum Left {
        /** Its time, its count, the night, or a changed program. */
        OVER,
        /** A person left it. */
        SKIPPED,
        GIVEN_UP
    }

    /** Runs a block from where it stands; returns why it is over. */
    Left run(PlannedBlock block) throws InterruptedException {
        Leg leg = new Leg(block);
        // After a change of program that keeps the target everything stands as it is.
        leg.begun = standing.filter(block.target().name()::equals).isPresent();
        standing = Optional.empty();
        if (!leg.begun) {
            rest(waiting(block), block.span().from(), leg);
        }
        int recoveries = 0;
        TargetLeft.Why why = TargetLeft.Why.GIVEN_UP;
        while (true) {
            try {
                orders(leg);
                Optional<TargetLeft.Why> over = over(leg);
                if (over.isPresent()) {
                    why = over.get();
                    break;
                }
                Optional<FilterGoal> next = next(leg);
                if (next.isEmpty()) {
                    leg.begun = false;
                    leg.lastGood = null;
                    rest(
                            "Waiting: the filters left for " + leg.target.name() + " are kept for a darker Moon",
                            night.clock().now().plus(NightPlanner.MOON_WAIT),
                            leg);
                    continue;
                }
                FilterGoal goal = next.get();
                if (isHopeless(leg)) {
                    break;
                }
                if (!leg.begun) {
                    leg.lastGood = leg.lastGood == null ? night.clock().now() : leg.lastGood;
                    leg.begun = begin(leg.target, goal);
                    continue; // what was asked meanwhile comes first
                }
                if (flipDue(leg.target, goal, focusing.due() ? REFOCUS_SECONDS : DITHER_SECONDS)) {
                    flip(leg);
                    continue; // the flip took minutes: whether the block is over is asked anew
                }
                beforeSub(leg.target, goal);
                if (flipDue(leg.target, goal, 0)) {
                    flip(leg);
                    continue;
                }
                Optional<Verdict> verdict = sub(leg.target, goal, leg.subs());
                if (verdict.isPresent()) {
                    leg.taken.merge(goal.filter(), 1, Integer::sum);
                }
                boolean good = verdict.filter(Verdict::keep).isPresent();
                recoveries = good ? 0 : recoveries;
                leg.lastGood = good ? night.clock().now() : leg.lastGood;
                react(leg);
                guiding.check();
            } catch (DeviceException e) {
                night.record().fault(Stage.RUN, e);
                tellOthersLost(e);
                lookWithTheMainCamera(e, leg);
                doctor.look();
                leg.begun = false;
                if (++recoveries > MOST_RECOVERIES && !SEES_THE_SKY.contains(e.device())) {
                    night.record()
                            .fault(
                                    Stage.RUN,
                                    block.target().name() + " is given up after " + MOST_RECOVERIES
                                            + " recoveries; what was taken is kept.");
                    break;
                }
                rest(
                        "A pause of five minutes, then " + block.target().name() + " again",
                        night.clock().now().plus(PAUSE_BEFORE_RECOVERY),
                        leg);
                night.takeBackLost(Stage.RUN);
            }
        }
        if (leg.begun && conduct.hasRevision()) {
            standing = Optional.of(leg.target.name());
            return Left.OVER;
        }
        stand();
        tellLeft(leg, why);
        return switch (why) {
            case GIVEN_UP -> Left.GIVEN_UP;
            case SKIPPED -> Left.SKIPPED;
            default -> Left.OVER;
        };
    }

    /** Does what the policy allows about what is wrong. */
    private void react(Leg leg) throws InterruptedException {
        Optional<Case> wrong = doctor.sure();
        if (wrong.isPresent() && reacting.act(wrong.get(), leg.target)) {
            telescope.guide(leg.target);
        }
    }

    /** Whether nothing was kept for as long as the person has patience. */
    private boolean isHopeless(Leg leg) {
        Optional<Duration> patience =
                night.program().reactions().giveUpAfterMinutes().map(Duration::ofMinutes);
        if (leg.lastGood == null
                || patience.isEmpty()
                || night.clock().now().isBefore(leg.lastGood.plus(patience.get()))) {
            return false;
        }
        String what = String.format(
                Locale.ROOT,
                "Nothing of %s was kept for %d min: it is given up",
                leg.target.name(),
                patience.get().toMinutes());
        Optional<Trouble> cause = doctor.present()
                .map(c -> c.lead().trouble())
                .or(() -> night.record().state().last(TroubleSeen.class).map(TroubleSeen::trouble));
        if (cause.isPresent()) {
            String text = what + ", for " + cause.get().what() + ".";
            night.record().tell(new Reacted(night.record().now(), text, cause.get(), Reacted.Reaction.END_TARGET));
        } else {
            night.record().fault(Stage.RUN, what + "; nothing was found that would explain it.");
        }
        return true;
    }

    /** What else does not answer: several at once have one cause. */
    private void tellOthersLost(DeviceException first) {
        if (first instanceof DeviceLost) {
            for (Device device : night.devices().all()) {
                if (!device.name().equals(first.device())) {
                    tellIfLost(device);
                }
            }
        }
    }

    private void tellIfLost(Device device) {
        try {
            device.connect();
        } catch (DeviceException silent) {
            night.record().fault(Stage.RUN, silent);
        }
    }

    /** A guide star that is gone: a short frame of the main camera tells cloud from a guide camera that fails. */
    private void lookWithTheMainCamera(DeviceException failed, Leg leg) throws InterruptedException {
        if (failed.device().equals(Guiding.NAME) && leg.begun) {
            try {
                Optional<SubTaken> last = night.record().state().last(SubTaken.class);
                if (last.isPresent()) {
                    subs.testSky(last.get());
                }
            } catch (DeviceException blind) {
                night.record().fault(Stage.RUN, blind);
            }
        }
    }

    private String waiting(PlannedBlock block) {
        double now = observer.observed(block.target().position(), night.clock().now())
                .altitudeDeg();
        double then = observer.observed(block.target().position(), block.span().from())
                .altitudeDeg();
        return String.format(
                Locale.ROOT,
                "Waiting for %s: %.1f° now, begins at %.1f°",
                block.target().name(),
                now,
                then);
    }

    /** Stops guiding and the mount: nothing is followed that nobody looks at. */
    void stand() {
        standing = Optional.empty();
        guiding.stop();
        standStill();
    }

    /** A mount that does not answer is told of and waited for; it is no reason to leave the night. */
    private void standStill() {
        try {
            night.devices().mount().stop();
        } catch (DeviceLost e) {
            night.record()
                    .fault(
                            Stage.RUN,
                            "The mount could not be stopped: " + e.getMessage()
                                    + " If it still moves, switch it off by hand.");
        }
    }

    /** Waits with the mount standing still. */
    private void rest(String why, Instant until, Leg leg) throws InterruptedException {
        guiding.stop();
        if (night.clock().now().isBefore(until)) {
            standStill();
            night.record().doing(Stage.RUN, why, Duration.between(night.clock().now(), until));
            conduct.waitUntil(until, () -> {
                orders(leg);
                return goesOn(leg);
            });
        }
    }

    private boolean goesOn(Leg leg) {
        return !leg.left && !conduct.isEnding() && !conduct.hasRevision();
    }

    /** A safe point: obeys what was asked since the last one. */
    private void orders(Leg leg) throws InterruptedException {
        for (Optional<Order> next = conduct.next(Stage.RUN); next.isPresent(); next = conduct.next(Stage.RUN)) {
            Order order = next.get();
            leg.lastGood = leg.lastGood == null ? null : night.clock().now(); // who commands is there and knows
            if (!conduct.obeyed(order, Stage.RUN, loop::aWhile)) {
                obey(order, leg);
            }
        }
    }

    private void obey(Order order, Leg leg) throws InterruptedException {
        Command command = order.command();
        if (command instanceof Command.SkipTarget) {
            leg.left = true;
            conduct.obeyed(order, Stage.RUN, leg.target.name() + " is left with " + leg.subs() + " subs");
        } else if (command instanceof Command.SkipFilter) {
            skipFilter(order, leg);
        } else if (command instanceof Command.OneMore) {
            leg.target = oneMore(leg);
            leg.until = leg.until.plusMillis(Math.round(1000 * leg.target.longestSubSeconds()));
            conduct.obeyed(order, Stage.RUN, "the block ends a sub later, at the latest " + clock(leg.until));
        } else if (command instanceof Command.Extend extend) {
            leg.until = leg.until.plus(extend.by());
            leg.target = endless(leg.target);
            conduct.obeyed(
                    order,
                    Stage.RUN,
                    leg.target.name() + " goes on until " + clock(leg.until) + ", or until it is too low");
        } else if (!leg.begun) {
            conduct.refuse(order, Stage.RUN, leg.target.name() + " is not begun");
        } else if (command instanceof Command.TryLengths) {
            tryLengths(order, leg); // answered before a camera can fail
        } else if (!telescope.takes(command).isZero()
                && flipDue(
                        leg.target,
                        next(leg).orElse(leg.target.goals().get(0)),
                        telescope.takes(command).toSeconds())) {
            conduct.refuse(
                    order,
                    Stage.RUN,
                    "it takes about " + telescope.takes(command).toMinutes() + " minutes and the flip is due before");
        } else {
            try {
                telescope.obey(order, leg.target);
            } catch (NightLeft e) {
                conduct.refuse(order, Stage.RUN, "the night was left before it was done");
                throw e;
            } catch (DeviceException e) {
                conduct.refuse(order, Stage.RUN, e.getMessage());
                throw e;
            }
        }
    }

    private void skipFilter(Order order, Leg leg) {
        String filter =
                next(leg).map(FilterGoal::filter).orElse(leg.target.filters().get(0));
        List<String> others =
                leg.target.filters().stream().filter(f -> !f.equals(filter)).toList();
        if (others.isEmpty()) {
            leg.left = true;
            conduct.obeyed(order, Stage.RUN, "there is no other filter, so " + leg.target.name() + " is left");
        } else {
            leg.target = leg.target.withFilters(others);
            conduct.obeyed(order, Stage.RUN, "no more subs in " + filter + " of " + leg.target.name());
        }
    }

    /** Not over a flip, and not past the target's time. */
    private void tryLengths(Order order, Leg leg) throws InterruptedException {
        Optional<FilterGoal> goal = next(leg);
        Duration takes = goal.map(ladder::takes).orElse(Duration.ZERO);
        String why = goal.isEmpty() || !leg.begun
                ? "no sub is being taken"
                : flipDue(leg.target, goal.get(), takes.toSeconds())
                        ? "the flip is due before"
                        : night.clock().now().plus(takes).isAfter(leg.until) ? "the target's time ends before" : "";
        if (why.isEmpty()) {
            conduct.obeyed(order, Stage.RUN, "lengths are tried for " + takes.toMinutes() + " min");
            ladder.climb(leg.target, goal.get());
        } else {
            conduct.refuse(order, Stage.RUN, why);
        }
    }

    private String clock(Instant time) {
        return time.atZone(night.site().zone()).toLocalTime().withNano(0).toString();
    }

    /** What the next sub is of; empty if nothing is wanted, or nothing may be used under this Moon. */
    private Optional<FilterGoal> next(Leg leg) {
        return leg.target.next(
                leg.taken,
                NightPlanner.allowed(
                        observer, leg.target, night.kit(), night.clock().now()));
    }

    /** One sub more than was wanted in all, in the filter that would be next. */
    private static TargetPlan oneMore(Leg leg) {
        TargetPlan target = leg.target.withMostSubs(leg.target.mostSubs().map(most -> Math.max(most, leg.subs()) + 1));
        if (!target.isFilled(leg.taken)) {
            return target;
        }
        TargetPlan open = endless(target);
        String filter = open.next(leg.taken, g -> true).orElseThrow().filter();
        return target.withGoals(target.goals().stream()
                .map(g -> g.filter().equals(filter)
                        ? g.withSubs(Optional.of(leg.taken.getOrDefault(filter, 0) + 1))
                                .withGathered(Optional.empty())
                        : g)
                .toList());
    }

    /** As many subs as fit. */
    private static TargetPlan endless(TargetPlan target) {
        return target.withMostSubs(Optional.empty())
                .withGoals(target.goals().stream()
                        .map(g -> g.withSubs(Optional.empty()).withGathered(Optional.empty()))
                        .toList());
    }

    /** What ends the block, if anything does: what comes first. */
    private Optional<TargetLeft.Why> over(Leg leg) {
        double seconds = next(leg).map(FilterGoal::subSeconds).orElse(0.0);
        Instant end = night.clock().now().plusMillis(Math.round(seconds * 1000));
        if (leg.left) {
            return Optional.of(TargetLeft.Why.SKIPPED);
        }
        if (conduct.hasRevision()) {
            return Optional.of(TargetLeft.Why.PROGRAM);
        }
        if (conduct.isEnding()) {
            return Optional.of(TargetLeft.Why.NIGHT);
        }
        if (leg.target.isFilled(leg.taken)) {
            return Optional.of(TargetLeft.Why.COUNT);
        }
        Horizontal seen = observer.observed(leg.target.position(), end);
        if (seen.altitudeDeg()
                < leg.target.minimumAltitudeDeg().orElse(night.program().minimumAltitudeDeg())) {
            return Optional.of(TargetLeft.Why.TOO_LOW);
        }
        if (!night.site().horizon().clears(seen, night.site().marginDeg())) {
            return Optional.of(TargetLeft.Why.SKYLINE);
        }
        return end.isBefore(leg.until.plusMillis(1)) ? Optional.empty() : Optional.of(TargetLeft.Why.TIME);
    }

    private void tellLeft(Leg leg, TargetLeft.Why why) {
        night.record()
                .tell(new TargetLeft(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "%s is over with %d subs: %s.",
                                leg.target.name(),
                                leg.subs(),
                                why.words()),
                        leg.target.name(),
                        leg.subs(),
                        why));
    }

    /** Points, focuses, guides; returns whether subs can follow. */
    private boolean begin(TargetPlan target, FilterGoal first) throws InterruptedException {
        conduct.announce("when guiding has settled", Duration.ofSeconds((long) STARTING_SECONDS));
        night.record().stage(Stage.POINT);
        focusing.change(first.filter());
        boolean centred = pointing.centre(target, sideFor(target, first));
        if (!conduct.gate(Stage.POINT, centred, measured(Stage.POINT), night.clock()::await)) {
            return false;
        }
        night.record().stage(Stage.FOCUS);
        if (!focusing.isFresh()) {
            boolean sharp = focusing.fine("start of " + target.name());
            if (!conduct.gate(Stage.FOCUS, sharp, measured(Stage.FOCUS), night.clock()::await)) {
                return false;
            }
        }
        if (guiding.isFitted()) {
            night.record().stage(Stage.GUIDE);
        }
        boolean guided = telescope.guide(target);
        if (!conduct.gate(Stage.GUIDE, guided, measured(Stage.GUIDE), loop::aWhile)) {
            return false;
        }
        night.record().stage(Stage.RUN);
        sinceLegBegan = 0;
        return true;
    }

    private String measured(Stage stage) {
        return night.record().state().gate(stage).map(g -> g.text()).orElse("");
    }

    /** Whether a sub that begins so many seconds from now would still be under way where something touches. */
    private boolean flipDue(TargetPlan target, FilterGoal goal, double before) {
        Mount mount = night.devices().mount();
        if (mount.pierSide() != Mount.PierSide.WEST || !night.kit().equipment().goTo()) {
            return false;
        }
        double seconds = before + goal.subSeconds() + night.kit().sensor().readoutSeconds();
        return rule(target).flipDue(hourAngleDeg(target), seconds);
    }

    private MeridianRule rule(TargetPlan target) {
        return MeridianRule.of(night.kit(), target.position().decDeg());
    }

    private double hourAngleDeg(TargetPlan target) {
        return observer.hourAngleDeg(target.position(), night.clock().now());
    }

    /** The side that serves until the first sub is taken; where neither does yet, the target is waited for. */
    private Mount.PierSide sideFor(TargetPlan target, FilterGoal first) throws InterruptedException {
        double seconds = STARTING_SECONDS + first.subSeconds();
        if (rule(target).side(hourAngleDeg(target), seconds) == MeridianRule.Side.NEITHER) {
            waitUntilFree(target);
        }
        return rule(target).side(hourAngleDeg(target), seconds) == MeridianRule.Side.BEFORE
                ? Mount.PierSide.WEST
                : Mount.PierSide.EAST;
    }

    /** The mount stands still meanwhile: followed on, the telescope would run into what the limit keeps it from. */
    private void waitUntilFree(TargetPlan target) throws InterruptedException {
        guiding.stop();
        double left = rule(target).flipFromDeg() - hourAngleDeg(target);
        Duration wait = Duration.ofMillis(Math.round(1000 * Math.max(0, left) / MeridianRule.DEG_PER_SECOND));
        if (!wait.isZero()) {
            night.devices().mount().stop();
            night.record()
                    .doing(Stage.RUN, "Waiting until " + target.name() + " can be followed from the other side", wait);
            conduct.waitUntil(night.clock().now().plus(wait), this::unlessParked);
        }
    }

    /** Waits that have to be waited: only parking ends them. */
    private boolean unlessParked() {
        conduct.leaveIfAsked(Stage.RUN);
        return true;
    }

    /** A mount that takes its side by itself may take the other one only later; it stands still meanwhile. */
    private void waitUntilTheMountFlips(TargetPlan target) throws InterruptedException {
        Mount mount = night.devices().mount();
        if (mount.arrivesOn(target.position(), Mount.PierSide.EAST) == Mount.PierSide.EAST) {
            return;
        }
        guiding.stop();
        mount.stop();
        night.record()
                .doing(
                        Stage.RUN,
                        "Waiting until the mount takes the other side of the pier",
                        LONGEST_WAIT_FOR_THE_MOUNT);
        conduct.waitUntil(
                night.clock().now().plus(LONGEST_WAIT_FOR_THE_MOUNT),
                () -> unlessParked() && mount.arrivesOn(target.position(), Mount.PierSide.EAST) != Mount.PierSide.EAST);
    }

    private void flip(Leg leg) throws InterruptedException {
        TargetPlan target = leg.target;
        conduct.announce("after the flip", Duration.ofSeconds(150));
        waitUntilFree(target);
        waitUntilTheMountFlips(target);
        Instant began = night.clock().now();
        night.record().doing(Stage.RUN, "Meridian flip", Duration.ofSeconds(150));
        FlipProof proof = flipOnce(target);
        if (!proof.centred() || !proof.guided()) {
            night.record()
                    .fault(
                            Stage.RUN,
                            "After the flip " + (proof.centred() ? "guiding" : "the target")
                                    + " is not as it should be: once more.");
            proof = flipOnce(target);
        }
        boolean centred = proof.centred();
        boolean guided = proof.guided();
        stopIfLost(target, centred);
        sinceLegBegan = 0;
        night.record()
                .tell(new Flipped(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "Meridian flip done in %d s, %s, %s.",
                                Duration.between(began, night.clock().now()).toSeconds(),
                                centred ? "centred" : "not centred",
                                telescope.isUnguided() || !guiding.isFitted()
                                        ? "not guided"
                                        : guided ? "guiding" : "guiding not as good as it should be"),
                        target.name(),
                        centred,
                        guided && !telescope.isUnguided() && guiding.isFitted()));
        conduct.gate(Stage.POINT, centred, measured(Stage.POINT), loop::aWhile);
        conduct.gate(Stage.GUIDE, guided, measured(Stage.GUIDE), loop::aWhile);
    }

    /** A target that is not even near the middle after a second try: nothing is taken of another field, and somebody is woken. */
    private void stopIfLost(TargetPlan target, boolean centred) {
        double off = night.record()
                .state()
                .last(TargetCentred.class)
                .map(TargetCentred::offsetArcsec)
                .orElse(0.0);
        if (centred || off <= night.program().recentreBeyondArcsec()) {
            return;
        }
        String what =
                String.format(Locale.ROOT, "after the flip %s is %.0f″ from the middle, twice", target.name(), off);
        night.record()
                .tell(new AlertRaised(
                        night.record().now(),
                        Character.toUpperCase(what.charAt(0)) + what.substring(1) + ". " + Trouble.WRONG_FIELD.remedy(),
                        Trouble.WRONG_FIELD,
                        true));
        throw new DeviceException("pointing", what, "Look at clutches and cables; it is tried again after a pause.");
    }

    /** Whether the far side is proven: the target in the middle, and guided. */
    private record FlipProof(boolean centred, boolean guided) {}

    private FlipProof flipOnce(TargetPlan target) throws InterruptedException {
        guiding.stop();
        boolean centred = pointing.centre(target, Mount.PierSide.EAST);
        if (night.devices().mount().pierSide() != Mount.PierSide.EAST) {
            throw new DeviceException(
                    "mount",
                    "it was told to change sides and did not",
                    "Look at its own meridian limits; something touches if it goes on as it is.");
        }
        if (night.program().focus().afterFlip()) {
            boolean sharp = focusing.fine("after the flip");
            conduct.gate(Stage.FOCUS, sharp, measured(Stage.FOCUS), night.clock()::await);
        }
        return new FlipProof(centred, telescope.guide(target));
    }

    private void beforeSub(TargetPlan target, FilterGoal goal) throws InterruptedException {
        boolean changed = focusing.change(goal.filter());
        Optional<String> due = focusing.dueBecause()
                .or(() -> changed && night.program().focus().onFilter()
                        ? Optional.of("filter " + goal.filter())
                        : Optional.empty())
                .or(() -> changed && focusing.isOffsetUnknown()
                        ? Optional.of("the focus of " + goal.filter() + " is not known")
                        : Optional.empty());
        if (due.isPresent()) {
            guiding.stop();
            conduct.announce("after the focus run", Duration.ofSeconds((long) REFOCUS_SECONDS));
            boolean sharp = focusing.fine(due.get());
            conduct.gate(Stage.FOCUS, sharp, measured(Stage.FOCUS), night.clock()::await);
            telescope.guide(target);
        } else {
            focusing.compensate();
        }
        if (!telescope.isUnguided()
                && guiding.canDither()
                && sinceLegBegan > 0
                && sinceLegBegan % night.program().ditherEvery() == 0) {
            guiding.dither();
        }
    }

    /** Takes a sub; returns its verdict, or nothing if a person threw it away. */
    private Optional<Verdict> sub(TargetPlan target, FilterGoal goal, int taken) throws InterruptedException {
        boolean test = sinceLegBegan == 0;
        boolean small = night.wholeFramesPerLeg().map(k -> sinceLegBegan >= k).orElse(false);
        Optional<SubTaken> sub = subs.take(target, goal, taken, test, small);
        if (sub.isEmpty()) {
            return Optional.empty();
        }
        sinceLegBegan++;
        focusing.taken(sub.get());
        doctor.look();
        if (test) {
            gate(sub.get());
            conduct.gate(Stage.RUN, sub.get().kept(), measured(Stage.RUN), loop::aWhile);
        }
        recentreIfCrept(target, sub.get().offsetArcsec());
        return Optional.of(sub.get().verdict());
    }

    private void gate(SubTaken sub) {
        night.record()
                .gate(
                        Gate.atLeast(Stage.RUN, sub.kept() ? 1 : 0, 1, "test sub"),
                        sub.kept()
                                ? String.format(
                                        Locale.ROOT,
                                        "The test sub of %s is good, %d stars, %.2f px; it counts.",
                                        sub.target(),
                                        sub.measures().stars(),
                                        sub.measures().hfrPx().orElse(0))
                                : "The test sub of " + sub.target() + " is not good: "
                                        + sub.verdict().reason() + ".");
    }

    private void recentreIfCrept(TargetPlan target, OptionalDouble offsetArcsec) throws InterruptedException {
        if (offsetArcsec.orElse(0) > night.program().recentreBeyondArcsec()) {
            guiding.stop();
            pointing.centre(target, night.devices().mount().pierSide());
            telescope.guide(target);
        }
    }
}
