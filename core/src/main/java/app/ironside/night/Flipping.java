package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.Flipped;
import app.ironside.journal.Stage;
import app.ironside.journal.TargetCentred;
import app.ironside.journal.Trouble;
import app.ironside.kit.MeridianRule;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Observer;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;

/** Takes a target over the meridian: when it is due, on which side the telescope serves, the turn itself and its proof. */
final class Flipping {
    /** Mounts that choose their side do so within an hour past the meridian (common practice). */
    private static final Duration LONGEST_WAIT_FOR_THE_MOUNT = Duration.ofMinutes(75);

    private final NightContext night;
    private final Conduct conduct;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final TelescopeOrders telescope;
    private final NightLoop loop;
    private final Observer observer;

    Flipping(
            NightContext night,
            Conduct conduct,
            Pointing pointing,
            Focusing focusing,
            Guiding guiding,
            TelescopeOrders telescope,
            NightLoop loop) {
        this.night = night;
        this.conduct = conduct;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
        this.telescope = telescope;
        this.loop = loop;
        this.observer = night.observer();
    }

    /** Whether a sub that begins so many seconds from now would still be under way where something touches. */
    boolean due(TargetPlan target, FilterGoal goal, double before) {
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
    Mount.PierSide sideFor(TargetPlan target, FilterGoal first) throws InterruptedException {
        double seconds = RunStage.STARTING_SECONDS + first.subSeconds();
        if (rule(target).side(hourAngleDeg(target), seconds) == MeridianRule.Side.NEITHER) {
            waitUntilFree(target);
        }
        return rule(target).side(hourAngleDeg(target), seconds) == MeridianRule.Side.BEFORE
                ? Mount.PierSide.WEST
                : Mount.PierSide.EAST;
    }

    /** The side on which a target could be taken at once; empty where it must be waited for. */
    Optional<Mount.PierSide> freeSide(TargetPlan target, FilterGoal first) {
        return switch (rule(target).side(hourAngleDeg(target), RunStage.STARTING_SECONDS + first.subSeconds())) {
            case BEFORE -> Optional.of(Mount.PierSide.WEST);
            case NEITHER -> Optional.empty();
            default -> Optional.of(Mount.PierSide.EAST);
        };
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

    void flip(TargetPlan target) throws InterruptedException {
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
        conduct.gate(Stage.POINT, centred, loop::aWhile);
        conduct.gate(Stage.GUIDE, guided, loop::aWhile);
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
            conduct.gate(Stage.FOCUS, sharp, night.clock()::await);
        }
        return new FlipProof(centred, telescope.guide(target));
    }
}
