package app.ironside.device;

import java.util.Arrays;
import java.util.Optional;

/** What a device is for in a kit. */
public enum DeviceRole {
    MOUNT("mount", Mount.class),
    CAMERA("camera", Camera.class),
    GUIDE_CAMERA("guide camera", Camera.class),
    FOCUSER("focuser", Focuser.class),
    FILTER_WHEEL("filter wheel", FilterWheel.class),
    FLAT_PANEL("flat panel", FlatPanel.class),
    ROTATOR("rotator", Rotator.class),
    WEATHER("weather station", WeatherStation.class),
    POWER("power box", PowerBox.class);

    private final String word;
    private final Class<? extends Device> port;

    DeviceRole(String word, Class<? extends Device> port) {
        this.word = word;
        this.port = port;
    }

    /** For people and files: "guide camera". */
    public String word() {
        return word;
    }

    /** What its driver implements. */
    public Class<? extends Device> port() {
        return port;
    }

    /** The role of a word; empty if it is none. */
    public static Optional<DeviceRole> named(String word) {
        return Arrays.stream(values()).filter(r -> r.word.equals(word)).findFirst();
    }
}
