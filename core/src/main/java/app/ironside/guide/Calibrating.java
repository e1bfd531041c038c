package app.ironside.guide;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.kit.Kit;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.hipparchus.stat.regression.SimpleRegression;

/** Measures how pulses along each axis move the star: straight lines through where it was seen, slack taken up first. */
final class Calibrating {
    /** Pulses go on until the star has moved this far on the sky, and so many pixels where those are coarse. */
    private static final double WAY_ARCSEC = 25;

    private static final double WAY_PX = 7;

    /** A step may take the star no further than this, or it leaves the window in which it is looked for. */
    private static final double STEP_PX = StarLock.WINDOW_PX / 5.0;

    private static final Duration LONGEST_STEP = Duration.ofMillis(900);
    private static final int FEWEST_STEPS = 6;
    private static final int MOST_STEPS = 80;

    /** The slack of a gear is taken up when the star has moved this far. */
    private static final double SLACK_TAKEN_ARCSEC = 3;

    /** Measured rates further from the kit's than this were not measured. */
    private static final double RATE_WITHIN = 0.4;

    /** An old calibration holds if pulses move the star as it says, to within this share and angle. */
    private static final double HOLDS_SHARE = 0.2;

    private static final double HOLDS_DEG = 12;

    /** Slack that scatter alone could show is none. */
    private static final double SLACK_SIGMAS = 2;

    private final Mount mount;
    private final NightClock clock;
    private final StarLock star;
    private final Kit kit;

    Calibrating(Mount mount, NightClock clock, StarLock star, Kit kit) {
        this.mount = mount;
        this.clock = clock;
        this.star = star;
        this.kit = kit;
    }

    CalibrationReport run(double declinationDeg) throws InterruptedException {
        double rate = kit.mount().guideArcsecPerSecond();
        Duration step = step(rate);
        Drive west = drive(Mount.Direction.WEST, step, declinationDeg);
        List<CalibrationReport.Place> westWay = new ArrayList<>(west.places());
        westWay.addAll(driveBack(Mount.Direction.EAST, west.seconds(), step));
        takeUpSlack(step);
        Drive north = drive(Mount.Direction.NORTH, step, 0);
        List<CalibrationReport.Place> northWay = new ArrayList<>(north.places());
        northWay.addAll(driveBack(Mount.Direction.SOUTH, north.seconds(), step));
        GuideCalibration found = new GuideCalibration(
                west.x().getSlope(),
                west.y().getSlope(),
                north.x().getSlope(),
                north.y().getSlope(),
                kit.guider().arcsecPerPixel(),
                declinationDeg);
        double expectedWest = rate * Math.cos(Math.toRadians(declinationDeg));
        mustBeSquare(found);
        mustBeNear("declination", found.northArcsecPerSecond(), rate);
        mustBeNear("right ascension", found.westArcsecPerSecond(), expectedWest);
        double residual = Math.sqrt((west.meanSquare() + north.meanSquare()) / 2);
        return new CalibrationReport(
                found, residual, slackSeconds(north, found, residual), expectedWest, rate, westWay, northWay);
    }

    /**
     * Whether an earlier calibration still tells how pulses move the star: a pulse each way along each axis.
     *
     * @return what does not fit, in words; empty if it holds
     */
    String unfit(GuideCalibration known) throws InterruptedException {
        double wanted = Math.max(WAY_PX, WAY_ARCSEC / known.arcsecPerPixel()) / 2;
        Duration step = step(kit.mount().guideArcsecPerSecond());
        String west = unfit(
                "right ascension",
                Mount.Direction.WEST,
                Mount.Direction.EAST,
                known.westX(),
                known.westY(),
                wanted,
                step);
        if (!west.isEmpty()) {
            return west;
        }
        takeUpSlack(step);
        return unfit(
                "declination",
                Mount.Direction.NORTH,
                Mount.Direction.SOUTH,
                known.northX(),
                known.northY(),
                wanted,
                step);
    }

    private String unfit(
            String axis,
            Mount.Direction there,
            Mount.Direction back,
            double perSecondX,
            double perSecondY,
            double wantedPx,
            Duration step)
            throws InterruptedException {
        double speed = Math.hypot(perSecondX, perSecondY);
        double seconds = wantedPx / speed;
        double x = star.x();
        double y = star.y();
        double left = seconds;
        while (left > 0.02) {
            double now = Math.min(left, step.toMillis() / 1000.0);
            pulse(there, Duration.ofMillis(Math.round(1000 * now)));
            left -= now;
            hold();
        }
        double dx = star.x() - x;
        double dy = star.y() - y;
        driveBack(back, seconds, step);
        double share = Math.hypot(dx, dy) / wantedPx - 1;
        double turned =
                Math.toDegrees(Math.atan2(perSecondX * dy - perSecondY * dx, perSecondX * dx + perSecondY * dy));
        return Math.abs(share) <= HOLDS_SHARE && Math.abs(turned) <= HOLDS_DEG
                ? ""
                : String.format(
                        Locale.ROOT,
                        "pulses in %s move the star %.0f %% of the old way, turned by %.0f°",
                        axis,
                        100 * (1 + share),
                        turned);
    }

