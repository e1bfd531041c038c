package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import app.ironside.night.NightControl.Order;
import app.ironside.plan.FilterGoal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Obeys what is asked about the target that is being taken, or refuses it in words. */
final class LegOrders {
    private final NightContext night;
    private final Conduct conduct;
    private final TelescopeOrders telescope;
    private final Flipping flipping;
    private final LengthLadder ladder;

    LegOrders(NightContext night, Conduct conduct, TelescopeOrders telescope, Flipping flipping, LengthLadder ladder) {
        this.night = night;
        this.conduct = conduct;
        this.telescope = telescope;
        this.flipping = flipping;
        this.ladder = ladder;
    }

    void obey(Order order, Leg leg) throws InterruptedException {
        Command command = order.command();
        if (command instanceof Command.SkipTarget) {
            leg.left = true;
            conduct.obeyed(order, Stage.RUN, leg.target.name() + " is left with " + leg.subs() + " subs");
        } else if (command instanceof Command.SkipFilter) {
            skipFilter(order, leg);
        } else if (command instanceof Command.OneMore) {
            leg.addOne();
            conduct.obeyed(order, Stage.RUN, "the block ends a sub later, about " + clock(leg.until));
        } else if (command instanceof Command.Extend extend) {
            leg.extendBy(extend.by());
            conduct.obeyed(
                    order,
                    Stage.RUN,
                    leg.target.name() + " goes on until " + clock(leg.until) + ", or until it is too low");
        } else if (!leg.begun) {
            conduct.refuse(order, Stage.RUN, leg.target.name() + " is not begun");
        } else if (command instanceof Command.TryLengths) {
            tryLengths(order, leg); // answered before a camera can fail
        } else if (!telescope.takes(command).isZero()
                && flipping.due(
                        leg.target,
                        leg.next(night).orElse(leg.target.goals().get(0)),
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
        String filter = leg.next(night)
                .map(FilterGoal::filter)
                .orElse(leg.target.filters().get(0));
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
        Optional<FilterGoal> goal = leg.next(night);
        Duration takes = goal.map(ladder::takes).orElse(Duration.ZERO);
        String why = goal.isEmpty() || !leg.begun
                ? "no sub is being taken"
                : flipping.due(leg.target, goal.get(), takes.toSeconds())
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
}
