package app.ironside.desk;

import java.util.List;

/**
 * The right column: the verdict, its numbers, its working, and the schools.
 *
 * @param alert whether something is to be done about it now
 * @param working how the verdict follows, with formula and source; empty if there is nothing to work out
 */
record ReckoningState(
        String verdict, String sentence, boolean alert, List<Row> rows, String working, List<School> schools) {
    /** A number with its name. */
    record Row(String name, String value) {}

    /**
     * A way of doing it.
     *
     * @param ours whether it is the one in use
     */
    record School(String name, String reason, boolean ours) {}

    ReckoningState {
        rows = List.copyOf(rows);
        schools = List.copyOf(schools);
    }

    static ReckoningState waiting(String verdict, String sentence) {
        return new ReckoningState(verdict, sentence, false, List.of(), "", List.of());
    }
}
