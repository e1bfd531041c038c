package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.ironside.Examples;
import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.device.Devices;
import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.device.Timed;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.Gate;
import app.ironside.kit.Kit;
import app.ironside.kit.PolarTolerance;
import app.ironside.plan.Program;
import app.ironside.plan.SetUp;
import app.ironside.point.Centering;
import app.ironside.point.GuardedMount;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.solve.PlateSolution;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;

/** The axis is measured where nothing touches, also when the stars of some exposures are too few to be recognised. */
class PolarStageTest {
    private static final Kit KIT = Examples.kit("wren");
    private static final Observer OBSERVER = Observer.at(Examples.site());

    private Equatorial pointing = new Equatorial(0, 62);
    private double furthestHourAngle = -180;
    private final List<Double> turns = new ArrayList<>();
    private final NightContext night = mock(NightContext.class);
    private final NightRecord record = mock(NightRecord.class);
    private final Centering centering = mock(Centering.class);
    private final Mount mount = Mocks.device(Mount.class);
    private final JumpingClock clock = new JumpingClock("2026-11-14T17:30:00Z");

    @BeforeEach
    void anEveningWithTheAxisAtThePoleOfJ2000() throws Exception {
        when(mount.pointing()).thenAnswer(i -> pointing);
        when(mount.pierSide()).thenReturn(Mount.PierSide.WEST);
        doAnswer(call -> go(call.getArgument(0))).when(mount).slewTo(any(), any());
        doAnswer(call -> {
                    double degrees = call.getArgument(0);
                    turns.add(degrees);
                    return go(new Equatorial(Angles.wrap360(pointing.raDeg() - degrees), pointing.decDeg()));
                })
                .when(mount)
                .turnRightAscensionAxis(anyDouble());
        Devices devices = new Devices(
                new GuardedMount(mount, OBSERVER, KIT, clock), null, null, null, null, null, null, null, null, null);
        when(night.devices()).thenReturn(devices);
        when(night.clock()).thenReturn(clock);
        when(night.observer()).thenReturn(OBSERVER);
        when(night.site()).thenReturn(Examples.site());
        when(night.kit()).thenReturn(KIT);
        when(night.record()).thenReturn(record);
        when(night.earlier()).thenReturn(Earlier.NONE);
        when(night.archive()).thenReturn(mock(FrameArchive.class));
        Program program = mock(Program.class);
        when(program.polarLimit(any())).thenCallRealMethod();
        when(program.polarNight()).thenReturn(new PolarTolerance.Night(1, 5, 1));
        when(program.setUp()).thenReturn(SetUp.USUAL);
        when(night.program()).thenReturn(program);
    }

    private Operation go(Equatorial place) {
        pointing = place;
        furthestHourAngle = Math.max(furthestHourAngle, OBSERVER.hourAngleDeg(place, clock.now()));
        return new Timed("mount", "the slew", clock, Duration.ofSeconds(15), () -> {});
    }

    /**
     * The second and the third field are recognised only at the third try. By hand: precession moves the pole by n = 20.04 arcseconds a
     * year (Lieske et al. 1977).
     */
    @Test
    void stepsAsideLeadAwayFromWhereSomethingTouches() throws Exception {
        int[] asked = {0};
        when(centering.glance(any(), any(), any())).thenAnswer(call -> {
            int look = asked[0]++;
            if (look == 1 || look == 2 || look == 4 || look == 5) {
                return Optional.empty();
            }
            PlateSolution solution = mock(PlateSolution.class);
            when(solution.centre()).thenReturn(pointing);
            when(solution.matchedStars()).thenReturn(40);
            Centering.Watcher watcher = call.getArgument(2);
            StarField stars = mock(StarField.class);
            when(stars.medianHalfFluxRadiusPx()).thenReturn(OptionalDouble.of(2));
            watcher.solved(new Frame(1, 1, new float[1], Header.EMPTY), stars, solution, 0);
            return Optional.of(solution);
        });

        new PolarStage(night, centering, new Conduct(new NightControl(), record, clock, night.inForce())).run();

        assertThat(turns).containsExactly(30.0, -5.0, -5.0, 40.0, -5.0, -5.0);
        assertThat(furthestHourAngle).isLessThan(KIT.contactHourAngleDeg(62) - 5);
        ArgumentCaptor<Gate> gate = ArgumentCaptor.forClass(Gate.class);
        verify(record).gate(gate.capture(), any());
        double years = Duration.between(Instant.parse("2000-01-01T12:00:00Z"), clock.now())
                        .toDays()
                / 365.25;
        assertThat(gate.getValue().measured().orElseThrow()).isCloseTo(20.04 / 60 * years, within(1.0));
    }
}
