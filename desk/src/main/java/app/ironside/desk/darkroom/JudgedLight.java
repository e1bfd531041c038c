package app.ironside.desk.darkroom;

import app.ironside.judge.Cause;
import app.ironside.judge.Grade;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * A light with what is said of it.
 *
 * @param keep by the rule book, or by hand
 * @param byHand whether a person said so
 */
record JudgedLight(Grade grade, boolean keep, boolean byHand) {
    Path file() {
        return Path.of(grade.sub().name());
    }

    /** Its cause in a word; empty if nothing lowers it. */
    String cause() {
        return grade.cause() == Cause.GOOD ? "" : grade.cause().word();
    }

    /**
     * All of them, by a measure: the best or the latest last.
     *
     * @param marks those that a person keeps or leaves out
     */
    static List<JudgedLight> sorted(List<Grade> grades, Map<Path, Boolean> marks, SubMeasure by) {
        return grades.stream()
                .map(g -> {
                    Boolean mark = marks.get(Path.of(g.sub().name()));
                    return new JudgedLight(g, mark == null ? g.keep() : mark, mark != null);
                })
                .sorted(Comparator.<JudgedLight>comparingDouble(l -> {
                            double value = by.of(l.grade());
                            return Double.isNaN(value) ? Double.NEGATIVE_INFINITY : value;
                        })
                        .thenComparing(l -> l.grade().sub().name()))
                .toList();
    }
}
