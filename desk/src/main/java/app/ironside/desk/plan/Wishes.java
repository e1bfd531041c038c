package app.ironside.desk.plan;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.kit.RoundRecord;
import app.ironside.logbook.Account;
import app.ironside.logbook.TimesTaken;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.plan.Wish;
import app.ironside.sky.DeepSkyObject;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** What is wanted of the targets of a plan, and what earlier nights gave of it. Interface thread only. */
public final class Wishes implements AutoCloseable {
    private final PlanDesk plan;
    private final Record logbook;
    private final BackgroundWork work = new BackgroundWork("account of the nights");
    private Account account = Account.NONE;
    private List<Wish> kept = List.of();
    private Optional<Double> lastAngle = Optional.empty();
    private RoundRecord round = RoundRecord.NONE;
    private TimesTaken times = TimesTaken.NONE;
    private Optional<Before> before = Optional.empty();

    Wishes(PlanDesk plan, Record logbook) {
        this.plan = plan;
        this.logbook = logbook;
    }

    /** What is asked of the logbook. */
    public interface Record {
        Account account();

        /** The camera's angle on the last night of a kit before a date; empty if no frame of it was solved. */
        Optional<Double> lastAngle(String kit, LocalDate before);

        /** How many of a kit's subs had round stars. */
        RoundRecord roundSubs(String kit);

        /** What a kit's nights took besides light. */
        TimesTaken timesTaken(String kit);
    }

    private record LookedUp(
            Account account, List<Wish> kept, Optional<Double> lastAngle, RoundRecord round, TimesTaken times) {}

    /** Reads what earlier nights gave; the plan's targets learn what they have of what is wanted. */
    void lookUp() {
        String kit = plan.file().kit().name();
        LocalDate date = plan.file().program().date();
        work.ask(progress -> new LookedUp(
                        logbook.account(),
                        plan.profiles().wishes(),
                        logbook.lastAngle(kit, date),
                        logbook.roundSubs(kit),
                        logbook.timesTaken(kit)))
                .onlyNewest()
                .failed(why -> {
                    kept = List.of();
                    plan.say(why);
                })
                .then(found -> {
                    account = found.account().counted();
                    kept = found.kept();
                    lastAngle = found.lastAngle();
                    round = found.round();
                    times = found.times();
                    Account of = account;
                    plan.edit(now -> now.withKept((target, filter) ->
                            hoursKept(of.before(now.file().program().date()), target, filter)));
                    plan.changed();
                });
    }

    /** How many of the kit's own subs had round stars, by length. */
    RoundRecord round() {
        return round;
    }

    /** What the kit's nights took besides light. */
    TimesTaken times() {
        return times;
    }

    Optional<Double> lastAngle() {
        return lastAngle;
    }

    /** The nights before the one that is planned that count for it. */
    Account account() {
        LocalDate date = plan.file().program().date();
        if (before.isEmpty()
                || before.get().of() != account
                || !before.get().date().equals(date)) {
            before = Optional.of(new Before(account, date, account.before(date)));
        }
        return before.get().nights();
    }

    /** What is asked for again and again while a plan is shown. */
    private record Before(Account of, LocalDate date, Account nights) {}

    /** Light kept by earlier nights. */
    double hoursKept(String target, String filter) {
        return hoursKept(account(), target, filter);
    }

    private double hoursKept(Account nights, String target, String filter) {
        return nights.kept(target, this::sameName).getOrDefault(filter, 0.0);
    }

    private String sameName(String target) {
        return plan.wiring().objects().find(target).map(DeepSkyObject::id).orElse(target);
    }

    /** What is wanted in all of a filter's light, or nothing more for no end. */
    FilterGoal wanting(FilterGoal goal, String target, Optional<Double> hours) {
        return goal.withGathered(hours.map(h -> new FilterGoal.Gathered(h, hoursKept(target, goal.filter()))));
    }

    /** The chosen block, or the first one of what is looked at. */
    Optional<PlannedBlock> meant() {
        return plan.model().meant();
    }

    /** The target that is meant, which may only stand in. */
    Optional<TargetPlan> target() {
        return plan.model().meantTarget();
    }

    /** A step of the plan that can be taken back. */
    void change(UnaryOperator<TargetPlan> step) {
        try {
            // What cannot be is said at once.
            if (target().map(t -> step.apply(t).equals(t)).orElse(true)) {
                return;
            }
        } catch (NumberFormatException e) {
            throw e; // whoever read the number says so
        } catch (IllegalArgumentException e) {
            plan.say(e.getMessage() + ".");
            return;
        }
        plan.edit(plan.model().with(step));
    }

    List<Wish> kept() {
        return kept;
    }

    void keep(String name) {
        target().ifPresent(target -> {
            try {
                Wish wish = Wish.of(name, target);
                plan.beside(() -> plan.profiles().saveWish(wish), this::lookUp, plan::say);
            } catch (IllegalArgumentException e) {
                plan.say(e.getMessage());
            }
        });
    }

    void forget(Wish wish) {
        plan.beside(() -> plan.profiles().removeWish(wish.name()), this::lookUp, plan::say);
    }

    void use(Wish wish) {
        List<String> filters =
                plan.file().kit().filters().stream().map(f -> f.name()).toList();
        target().ifPresent(target -> wish.on(target, filters)
                .ifPresentOrElse(
                        t -> change(each -> wish.on(each, filters)
                                .map(w -> w.withGoals(w.goals().stream()
                                        .map(g -> wanting(
                                                g, each.name(), g.gathered().map(FilterGoal.Gathered::hoursWanted)))
                                        .toList()))
                                .orElse(each)),
                        () -> plan.say(
                                plan.file().kit().name() + " has none of the filters of \"" + wish.name() + "\".")));
    }

    @Override
    public void close() {
        work.close();
    }
}