    /** What is still missing when the star was driven back for as long as it was driven forth. */
    private double slackSeconds(Drive north, GuideCalibration found, double residual) {
        double speed = Math.hypot(found.northX(), found.northY());
        double missing =
                ((star.x() - north.startX()) * found.northX() + (star.y() - north.startY()) * found.northY()) / speed;
        return missing > SLACK_SIGMAS * Math.sqrt(2) * residual ? missing / speed : 0;
    }

    private static void mustBeSquare(GuideCalibration found) {
        double angle = found.axesAngleDeg();
        if (Math.abs(angle - 90) > 20) {
            throw new DeviceException(
                    "guider",
                    "the axes seem " + Math.round(angle) + "° apart instead of 90°",
                    "Look for a slipping clutch or a dragging cable and calibrate again.");
        }
    }

    private static void mustBeNear(String axis, double measured, double expected) {
        if (Math.abs(measured / expected - 1) > RATE_WITHIN) {
            throw new DeviceException(
                    "guider",
                    String.format(
                            Locale.ROOT,
                            "pulses in %s move the star %.1f″/s and should move it %.1f″/s",
                            axis,
                            measured,
                            expected),
                    "Look at the kit's guide rate and guide focal length; then for slack and a dragging cable.");
        }
    }

    /** As long as a step may be without taking the star out of the window. */
    private Duration step(double arcsecPerSecond) {
        double ms = 1000 * STEP_PX * kit.guider().arcsecPerPixel() / arcsecPerSecond;
        return Duration.ofMillis(Math.min(LONGEST_STEP.toMillis(), Math.max(20, Math.round(ms))));
    }

    /** The star's way for pulses: a line for each coordinate over the seconds pulsed. */
    private final class Drive {
        private final SimpleRegression x = new SimpleRegression();
        private final SimpleRegression y = new SimpleRegression();
        private final List<CalibrationReport.Place> places = new ArrayList<>();
        private final double startX = star.x();
        private final double startY = star.y();
        private double seconds;

        void seen() {
            x.addData(seconds, star.x());
            y.addData(seconds, star.y());
            places.add(new CalibrationReport.Place(star.x(), star.y()));
        }

        double moved() {
            CalibrationReport.Place last = places.get(places.size() - 1);
            return Math.hypot(last.x() - startX, last.y() - startY);
        }

        SimpleRegression x() {
            return x;
        }

        SimpleRegression y() {
            return y;
        }

        double startX() {
            return startX;
        }

        double startY() {
            return startY;
        }

        double seconds() {
            return seconds;
        }

        List<CalibrationReport.Place> places() {
            return places;
        }

        double meanSquare() {
            return (x.getSumSquaredErrors() + y.getSumSquaredErrors()) / Math.max(1, 2 * (places.size() - 2));
        }
    }

    /** Pulses one way until the star has moved far enough. */
    private Drive drive(Mount.Direction direction, Duration step, double declinationDeg) throws InterruptedException {
        double wanted = Math.max(WAY_PX, WAY_ARCSEC / kit.guider().arcsecPerPixel());
        int most = (int) Math.min(400, Math.ceil(MOST_STEPS / Math.max(0.1, Math.cos(Math.toRadians(declinationDeg)))));
        Drive drive = new Drive();
        drive.seen();
        while (drive.places().size() <= most
                && (drive.moved() < wanted || drive.places().size() <= FEWEST_STEPS)) {
            pulse(direction, step);
            drive.seconds += step.toMillis() / 1000.0;
            hold();
            drive.seen();
        }
        if (drive.moved() < wanted / 2) {
            throw new DeviceException(
                    "mount",
                    String.format(
                            Locale.ROOT,
                            "the star moved only %.1f px in %.0f s of pulses %s",
                            drive.moved(),
                            drive.seconds(),
                            direction.name().toLowerCase(Locale.ROOT)),
                    "Check the guide cable and that the mount is not parked.");
        }
        return drive;
    }

    /** North, in steps like any other, until the star follows: only what comes after that is measured. */
    private void takeUpSlack(Duration step) throws InterruptedException {
        double x0 = star.x();
        double y0 = star.y();
        double enough = Math.max(1.5, SLACK_TAKEN_ARCSEC / kit.guider().arcsecPerPixel());
        for (int i = 0; i < MOST_STEPS && Math.hypot(star.x() - x0, star.y() - y0) < enough; i++) {
            pulse(Mount.Direction.NORTH, step);
            hold();
        }
    }

    private List<CalibrationReport.Place> driveBack(Mount.Direction direction, double seconds, Duration step)
            throws InterruptedException {
        List<CalibrationReport.Place> seen = new ArrayList<>();
        double left = seconds;
        while (left > 0.02) {
            double now = Math.min(left, step.toMillis() / 1000.0);
            pulse(direction, Duration.ofMillis(Math.round(now * 1000)));
            left -= now;
            hold();
            seen.add(new CalibrationReport.Place(star.x(), star.y()));
        }
        return seen;
    }

    /** Finds the star again; while calibrating, one that is gone makes every figure after it wrong. */
    private void hold() throws InterruptedException {
        for (int attempt = 0; attempt < 3; attempt++) {
            if (star.locate()) {
                return;
            }
        }
        throw new DeviceException(
                "guider",
                "the guide star was lost while calibrating",
                "Most often this is cloud; else look for a knock or a guide scope out of focus.");
    }

    private void pulse(Mount.Direction direction, Duration length) throws InterruptedException {
        mount.pulse(direction, length);
        clock.await(length);
    }
}
