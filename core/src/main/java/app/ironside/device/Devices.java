package app.ironside.device;

import java.util.Optional;

/**
 * All devices of one kit.
 *
 * @param power empty where nothing measures the current
 */
public record Devices(
        Mount mount,
        Camera camera,
        Camera guideCamera,
        Focuser focuser,
        FilterWheel wheel,
        FlatPanel panel,
        Hands hands,
        Optional<PowerBox> power) {
    /** The same with another mount, or with a guard before it. */
    public Devices withMount(Mount other) {
        return new Devices(other, camera, guideCamera, focuser, wheel, panel, hands, power);
    }
}
