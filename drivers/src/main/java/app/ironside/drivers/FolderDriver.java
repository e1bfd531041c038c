package app.ironside.drivers;

import app.ironside.device.Device;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Set;

/** A folder that another program fills, as a camera: whatever takes pictures and writes FITS will do. */
public final class FolderDriver implements DeviceDriver {
    @Override
    public String name() {
        return "Folder";
    }

    @Override
    public String about() {
        return "Frames are taken by another program; each new FITS file in the folder that the address names is the next frame.";
    }

    @Override
    public boolean isByFolder() {
        return true;
    }

    @Override
    public Set<DeviceRole> roles() {
        return Set.of(DeviceRole.CAMERA, DeviceRole.GUIDE_CAMERA);
    }

    @Override
    public Device device(DeviceRole role, Setup setup) {
        if (setup.address().isBlank()) {
            throw new DeviceException(
                    role.word(), "no folder is named", "Give the folder as its address at Site and kit.");
        }
        try {
            return new FolderCamera(role.word(), Path.of(setup.address()));
        } catch (InvalidPathException e) {
            throw new DeviceException(
                    role.word(), "\"" + setup.address() + "\" names no folder", "Give another at Site and kit.");
        }
    }
}
