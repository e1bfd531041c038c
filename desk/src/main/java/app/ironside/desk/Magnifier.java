package app.ironside.desk;

import app.ironside.desk.parts.Words;
import javafx.scene.layout.Region;
import javafx.scene.transform.Scale;

/**
 * How large everything is drawn, text and all, from 100 to 175 %. What is laid out has so much less room; it is never given less than the
 * smallest window that the desk works in, so that nothing is cut off.
 */
final class Magnifier {
    private static final int[] PERCENTS = {100, 110, 125, 150, 175};
    private static final double LEAST_WIDTH = 1024;
    private static final double LEAST_HEIGHT = 700;

    private final Scale scale = new Scale(1, 1, 0, 0);
    private int wanted;
    private double width;
    private double height;

    /**
     * @param magnified what is drawn larger
     * @param percent from the last time; 0 for what never told
     */
    Magnifier(Region magnified, int percent) {
        wanted = Math.max(PERCENTS[0], Math.min(PERCENTS[PERCENTS.length - 1], percent));
        magnified.getTransforms().add(scale);
    }

    int percent() {
        return wanted;
    }

    /** Takes the room there is; what is laid out in it has so many times less. */
    double take(double roomWidth, double roomHeight) {
        width = roomWidth;
        height = roomHeight;
        double factor = fitting(wanted, width, height);
        scale.setX(factor);
        scale.setY(factor);
        return factor;
    }

    /** The wanted size, or what the room allows of it; never less than 1. */
    static double fitting(int percent, double width, double height) {
        double most = Math.max(1, Math.min(width / LEAST_WIDTH, height / LEAST_HEIGHT));
        return Math.min(percent / 100.0, most);
    }

    /**
     * The next size.
     *
     * @param direction 1 larger, -1 smaller, 0 as it was made
     * @return what the size is now, in words
     */
    String step(int direction) {
        int at = 0;
        while (at < PERCENTS.length - 1 && PERCENTS[at] < wanted) {
            at++;
        }
        wanted = direction == 0 ? PERCENTS[0] : PERCENTS[Math.max(0, Math.min(PERCENTS.length - 1, at + direction))];
        double factor = fitting(wanted, width, height);
        return factor < wanted / 100.0 - 0.005
                ? Words.format(
                        "Text at %d %%; this window has room for %.0f %%. A larger window shows more.",
                        wanted, Math.floor(100 * factor))
                : "Text at " + wanted + " %.";
    }
}
