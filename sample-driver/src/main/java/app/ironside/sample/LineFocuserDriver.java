package app.ironside.sample;

import app.ironside.device.Device;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import java.util.Set;

/** Offers the line focuser to kits. */
public final class LineFocuserDriver implements DeviceDriver {
    @Override
    public String name() {
        return "Line focuser";
    }

    @Override
    public String about() {
        return "A home-made focuser that answers lines of text over the network; its address is host:port.";
    }

    @Override
    public Set<DeviceRole> roles() {
        return Set.of(DeviceRole.FOCUSER);
    }

    @Override
    public Device device(DeviceRole role, Setup setup) {
        String[] parts = setup.address().split(":");
        if (parts.length != 2 || parts[0].isBlank() || !parts[1].matches("\\d{1,5}")) {
            throw new DeviceException(
                    role.word(),
                    "\"" + setup.address() + "\" is no address",
                    "Write host:port at Site and kit, for example focuser.local:4030.");
        }
        return new LineFocuser(parts[0], Integer.parseInt(parts[1]));
    }
}
