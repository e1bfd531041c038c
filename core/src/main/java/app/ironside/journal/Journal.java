package app.ironside.journal;

import app.ironside.guide.GuideSample;
import java.util.List;

/** The night's append-only record. An event is on the disk when {@link #append} returns. */
public interface Journal {
    void append(NightEvent event);

    /** All events so far, in the order in which they were told. */
    List<NightEvent> events();

    /** Takes a guide exposure down. A power cut may lose the last minute of them, unless an event was told since. */
    void guided(GuideSample sample);

    /** All guide exposures so far, oldest first. */
    List<GuideSample> guiding();
}
