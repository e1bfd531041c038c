package app.ironside.night;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.Command;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.LookedElsewhere;
import app.ironside.journal.SkyTested;
import app.ironside.journal.Stage;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.kit.Kit;
import app.ironside.kit.Photometry;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Extinction;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.SkyBrightness;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.solve.ZeroPoint;
import app.ironside.star.StarField;
import java.time.Duration;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/** Takes one sub: exposes, keeps the frame with a whole header, measures, judges, and tells. */
final class SubTaker {
    /** Enough for the bright stars of any field. */
    private static final double SHORT_LOOK_SECONDS = 10;

    private static final double SMALL_FRAME_SHARE = 0.25;

    private static final double MOST_OF_IT = 0.5;

    /** As far off as a slew ends that no frame has corrected. */
    private static final double SLEWED_WITHIN_DEG = 3;

    private final NightContext night;
    private final Conduct conduct;
    private final NightLoop loop;
    private final Guiding guiding;
    private final SubJudge judge;
    private final Observer observer;

    /** Magnitudes of one ADU a second above the air, by filter, as the clearest sub so far showed it. */
    private final Map<String, Double> clearest = new HashMap<>();

    SubTaker(NightContext night, Conduct conduct, NightLoop loop, Guiding guiding, SubJudge judge) {
        this.night = night;
        this.conduct = conduct;
        this.loop = loop;
        this.guiding = guiding;
        this.judge = judge;
        this.observer = night.observer();
    }

