package app.ironside.night;

import app.ironside.guide.GuideSample;
import app.ironside.image.Frame;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Stage;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** Someone who looks on while a night runs. Called on the night's thread: hand over quickly. */
public interface NightWatcher {
    /** Nobody looks on. */
    NightWatcher NONE = new NightWatcher() {};

    /** A frame came in. */
    default void frame(Stage stage, String caption, Frame frame, Optional<StarField> stars) {}

    /** An event was written. */
    default void event(NightEvent event) {}

    /** Something began that takes a while. */
    default void doing(Stage stage, String what, Instant since, Duration about) {}

    /** Something is to be done or looked at by hand; returns when that may be taken as done. This call and the next may wait. */
    default void confirm(String what) throws InterruptedException {}

    /** Something is to be looked at; returns, when it was, whether it is as it should be. */
    default boolean isSo(String what) throws InterruptedException {
        confirm(what);
        return true;
    }

    /** Something is wanted of a person, whose doing it is noticed by itself: nothing waits for a word. Empty if it is no longer wanted. */
    default void wanted(String what) {}

    /** A guide exposure was looked at. */
    default void guided(GuideSample sample) {}
}
