package app.ironside.sky;

import java.util.function.IntConsumer;

/**
 * The sky in cells of about one degree: rings of declination, each cut into as many cells as its circle is long. A circle on the sky
 * meets few of them, so that only the stars near it are looked at.
 */
final class SkyCells {
    private static final int RINGS = 180;
    private static final double RING_DEG = 180.0 / RINGS;

    /** Rounding must not leave out a cell that the circle just touches. */
    private static final double SLACK_DEG = 1e-6;

    /** First cell of each ring, and one more. */
    private final int[] ringStart = new int[RINGS + 1];

    /** First place in {@link #members} of each cell, and one more. */
    private final int[] cellStart;

    private final int[] members;

    SkyCells(double[] raDeg, double[] decDeg) {
        for (int ring = 0; ring < RINGS; ring++) {
            double middle = -90 + (ring + 0.5) * RING_DEG;
            ringStart[ring + 1] = ringStart[ring] + Math.max(1, (int) (360 * Angles.cosDeg(middle) / RING_DEG));
        }
        int[] cellOf = new int[raDeg.length];
        cellStart = new int[ringStart[RINGS] + 1];
        for (int i = 0; i < cellOf.length; i++) {
            int ring = ringOf(decDeg[i]);
            cellOf[i] = ringStart[ring] + columnOf(ring, raDeg[i]);
            cellStart[cellOf[i] + 1]++;
        }
        for (int cell = 0; cell + 1 < cellStart.length; cell++) {
            cellStart[cell + 1] += cellStart[cell];
        }
        int[] next = cellStart.clone();
        members = new int[cellOf.length];
        for (int i = 0; i < cellOf.length; i++) {
            members[next[cellOf[i]]++] = i;
        }
    }

    private static int ringOf(double decDeg) {
        return Math.max(0, Math.min(RINGS - 1, (int) Math.floor((decDeg + 90) / RING_DEG)));
    }

    private int columnOf(int ring, double raDeg) {
        int columns = ringStart[ring + 1] - ringStart[ring];
        return Math.min(columns - 1, (int) (Angles.wrap360(raDeg) / 360 * columns));
    }

    /** Hands every star in a cell that the circle may touch to {@code each}; the caller measures the distance. */
    void near(double raDeg, double decDeg, double radiusDeg, IntConsumer each) {
        double radius = radiusDeg + SLACK_DEG;
        double cosDec = Angles.cosDeg(decDeg);
        // Widest in right ascension is the circle where its tangent runs through the pole: sin Δα = sin r / cos δ.
        boolean allAround = Math.abs(decDeg) + radius >= 90;
        double half = allAround ? 180 : Math.toDegrees(Math.asin(Math.min(1, Angles.sinDeg(radius) / cosDec)));
        for (int ring = ringOf(decDeg - radius); ring <= ringOf(decDeg + radius); ring++) {
            int columns = ringStart[ring + 1] - ringStart[ring];
            if (2 * half >= 360 - 360.0 / columns) {
                visit(ringStart[ring], ringStart[ring + 1], each);
                continue;
            }
            int from = columnOf(ring, raDeg - half - SLACK_DEG);
            int to = columnOf(ring, raDeg + half + SLACK_DEG);
            if (from <= to) {
                visit(ringStart[ring] + from, ringStart[ring] + to + 1, each);
            } else {
                visit(ringStart[ring], ringStart[ring] + to + 1, each);
                visit(ringStart[ring] + from, ringStart[ring + 1], each);
            }
        }
    }

    private void visit(int fromCell, int untilCell, IntConsumer each) {
        for (int i = cellStart[fromCell]; i < cellStart[untilCell]; i++) {
            each.accept(members[i]);
        }
    }
}
