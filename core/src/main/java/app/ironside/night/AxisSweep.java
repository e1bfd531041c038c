package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.device.Mount.PierSide;
import app.ironside.device.SlewRefused;
import app.ironside.journal.Stage;
import app.ironside.kit.MeridianRule;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Takes both axes through their whole travel, piece by piece, to the contact limits and through the flip, and has somebody look at the
 * cables at each end. What the guard refuses, the Sun above all, is left out and said.
 */
final class AxisSweep {
    /** No piece is longer, so that a hand can stop it in time. */
    private static final double PIECE_DEG = 15;

    private static final double SIDEWAYS_DEG = 75;
    private static final double NEAR_POLE_DEG = 80;
    private static final int FEWEST_PLACES = 3;

    /** It tracks when it arrives, and would run into the limit before it is stopped. */
    private static final double SHORT_OF_CONTACT_DEG = 1;

    private final NightContext night;
    private final Conduct conduct;

    AxisSweep(NightContext night, Conduct conduct) {
        this.night = night;
        this.conduct = conduct;
    }

    /**
     * An end of the travel.
     *
     * @param words "low in the east"
     */
    private record End(String words, double hourAngleDeg, double declinationDeg, PierSide side) {}

    private List<End> ends() {
        TargetPlan first = night.program().targets().get(0);
        double declination = first.position().decDeg();
        MeridianRule rule = MeridianRule.of(night.kit(), declination);
        double latitude = night.site().latDeg();
        List<End> ends = new ArrayList<>();
        ends.add(new End("low in the east", -SIDEWAYS_DEG, 0, PierSide.WEST));
        ends.add(new End("near the zenith", -PIECE_DEG / 2, latitude, PierSide.WEST));
        ends.add(new End(
                String.format(Locale.ROOT, "at the last angle before the flip at the height of %s", first.name()),
                rule.contactDeg() - SHORT_OF_CONTACT_DEG,
                declination,
                PierSide.WEST));
        ends.add(new End(
                "at the same place from the other side",
                Math.max(rule.contactDeg(), rule.freeDeg()),
                declination,
                PierSide.EAST));
        ends.add(new End("low in the west", SIDEWAYS_DEG, 0, PierSide.EAST));
        ends.add(new End("near the pole", PIECE_DEG, Math.copySign(NEAR_POLE_DEG, latitude), PierSide.EAST));
        return ends;
    }

    /** What was seen; empty if something caught, or too little of the travel could be shown. */
    Optional<String> run() throws InterruptedException {
        Mount mount = night.devices().mount();
        mount.unpark();
        int seen = 0;
        List<String> left = new ArrayList<>();
        try {
            for (End end : ends()) {
                conduct.announce("after this piece of the way", Duration.ofSeconds(10));
                conduct.safePoint(Stage.READY);
                if (conduct.isEnding()) {
                    return Optional.empty();
                }
                try {
                    goTo(mount, end);
                } catch (SlewRefused refused) {
                    left.add(end.words() + " (" + refused.problem() + ")");
                    continue;
                }
                mount.stop();
                seen++;
                if (!night.devices()
                        .hands()
                        .isSo("cables: the telescope stands " + end.words() + ". Nothing touches, pulls or hangs")) {
                    night.record()
                            .fault(
                                    Stage.READY,
                                    String.format(
                                            Locale.ROOT,
                                            "Something catches %s (hour angle %+.1f°, declination %+.0f°): free it and begin the night anew,"
                                                    + " or enter the angle as a contact at Site and kit. The axes stand still.",
                                            end.words(),
                                            end.hourAngleDeg(),
                                            end.declinationDeg()));
                    return Optional.empty();
                }
            }
        } finally {
            mount.stop();
        }
        return seen < FEWEST_PLACES
                ? Optional.empty()
                : Optional.of(seen + " of " + (seen + left.size()) + " ends of the travel looked at, nothing catches"
                        + (left.isEmpty() ? "" : "; not looked at: " + String.join(", ", left)));
    }

    private void goTo(Mount mount, End end) throws InterruptedException {
        Equatorial from = mount.pointing();
        double fromHourAngle = night.observer().hourAngleDeg(from, night.clock().now());
        boolean flips = mount.pierSide() != end.side();
        double hourAngleWay = Angles.wrap180(end.hourAngleDeg() - fromHourAngle);
        double declinationWay = end.declinationDeg() - from.decDeg();
        // A flip is one way over the pole, whatever the piece; the guard and the mount see to it.
        int pieces = flips
                ? 1
                : (int) Math.max(1, Math.ceil(Math.max(Math.abs(hourAngleWay), Math.abs(declinationWay)) / PIECE_DEG));
        for (int piece = 1; piece <= pieces; piece++) {
            double share = (double) piece / pieces;
            night.record().doing(Stage.READY, "cables: on the way, " + end.words(), Duration.ofSeconds(10));
            mount.slewAndWait(
                    night.clock(),
                    at(fromHourAngle + share * hourAngleWay, from.decDeg() + share * declinationWay),
                    end.side());
        }
    }

    private Equatorial at(double hourAngleDeg, double declinationDeg) {
        double sidereal = night.observer()
                .hourAngleDeg(new Equatorial(0, 0), night.clock().now());
        return new Equatorial(Angles.wrap360(sidereal - hourAngleDeg), declinationDeg);
    }
}
