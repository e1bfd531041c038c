package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.journal.Stage;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import java.util.Locale;
import java.util.Optional;

/** Whether a mount stands at its home and moves when it is told: at dusk by its own word, under the stars by two frames. */
final class MountProof {
    private static final double TURN_DEG = 4;

    /** A mount that reports less than this of a commanded turn has not made it. */
    private static final double SHARE = 0.5;

    /** Nearer to the pole a turn of the axis hardly moves the place on the sky. */
    private static final double HARDLY_MOVES_DEG = 80;

    private static final double WHERE_IT_MOVES_DEG = 60;
    private static final double WHERE_IT_MOVES_HOUR_ANGLE_DEG = -60;

    /** Between two frames: what polar axis and flexure move is less. */
    private static final double FRAMES_WITHIN_SHARE = 0.1;

    private final NightContext night;

    MountProof(NightContext night) {
        this.night = night;
    }

    /** Brings it to its home, by its switches or by hand. */
    Optional<String> home() throws InterruptedException {
        Mount mount = night.devices().mount();
        mount.unpark();
        if (mount.abilities().homes()) {
            mount.home().await(night.clock());
            return Optional.of("found by its switches");
        }
        return night.devices().hands().isSo("home: both axes are set on their marks, and the mount was told so")
                ? Optional.of("on its marks, by hand")
                : Optional.empty();
    }

    /** Turns it a little and asks it how far. */
    Optional<String> moves() throws InterruptedException {
        Mount mount = night.devices().mount();
        mount.unpark();
        if (Math.abs(mount.pointing().decDeg()) > HARDLY_MOVES_DEG) {
            double ra = Angles.wrap360(night.observer()
                            .hourAngleDeg(new Equatorial(0, 0), night.clock().now())
                    - WHERE_IT_MOVES_HOUR_ANGLE_DEG);
            double dec = Math.copySign(WHERE_IT_MOVES_DEG, night.site().latDeg());
            mount.slewAndWait(night.clock(), new Equatorial(ra, dec), Mount.PierSide.WEST);
        }
        Equatorial before = mount.pointing();
        mount.turnRightAscensionAxis(TURN_DEG).await(night.clock());
        double moved = before.separationDeg(mount.pointing());
        mount.turnRightAscensionAxis(-TURN_DEG).await(night.clock());
        // Off the equator a turn of the axis is a shorter way on the sky: the haversine of equal declinations.
        double expected = Math.toDegrees(
                2 * Math.asin(Math.sin(Math.toRadians(TURN_DEG / 2)) * Math.cos(Math.toRadians(before.decDeg()))));
        if (moved >= SHARE * expected) {
            return Optional.of(String.format(Locale.ROOT, "it reports %.1f° of %.1f°", moved, expected));
        }
        night.record()
                .fault(
                        Stage.READY,
                        String.format(
                                Locale.ROOT,
                                "A turn of %.0f° was commanded and the mount reports %.1f° of it: look at power, clutches, and whether it"
                                        + " is parked; then close and open its connection.",
                                TURN_DEG,
                                moved));
        return Optional.empty();
    }

    /**
     * Holds a commanded turn of the right-ascension axis, the mount tracking, against the stars of a frame before and one after it. Its
     * own word would not tell of a clutch that slips.
     *
     * @param turnedDeg west positive
     */
    void byFrames(Equatorial before, Equatorial after, double turnedDeg) {
        double seen = Angles.wrap180(before.raDeg() - after.raDeg());
        boolean proven = Math.abs(seen - turnedDeg) <= FRAMES_WITHIN_SHARE * Math.abs(turnedDeg);
        String measured = String.format(Locale.ROOT, "the stars turned by %.1f° of %.1f°", seen, turnedDeg);
        night.record().step("mount", "two frames show that it moves as it is told", measured, proven);
        if (!proven) {
            night.record()
                    .fault(
                            Stage.POLAR,
                            String.format(
                                    Locale.ROOT,
                                    "The axis was turned by %.1f° and the stars by %.1f°: a clutch slips, or something holds the telescope."
                                            + " Tighten the clutches and look for contact before it slews again.",
                                    turnedDeg,
                                    seen));
        }
    }
}
