package app.ironside.sim;

import app.ironside.device.Device;
import app.ironside.device.DeviceLost;
import java.util.function.BooleanSupplier;

/** A simulated device with a cable that can be pulled. */
abstract class SimDevice implements Device {
    private final String name;
    private BooleanSupplier outage = () -> false;
    private boolean pulled;
    private Link link = Link.CONNECTED;

    SimDevice(String name) {
        this.name = name;
    }

    @Override
    public final String name() {
        return name;
    }

    @Override
    public final Link link() {
        return link;
    }

    @Override
    public final void connect() {
        if (isOut()) {
            link = Link.LOST;
            throw new DeviceLost(name);
        }
        link = Link.CONNECTED;
    }

    @Override
    public final void disconnect() {
        link = Link.CLOSED;
    }

    /** From now on it is without power whenever this says so. */
    final void failWhen(BooleanSupplier out) {
        outage = out;
    }

    private boolean isOut() {
        return pulled || outage.getAsBoolean();
    }

    /** Pulls the cable or plugs it in; a connection that was lost has to be opened again. */
    final void pull(boolean out) {
        pulled = out;
    }

    /**
     * To be asked before anything is said or done.
     *
     * @throws DeviceLost if nobody is there
     */
    final void mustAnswer() {
        if (isOut() && link == Link.CONNECTED) {
            link = Link.LOST;
        }
        if (link != Link.CONNECTED) {
            throw new DeviceLost(name);
        }
    }
}
