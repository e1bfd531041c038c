package app.ironside.sim;

import app.ironside.device.Device;
import app.ironside.device.DeviceLost;

/** A simulated device with a cable that can be pulled. */
abstract class SimDevice implements Device {
    private final String name;
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
        if (pulled) {
            link = Link.LOST;
            throw new DeviceLost(name);
        }
        link = Link.CONNECTED;
    }

    @Override
    public final void disconnect() {
        link = Link.CLOSED;
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
        if (pulled && link == Link.CONNECTED) {
            link = Link.LOST;
        }
        if (link != Link.CONNECTED) {
            throw new DeviceLost(name);
        }
    }
}
