package app.ironside.journal;

import java.util.AbstractList;
import java.util.RandomAccess;

/**
 * A list that never changes and of which a longer one is made in constant time: both share their elements. Thread-safe, as an earlier
 * list never looks beyond its own length.
 */
public final class GrowingList<T> extends AbstractList<T> implements RandomAccess {
    private static final int FIRST_ROOM = 16;

    /** What lists of one line share. The array is replaced by a larger one when it is full; what it holds is never overwritten. */
    private static final class Shared {
        private volatile Object[] items = new Object[FIRST_ROOM];
        private int used;
    }

    private final Shared shared;
    private final int size;

    /** None yet. */
    public GrowingList() {
        this(new Shared(), 0);
    }

    private GrowingList(Shared shared, int size) {
        this.shared = shared;
        this.size = size;
    }

    /** These elements and one more. */
    public GrowingList<T> plus(T item) {
        synchronized (shared) {
            if (shared.used == size) {
                Object[] items = shared.items;
                if (size == items.length) {
                    items = java.util.Arrays.copyOf(items, 2 * size);
                }
                items[size] = item;
                shared.used = size + 1;
                shared.items = items; // written last: who sees the longer list sees its element
                return new GrowingList<>(shared, size + 1);
            }
        }
        // Another list has grown from here: this one becomes the first of a line of its own.
        GrowingList<T> own = new GrowingList<>();
        for (T mine : this) {
            own = own.plus(mine);
        }
        return own.plus(item);
    }

    @Override
    public T get(int index) {
        java.util.Objects.checkIndex(index, size);
        @SuppressWarnings("unchecked")
        T item = (T) shared.items[index];
        return item;
    }

    @Override
    public int size() {
        return size;
    }
}
