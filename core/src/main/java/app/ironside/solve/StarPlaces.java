package app.ironside.solve;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The stars of a frame by where they stand, for asking what is near a place without going through all of them. */
final class StarPlaces {
    private static final double CELL_PX = 16;

    private final int columns;
    private final int rows;
    private final List<List<Star>> cells = new ArrayList<>();

    StarPlaces(StarField field) {
        columns = (int) (field.width() / CELL_PX) + 2;
        rows = (int) (field.height() / CELL_PX) + 2;
        for (int i = 0; i < columns * rows; i++) {
            cells.add(List.of());
        }
        for (Star star : field.stars()) {
            int cell = within(star.y(), rows) * columns + within(star.x(), columns);
            List<Star> more = new ArrayList<>(cells.get(cell));
            more.add(star);
            cells.set(cell, more);
        }
    }

    private static int within(double at, int most) {
        return (int) Math.max(0, Math.min(most - 1, at / CELL_PX));
    }

    /** Whether a star stands in the square about a place. */
    boolean anyWithin(double x, double y, double half) {
        for (int row = within(y - half, rows); row <= within(y + half, rows); row++) {
            for (int column = within(x - half, columns); column <= within(x + half, columns); column++) {
                for (Star star : cells.get(row * columns + column)) {
                    if (Math.abs(star.x() - x) < half && Math.abs(star.y() - y) < half) {
                        return true;
                    }
                }
            }
        }
        return false;
    }

    /** The brightest star within a circle about a place. */
    Optional<Star> brightest(double x, double y, double radius) {
        Star best = null;
        for (int row = within(y - radius, rows); row <= within(y + radius, rows); row++) {
            for (int column = within(x - radius, columns); column <= within(x + radius, columns); column++) {
                for (Star star : cells.get(row * columns + column)) {
                    double dx = star.x() - x;
                    double dy = star.y() - y;
                    if (dx * dx + dy * dy <= radius * radius && (best == null || star.fluxAdu() > best.fluxAdu())) {
                        best = star;
                    }
                }
            }
        }
        return Optional.ofNullable(best);
    }
}
