package app.ironside.star;

import app.ironside.image.Frame;

/** Finds the stars of a frame. */
@FunctionalInterface
public interface StarSearch {
    /** The stars of a frame, brightest first; an empty list is a valid answer. The frame is not modified. */
    StarField find(Frame frame);
}
