package app.ironside.desk.night;

import app.ironside.journal.NightEvent;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.scene.control.Control;
import javafx.scene.control.Skin;

/**
 * The night from before sunset to after sunrise: what is planned, what happened, where we are. Click an event, drag through time, or move
 * the blocks of a plan. How it is drawn and how the pointer takes hold of it is its {@link RibbonSkin}'s affair.
 */
public final class Ribbon extends Control {
    /** Empty at both ends of the axis of time; what lies below on the same axis keeps it too. */
    static final double MARGIN = 16;

    private final ReadOnlyObjectWrapper<Look> look = new ReadOnlyObjectWrapper<>(this, "look", Look.EMPTY);
    private Consumer<NightEvent> onEvent = e -> {};
    private Consumer<Instant> onTime = t -> {};

    /**
     * What there is to be seen.
     *
     * @param state empty before there is a night
     * @param events all there are, also those after the moment
     * @param planner while the night is planned: its blocks can be moved then
     */
    record Look(
            Optional<RibbonState> state,
            Optional<Moment> moment,
            List<NightEvent> events,
            Optional<NightEvent> chosen,
            Optional<RibbonPlanner> planner) {
        static final Look EMPTY =
                new Look(Optional.empty(), Optional.empty(), List.of(), Optional.empty(), Optional.empty());
    }

    public Ribbon() {
        getStyleClass().add("ribbon");
        setFocusTraversable(false);
        setPrefHeight(168);
        setMinHeight(136);
    }

    @Override
    protected Skin<?> createDefaultSkin() {
        return new RibbonSkin(this);
    }

    ReadOnlyObjectProperty<Look> lookProperty() {
        return look.getReadOnlyProperty();
    }

    public void setOnEvent(Consumer<NightEvent> handler) {
        onEvent = handler;
    }

    public void setOnTime(Consumer<Instant> handler) {
        onTime = handler;
    }

    void pick(NightEvent event) {
        onEvent.accept(event);
    }

    void goTo(Instant time) {
        onTime.accept(time);
    }

    /** While a night is planned the blocks can be moved; otherwise a drag goes through time. */
    public void setPlanner(Optional<RibbonPlanner> next) {
        Look l = look.get();
        look.set(new Look(l.state(), l.moment(), l.events(), l.chosen(), next));
    }

    public void show(RibbonState ribbon, Moment now, List<NightEvent> everything, Optional<NightEvent> picked) {
        look.set(new Look(
                Optional.of(ribbon),
                Optional.of(now),
                everything,
                picked,
                look.get().planner()));
    }

    /** Where things lie at the present size; there must be a night. */
    RibbonPlaces places() {
        Look l = look.get();
        return new RibbonPlaces(
                l.state().orElseThrow(), getWidth(), getHeight(), l.planner().isPresent());
    }

    public double xOf(Instant time) {
        return places().xOf(time);
    }

    public double ticksTop() {
        return places().ticksTop();
    }
}
