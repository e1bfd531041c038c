package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.guide.CalibrationReport;
import app.ironside.guide.GuideCalibration;
import app.ironside.guide.GuideFocus;
import app.ironside.guide.GuideRules;
import app.ironside.guide.GuideSample;
import app.ironside.guide.Guider;
import app.ironside.guide.Runaway;
import app.ironside.image.Frame;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Gate;
import app.ironside.journal.GuideCameraLooked;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuiderSet;
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

    private final NightContext night;
    private final Optional<Guider> fitted;
    private final AlignmentWatch alignment;
    private final DitherPlaces places;
    private List<GuideSample> taken = List.of();
    private Optional<Mount.PierSide> calibratedOn = Optional.empty();

    /** Rules of the program as they were last taken; what a person or the loop changed since stands above them. */
    private GuideRules fromProgram;

    /** What earlier nights' calibration is good for: one try. */
    private boolean triedEarlier;

    private Optional<double[]> chosenStar = Optional.empty();
    private double ditherWest;
    private double ditherNorth;

    Guiding(NightContext night) {
        this.night = night;
        this.alignment = new AlignmentWatch(night);
        this.places = new DitherPlaces(night.program().date().toEpochDay());
        this.fromProgram = night.program().guiding();
        // Guide stars may be a pixel wide on a coarse guide camera: a narrow filter finds them best.
        StarSearch finder = night.gauge().search(DetectSettings.DEFAULT.withKernelSigmaPx(0.9));
        this.fitted = night.devices()
                .guideCamera()
                .filter(camera -> night.devices().mount().abilities().pulses())
                .map(camera -> new Guider(
                        night.devices().mount(), camera, night.clock(), finder, night.kit(), suited(fromProgram)));
        fitted.ifPresent(g -> g.logTo(night.record()::guided));
    }

    /** Many stars on a real night; in a rehearsal, where whole guide frames take long to draw, one. */
    private GuideRules suited(GuideRules rules) {
        return rules.stars() == GuideRules.Stars.AS_IT_SUITS
                ? rules.withStars(night.provenance().isReal() ? GuideRules.Stars.MANY : GuideRules.Stars.ONE)
                : rules;
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
        triedEarlier = true;
    }

    /** Guides by other rules from now on, and tells. */
    void use(GuideRules rules) {
        fitted.ifPresent(g -> {
            String what = suited(rules).changedFrom(g.rules());
            g.use(suited(rules));
            told("Guiding goes on by other rules: " + what + ".", g.rules());
        });
    }

    private void told(String text, GuideRules rules) {
        night.record().tell(new GuiderSet(night.record().now(), text, rules));
    }

    /** What the loop has set itself to since this was last asked. */
    void tellTuned() {
        fitted.ifPresent(g -> g.takeTuned()
                .ifPresent(words -> told("Guiding has set itself by its record: " + words + ".", g.rulesInForce())));
    }

    /** At the next start the star nearest to a place of the guide frame is taken. */
    void choose(double x, double y) {
        chosenStar = Optional.of(new double[] {x, y});
    }

    /** Calibrates where that is due, picks a star, settles, and proves the figure over a minute; true if nothing guides. */
    boolean start(TargetPlan target) throws InterruptedException {
        return fitted.isEmpty() || start(fitted.get(), target);
    }

    private boolean start(Guider guider, TargetPlan target) throws InterruptedException {
        night.record().doing(Stage.GUIDE, "Guiding on a star near " + target.name(), Duration.ofSeconds(90));
        if (!night.program().guiding().equals(fromProgram)) {
            fromProgram = night.program().guiding();
            use(fromProgram);
        }
        Mount.PierSide side = night.devices().mount().pierSide();
        double declination = target.position().decDeg();
        if (calibratedOn.isEmpty()) {
            if (!tookEarlier(guider, side, declination)) {
                calibrate(guider, side, declination);
            }
        } else {
            GuideCalibration known = guider.calibration().orElseThrow();
            GuideCalibration here = calibratedOn.get() == side ? known : known.flipped();
            guider.use(here.atDeclination(declination));
        }
        calibratedOn = Optional.of(side);
        Star star = guider.acquire(chosenStar);
        chosenStar = Optional.empty();
        ditherWest = 0;
        ditherNorth = 0;
        guider.lastFrame().ifPresent(f -> showGuideFrame(f, star));
        lookAtFocus(guider);
        guider.takeSamples();
        if (!guider.settle()) {
            night.record()
                    .fault(
                            Stage.GUIDE,
                            String.format(
                                    Locale.ROOT,
                                    "Guiding did not settle to %.1f″ in two minutes: look for wind, a dragging cable or cloud.",
                                    guider.settleArcsec()));
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

    /** Whether the guide camera is in focus, by the stars it shows: looked at each time a star is taken. */
    private void lookAtFocus(Guider guider) {
        guider.lastField().ifPresent(field -> {
            GuideFocus focus = GuideFocus.of(field, night.kit().guider());
            night.record()
                    .tell(new GuideCameraLooked(
                            night.record().now(),
                            focus.sentence(),
                            focus.stars(),
                            focus.hfrPx(),
                            focus.limitPx(),
                            focus.isSharp()));
        });
    }

    /** Takes the calibration of another night if the rules want that and two short pulses find it true. */
    private boolean tookEarlier(Guider guider, Mount.PierSide side, double declination) throws InterruptedException {
        Optional<GuiderCalibrated> last = night.earlier().guider();
        if (triedEarlier
                || night.program().guiding().calibrate() != GuideRules.Calibrate.WHEN_MOVED
                || last.isEmpty()) {
            return false;
        }
        triedEarlier = true;
        GuiderCalibrated.Details told = last.get().details().orElseThrow();
        GuideCalibration known = last.get().calibration().orElseThrow();
        GuideCalibration here = (told.side() == side ? known : known.flipped()).atDeclination(declination);
        String unfit = guider.tryCalibration(here, told.slackSeconds());
        if (!unfit.isEmpty()) {
            night.record()
                    .fault(
                            Stage.GUIDE,
                            "The calibration of "
                                    + last.get()
                                            .time()
                                            .atZone(night.site().zone())
                                            .toLocalDate() + " is void: " + unfit + ". It is measured anew.");
            return false;
        }
        night.record()
                .tell(new GuiderCalibrated(
                        night.record().now(),
                        "The calibration of "
                                + last.get().time().atZone(night.site().zone()).toLocalDate()
                                + " still holds: a pulse along each axis moved the star as it says.",
                        here.westX(),
                        here.westY(),
                        here.northX(),
                        here.northY(),
                        here.axesAngleDeg(),
                        Optional.of(new GuiderCalibrated.Details(
                                here.arcsecPerPixel(),
                                declination,
                                side,
                                told.residualPx(),
                                told.slackSeconds(),
                                told.expectedWest(),
                                told.expectedNorth(),
                                told.west(),
                                told.north(),
                                true))));
        return true;
    }

    private void calibrate(Guider guider, Mount.PierSide side, double declination) throws InterruptedException {
        CalibrationReport report = guider.calibrate(declination);
        GuideCalibration found = report.calibration();
        night.record()
                .tell(new GuiderCalibrated(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "Guider calibrated: %.2f″/s in right ascension, %.2f″/s in declination, axes %.0f° apart%s.",
                                found.westArcsecPerSecond(),
                                found.northArcsecPerSecond(),
                                found.axesAngleDeg(),
                                report.slackSeconds() > 0
                                        ? String.format(
                                                Locale.ROOT,
                                                ", slack of %.0f ms (%.1f″) in declination",
                                                1000 * report.slackSeconds(),
                                                report.slackArcsec())
                                        : ", no slack to be seen"),
                        found.westX(),
                        found.westY(),
                        found.northX(),
                        found.northY(),
                        found.axesAngleDeg(),
                        Optional.of(new GuiderCalibrated.Details(
                                found.arcsecPerPixel(),
                                declination,
                                side,
                                report.residualPx(),
                                report.slackSeconds(),
                                report.expectedWest(),
                                report.expectedNorth(),
                                report.west(),
                                report.north(),
                                false))));
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

    /** Shifts the pointing to the next place and settles. */
    void dither() throws InterruptedException {
        DitherPlaces.Place place = places.next(
                night.program().guiding().ditherBy(), night.program().ditherArcsec());
        double west = place.westArcsec();
        double north = place.northArcsec();
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

    /** What ends a sub at once, in words: its star is gone for good, or runs away from the pulses. */
    Optional<String> spoils() {
        if (!isGuiding()) {
            return Optional.empty();
        }
        int lost = fitted.get().lostInARow();
        return lost >= GIVE_UP_AFTER
                ? Optional.of("the guide star has been gone for " + lost + " exposures")
                : fitted.get().runsAway().map(Runaway::words);
    }

    /**
     * Tells whether the star is still held.
     *
     * @throws DeviceException if it has been gone for many exposures, or does not follow the pulses
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
        Optional<Runaway> away = away();
        if (away.isPresent()) {
            letGo(away.get());
        }
    }

    private Optional<Runaway> away() {
        return fitted.filter(Guider::isGuiding).flatMap(Guider::runsAway);
    }

    /** What is wrong with a star that does not follow its pulses, by what it is about; it is guided on all the same. */
    Optional<DeviceException> runsAway() {
        return away().map(this::fault);
    }

    private void letGo(Runaway away) {
        if (away.kind() != Runaway.Kind.MOUNT_STANDS) {
            shunStar();
        }
        stop();
        if (away.kind() == Runaway.Kind.CALIBRATION_VOID) {
            forgetCalibration();
        }
        throw fault(away);
    }

    private DeviceException fault(Runaway away) {
        return new DeviceException(
                switch (away.kind()) {
                    case NO_STAR -> FaultTold.GUIDE_STAR;
                    case MOUNT_STANDS -> night.devices().mount().name();
                    case CALIBRATION_VOID -> NAME;
                },
                away.words(),
                away.remedy());
    }
}
