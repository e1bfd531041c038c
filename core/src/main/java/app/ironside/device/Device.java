package app.ironside.device;

/** What every device has: a name, and a connection that can be lost. */
public interface Device {
    /** How the connection stands. */
    enum Link {
        CONNECTED,
        /** It stood and no longer does: a cable, a power cut, a driver that died. */
        LOST,
        /** Not opened, or closed. */
        CLOSED
    }

    /** In the words of the field: "mount". */
    String name();

    /** How the connection stands, as far as is known; does not wait for the device. */
    Link link();

    /**
     * Opens the connection, or opens it again; nothing if it stands.
     *
     * @throws DeviceException if the device does not answer
     */
    void connect();

    /** Closes the connection; the device stays as it is. Nothing if it is closed. */
    void disconnect();
}
