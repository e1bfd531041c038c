package app.ironside.night;

import static app.ironside.night.NightRecord.facts;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.guide.GuideCalibration;
import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideSettings;
import app.ironside.guide.GuideStatistics;
import app.ironside.guide.Guider;
import app.ironside.image.Frame;
import app.ironside.plan.TargetPlan;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
    }

    Guider guider() {
        return guider;
    }

    void stop() {
        guider.stop();
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
        Instant until = night.clock().now().plus(PROOF);
        while (night.clock().now().isBefore(until)) {
            guider.cycle();
        }
        List<GuideSample> samples = guider.takeSamples();
        GuideStatistics figures = GuideStatistics.of(samples);
        double limit = INVISIBLE_PX * night.kit().arcsecPerPixel();
        night.record()
                .event(
                        EventKind.GUIDE_SETTLED,
                        samples.isEmpty()
                                ? "The guide star was not seen once in the minute of proof."
                                : String.format(
                                        Locale.ROOT,
                                        "Guiding %.2f″ RMS (right ascension %.2f″, declination %.2f″).",
                                        figures.rmsTotalArcsec(),
                                        figures.rmsRaArcsec(),
                                        figures.rmsDecArcsec()),
                        settled(target, star, samples, figures));
        return night.record()
                .gate(new Gate(
                        Stage.GUIDE,
                        samples.isEmpty() ? Double.MAX_VALUE : figures.rmsTotalArcsec(),
                        limit,
                        "″",
                        true,
                        samples.isEmpty()
                                ? "The guide star was not seen."
                                : String.format(
                                        Locale.ROOT,
                                        "Guiding %.2f″ RMS; half a pixel is %.2f″.",
                                        figures.rmsTotalArcsec(),
                                        limit)));
    }

    private static Map<String, Object> settled(
            TargetPlan target, Star star, List<GuideSample> samples, GuideStatistics figures) {
        Map<String, Object> facts = facts("target", target.name(), "starSnr", star.snr(), "trace", trace(samples));
        if (!samples.isEmpty()) {
            facts.put("rmsRaArcsec", figures.rmsRaArcsec());
            facts.put("rmsDecArcsec", figures.rmsDecArcsec());
            facts.put("rmsTotalArcsec", figures.rmsTotalArcsec());
            facts.put("p80Arcsec", figures.p80Arcsec());
        }
        return facts;
    }

    private void calibrate(double declination) throws InterruptedException {
        GuideCalibration found = guider.calibrate(declination);
        night.record()
                .event(
                        EventKind.GUIDE_CALIBRATED,
                        String.format(
                                Locale.ROOT,
                                "Guider calibrated: %.2f″/s in right ascension, %.2f″/s in declination, axes %.0f° apart.",
                                found.westArcsecPerSecond(),
                                found.northArcsecPerSecond(),
                                found.axesAngleDeg()),
                        facts(
                                "westX", found.westX(),
                                "westY", found.westY(),
                                "northX", found.northX(),
                                "northY", found.northY(),
                                "axesAngleDeg", found.axesAngleDeg()));
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
                .event(
                        EventKind.DITHER,
                        String.format(
                                Locale.ROOT,
                                "Dither to %.0f″ %s, %.0f″ %s.",
                                Math.abs(west),
                                west < 0 ? "east" : "west",
                                Math.abs(north),
                                north < 0 ? "south" : "north"),
                        facts(
                                "westArcsec", west,
                                "northArcsec", north,
                                "settled", settled,
                                "seconds",
                                        Duration.between(began, night.clock().now())
                                                .toSeconds()));
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

    /** Times (seconds from the first), displacements in both axes: compact enough for the journal. */
    static List<Map<String, Object>> trace(List<GuideSample> samples) {
        List<Map<String, Object>> trace = new ArrayList<>();
        for (GuideSample s : samples) {
            double t = Duration.between(samples.get(0).time(), s.time()).toMillis() / 1000.0;
            trace.add(facts("t", round(t), "ra", round(s.raArcsec()), "dec", round(s.decArcsec())));
        }
        return trace;
    }

    private static double round(double value) {
        return Math.round(value * 1000) / 1000.0;
    }
}
