package app.ironside.device;

/** What hands move has no cable that could be lost. */
abstract class ByHand implements Device {
    @Override
    public final Link link() {
        return Link.CONNECTED;
    }

    @Override
    public final void connect() {
        // Hands are there.
    }

    @Override
    public final void disconnect() {
        // Hands are there.
    }

    /** Something asked of hands. */
    @FunctionalInterface
    interface Asked {
        void ask() throws InterruptedException;
    }

    /** Hands are waited for: what was asked is done when they say so. */
    final Operation by(String what, Asked asked) {
        try {
            asked.ask();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DeviceException(name(), what + " was broken off", "Go on with the night when you are ready.");
        }
        return Operation.done(name(), what);
    }
}
