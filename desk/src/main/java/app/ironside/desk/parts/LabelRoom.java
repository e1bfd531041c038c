package app.ironside.desk.parts;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Rectangle2D;

/** Which places of a drawing already hold a label, so that no two are written over each other. */
public final class LabelRoom {
    private static final double PX_A_LETTER = 7.6;
    private static final double LINE_PX = 15;

    private final List<Rectangle2D> taken = new ArrayList<>();

    /**
     * Takes the room of a label if it is free.
     *
     * @param x of its left end
     * @param y of its base line
     */
    public boolean take(String text, double x, double y) {
        Rectangle2D room = new Rectangle2D(x, y - LINE_PX, PX_A_LETTER * text.length(), LINE_PX + 2);
        if (taken.stream().anyMatch(room::intersects)) {
            return false;
        }
        taken.add(room);
        return true;
    }
}
