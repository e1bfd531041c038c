package app.ironside.night;

import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import app.ironside.night.NightControl.Order;
import app.ironside.plan.Overheads;
import app.ironside.plan.TargetPlan;
import java.time.Duration;

/** Obeys what is asked of telescope and guider between subs, and knows whether a person wants guiding off. */
final class TelescopeOrders {
    private final NightContext night;
    private final Conduct conduct;
    private final Pointing pointing;
    private final Focusing focusing;
    private final Guiding guiding;
    private final FocusTrials focusTrials;
    private final GuideTrials guideTrials;
    private boolean unguided;

    TelescopeOrders(NightContext night, Conduct conduct, Pointing pointing, Focusing focusing, Guiding guiding) {
        this.night = night;
        this.conduct = conduct;
        this.pointing = pointing;
        this.focusing = focusing;
        this.guiding = guiding;
        this.focusTrials = new FocusTrials(night, focusing);
        this.guideTrials = new GuideTrials(night, conduct, guiding);
    }

    /** Whether a person wants guiding off. */
    boolean isUnguided() {
        return unguided;
    }

    /** Starts to guide, unless a person wants it off; returns whether the figure is inside its limit. */
    boolean guide(TargetPlan target) throws InterruptedException {
        return unguided || guiding.start(target);
    }

    /** Obeys an order while a target is being taken, or refuses it. */
    void obey(Order order, TargetPlan target) throws InterruptedException {
        Command command = order.command();
        if (command instanceof Command.Refocus) {
            guiding.stop();
            boolean sure = focusing.fine("asked for by " + order.by());
            guide(target);
            conduct.obeyed(order, Stage.FOCUS, sure ? "in focus" : "the run was not believed");
        } else if (command instanceof Command.Recentre) {
            guiding.stop();
            boolean centred = pointing.centre(target, night.devices().mount().pierSide());
            guide(target);
            conduct.obeyed(order, Stage.POINT, centred ? "centred" : "further off than is allowed");
        } else if (!guiding.isFitted() && isAboutGuiding(command)) {
            conduct.refuse(order, Stage.GUIDE, "this kit has no guider");
        } else if (command instanceof Command.GuideBy by) {
            guiding.use(by.rules());
            conduct.obeyed(order, Stage.GUIDE, "from the next guide exposure on");
        } else if (command instanceof Command.PickGuideStar pick) {
            guiding.stop();
            guiding.choose(pick.x(), pick.y());
            conduct.obeyed(
                    order, Stage.GUIDE, guide(target) ? "guiding on it" : "guiding on it, not as good as it should be");
        } else if (command instanceof Command.WatchUnguided watch) {
            String told = guideTrials.watch(target, watch.minutes());
            guide(target);
            conduct.obeyed(order, Stage.GUIDE, told);
        } else if (command instanceof Command.CompareGuiding compare) {
            String told = guideTrials.compare(compare);
            guide(target);
            conduct.obeyed(order, Stage.GUIDE, told);
        } else if (night.kit().motorFocuser().isEmpty() && isAboutTheMotor(command)) {
            conduct.refuse(order, Stage.FOCUS, "this kit is focused by hand: there is no motor to measure");
        } else if (command instanceof Command.MeasureOffsets) {
            guiding.stop();
            String found = focusTrials.offsets();
            guide(target);
            conduct.obeyed(order, Stage.FOCUS, found);
        } else if (command instanceof Command.MeasureFocuser) {
            guiding.stop();
            String found = focusTrials.focuser();
            guide(target);
            conduct.obeyed(order, Stage.FOCUS, found);
        } else if (command instanceof Command.CalibrateGuider) {
            guiding.stop();
            guiding.forgetCalibration();
            unguided = false;
            conduct.obeyed(
                    order,
                    Stage.GUIDE,
                    guiding.start(target)
                            ? "calibrated, and guiding"
                            : "calibrated; guiding is not as good as it should be");
        } else if (command instanceof Command.StopGuiding) {
            guiding.stop();
            unguided = true;
            conduct.obeyed(order, Stage.GUIDE, "subs are taken without guiding until it is started");
        } else if (command instanceof Command.StartGuiding) {
            unguided = false;
            conduct.obeyed(
                    order, Stage.GUIDE, guiding.start(target) ? "guiding" : "guiding, not as good as it should be");
        } else if (command instanceof Command.DitherNow && guiding.canDither()) {
            guiding.dither();
            conduct.obeyed(order, Stage.GUIDE, "shifted");
        } else if (command instanceof Command.DitherNow) {
            conduct.refuse(order, Stage.GUIDE, "a dither shifts the guide star or the mount, and neither can be");
        } else {
            conduct.refuse(order, Stage.RUN, "no sub is being taken");
        }
    }

    /** How long an order keeps the telescope from subs, about; what is over in a moment takes nothing. */
    Duration takes(Command command) {
        if (command instanceof Command.WatchUnguided watch) {
            return Duration.ofMinutes(watch.minutes());
        }
        if (command instanceof Command.CompareGuiding compare) {
            return guideTrials.takes(compare);
        }
        long sweep = Math.round(Overheads.of(night.kit()).perFocus());
        if (command instanceof Command.MeasureOffsets) {
            return Duration.ofSeconds(sweep * (night.kit().filters().size() + 2L));
        }
        return command instanceof Command.MeasureFocuser ? Duration.ofSeconds(3 * sweep) : Duration.ZERO;
    }

    private static boolean isAboutTheMotor(Command command) {
        return command instanceof Command.MeasureOffsets || command instanceof Command.MeasureFocuser;
    }

    private static boolean isAboutGuiding(Command command) {
        return command instanceof Command.CalibrateGuider
                || command instanceof Command.GuideBy
                || command instanceof Command.PickGuideStar
                || command instanceof Command.WatchUnguided
                || command instanceof Command.CompareGuiding
                || command instanceof Command.StopGuiding
                || command instanceof Command.StartGuiding;
    }
}
