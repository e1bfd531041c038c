package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.device.Mount;
import app.ironside.device.Mount.PierSide;
import app.ironside.kit.Equipment.ContactLimit;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.point.ContactWalk;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.SunAndMoon;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** By day beside a mount: a pier that stands in the way at angles that only this test knows. */
class ContactWalkTest {
    /** Mid-afternoon of a day in November. */
    private static final Instant AFTERNOON = Instant.parse("2026-11-14T14:00:00Z");

    private static final Observer OBSERVER = Observer.at(TestNight.SITE);

    private final SteppedClock clock = new SteppedClock(AFTERNOON);
    private final List<ContactWalk.Place> stood = new ArrayList<>();
    private Kit kit;
    private Mount mount;

    @BeforeEach
    void aMount() throws Exception {
        kit = KitFile.parse(Files.readString(Path.of("..", "examples", "kits", "wren.json")), "wren.json");
        mount = new SimulatedObservatory(
                        TestNight.SITE, kit, SimSettings.DEFAULT, TestNight.SKY, clock, AFTERNOON, Workers.ALL_CORES)
                .devices()
                .mount();
    }

    private List<ContactWalk.Found> walk(List<Double> declinations, double west, double east)
            throws InterruptedException {
        return new ContactWalk(mount, OBSERVER, kit, clock)
                .run(
                        declinations,
                        place -> {
                            assertThat(mount.isTracking()).isFalse();
                            assertThat(mount.pierSide()).isEqualTo(place.side());
                            stood.add(place);
                            return place.side() == PierSide.WEST
                                    ? place.hourAngleDeg() < west
                                    : place.hourAngleDeg() > east;
                        },
                        Progress.NONE);
    }

    @Test
    void whereItTouchesIsFoundToADegree() throws Exception {
        for (double[] truth : new double[][] {{12.4, -3.3}, {-7.6, 8.2}, {33.5, -21.5}, {0.5, 0.5}}) {
            stood.clear();
            ContactLimit limit =
                    walk(List.of(35.0), truth[0], truth[1]).get(0).limit().orElseThrow();
            assertThat(limit.beforeFlipDeg()).isBetween(truth[0] - 1 - ContactWalk.MARGIN_DEG, truth[0]);
            assertThat(limit.afterFlipDeg()).isBetween(truth[1], truth[1] + 1 + ContactWalk.MARGIN_DEG);
            // Beyond what touches it is never more than one piece, and a piece past the meridian is a small one.
            assertThat(stood)
                    .filteredOn(p -> p.side() == PierSide.WEST)
                    .allMatch(p -> p.hourAngleDeg() <= Math.max(0, truth[0] + 5) + 1e-6);
            assertThat(stood).as("few questions").hasSizeLessThan(32);
        }
    }

    @Test
    void whatNeverTouchesIsFreeToTheEndOfTheWalk() throws Exception {
        ContactWalk.Found found = walk(List.of(62.0), 90, -90).get(0);
        assertThat(found.limit()).hasValue(new ContactLimit(62, 60, -60));
        assertThat(found.text()).contains("(nothing touched)");
        assertThat(mount.isTracking()).isFalse();
    }

    /** By day the Sun stands somewhere near the meridian: what lies behind it is not walked, and nothing is claimed of it. */
    @Test
    void theSunIsNotWalkedInto() throws Exception {
        Equatorial sun = OBSERVER.catalogue(new SunAndMoon(OBSERVER).sun(AFTERNOON), AFTERNOON);
        double declination = Math.rint(sun.decDeg());
        ContactWalk.Found found = walk(List.of(declination), 90, -90).get(0);
        assertThat(found.limit()).isEmpty();
        assertThat(found.text()).contains("from the Sun");
        assertThat(stood).allSatisfy(p -> {
            double sunHourAngle = OBSERVER.hourAngleDeg(sun, clock.now());
            assertThat(Math.abs(p.hourAngleDeg() - sunHourAngle)).isGreaterThan(15);
        });
    }

    /** sin h = sin 44.05° sin d + cos 44.05° cos d cos t: at -25° the walk ends before 55°, at -45° nothing ever stands above 5°. */
    @Test
    void nobodyFollowsBelowTheHorizon() throws Exception {
        clock.await(Duration.ofHours(5)); // the Sun is down
        ContactLimit limit = walk(List.of(-25.0), 90, -90).get(0).limit().orElseThrow();
        assertThat(limit.beforeFlipDeg()).isBetween(45.0, 55.0);
        assertThat(limit.afterFlipDeg()).isBetween(-55.0, -45.0);
        stood.clear();
        ContactWalk.Found never = walk(List.of(-45.0), 90, -90).get(0);
        assertThat(never.limit()).isEmpty();
        assertThat(never.text()).contains("it was not walked: there it stands under 5°");
        assertThat(stood).isEmpty();
    }

    @Test
    void whatTouchesAtOnceIsTold() throws Exception {
        ContactWalk.Found found = walk(List.of(40.0), -80, -20).get(0);
        assertThat(found.limit()).isEmpty();
        assertThat(found.text()).contains("touches already 30° from the meridian");
    }

    /** The mount stands still however the walk ends. */
    @Test
    void aStopLeavesItStanding() throws Exception {
        assertThatThrownBy(() -> new ContactWalk(mount, OBSERVER, kit, clock)
                        .run(List.of(35.0), place -> true, (what, done) -> !what.contains("past the meridian")))
                .isInstanceOf(CancellationException.class);
        assertThat(mount.isTracking()).isFalse();
        Equatorial here = mount.pointing();
        clock.await(Duration.ofMinutes(4));
        // It stands on the ground, so that the sky goes by: a degree in four minutes.
        assertThat(mount.pointing().separationDeg(here))
                .isCloseTo(Math.cos(Math.toRadians(here.decDeg())), within(0.05));
    }

    @Test
    void measuredLimitsTakeTheirPlaceAmongTheKnown() {
        List<ContactLimit> known =
                List.of(new ContactLimit(-10, 5, -5), new ContactLimit(33, 5, -5), new ContactLimit(70, 1, 0));
        List<ContactWalk.Found> found = List.of(
                new ContactWalk.Found(35, java.util.Optional.of(new ContactLimit(35, 11, -2)), ""),
                new ContactWalk.Found(71, java.util.Optional.empty(), ""));
        assertThat(ContactWalk.merged(known, found))
                .containsExactly(
                        new ContactLimit(-10, 5, -5), new ContactLimit(35, 11, -2), new ContactLimit(70, 1, 0));
    }
}
