package app.ironside.night;

import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceLost;
import app.ironside.focus.FocusRun;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Gate;
import app.ironside.journal.Reacted;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetLeft;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Verdict;
import app.ironside.night.NightControl.Order;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.Patience;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.point.Centering;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.watch.Case;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
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
    static final double STARTING_SECONDS = 300;

    /** One bright sub may be a lamp that went by. */
    private static final int BRIGHT_IN_A_ROW = 2;

    private static final Duration PAUSE_BEFORE_RECOVERY = Duration.ofMinutes(5);

    /** What complains when the sky is shut: each of these sees stars or nothing. */
    private static final Set<String> SEES_THE_SKY =
            Set.of("guider", "guide camera", FaultTold.GUIDE_STAR, FocusRun.NAME, Centering.NAME);

    private final NightContext night;
    private final Conduct conduct;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final NightLoop loop;
    private final SubTaker subs;
    private final TelescopeOrders telescope;
    private final Flipping flipping;
    private final LegOrders legOrders;
    private final NightDoctor doctor;
    private final Reacting reacting;
    private final Elsewhere elsewhere;
    private final Observer observer;

    /** What can be taken while cloud covers the target that was left. */
    private Optional<PlannedBlock> clear = Optional.empty();

    private Instant lookedElsewhere = Instant.MIN;
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
            NightDoctor doctor,
            NightPlans plans) {
        this.night = night;
        this.conduct = conduct;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
        this.loop = new NightLoop(night.clock(), guiding.guider(), conduct);
        this.subs = new SubTaker(night, conduct, loop, guiding, judge);
        this.telescope = new TelescopeOrders(night, conduct, pointing, focusing, guiding);
        this.flipping = new Flipping(night, conduct, pointing, focusing, guiding, telescope, loop);
        this.legOrders = new LegOrders(night, conduct, telescope, flipping, new LengthLadder(night, conduct, loop));
        this.doctor = doctor;
        this.reacting = new Reacting(night, pointing, focusing, guiding);
        this.elsewhere = new Elsewhere(night, flipping, subs, plans);
        this.observer = night.observer();
    }

    /** Why a block is over. */
    enum Left {
        /** Its time, its count, the night, or a changed program. */
        OVER,
        /** A person left it, or what they said of its sky: it is not begun again. */
        SKIPPED,
        GIVEN_UP,
        /** Cloud covers it; {@link #takeClear} tells what is clear. */
        CLOUDED
    }

    /**
     * Runs a block from where it stands; returns why it is over.
     *
     * @param not names of targets that are not taken again
     */
    Left run(PlannedBlock block, Set<String> not) throws InterruptedException {
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
                Optional<FilterGoal> next = leg.next(night);
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
                if (isCloudedFor(leg) && elsewhere.isPossible(leg, not)) {
                    lookElsewhere(leg, not);
                    if (clear.isPresent()) {
                        why = TargetLeft.Why.CLOUDED;
                        break;
                    }
                }
                if (isHopeless(leg)) {
                    break;
                }
                if (!leg.begun) {
                    leg.lastGood = leg.lastGood == null ? night.clock().now() : leg.lastGood;
                    leg.begun = begin(leg.target, goal);
                    continue; // what was asked meanwhile comes first
                }
                if (flipping.due(leg.target, goal, focusing.due() ? REFOCUS_SECONDS : DITHER_SECONDS)) {
                    flip(leg.target);
                    continue; // the flip took minutes: whether the block is over is asked anew
                }
                beforeSub(leg.target, goal);
                if (flipping.due(leg.target, goal, 0)) {
                    flip(leg.target);
                    continue;
                }
                Optional<Verdict> verdict = sub(leg.target, goal, leg.subs());
                if (verdict.isPresent()) {
                    leg.taken.merge(goal.filter(), 1, Integer::sum);
                }
                boolean good = verdict.filter(Verdict::keep).isPresent();
                recoveries = good ? 0 : recoveries;
                leg.lastGood = good ? night.clock().now() : leg.lastGood;
                tellOfNoStar();
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
            case SKIPPED, BRIGHT_SKY -> Left.SKIPPED;
            case CLOUDED -> Left.CLOUDED;
            default -> Left.OVER;
        };
    }

    /** What was found clear when a target was left for cloud. */
    PlannedBlock takeClear() {
        PlannedBlock block = clear.orElseThrow();
        clear = Optional.empty();
        return block;
    }

    /** Whether cloud has let nothing through for as long as a person waits before looking elsewhere. */
    private boolean isCloudedFor(Leg leg) {
        Optional<Duration> patience =
                night.program().reactions().elsewhereAfterMinutes().map(Duration::ofMinutes);
        Instant now = night.clock().now();
        return leg.lastGood != null
                && patience.isPresent()
                && !now.isBefore(leg.lastGood.plus(patience.get()))
                && (lookedElsewhere.equals(Instant.MIN) || !now.isBefore(lookedElsewhere.plus(patience.get())))
                && doctor.present()
                        .filter(c -> c.lead().trouble() == Trouble.CLOUD)
                        .isPresent();
    }

    private void lookElsewhere(Leg leg, Set<String> not) throws InterruptedException {
        guiding.stop();
        leg.begun = false;
        clear = elsewhere.look(leg, focusing.filter().name(), not);
        lookedElsewhere = night.clock().now();
    }

    /** What is guided on and is no star needs another star, and neither a pause nor to be pointed again. */
    private void tellOfNoStar() {
        Optional<DeviceException> away = guiding.runsAway();
        if (away.filter(e -> e.device().equals(FaultTold.GUIDE_STAR)).isPresent() && reacting.mayGuideAnew()) {
            night.record().fault(Stage.RUN, away.get());
            doctor.look();
        }
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
        Patience patience = night.program().reactions().giveUp();
        Instant now = night.clock().now();
        if (leg.lastGood == null) {
            return false;
        }
        Duration without = Duration.between(leg.lastGood, now);
        Duration left = Duration.between(now, leg.until);
        Duration sub = Duration.ofMillis(Math.round(1000 * leg.target.longestSubSeconds()));
        if (!patience.isOver(without, left, sub)) {
            return false;
        }
        String what = String.format(
                Locale.ROOT,
                "Nothing of %s was kept for %d min%s: it is given up",
                leg.target.name(),
                without.toMinutes(),
                patience.how() == Patience.How.WINDOW
                        ? ", no longer than the " + Math.max(0, left.toMinutes())
                                + " min that are left, and it is as likely as not to last as long again"
                        : "");
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
                legOrders.obey(order, leg);
            }
        }
    }

    /** What ends the block, if anything does: what comes first. */
    private Optional<TargetLeft.Why> over(Leg leg) {
        double seconds = leg.next(night).map(FilterGoal::subSeconds).orElse(0.0);
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
        if (isTooBright(leg)) {
            return Optional.of(TargetLeft.Why.BRIGHT_SKY);
        }
        return leg.isOverAt(end) ? Optional.of(TargetLeft.Why.TIME) : Optional.empty();
    }

    /** Whether the sky behind the last two subs is brighter than is allowed, against the darkest of their own series. */
    private boolean isTooBright(Leg leg) {
        Optional<Double> limit = night.program().reactions().leaveAboveSky();
        List<SubTaken> subs = limit.isEmpty()
                ? List.of()
                : night.record().state().subs().stream()
                        .filter(s -> s.target().equals(leg.target.name())
                                && s.measures().skyAdu().isPresent())
                        .toList();
        if (subs.size() <= BRIGHT_IN_A_ROW) {
            return false;
        }
        return subs.subList(subs.size() - BRIGHT_IN_A_ROW, subs.size()).stream()
                .allMatch(last -> last.measures().skyAdu().getAsDouble()
                        > limit.get()
                                * subs.stream()
                                        .filter(s -> s.filter().equals(last.filter()) && s.seconds() == last.seconds())
                                        .mapToDouble(s -> s.measures().skyAdu().getAsDouble())
                                        .min()
                                        .orElseThrow());
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
        boolean centred = pointing.centre(target, flipping.sideFor(target, first));
        if (!conduct.gate(Stage.POINT, centred, night.clock()::await)) {
            return false;
        }
        night.record().stage(Stage.FOCUS);
        if (!focusing.isFresh()) {
            boolean sharp = focusing.fine("start of " + target.name());
            if (!conduct.gate(Stage.FOCUS, sharp, night.clock()::await)) {
                return false;
            }
        }
        if (guiding.isFitted()) {
            night.record().stage(Stage.GUIDE);
        }
        boolean guided = telescope.guide(target);
        if (!conduct.gate(Stage.GUIDE, guided, loop::aWhile)) {
            return false;
        }
        night.record().stage(Stage.RUN);
        sinceLegBegan = 0;
        return true;
    }

    private void flip(TargetPlan target) throws InterruptedException {
        flipping.flip(target);
        sinceLegBegan = 0;
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
            conduct.gate(Stage.FOCUS, sharp, night.clock()::await);
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
            conduct.gate(Stage.RUN, sub.get().kept(), loop::aWhile);
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
