package app.ironside.journal;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * A night at any moment: the state after each of its events, so that going back to one costs a search. Events that are told late, as of
 * subs that are found after a stop, stand where they happened. Not thread-safe.
 */
public final class NightHistory {
    private final List<NightEvent> events = new ArrayList<>();
    private final List<NightState> states = new ArrayList<>();

    /** Takes an event in where it belongs by its time. */
    public void add(NightEvent event) {
        int place = after(event.time());
        events.add(place, event);
        NightState state = place == 0 ? NightState.EMPTY : states.get(place - 1);
        for (int i = place; i < events.size(); i++) {
            state = state.with(events.get(i));
            if (i < states.size()) {
                states.set(i, state);
            } else {
                states.add(state);
            }
        }
    }

    /** The state at a moment, what happens in it included. */
    public NightState at(Instant time) {
        int count = after(time);
        return count == 0 ? NightState.EMPTY : states.get(count - 1);
    }

    /** The state now. */
    public NightState last() {
        return states.isEmpty() ? NightState.EMPTY : states.get(states.size() - 1);
    }

    public void clear() {
        events.clear();
        states.clear();
    }

    /** How many events lie at or before a time. */
    private int after(Instant time) {
        int low = 0;
        int high = events.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (events.get(middle).time().isAfter(time)) {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        return low;
    }
}
