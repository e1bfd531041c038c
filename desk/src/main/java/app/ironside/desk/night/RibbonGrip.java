package app.ironside.desk.night;

import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/** What the pointer does to a ribbon: picks events, goes through time, or takes hold of the blocks of a plan. */
final class RibbonGrip {
    /** So far a pointer may stray in a click. */
    private static final double CLICK_PX = 5;

    private final Ribbon ribbon;
    private double pressedX;
    private boolean dragging;
    private Optional<Held> held = Optional.empty();

    /**
     * A block that is being dragged.
     *
     * @param edge −1 the start, 1 the end, 0 the whole block
     */
    private record Held(RibbonPlanner planner, int block, int edge, double fromX, Interval span) {
        /** Where its block would lie, in whole minutes. */
        Interval at(RibbonPlaces places, double x) {
            Duration by = Duration.between(places.timeAt(fromX), places.timeAt(x));
            Duration shift = Duration.ofMinutes(Math.round(by.toSeconds() / 60.0));
            Instant from = edge <= 0 ? span.from().plus(shift) : span.from();
            Instant until = edge >= 0 ? span.until().plus(shift) : span.until();
            return from.isBefore(until) ? new Interval(from, until) : span;
        }
    }

    RibbonGrip(Ribbon ribbon) {
        this.ribbon = ribbon;
    }

    private boolean isEmpty() {
        return ribbon.lookProperty().get().state().isEmpty();
    }

    private Optional<RibbonPlanner> planner() {
        return ribbon.lookProperty().get().planner();
    }

    void pressed(MouseEvent e) {
        pressedX = e.getX();
        dragging = false;
        held = Optional.empty();
        if (isEmpty()) {
            return;
        }
        planner().ifPresent(planner -> {
            RibbonPlaces places = ribbon.places();
            int block = places.blockAt(e.getX(), e.getY());
            planner.choose(block);
            if (block < 0) {
                return;
            }
            if (e.getClickCount() == 2) {
                planner.split(block, places.timeAt(e.getX()));
            } else if (e.getButton() == MouseButton.SECONDARY) {
                planner.remove(block);
            } else {
                Interval span = places.state().curves().get(block).block();
                held = Optional.of(new Held(planner, block, places.edgeAt(block, e.getX()), e.getX(), span));
            }
        });
    }

    void dragged(MouseEvent e) {
        if (isEmpty()) {
            return;
        }
        dragging |= held.isPresent() || Math.abs(e.getX() - pressedX) > CLICK_PX;
        if (!dragging) {
            return;
        }
        RibbonPlaces places = ribbon.places();
        held.ifPresentOrElse(
                h -> h.planner().preview(h.block(), h.at(places, e.getX())),
                () -> ribbon.goTo(places.timeAt(e.getX())));
    }

    void released(MouseEvent e) {
        if (isEmpty()) {
            return;
        }
        RibbonPlaces places = ribbon.places();
        if (held.isPresent()) {
            Held h = held.get();
            held = Optional.empty();
            if (dragging) {
                h.planner().settle(h.block(), h.at(places, e.getX()));
            }
            return;
        }
        boolean onPlan = planner().isPresent() && places.blockAt(e.getX(), e.getY()) >= 0;
        if (!onPlan && !dragging) {
            places.eventNear(ribbon.lookProperty().get().events(), e.getX(), e.getY())
                    .ifPresentOrElse(ribbon::pick, () -> ribbon.goTo(places.timeAt(e.getX())));
        }
    }
}
