package app.ironside.solve;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.List;
import java.util.Optional;
import java.util.function.DoublePredicate;
import java.util.function.Predicate;

/** The stars of a frame by where they stand, for asking what is near a place without going through all of them. */
final class StarPlaces {
    private static final double CELL_PX = 16;

    private final int columns;
    private final int rows;
    private final List<Star> stars;

    /** Where the stars of a cell begin in {@link #byCell}, and one more: a cell's end is where the next begins. */
    private final int[] starts;

    /** Numbers of stars, cell by cell, in the order given. */
    private final int[] byCell;

    StarPlaces(StarField field) {
        this(field, field.stars());
    }

    /** Of some of a field's stars. */
    StarPlaces(StarField field, List<Star> some) {
        columns = (int) (field.width() / CELL_PX) + 2;
        rows = (int) (field.height() / CELL_PX) + 2;
        stars = some;
        int[] cells = new int[some.size()];
        starts = new int[columns * rows + 1];
        for (int i = 0; i < cells.length; i++) {
            Star star = some.get(i);
            cells[i] = within(star.y(), rows) * columns + within(star.x(), columns);
            starts[cells[i] + 1]++;
        }
        for (int cell = 0; cell < columns * rows; cell++) {
            starts[cell + 1] += starts[cell];
        }
        byCell = new int[cells.length];
        int[] next = starts.clone();
        for (int i = 0; i < cells.length; i++) {
            byCell[next[cells[i]]++] = i;
        }
    }

    private static int within(double at, int most) {
        return (int) Math.max(0, Math.min(most - 1, at / CELL_PX));
    }

    /** Shows the stars of all cells that a square about a place touches, until one is what was looked for. */
    private boolean any(double x, double y, double half, Predicate<Star> found) {
        int lastColumn = within(x + half, columns);
        int lastRow = within(y + half, rows);
        int firstColumn = within(x - half, columns);
        for (int row = within(y - half, rows); row <= lastRow; row++) {
            int until = starts[row * columns + lastColumn + 1];
            for (int k = starts[row * columns + firstColumn]; k < until; k++) {
                if (found.test(stars.get(byCell[k]))) {
                    return true;
                }
            }
        }
        return false;
    }

    /** Whether a star stands in the square about a place. */
    boolean anyWithin(double x, double y, double half) {
        return any(x, y, half, s -> Math.abs(s.x() - x) < half && Math.abs(s.y() - y) < half);
    }

    /** The brightest star within a circle about a place. */
    Optional<Star> brightest(double x, double y, double radius) {
        return best(x, y, radius, d -> d <= radius * radius, (star, best) -> star.fluxAdu() > best.fluxAdu());
    }

    /** The star next to a place, closer than a distance. */
    Optional<Star> nearest(double x, double y, double radius) {
        return best(x, y, radius, d -> d < radius * radius, (star, best) -> squared(star, x, y) < squared(best, x, y));
    }

    private static double squared(Star star, double x, double y) {
        double dx = star.x() - x;
        double dy = star.y() - y;
        return dx * dx + dy * dy;
    }

    /** Whether a star is better than the best one before it. */
    @FunctionalInterface
    private interface Better {
        boolean than(Star star, Star best);
    }

    private Optional<Star> best(double x, double y, double radius, DoublePredicate inReach, Better better) {
        Star[] best = new Star[1];
        any(x, y, radius, star -> {
            if (inReach.test(squared(star, x, y)) && (best[0] == null || better.than(star, best[0]))) {
                best[0] = star;
            }
            return false;
        });
        return Optional.ofNullable(best[0]);
    }
}
