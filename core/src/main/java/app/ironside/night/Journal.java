package app.ironside.night;

import java.util.List;

/** The night's append-only record. An event is on the disk when {@link #append} returns. */
public interface Journal {
    void append(NightEvent event);

    /** All events so far, oldest first. */
    List<NightEvent> events();
}
