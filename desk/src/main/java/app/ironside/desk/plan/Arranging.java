package app.ironside.desk.plan;

import app.ironside.document.NightDraft;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.Schedule;
import java.util.Optional;

/** The best times for what is planned: proposed beside the plan as it is, then taken or left. Interface thread only. */
public final class Arranging {
    private final PlanDesk plan;
    private Optional<Schedule> schedule = Optional.empty();

    /** The plan as it was before it was arranged; only told of while the schedule stands. */
    private Optional<NightDraft> before = Optional.empty();

    private boolean interleave = true;
    private boolean broadUnderMoon;

    Arranging(PlanDesk plan) {
        this.plan = plan;
    }

    /** What was arranged, while nothing else has changed since. */
    public Optional<Schedule> schedule() {
        return schedule;
    }

    /** The plan as it was before it was arranged, while nothing else has changed since. */
    Optional<NightDraft> before() {
        return schedule.isPresent() ? before : Optional.empty();
    }

    /** What was said of an arranged plan does not hold of a changed one. */
    void forget() {
        schedule = Optional.empty();
    }

    boolean interleave() {
        return interleave;
    }

    boolean broadUnderMoon() {
        return broadUnderMoon;
    }

    /** The best times for the targets of the plan; what each of them is to be stays as it was chosen. */
    public void arrange() {
        NightDraft now = plan.model().settled();
        CloudForecast clouds = plan.clouds();
        boolean turns = interleave;
        boolean broad = broadUnderMoon;
        plan.compute(() -> now.arrange(clouds, turns, broad), arranged -> {
            if (plan.model().settled() != now) {
                plan.say("The plan was changed meanwhile and stays as it is. Arrange again.");
                return;
            }
            if (arranged.schedule().blocks().isEmpty()) {
                plan.say("None of these targets is up in the dark tonight.");
                return;
            }
            plan.model().choose(PlanDesk.NO_BLOCK);
            plan.model().propose(arranged.draft());
            schedule = Optional.of(arranged.schedule());
            before = Optional.of(now);
            plan.note(
                    arranged.without().isEmpty()
                            ? ""
                            : "No time was found for " + String.join(", ", arranged.without()) + ".");
        });
    }

    /** Whether an arranged plan is shown that nobody has taken yet. */
    boolean isProposed() {
        return plan.model().isProposed();
    }

    /** The arranged plan becomes the plan. */
    void take() {
        plan.model().takeProposed();
        plan.note("");
    }

    /** The plan stays as it was before it was arranged. */
    void leave() {
        plan.model().leaveProposed();
        schedule = Optional.empty();
        plan.note("");
    }

    /** Filters in turns, or each in one block: of every target, and nothing else of it. */
    void setInterleave(boolean next) {
        interleave = next;
        schedule = Optional.empty();
        plan.edit(now -> now.inTurns(next));
    }

    /** When broad light is taken: the times of the plan follow, and nothing else. */
    void setBroadUnderMoon(boolean next) {
        broadUnderMoon = next;
        arrange();
    }
}
