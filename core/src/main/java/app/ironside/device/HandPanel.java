package app.ironside.device;

/** An even light that a hand holds before the telescope: a tracing pad, a screen, the morning sky through a cloth. */
public final class HandPanel extends ByHand implements FlatPanel {
    private enum Before {
        NOTHING,
        CAP,
        LIGHT
    }

    private final Hands hands;
    private Before before = Before.NOTHING;

    public HandPanel(Hands hands) {
        this.hands = hands;
    }

    @Override
    public Operation light(double brightness) {
        // A hand cannot dim what it holds: the exposure alone makes the level.
        return before(
                Before.LIGHT, "flat panel: hold the even light before the telescope and leave its brightness as it is");
    }

    @Override
    public Operation cover() {
        return before(Before.CAP, "cap: put it on, and a cloth over it");
    }

    @Override
    public Operation open() {
        return before(Before.NOTHING, "cap: take it off");
    }

    private Operation before(Before wanted, String what) {
        if (before == wanted) {
            return Operation.done(name(), what);
        }
        Operation done = by(what, () -> hands.confirm(what));
        before = wanted;
        return done;
    }
}
