package app.ironside.solve;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.List;
import java.util.Optional;

/** The stars of a frame by where they stand, for asking what is near a place without going through all of them. */
final class StarPlaces {
    private static final double CELL_PX = 16;

    private final int columns;
    private final int rows;

    /** Where the stars of a cell begin in what follows, and one more: a cell's end is where the next begins. */
    private final int[] starts;

    /** The stars, cell by cell, and in a cell in the order given. */
    private final Star[] byCell;

    /** Their places and fluxes: hardly any star that is looked at is looked at closer. */
    private final double[] xs;

    private final double[] ys;
    private final double[] fluxes;

    StarPlaces(StarField field) {
        this(field, field.stars());
    }

    /** Of some of a field's stars. */
    StarPlaces(StarField field, List<Star> some) {
        columns = (int) (field.width() / CELL_PX) + 2;
        rows = (int) (field.height() / CELL_PX) + 2;
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
        byCell = new Star[cells.length];
        xs = new double[cells.length];
        ys = new double[cells.length];
        fluxes = new double[cells.length];
        int[] next = starts.clone();
        for (int i = 0; i < cells.length; i++) {
            Star star = some.get(i);
            int at = next[cells[i]]++;
            byCell[at] = star;
            xs[at] = star.x();
            ys[at] = star.y();
            fluxes[at] = star.fluxAdu();
        }
    }

    private static int within(double at, int most) {
        return (int) Math.max(0, Math.min(most - 1, at / CELL_PX));
    }

    /** Whether a star stands in the square about a place. */
    boolean anyWithin(double x, double y, double half) {
        int firstColumn = within(x - half, columns);
        int lastColumn = within(x + half, columns);
        int lastRow = within(y + half, rows);
        for (int row = within(y - half, rows); row <= lastRow; row++) {
            int until = starts[row * columns + lastColumn + 1];
            for (int k = starts[row * columns + firstColumn]; k < until; k++) {
                if (Math.abs(xs[k] - x) < half && Math.abs(ys[k] - y) < half) {
                    return true;
                }
            }
        }
        return false;
    }

    /** The brightest star within a circle about a place. */
    Optional<Star> brightest(double x, double y, double radius) {
        return best(x, y, radius, true);
    }

    /** The star next to a place, within a distance. */
    Optional<Star> nearest(double x, double y, double radius) {
        return best(x, y, radius, false);
    }

    private Optional<Star> best(double x, double y, double radius, boolean brightest) {
        int firstColumn = within(x - radius, columns);
        int lastColumn = within(x + radius, columns);
        int lastRow = within(y + radius, rows);
        int best = -1;
        double bestWorth = Double.NEGATIVE_INFINITY;
        for (int row = within(y - radius, rows); row <= lastRow; row++) {
            int until = starts[row * columns + lastColumn + 1];
            for (int k = starts[row * columns + firstColumn]; k < until; k++) {
                double dx = xs[k] - x;
                double dy = ys[k] - y;
                double squared = dx * dx + dy * dy;
                double worth = brightest ? fluxes[k] : -squared;
                if (squared <= radius * radius && worth > bestWorth) {
                    best = k;
                    bestWorth = worth;
                }
            }
        }
        return best < 0 ? Optional.empty() : Optional.of(byCell[best]);
    }
}
