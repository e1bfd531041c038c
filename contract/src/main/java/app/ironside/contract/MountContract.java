package app.ironside.contract;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.sky.Equatorial;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** What is asked of a mount. */
public abstract class MountContract extends DeviceContract<Mount> {
    /** A place in the sky that is up, and to which it is safe to go. */
    protected abstract Equatorial place();

    /** Another, some 40° away. */
    protected abstract Equatorial otherPlace();

    @Override
    protected Object ask(Mount mount) {
        return mount.pointing();
    }

    @Test
    public void parkedItDoesNotMove() throws Exception {
        Mount mount = connected();
        mount.unpark();
        done(mount.park());
        assertThat(mount.isParked()).isTrue();
        assertThat(mount.isTracking()).isFalse();
        fails(() -> mount.slewTo(place(), Mount.PierSide.WEST));
    }

    @Test
    public void itGoesWhereItIsSentAndTracks() throws Exception {
        Mount mount = connected();
        mount.unpark();
        assertThat(mount.isParked()).isFalse();
        Mount.PierSide side = mount.arrivesOn(place(), Mount.PierSide.WEST);
        done(mount.slewTo(place(), Mount.PierSide.WEST));
        assertThat(mount.pointing().separationDeg(place())).isLessThan(0.1);
        assertThat(mount.pierSide()).isEqualTo(side);
        assertThat(mount.isTracking()).isTrue();
        clock().await(Duration.ofMillis(1500));
        assertThat(mount.pointing().separationDeg(place())).as("it follows").isLessThan(0.1);
    }

    @Test
    public void aSlewCanBeEndedAndLeavesItOnTheWay() throws Exception {
        Mount mount = connected();
        mount.unpark();
        done(mount.slewTo(place(), Mount.PierSide.WEST));
        double way = place().separationDeg(otherPlace());
        Operation slew = mount.slewTo(otherPlace(), Mount.PierSide.WEST);
        clock().await(Duration.ofSeconds(2));
        mount.stop();
        assertThat(slew.await(clock())).isEqualTo(Operation.State.ABORTED);
        assertThat(mount.isTracking()).isFalse();
        assertThat(mount.pointing().separationDeg(otherPlace())).isBetween(0.2, way);
    }

    @Test
    public void trackingIsSwitchedOnAndOff() throws Exception {
        Mount mount = connected();
        mount.unpark();
        done(mount.slewTo(place(), Mount.PierSide.WEST));
        mount.track(false);
        assertThat(mount.isTracking()).isFalse();
        mount.track(true);
        assertThat(mount.isTracking()).isTrue();
        mount.stop();
        assertThat(mount.isTracking()).isFalse();
    }

    @Test
    public void aTurnOfTheAxisWestTakesFromTheRightAscension() throws Exception {
        Mount mount = connected();
        mount.unpark();
        done(mount.slewTo(place(), Mount.PierSide.WEST));
        double before = mount.pointing().raDeg();
        done(mount.turnRightAscensionAxis(5));
        double turned = (before - mount.pointing().raDeg() + 540) % 360 - 180;
        assertThat(turned).isBetween(4.5, 5.5);
    }

    @Test
    public void toldTheTruthItBelievesIt() throws Exception {
        Mount mount = connected();
        mount.unpark();
        done(mount.slewTo(place(), Mount.PierSide.WEST));
        Equatorial truth = new Equatorial(place().raDeg(), place().decDeg() + 0.5);
        mount.sync(truth);
        assertThat(mount.pointing().separationDeg(truth)).isLessThan(0.02);
    }

    @Test
    public void guidePulsesAreTakenOrRefusedInWords() throws Exception {
        Mount mount = connected();
        mount.unpark();
        done(mount.slewTo(place(), Mount.PierSide.WEST));
        if (mount.abilities().pulses()) {
            done(mount.pulse(Mount.Direction.WEST, Duration.ofMillis(300)));
            done(mount.pulse(Mount.Direction.NORTH, Duration.ofMillis(300)));
        } else {
            fails(() -> mount.pulse(Mount.Direction.WEST, Duration.ofMillis(300)));
        }
    }

    @Test
    public void homeIsFoundOrRefusedInWords() throws Exception {
        Mount mount = connected();
        mount.unpark();
        if (mount.abilities().homes()) {
            done(mount.home());
            assertThat(mount.isTracking()).isFalse();
        } else {
            fails(mount::home);
        }
    }
}
