package app.ironside.desk.night;

import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Where the parts of a ribbon lie at a size, in pixels from its upper left corner. Pure. */
record RibbonPlaces(RibbonState state, double width, double height, boolean planning) {
    static final double AXIS = 20;
    static final double TICKS = 16;
    static final double PLANNED = 36;
    static final double SIGNS = 18;

    private static final double HANDLE = 14;
    private static final double NEAR_PX = 9;

    double xOf(Instant time) {
        return Ribbon.MARGIN + state.along(time) * (width - 2 * Ribbon.MARGIN);
    }

    Instant timeAt(double x) {
        return state.at((x - Ribbon.MARGIN) / (width - 2 * Ribbon.MARGIN));
    }

    /** Upper edge of the band of blocks or subs. */
    double ticksTop() {
        return height - AXIS - SIGNS - TICKS - 4;
    }

    /** Lower edge of the sky. */
    double sky() {
        return ticksTop() - 4;
    }

    double y(double altitudeDeg) {
        return sky() - Math.max(0, altitudeDeg) / 90 * (sky() - 6);
    }

    /** The block of the plan under a point; −1 for none. */
    int blockAt(double x, double y) {
        if (y < ticksTop() - 2 || y > ticksTop() + (planning ? PLANNED : TICKS) + 4) {
            return -1;
        }
        for (int i = 0; i < state.curves().size(); i++) {
            Interval span = state.curves().get(i).block();
            if (x >= xOf(span.from()) - 3 && x <= xOf(span.until()) + 3) {
                return i;
            }
        }
        return -1;
    }

    /** Which part of a block a point takes hold of: −1 its start, 1 its end, 0 the whole. */
    int edgeAt(int block, double x) {
        Interval span = state.curves().get(block).block();
        return x - xOf(span.from()) < HANDLE ? -1 : xOf(span.until()) - x < HANDLE ? 1 : 0;
    }

    /** The event whose sign or tick is under a point. */
    Optional<NightEvent> eventNear(List<NightEvent> events, double x, double y) {
        boolean onTicks = y > ticksTop() && y < ticksTop() + TICKS + 2;
        boolean onSigns = y >= ticksTop() + TICKS + 2 && y < ticksTop() + TICKS + SIGNS + 6;
        if (!onTicks && !onSigns) {
            return Optional.empty();
        }
        return events.stream()
                .filter(e -> onTicks ? e instanceof SubTaken : e.marked())
                .filter(e -> Math.abs(xOf(e.time()) - x) < NEAR_PX)
                .min(Comparator.comparingDouble(e -> Math.abs(xOf(e.time()) - x)));
    }
}