    /**
     * Exposes, keeps, measures, judges and tells; empty if a person threw the sub away.
     *
     * @param goal what it is of
     * @param taken subs of the target before this one
     * @param test whether it proves those that follow
     * @param small whether only the middle of the sensor is read out, as rehearsals do to save time
     */
    Optional<SubTaken> take(TargetPlan target, FilterGoal goal, int taken, boolean test, boolean small)
            throws InterruptedException {
        String filter = goal.filter();
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(goal.subSeconds() * 1000)));
        if (small) {
            exposure = exposure.of(middle());
        }
        String asked = name(taken, filter, goal.subSeconds());
        night.record().doing(Stage.RUN, asked + " of " + target.name(), exposure.length());
        guiding.takeFigures();
        NightLoop.Exposed exposed = loop.expose(night.devices().camera(), exposure, this::during);
        guiding.tellTuned();
        boolean early = exposed.isShort();
        double seconds = exposed.open().toMillis() / 1000.0;
        boolean kept = isKept(exposed, seconds, goal.subSeconds());
        exposed.spoiled().ifPresent(why -> night.record()
                .fault(
                        Stage.RUN,
                        String.format(
                                Locale.ROOT,
                                kept
                                        ? "%s was ended after %.0f s and is kept as short: %s."
                                        : "%s was ended after %.0f s and is not kept: %s.",
                                asked,
                                seconds,
                                why)));
        exposed.ended()
                .ifPresent(order -> conduct.obeyed(
                        order,
                        Stage.RUN,
                        String.format(
                                Locale.ROOT,
                                kept ? "%s ended after %.0f s and is kept as short" : "%s, %.0f s, is not kept",
                                asked,
                                seconds)));
        if (!kept) {
            return Optional.empty();
        }
        // Another program's frame is as long as it is.
        String name = early ? asked : name(taken, filter, seconds);
        Frame raw = exposed.frame().orElseThrow();
        GuideFigures guided = guiding.takeFigures();
        Frame frame = raw.withHeader(header(raw.header(), target, filter));
        Looked looked = loop.beside(() -> looked(raw, frame, target, filter, seconds, small));
        SubMeasures measures = looked.measures();
        SubCircumstances circumstances = circumstances(target);
        SubLook look = judge.looks()
                .of(
                        SubLooks.series(target.name(), filter, seconds, raw.width()),
                        looked.file(),
                        exposed.opened().plus(exposed.open().dividedBy(2)),
                        seconds,
                        measures,
                        circumstances.altitudeDeg());
        Verdict verdict = judge.judge(look);
        Optional<PlateSolution> place = looked.place();
        night.record().frame(Stage.RUN, name, frame, Optional.of(looked.field()));
        SubTaken sub = new SubTaken(
                night.record().now(),
                name + " of " + target.name() + (early ? ", ended early," : ""),
                target.name(),
                filter,
                seconds,
                new Interval(exposed.opened(), exposed.opened().plus(exposed.open())),
                looked.file(),
                !small,
                test,
                early,
                conduct.overruled(),
                false,
                measures,
                circumstances,
                guided,
                place.map(p -> OptionalDouble.of(offsetArcsec(p, target))).orElse(OptionalDouble.empty()),
                place.map(PlateSolution::wcs),
                verdict);
        night.record().tell(sub);
        if (verdict.keep()) {
            place.flatMap(p -> zero(p, looked.field(), target, filter, seconds))
                    .ifPresent(zero -> clearest.merge(filter, zero, Math::max));
        }
        guiding.watchAxis(target, sub, place.map(PlateSolution::centre));
        SubFacts.tellRegraded(night.record(), judge, look.series());
        return Optional.of(sub);
    }

    /** While a sub is exposed: other rules of guiding are taken at once, and what spoils it ends it. */
    private Optional<String> during() {
        Optional<NightControl.Order> rules = conduct.control().take(Command.GuideBy.class::isInstance);
        rules.ifPresent(order -> {
            guiding.use(((Command.GuideBy) order.command()).rules());
            conduct.obeyed(order, Stage.GUIDE, "from the next guide exposure on");
        });
        return guiding.spoils();
    }

    /** A sub that a person ended is kept if they say so; one that was spoiled, if it has most of its light. */
    private static boolean isKept(NightLoop.Exposed exposed, double seconds, double wanted) {
        if (exposed.spoiled().isPresent()) {
            return seconds >= MOST_OF_IT * wanted;
        }
        return exposed.ended().isEmpty()
                || ((Command.EndSub) exposed.ended().get().command()).keep() && seconds >= 1;
    }

    /** Looks shortly whether the stars of the last sub still shine, through the same filter, and tells. */
    void testSky(SubTaken last) throws InterruptedException {
        double seconds = Math.min(SHORT_LOOK_SECONDS, last.seconds());
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(1000 * seconds)));
        night.record().doing(Stage.RUN, "A short look whether the stars are there", exposure.length());
        Frame frame = night.devices().camera().expose(night.clock(), exposure);
        StarField field = night.finder().find(frame);
        String series = SubLooks.series(last.target(), last.filter(), last.seconds(), frame.width());
        OptionalDouble light = judge.clearness(series, field, last.seconds() / seconds);
        if (light.isPresent()) {
            night.record()
                    .tell(new SkyTested(
                            night.record().now(),
                            String.format(
                                    Locale.ROOT,
                                    "A short look of %.0f s shows %d stars with %.0f %% of their light.",
                                    seconds,
                                    field.stars().size(),
                                    100 * light.getAsDouble()),
                            field.stars().size(),
                            light.getAsDouble()));
        }
    }

    /**
     * Looks shortly at a target to which the telescope points, and tells how much of its stars' light comes through: against the clearest sub
     * of the night in the filter that is in the beam, or against what the kit gathers by its figures.
     *
     * @param clear share from which on the sky there counts as clear
     * @return whether it does
     */
    boolean isClear(TargetPlan target, String filter, double clear) throws InterruptedException {
        Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(1000 * SHORT_LOOK_SECONDS)));
        night.record().doing(Stage.RUN, "A look whether it is clear at " + target.name(), exposure.length());
        Frame frame = night.devices().camera().expose(night.clock(), exposure);
        StarField field = night.finder().find(frame);
        Optional<PlateSolution> place = place(target, field, SLEWED_WITHIN_DEG);
        night.record().frame(Stage.RUN, "A look at " + target.name(), frame, Optional.of(field));
        OptionalDouble light = place.flatMap(p -> zero(p, field, target, filter, SHORT_LOOK_SECONDS))
                .map(zero -> OptionalDouble.of(Math.pow(10, 0.4 * (zero - expected(filter)))))
                .orElse(OptionalDouble.empty());
        boolean isClear = light.orElse(0) >= clear;
        night.record()
                .tell(new LookedElsewhere(
                        night.record().now(),
                        light.isEmpty()
                                ? String.format(
                                        Locale.ROOT,
                                        "A look at %s shows %d stars, which are not recognised: it is no clearer there.",
                                        target.name(),
                                        field.stars().size())
                                : String.format(
                                        Locale.ROOT,
                                        "A look at %s shows %d stars with %.0f %% of the light of a clear sky%s: %s.",
                                        target.name(),
                                        field.stars().size(),
                                        100 * light.getAsDouble(),
                                        clearest.containsKey(filter) ? "" : " by the kit's figures",
                                        isClear ? "it is clear there" : "it is no clearer there"),
                        target.name(),
                        field.stars().size(),
                        Math.min(1, light.orElse(0)),
                        isClear));
        return isClear;
    }

    /** The magnitude of one ADU a second, the air on the way taken out. */
    private Optional<Double> zero(
            PlateSolution place, StarField field, TargetPlan target, String filter, double seconds) {
        OptionalDouble zero = ZeroPoint.of(place, field, night.solver().catalogue());
        double altitude =
                observer.observed(target.position(), night.clock().now()).altitudeDeg();
        double extinction = Extinction.magPerAirmass(
                night.kit().filter(filter).meanNm(), night.site().elevationM());
        return zero.isEmpty()
                ? Optional.empty()
                : Optional.of(
                        zero.getAsDouble() - 2.5 * Math.log10(seconds) + extinction * SkyBrightness.airmass(altitude));
    }

    private double expected(String filter) {
        Kit kit = night.kit();
        double adu = Photometry.electronsPerSecond(0, kit, kit.filter(filter))
                / kit.sensor().gainElectronsPerAdu();
        return clearest.getOrDefault(filter, 2.5 * Math.log10(adu));
    }

    private static String name(int taken, String filter, double seconds) {
        return String.format(Locale.ROOT, "Sub %d %s %.0f s", taken + 1, filter, seconds);
    }

    /**
     * A sub on the disk, measured.
     *
     * @param place empty if it was not recognised, or not looked for
     */
    private record Looked(String file, StarField field, Optional<PlateSolution> place, SubMeasures measures) {}

    /** Keeps and measures a frame. On any thread: touches no device. */
    private Looked looked(Frame raw, Frame frame, TargetPlan target, String filter, double seconds, boolean small) {
        String plain = FrameArchive.plainName(target.name());
        String file = night.archive()
                .save(
                        String.join("/", "lights", plain, FrameArchive.plainName(filter)),
                        plain + "_" + FrameArchive.plainName(filter) + "_" + FrameArchive.seconds(seconds),
                        frame);
        StarField field = night.finder().find(frame);
        night.archive().keepStars(file, field);
        Optional<PlateSolution> place = small ? Optional.empty() : place(target, field, 1);
        // Safe as it was first; then with the place where it really is, solved.
        place.ifPresent(p -> night.archive().rewrite(file, frame.withHeader(solved(frame.header(), p))));
        SubMeasures measures = SubFacts.of(
                field,
                raw,
                night.kit().sensor().offsetAdu(),
                () -> judge.starLight(SubLooks.series(target.name(), filter, seconds, raw.width()), field),
                night.gauge().slopeAdu(raw),
                !small,
                night.workers());
        return new Looked(file, field, place, measures);
    }

    private static Header solved(Header header, PlateSolution place) {
        return header.withAll(place.wcs().toHeader().values())
                .with("RA", place.centre().raDeg())
                .with("DEC", place.centre().decDeg());
    }

    private static double offsetArcsec(PlateSolution place, TargetPlan target) {
        return 3600 * place.centre().separationDeg(target.position());
    }

    private Camera.Region middle() {
        int width = (int) (night.kit().sensor().widthPx() * SMALL_FRAME_SHARE) / 2 * 2;
        int height = (int) (night.kit().sensor().heightPx() * SMALL_FRAME_SHARE) / 2 * 2;
        return new Camera.Region(
                (night.kit().sensor().widthPx() - width) / 2,
                (night.kit().sensor().heightPx() - height) / 2,
                width,
                height);
    }

    private Optional<PlateSolution> place(TargetPlan target, StarField field, double withinDeg) {
        SolveResult result = night.solver()
                .solve(
                        field,
                        SolveHints.NONE
                                .withNear(target.position(), withinDeg)
                                .withScale(night.scaleArcsecPerPixel(), 0.02));
        return result instanceof PlateSolution s ? Optional.of(s) : Optional.empty();
    }

    private SubCircumstances circumstances(TargetPlan target) {
        Horizontal seen = observer.observed(target.position(), night.clock().now());
        return new SubCircumstances(
                OptionalDouble.of(seen.altitudeDeg()),
                OptionalDouble.of(
                        observer.hourAngleDeg(target.position(), night.clock().now())),
                OptionalDouble.of(night.devices().focuser().temperatureC()),
                OptionalInt.of(night.devices().focuser().positionSteps()),
                Optional.of(night.devices().mount().pierSide()),
                cooling());
    }

    /** A camera that is gone by now has given its sub: that it does not answer is told where it is asked for the next. */
    private Optional<SubCircumstances.Cooling> cooling() {
        Camera camera = night.devices().camera();
        if (!night.kit().sensor().cooled() || !camera.abilities().cools()) {
            return Optional.empty();
        }
        try {
            return Optional.of(new SubCircumstances.Cooling(
                    camera.sensorTemperatureC(), night.program().coolToC(), camera.coolerPower()));
        } catch (DeviceException e) {
            return Optional.empty();
        }
    }

    private Header header(Header camera, TargetPlan target, String filter) {
        return camera.with("OBJECT", target.name())
                .with("FILTER", filter)
                .with("RA", target.position().raDeg())
                .with("DEC", target.position().decDeg())
                .with("TELESCOP", night.kit().name())
                .with("FOCALLEN", night.kit().optics().focalLengthMm())
                .with("APTDIA", night.kit().optics().apertureMm())
                .with("FOCUSPOS", night.devices().focuser().positionSteps())
                .with("FOCTEMP", night.devices().focuser().temperatureC())
                .with("PIERSIDE", night.devices().mount().pierSide().name())
                .with("SITELAT", night.site().latDeg())
                .with("SITELONG", night.site().lonDeg())
                .with("SITEELEV", night.site().elevationM())
                .with(
                        "SET-TEMP",
                        night.kit().sensor().cooled() ? night.program().coolToC() : null)
                .with("OBSERVAT", night.site().name());
    }
}
