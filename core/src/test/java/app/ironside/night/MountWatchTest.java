package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.ironside.Examples;
import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.kit.Kit;
import app.ironside.point.GuardedMount;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A mount that follows its target through any wait is stopped where something touches. */
class MountWatchTest {
    private static final Kit KIT = Examples.kit("wren");
    private static final Observer OBSERVER = Observer.at(Examples.site());

    private boolean tracking = true;
    private final JumpingClock clock = new JumpingClock("2026-11-14T21:00:00Z");
    private final Mount mount = Mocks.device(Mount.class);
    private final List<String> told = new ArrayList<>();
    private final Equatorial target =
            new Equatorial((OBSERVER.siderealTimeDeg(Instant.parse("2026-11-14T21:00:00Z")) + 1) % 360, 30);
    private GuardedMount guarded;
    private WatchedClock watched;

    @BeforeEach
    void aMountThatTracks() {
        when(mount.pointing()).thenReturn(target);
        when(mount.pierSide()).thenReturn(Mount.PierSide.WEST);
        when(mount.isTracking()).thenAnswer(i -> tracking);
        org.mockito.Mockito.doAnswer(i -> tracking = false).when(mount).stop();
        guarded = new GuardedMount(mount, OBSERVER, KIT, clock);
        watched = new WatchedClock(clock, new MountWatch(guarded, told::add));
    }

    /** By hand: a degree east of the meridian, so that the limit comes after (1 + contact) / 15.041 hours; looked at every 10 s. */
    @Test
    void aLongWaitDoesNotTrackIntoTheLimit() throws InterruptedException {
        double contact = KIT.contactHourAngleDeg(30);
        Instant began = clock.now();
        while (tracking && clock.now().isBefore(began.plus(Duration.ofHours(5)))) {
            watched.await(Duration.ofMinutes(61));
        }
        verify(mount, times(1)).stop();
        assertThat(told)
                .singleElement()
                .asString()
                .startsWith("The mount no longer tracks: it has reached the contact limit");
        assertThat(contact).isPositive();
    }

    @Test
    void itStopsWithinTheStepOfTheWatch() throws InterruptedException {
        double contact = KIT.contactHourAngleDeg(30);
        double before = OBSERVER.hourAngleDeg(target, clock.now()); // a degree less what precession makes of it
        Instant began = clock.now();
        while (tracking) {
            watched.await(Duration.ofSeconds(3));
        }
        double hours = Duration.between(began, clock.now()).toSeconds() / 3600.0;
        assertThat(hours * 15.041).isCloseTo(contact - before, within(0.06));
    }

    @Test
    void aMountThatStandsOrLooksWestIsLeftAlone() throws InterruptedException {
        when(mount.pierSide()).thenReturn(Mount.PierSide.EAST);
        watched.await(Duration.ofHours(2));
        verify(mount, never()).stop();
        when(mount.pierSide()).thenReturn(Mount.PierSide.WEST);
        tracking = false;
        watched.await(Duration.ofHours(1));
        verify(mount, never()).stop();
        assertThat(told).isEmpty();
    }

    /** Where it cannot be stopped, a person is told, once and not every ten seconds. */
    @Test
    void aMountThatDoesNotStopIsToldOnce() throws InterruptedException {
        org.mockito.Mockito.doThrow(new DeviceException("mount", "it does not answer", "Check its cable."))
                .when(mount)
                .stop();
        watched.await(Duration.ofHours(1));
        assertThat(told)
                .singleElement()
                .asString()
                .contains("could not be stopped")
                .contains("stop it by hand");
    }

    /** A turn of one axis is a slew too: by hand, 30° west of a degree before the meridian is far beyond any contact. */
    @Test
    void aTurnOfTheAxisIsGuarded() {
        Assertions.assertThatThrownBy(() -> guarded.turnRightAscensionAxis(30))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("something touches");
        verify(mount, never()).turnRightAscensionAxis(30);
        guarded.turnRightAscensionAxis(-20);
        verify(mount).turnRightAscensionAxis(-20);
    }
}
