package app.ironside.desk.picture;

import app.ironside.image.Frame;
import app.ironside.star.Star;
import java.util.List;

/**
 * A picture to look at.
 *
 * @param key tells two pictures apart without comparing pixels
 * @param stars to mark, may be empty
 */
public record Shown(String key, String caption, Frame frame, List<Star> stars) {
    /** More rings than these would hide the picture. */
    public static final int MARKED_STARS = 400;
}
