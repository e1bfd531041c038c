package app.ironside.device;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * All devices of one kit. What has no motor is moved by hands, behind the same port ({@link HandFocuser} and its like).
 *
 * @param guideCamera empty where nothing guides
 * @param rotator empty where the camera is turned by hand
 * @param weather empty where nothing tells of the air
 * @param power empty where nothing measures the current
 */
public record Devices(
        Mount mount,
        Camera camera,
        Optional<Camera> guideCamera,
        Focuser focuser,
        FilterWheel wheel,
        FlatPanel panel,
        Hands hands,
        Optional<Rotator> rotator,
        Optional<WeatherStation> weather,
        Optional<PowerBox> power) {
    /** The same with another mount, or with a guard before it. */
    public Devices withMount(Mount other) {
        return new Devices(other, camera, guideCamera, focuser, wheel, panel, hands, rotator, weather, power);
    }

    /** The same with another main camera, or with a watch over it. */
    public Devices withCamera(Camera other) {
        return new Devices(mount, other, guideCamera, focuser, wheel, panel, hands, rotator, weather, power);
    }

    /** The same with other hands. */
    public Devices withHands(Hands other) {
        return new Devices(mount, camera, guideCamera, focuser, wheel, panel, other, rotator, weather, power);
    }

    /** Every device that has a connection. */
    public List<Device> all() {
        return Stream.of(
                        Stream.of(mount, camera, focuser, wheel, panel),
                        guideCamera.stream(),
                        rotator.stream(),
                        weather.stream(),
                        power.stream())
                .flatMap(s -> s.map(Device.class::cast))
                .toList();
    }

    /** Those whose connection was lost. */
    public List<Device> lost() {
        return all().stream().filter(d -> d.link() == Device.Link.LOST).toList();
    }

    /**
     * Connects each that is not.
     *
     * @throws DeviceException naming the first that does not answer
     */
    public void connect() {
        all().forEach(Device::connect);
    }

    /** Closes every connection. */
    public void disconnect() {
        all().forEach(Device::disconnect);
    }
}
