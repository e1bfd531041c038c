package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.guide.GuideCalibration;
import app.ironside.guide.GuideSettings;
import app.ironside.guide.Guider;
import app.ironside.image.Frame;
import app.ironside.journal.Dithered;
import app.ironside.journal.Gate;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.Stage;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Interval;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;

/** Starts, settles, dithers and watches guiding, with the evidence written down. */
final class Guiding {
    /** Less than half a pixel of the main camera does not show (common practice). */
    private static final double INVISIBLE_PX = 0.5;

    private static final Duration PROOF = Duration.ofSeconds(60);
    private static final int GIVE_UP_AFTER = 12;
    private static final double GOLDEN_ANGLE_DEG = 137.508;
    private static final int DITHER_PLACES = 9;

    private final NightContext night;
    private final Guider guider;
    private Optional<Mount.PierSide> calibratedOn = Optional.empty();
    private int dithers;
    private double ditherWest;
    private double ditherNorth;

    Guiding(NightContext night) {
        this.night = night;
        // Guide stars may be a pixel wide on a coarse guide camera: a narrow filter finds them best.
        StarFinder finder = new StarFinder(DetectSettings.DEFAULT.withKernelSigmaPx(0.9), night.workers());
        this.guider = new Guider(
                night.devices().mount(),
                night.devices().guideCamera(),
                night.clock(),
                finder,
                night.kit(),
                GuideSettings.DEFAULT);
        guider.logTo(night.record()::guided);
    }

    Guider guider() {
        return guider;
    }

    void stop() {
        guider.stop();
    }

    /** The calibration is measured anew at the next start. */
    void forgetCalibration() {
        calibratedOn = Optional.empty();
    }

    /** Calibrates where that is due, picks a star, settles, and proves the figure over a minute. */
    boolean start(TargetPlan target) throws InterruptedException {
        night.record().doing(Stage.GUIDE, "Guiding on a star near " + target.name(), Duration.ofSeconds(90));
        Mount.PierSide side = night.devices().mount().pierSide();
        double declination = target.position().decDeg();
        if (calibratedOn.isEmpty()) {
            calibrate(declination);
        } else {
            GuideCalibration known = guider.calibration().orElseThrow();
            GuideCalibration here = calibratedOn.get() == side ? known : known.flipped();
            guider.use(here.atDeclination(declination));
        }
        calibratedOn = Optional.of(side);
        Star star = guider.acquire();
        ditherWest = 0;
        ditherNorth = 0;
        guider.lastFrame().ifPresent(f -> showGuideFrame(f, star));
        guider.takeSamples();
        if (!guider.settle()) {
            night.record()
                    .fault(
                            Stage.GUIDE,
                            "Guiding did not settle in two minutes: look for wind, a dragging cable or cloud.");
        }
        guider.takeSamples();
        guider.takeLost();
        Instant until = night.clock().now().plus(PROOF);
        while (night.clock().now().isBefore(until)) {
            guider.cycle();
        }
        Interval span = new Interval(until.minus(PROOF), night.clock().now());
        GuideFigures figures = GuideFigures.of(guider.takeSamples(), guider.takeLost());
        double limit = INVISIBLE_PX * night.kit().arcsecPerPixel();
        night.record()
                .tell(new GuidingProven(
                        night.record().now(),
                        figures.about()
                                .map(f -> String.format(
                                        Locale.ROOT,
                                        "Guiding %.2f″ RMS (right ascension %.2f″, declination %.2f″).",
                                        f.rmsTotalArcsec(),
                                        f.rmsRaArcsec(),
                                        f.rmsDecArcsec()))
                                .orElse("The guide star was not seen once in the minute of proof."),
                        target.name(),
                        star.snr(),
                        span,
                        figures));
        return night.record()
                .gate(
                        new Gate(Stage.GUIDE, figures.rmsTotalArcsec(), limit, "″", true),
                        figures.about()
                                .map(f -> String.format(
                                        Locale.ROOT,
                                        "Guiding %.2f″ RMS; half a pixel is %.2f″.",
                                        f.rmsTotalArcsec(),
                                        limit))
                                .orElse("The guide star was not seen."));
    }

    private void calibrate(double declination) throws InterruptedException {
        GuideCalibration found = guider.calibrate(declination);
        night.record()
                .tell(new GuiderCalibrated(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "Guider calibrated: %.2f″/s in right ascension, %.2f″/s in declination, axes %.0f° apart.",
                                found.westArcsecPerSecond(),
                                found.northArcsecPerSecond(),
                                found.axesAngleDeg()),
                        found.westX(),
                        found.westY(),
                        found.northX(),
                        found.northY(),
                        found.axesAngleDeg()));
    }

    private void showGuideFrame(Frame frame, Star star) {
        night.record()
                .frame(
                        Stage.GUIDE,
                        String.format(Locale.ROOT, "Guide camera, star at %.0f, %.0f", star.x(), star.y()),
                        frame,
                        Optional.empty());
    }

    /** Shifts the pointing to the next place of a spiral and settles. */
    void dither() throws InterruptedException {
        dithers++;
        double radius =
                night.program().ditherArcsec() * Math.sqrt((dithers % DITHER_PLACES + 1) / (double) DITHER_PLACES);
        double angle = Math.toRadians(dithers * GOLDEN_ANGLE_DEG);
        double west = radius * Math.cos(angle);
        double north = radius * Math.sin(angle);
        guider.dither(west - ditherWest, north - ditherNorth);
        ditherWest = west;
        ditherNorth = north;
        Instant began = night.clock().now();
        boolean settled = guider.settle();
        guider.takeSamples();
        night.record()
                .tell(new Dithered(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "Dither to %.0f″ %s, %.0f″ %s.",
                                Math.abs(west),
                                west < 0 ? "east" : "west",
                                Math.abs(north),
                                north < 0 ? "south" : "north"),
                        west,
                        north,
                        settled,
                        Duration.between(began, night.clock().now())));
    }

    /**
     * Tells whether the star is still held.
     *
     * @throws DeviceException if it has been gone for many exposures
     */
    void check() {
        if (guider.lostInARow() >= GIVE_UP_AFTER) {
            guider.stop();
            throw new DeviceException(
                    "guider",
                    "the guide star has been gone for " + guider.lostInARow() + " exposures",
                    "Most often this is cloud; else look for dew or a cable.");
        }
    }
}
