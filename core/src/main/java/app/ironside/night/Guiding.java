package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.guide.GuideCalibration;
import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideSettings;
import app.ironside.guide.Guider;
import app.ironside.image.Frame;
import app.ironside.journal.Dithered;
import app.ironside.journal.Gate;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Sampling;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.TangentPlane;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarSearch;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Starts, settles, dithers and watches guiding, with the evidence written down. Of a kit that has no guider it only dithers. */
final class Guiding {
    /** As which it fails. */
    static final String NAME = "guider";

    private static final Duration PROOF = Duration.ofSeconds(60);
    private static final int GIVE_UP_AFTER = 12;
    private static final double GOLDEN_ANGLE_DEG = 137.508;
    private static final int DITHER_PLACES = 9;

    private final NightContext night;
    private final Optional<Guider> fitted;
    private final AlignmentWatch alignment;
    private List<GuideSample> taken = List.of();
    private Optional<Mount.PierSide> calibratedOn = Optional.empty();
    private int dithers;
    private double ditherWest;
    private double ditherNorth;

    Guiding(NightContext night) {
        this.night = night;
        this.alignment = new AlignmentWatch(night);
        // Guide stars may be a pixel wide on a coarse guide camera: a narrow filter finds them best.
        StarSearch finder = night.gauge().search(DetectSettings.DEFAULT.withKernelSigmaPx(0.9));
        this.fitted = night.devices()
                .guideCamera()
                .filter(camera -> night.devices().mount().abilities().pulses())
                .map(camera -> new Guider(
                        night.devices().mount(), camera, night.clock(), finder, night.kit(), GuideSettings.DEFAULT));
        fitted.ifPresent(g -> g.logTo(night.record()::guided));
    }

    /** Empty if the kit has none. */
    Optional<Guider> guider() {
        return fitted;
    }

    boolean isFitted() {
        return fitted.isPresent();
    }

    boolean isGuiding() {
        return fitted.filter(Guider::isGuiding).isPresent();
    }

    /** How it was guided since this was asked last. */
    GuideFigures takeFigures() {
        taken = fitted.map(Guider::takeSamples).orElse(List.of());
        return fitted.map(g -> GuideFigures.of(taken, g.takeLost())).orElse(GuideFigures.UNKNOWN);
    }

    /**
     * Holds what was watched during a sub against the polar axis: the guide star's drift, or where the frame came to lie.
     *
     * @param centre where the frame was recognised
     */
    void watchAxis(TargetPlan target, SubTaken sub, Optional<Equatorial> centre) {
        if (isGuiding()) {
            fitted.flatMap(Guider::calibration)
                    .ifPresent(calibration -> alignment.guided(target.position(), taken, calibration));
        } else if (fitted.isEmpty()) {
            if (sub.test()) {
                alignment.moved();
            }
            Instant middle = sub.exposed().from().plus(sub.exposed().duration().dividedBy(2));
            centre.ifPresent(place -> alignment.followed(middle, place));
        }
    }

    /** Guiding is not begun again where the last star was taken: it was none. */
    void shunStar() {
        fitted.ifPresent(Guider::shunStar);
    }

    void stop() {
        fitted.ifPresent(Guider::stop);
    }

    /** The calibration is measured anew at the next start. */
    void forgetCalibration() {
        calibratedOn = Optional.empty();
    }

    /** Calibrates where that is due, picks a star, settles, and proves the figure over a minute; true if nothing guides. */
    boolean start(TargetPlan target) throws InterruptedException {
        return fitted.isEmpty() || start(fitted.get(), target);
    }

    private boolean start(Guider guider, TargetPlan target) throws InterruptedException {
        night.record().doing(Stage.GUIDE, "Guiding on a star near " + target.name(), Duration.ofSeconds(90));
        Mount.PierSide side = night.devices().mount().pierSide();
        double declination = target.position().decDeg();
        if (calibratedOn.isEmpty()) {
            calibrate(guider, declination);
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
        double limit = Sampling.INVISIBLE_PX * night.kit().arcsecPerPixel();
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

    private void calibrate(Guider guider, double declination) throws InterruptedException {
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

    /** Whether the next sub can be laid on other pixels without a hand at the telescope. */
    boolean canDither() {
        return isGuiding() || night.kit().equipment().goTo();
    }

    /** Shifts the pointing to the next place of a spiral and settles. */
    void dither() throws InterruptedException {
        dithers++;
        double radius =
                night.program().ditherArcsec() * Math.sqrt((dithers % DITHER_PLACES + 1) / (double) DITHER_PLACES);
        double angle = Math.toRadians(dithers * GOLDEN_ANGLE_DEG);
        double west = radius * Math.cos(angle);
        double north = radius * Math.sin(angle);
        Instant began = night.clock().now();
        boolean settled = isGuiding()
                ? shiftStar(fitted.get(), west - ditherWest, north - ditherNorth)
                : shiftMount(west - ditherWest, north - ditherNorth);
        ditherWest = west;
        ditherNorth = north;
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

    private static boolean shiftStar(Guider guider, double west, double north) throws InterruptedException {
        guider.dither(west, north);
        boolean settled = guider.settle();
        guider.takeSamples();
        return settled;
    }

    /** Without a guide star the mount itself is sent aside by the same way. */
    private boolean shiftMount(double west, double north) throws InterruptedException {
        alignment.moved();
        Mount mount = night.devices().mount();
        Equatorial here = mount.pointing();
        Equatorial aside = new TangentPlane(here).unproject(-west / 3600, north / 3600);
        mount.slewTo(aside, mount.pierSide()).await(night.clock());
        return true;
    }

    /**
     * Tells whether the star is still held.
     *
     * @throws DeviceException if it has been gone for many exposures
     */
    void check() {
        int lost = fitted.map(Guider::lostInARow).orElse(0);
        if (lost >= GIVE_UP_AFTER) {
            stop();
            throw new DeviceException(
                    NAME,
                    "the guide star has been gone for " + lost + " exposures",
                    "Most often this is cloud; else look for dew or a cable.");
        }
    }
}
