package app.ironside.desk.darkroom;

import app.ironside.judge.Grade;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** What a person says of lights over the rule book, and how it was before each time. */
final class HandMarks {
    private final Map<Path, Boolean> marks = new HashMap<>();
    private final Deque<Map<Path, Boolean>> before = new ArrayDeque<>();

    /** Those that say otherwise than the rule book. */
    Map<Path, Boolean> all() {
        return Map.copyOf(marks);
    }

    void forget() {
        marks.clear();
        before.clear();
    }

    /** Turns lights round, all of them as the first; a mark that says what the rule book says goes. Returns whether they are kept now. */
    boolean turn(List<Path> files, List<Grade> grades) {
        Map<Path, Boolean> ruled = new HashMap<>();
        grades.forEach(g -> ruled.put(Path.of(g.sub().name()), g.keep()));
        before.push(Map.copyOf(marks));
        Path first = files.get(0);
        boolean keep = !marks.getOrDefault(first, ruled.getOrDefault(first, true));
        for (Path file : files) {
            if (ruled.getOrDefault(file, true) == keep) {
                marks.remove(file);
            } else {
                marks.put(file, keep);
            }
        }
        return keep;
    }

    /** Takes the last turn back; false if there is none. */
    boolean takeBack() {
        if (before.isEmpty()) {
            return false;
        }
        marks.clear();
        marks.putAll(before.pop());
        return true;
    }
}
