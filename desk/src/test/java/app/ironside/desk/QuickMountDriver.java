package app.ironside.desk;

import app.ironside.device.Device;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceRole;
import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import java.time.Instant;
import java.util.EnumSet;
import java.util.Set;
import org.mockito.Mockito;

/** A mount with a driver, for tests: it is at once where it is sent. */
public final class QuickMountDriver implements DeviceDriver {
    static final String NAME = "Quick mount";

    /** How often one was connected and let go. */
    static int connected;

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public String about() {
        return "A mount of the tests.";
    }

    @Override
    public Set<DeviceRole> roles() {
        return EnumSet.of(DeviceRole.MOUNT);
    }

    @Override
    public Device device(DeviceRole role, Setup setup) {
        Observer observer = Observer.at(setup.site());
        double[] place = {-90, 60};
        Mount.PierSide[] side = {Mount.PierSide.WEST};
        Mount mount = Mockito.mock(Mount.class);
        Mockito.when(mount.name()).thenReturn("mount");
        Mockito.doAnswer(call -> connected++).when(mount).connect();
        Mockito.doAnswer(call -> connected--).when(mount).disconnect();
        Mockito.when(mount.pierSide()).thenAnswer(call -> side[0]);
        Mockito.when(mount.arrivesOn(Mockito.any(), Mockito.any())).thenAnswer(call -> call.getArgument(1));
        Mockito.when(mount.pointing())
                .thenAnswer(call -> new Equatorial(
                        Angles.wrap360(observer.siderealTimeDeg(setup.clock().now()) - place[0]), place[1]));
        Mockito.when(mount.slewTo(Mockito.any(), Mockito.any())).thenAnswer(call -> {
            Equatorial target = call.getArgument(0);
            Instant now = setup.clock().now();
            place[0] = observer.hourAngleDeg(target, now);
            place[1] = target.decDeg();
            side[0] = call.getArgument(1);
            return Operation.done("mount", "the slew");
        });
        return mount;
    }
}
