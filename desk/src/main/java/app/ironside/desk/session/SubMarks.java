package app.ironside.desk.session;

import app.ironside.desk.reckon.Intent;
import app.ironside.journal.Marks;
import app.ironside.journal.NightState;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;

/** Verdicts given at the desk over those of the rule book, each of which can be taken back in one act. */
public final class SubMarks {
    /** Who is at the desk. */
    private static final String BY = "at the desk";

    private final Nights nights;

    /** What stood before each act, the last act first. */
    private final Deque<Step> before = new ArrayDeque<>();

    private record Step(ShownNight night, List<Marks.Given> stood) {}

    public SubMarks(Nights nights) {
        this.nights = nights;
    }

    /** Gives what an intent asks for; false if it asks for something else. */
    public boolean obey(Intent intent, ShownNight shown) {
        NightState night = shown.model().night();
        if (intent instanceof Intent.MarkSub mark) {
            give(shown, Marks.mark(mark.sub(), mark.keep(), BY));
        } else if (intent instanceof Intent.CutFrom cut) {
            give(shown, Marks.cutFrom(night, cut.sub(), BY));
        } else if (intent instanceof Intent.TakeBackMarks) {
            takeBack();
        } else {
            return false;
        }
        return true;
    }

    private void give(ShownNight shown, List<Marks.Given> given) {
        if (!given.isEmpty()) {
            before.push(new Step(shown, Marks.standing(shown.model().night(), given)));
            nights.give(shown, given);
        }
    }

    /** Takes the last act back; false if there is none. */
    public boolean takeBack() {
        if (before.isEmpty()) {
            return false;
        }
        Step step = before.pop();
        nights.give(step.night(), step.stood());
        return true;
    }
}
