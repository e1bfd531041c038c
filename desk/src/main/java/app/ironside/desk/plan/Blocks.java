package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonPlanner;
import app.ironside.document.RehearsedFault;
import app.ironside.plan.PlannedBlock;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.stream.IntStream;

/** The blocks of the plan as hands move them on the ribbon; every move is a step that can be taken back. Interface thread only. */
public final class Blocks implements RibbonPlanner {
    private final PlanDesk plan;

    Blocks(PlanDesk plan) {
        this.plan = plan;
    }

    @Override
    public int chosen() {
        return plan.model().chosen();
    }

    @Override
    public void choose(int next) {
        plan.model().choose(next);
        plan.changed();
    }

    /** Follows a drag as fast as it can be reckoned; the pointer waits for nothing. */
    @Override
    public void preview(int moved, Interval span) {
        plan.drawing().preview(now -> now.move(moved, span));
    }

    @Override
    public void settle(int moved, Interval span) {
        Instant middle = span.from().plus(span.duration().dividedBy(2));
        plan.arranging().forget();
        // No preview that is still on its way shows after this.
        plan.drawing().endPreview();
        plan.edit(now -> now.move(moved, span), () -> plan.model().chooseAt(middle));
    }

    /** Another sub length for all filters of a target; a night under way takes it when it is told to plan anew. */
    void setSubSeconds(String target, double seconds) {
        List<PlannedBlock> now = plan.draft().plan().blocks();
        List<Integer> its = IntStream.range(0, now.size())
                .filter(i -> now.get(i).target().name().equals(target))
                .boxed()
                .toList();
        if (its.isEmpty()) {
            plan.say("The plan on the desk has no " + target + ".");
        } else {
            plan.edit(draft -> draft.replace(its, t -> t.withSubSeconds(seconds)));
        }
    }

    @Override
    public void split(int whole, Instant at) {
        plan.arranging().forget();
        plan.edit(now -> now.split(whole, at));
    }

    @Override
    public void remove(int gone) {
        plan.model().choose(PlanDesk.NO_BLOCK);
        plan.arranging().forget();
        if (plan.draft().plan().blocks().size() > 1) {
            plan.edit(now -> now.remove(gone));
        } else {
            plan.say("The last target stays: add another before you remove it.");
        }
    }

    /** Moves the chosen block by some minutes. */
    void nudge(int edge, int minutes) {
        plan.model()
                .nudged(edge, Duration.ofMinutes(minutes))
                .ifPresent(span -> settle(plan.model().chosen(), span));
    }

    /** Puts what is looked at into the free time of the night, or into the end of it. */
    void addLooked() {
        plan.arranging().forget();
        plan.model().addLooked(plan.arranging().broadUnderMoon()).ifPresent(plan::edit);
    }

    /** The object that is looked at is taken while cloud covers another, or no longer is. */
    void standInLooked() {
        plan.model().standInLooked(plan.arranging().broadUnderMoon()).ifPresent(plan::edit);
    }

    /** Faults are dragged by their word. */
    @Override
    public boolean takes(String word) {
        return Rehearsals.kind(word).isPresent();
    }

    @Override
    public void dropped(String word, Instant at) {
        LocalTime time = at.atZone(plan.file().site().zone()).toLocalTime().truncatedTo(ChronoUnit.MINUTES);
        Rehearsals.kind(word).ifPresent(kind -> plan.setFaults(all -> all.add(new RehearsedFault(kind, time))));
    }
}
