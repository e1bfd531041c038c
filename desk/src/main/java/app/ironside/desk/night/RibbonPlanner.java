package app.ironside.desk.night;

import app.ironside.sky.Interval;
import java.time.Instant;

/** Who takes the changes that are made to blocks on the ribbon. Interface thread only. */
public interface RibbonPlanner {
    /** The block whose handles are shown; −1 for none. */
    int chosen();

    void choose(int block);

    /** While a block is being dragged: shows what it would come to. */
    void preview(int block, Interval span);

    /** The block is let go. */
    void settle(int block, Interval span);

    void split(int block, Instant at);

    /** Whether something that is dragged here by its word can be dropped on a time. */
    boolean takes(String word);

    /** Something is dropped on a time. */
    void dropped(String word, Instant at);

    void remove(int block);
}
