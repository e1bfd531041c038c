package app.ironside.desk.reckon;

import java.util.List;
import java.util.Optional;

/**
 * The right column: the verdict, its numbers, its working, and the schools.
 *
 * @param alert whether something is to be done about it now
 * @param actions what follows from it, as buttons
 * @param working how the verdict follows, with formula and source; empty if there is nothing to work out
 */
public record ReckoningState(
        String verdict,
        String sentence,
        boolean alert,
        List<Row> rows,
        List<Action> actions,
        String working,
        List<School> schools) {
    /** A number with its name. */
    public record Row(String name, String value) {}

    /**
     * A way of doing it.
     *
     * @param ours whether it is the one in use
     * @param choice what choosing it means; empty if it cannot be chosen here
     */
    public record School(String name, String reason, boolean ours, Optional<Intent> choice) {
        public School(String name, String reason, boolean ours) {
            this(name, reason, ours, Optional.empty());
        }
    }

    /**
     * A button.
     *
     * @param id for tests and styles
     * @param chief the one that is wanted most
     */
    public record Action(String id, String label, boolean chief, boolean enabled, Intent intent) {}

    public ReckoningState(
            String verdict, String sentence, boolean alert, List<Row> rows, String working, List<School> schools) {
        this(verdict, sentence, alert, rows, List.of(), working, schools);
    }

    public ReckoningState {
        rows = List.copyOf(rows);
        actions = List.copyOf(actions);
        schools = List.copyOf(schools);
    }

    public static ReckoningState waiting(String verdict, String sentence) {
        return new ReckoningState(verdict, sentence, false, List.of(), "", List.of());
    }
}
