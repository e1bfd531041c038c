package app.ironside.drivers;

import app.ironside.device.Camera.Exposure;
import app.ironside.device.Device;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import app.ironside.device.Hands;
import app.ironside.kit.Kit;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/** A folder that another program fills, as a camera: whatever takes pictures and writes FITS or 16-bit TIFF will do. */
public class FolderDriver implements DeviceDriver {
    /** The same folder, with a person or a remote shutter to take each frame as it is asked for. */
    public static final class Asked extends FolderDriver {
        @Override
        public String name() {
            return "Folder, shutter by hand";
        }

        @Override
        public String about() {
            return "You are told which exposure is wanted; the new FITS or 16-bit TIFF file in the folder that the address names is the"
                    + " answer.";
        }

        @Override
        FolderCamera.Shutter shutter(Hands hands) {
            return new FolderCamera.Shutter() {
                @Override
                public void wanted(Exposure exposure) {
                    hands.expose(exposure);
                }

                @Override
                public void over() {
                    hands.exposed();
                }
            };
        }
    }

    @Override
    public String name() {
        return "Folder";
    }

    @Override
    public String about() {
        return "Frames are taken by another program; each new FITS or 16-bit TIFF file in the folder that the address names is the next"
                + " frame.";
    }

    @Override
    public boolean isByFolder() {
        return true;
    }

    @Override
    public Set<DeviceRole> roles() {
        return Set.of(DeviceRole.CAMERA, DeviceRole.GUIDE_CAMERA);
    }

    FolderCamera.Shutter shutter(Hands hands) {
        return FolderCamera.Shutter.BY_ITSELF;
    }

    @Override
    public Device device(DeviceRole role, Setup setup) {
        if (setup.address().isBlank()) {
            throw new DeviceException(
                    role.word(), "no folder is named", "Give the folder as its address at Site and kit.");
        }
        try {
            return new FolderCamera(
                    role.word(),
                    Path.of(setup.address()),
                    say -> setup.trial()
                            ? Incoming.ofTrial(say)
                            : new Incoming(Optional.ofNullable(setup.kit()).flatMap(kit -> size(kit, role)), say),
                    setup.clock(),
                    shutter(setup.hands()));
        } catch (InvalidPathException e) {
            throw new DeviceException(
                    role.word(), "\"" + setup.address() + "\" names no folder", "Give another at Site and kit.");
        }
    }

    private static Optional<Incoming.Size> size(Kit kit, DeviceRole role) {
        return role == DeviceRole.CAMERA
                ? Optional.of(
                        new Incoming.Size(kit.sensor().widthPx(), kit.sensor().heightPx()))
                : kit.guideOptics().map(g -> new Incoming.Size(g.widthPx(), g.heightPx()));
    }
}
