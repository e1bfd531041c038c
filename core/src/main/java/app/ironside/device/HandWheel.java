package app.ironside.device;

import app.ironside.kit.FilterSpec;
import java.util.List;

/** Filters that a hand screws in; a single one stays where it is. */
public final class HandWheel extends ByHand implements FilterWheel {
    private final List<FilterSpec> filters;
    private final Hands hands;
    private int slot;

    public HandWheel(List<FilterSpec> filters, Hands hands) {
        this.filters = List.copyOf(filters);
        this.hands = hands;
    }

    @Override
    public int slot() {
        return slot;
    }

    @Override
    public Operation select(int wanted) {
        String what = "the change to filter " + filters.get(wanted).name();
        if (wanted == slot) {
            return Operation.done(name(), what);
        }
        Operation done = by(what, () -> hands.changeFilter(filters.get(wanted).name()));
        slot = wanted;
        return done;
    }
}
