package app.ironside.colour;

import app.ironside.image.Frame;
import java.util.List;

/**
 * Red, green and blue on one scale, the sky at one level.
 *
 * @param channels how each stack was levelled
 * @param reference the channel whose scale counts
 */
public record ColourPicture(Frame red, Frame green, Frame blue, List<Channel> channels, String reference) {
    /**
     * A stack's part.
     *
     * @param name "red", "green", "blue", "luminance" or "added 1" and so on
     * @param scale by which its values were multiplied
     * @param offset that was added then, ADU of the reference
     * @param stars in common with the reference, by which the scale is known; 0 where the noise told it
     */
    public record Channel(String name, String file, double scale, double offset, int stars) {}

    public ColourPicture {
        channels = List.copyOf(channels);
    }

    public List<Frame> planes() {
        return List.of(red, green, blue);
    }
}
