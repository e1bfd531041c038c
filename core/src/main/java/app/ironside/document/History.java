package app.ironside.document;

import java.util.ArrayDeque;
import java.util.Deque;

/** A value whose changes can be taken back and done again. */
public final class History<T> {
    private static final int DEPTH = 200;

    private final Deque<T> before = new ArrayDeque<>();
    private final Deque<T> after = new ArrayDeque<>();
    private T now;

    public History(T first) {
        now = first;
    }

    public T now() {
        return now;
    }

    /** Changes the value; what had been taken back is forgotten. */
    public void change(T next) {
        if (next.equals(now)) {
            return;
        }
        before.push(now);
        if (before.size() > DEPTH) {
            before.removeLast();
        }
        after.clear();
        now = next;
    }

    /** Goes on with the last change: undo takes both back at once. */
    public void amend(T next) {
        after.clear();
        now = next;
    }

    public boolean canUndo() {
        return !before.isEmpty();
    }

    public boolean canRedo() {
        return !after.isEmpty();
    }

    /** Takes the last change back, if there is one. */
    public void undo() {
        if (canUndo()) {
            after.push(now);
            now = before.pop();
        }
    }

    /** Does it again. */
    public void redo() {
        if (canRedo()) {
            before.push(now);
            now = after.pop();
        }
    }
}
