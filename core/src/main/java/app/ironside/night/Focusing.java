package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusModel;
import app.ironside.focus.FocusRun;
import app.ironside.focus.FocusVerdict;
import app.ironside.focus.StarStrip;
import app.ironside.image.Pictures;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusPoint;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.Gate;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.kit.FilterSpec;
import app.ironside.plan.FocusTriggers;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/** Keeps the telescope in focus: runs, filter changes, and when the next run is due. */
final class Focusing {
    private static final Duration ROUGH_EXPOSURE = Duration.ofSeconds(4);

    /** A focus so many deviations from where it is expected is no chance. */
    private static final double LOST_SIGMAS = 5;

    private static final double TYPICAL_HFR_PX = 1.1;

    private static final Duration UNTIL_NEXT_TRY = Duration.ofMinutes(10);
    private static final int ROUGH_TRIES = 3;

    /** A run is young so long. */
    private static final double FRESH_MINUTES = 20;

    /** With fewer of the stars that showed before, cloud stands before them. */
    private static final double CLOUDED_SHARE = 0.4;

    private final NightContext night;
    private final FocusRun run;
    private final Optional<FocusModel> model;
    /** Of the tube at the last run that was believed. */
    private Optional<Double> focusedAtC = Optional.empty();

    /** When a refused run is tried again; empty after one that was believed. */
    private Optional<Instant> again = Optional.empty();

    /** Of the last run that was believed. */
    private Optional<Instant> focusedAt = Optional.empty();

    /** Steps moved for the temperature since the last run. */
    private int compensated;

    private boolean toldUnsupported;

    private int subsSince;
    private final SizeGrowth growth = new SizeGrowth();

    private double sizePx = TYPICAL_HFR_PX;

    /**
     * Where focus was last found.
     *
     * @param steps with a filter without offset
     * @param stars that showed
     */
    private record Good(int steps, int stars) {}

    private Optional<Good> lastGood = Optional.empty();

    Focusing(NightContext night) {
        this.night = night;
        this.run = new FocusRun(
                night.devices().focuser(), night.devices().camera(), night.clock(), night.quickFinder(), night.kit());
        // A ring that hands turn has no zero: its steps of another night say nothing of tonight's.
        this.model = night.kit().motorFocuser().isPresent()
                ? FocusModel.of(night.earlier().focusRuns(), zoneSteps())
                : Optional.empty();
    }

    /**
     * Finds focus from anywhere within the focuser's reach. A run that is refused in the last of dusk is tried again as it darkens, a few
     * times.
     *
     * @return whether a run was believed
     */
    boolean rough() throws InterruptedException {
        expect();
        for (int left = ROUGH_TRIES - 1; left >= 0; left--) {
            if (foundRoughly(left > 0)) {
                return true;
            }
            if (left > 0) {
                night.record().doing(Stage.FOCUS, "Waiting before the next focus run", UNTIL_NEXT_TRY);
                night.clock().await(UNTIL_NEXT_TRY);
            }
        }
        return false;
    }

    /** Tells where focus is expected by the kit's other nights, and begins there. */
    private void expect() throws InterruptedException {
        if (model.isEmpty()) {
            return;
        }
        FocusModel m = model.get();
        double temperature = night.devices().focuser().temperatureC();
        double steps = m.expected(filter().name(), temperature);
        double sigma = m.expectedSigma(temperature);
        night.record()
                .tell(new FocusExpected(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "By %d runs on %d nights focus is expected at %.0f ± %.0f steps in %s at %.1f °C.",
                                m.runs(),
                                m.nights(),
                                steps,
                                sigma,
                                filter().name(),
                                temperature),
                        steps,
                        sigma,
                        m.runs(),
                        m.nights(),
                        m.stepsPerDegree(),
                        m.slopeSigma(),
                        m.supportedSince(),
                        m.lacks(zoneSteps())));
        int place = (int) Math.round(steps);
        int reach = 5 * FocusRun.stepFor(night.kit(), TYPICAL_HFR_PX);
        if (place > reach
                && place < night.devices().focuser().maxSteps() - reach
                && Math.abs(place - night.devices().focuser().positionSteps()) > zoneSteps()) {
            run.settleAt(place);
        }
    }

    /** A focus that lies far from where all other nights had it: the focuser lost its zero, or something was screwed anew. */
    private void holdAgainstExpected(FocusRun.Result result) {
        model.ifPresent(m -> {
            double temperature = night.devices().focuser().temperatureC();
            double off = result.verdict().bestPosition() - m.expected(filter().name(), temperature);
            double sigma = Math.max(zoneSteps(), m.expectedSigma(temperature));
            if (Math.abs(off) > LOST_SIGMAS * sigma) {
                night.record()
                        .fault(
                                Stage.FOCUS,
                                String.format(
                                        Locale.ROOT,
                                        "Focus lies %+.0f steps from where %d runs on %d nights had it (± %.0f): the focuser lost its zero or slips,"
                                                + " or the camera was screwed on anew. The night goes on by what was found.",
                                        off,
                                        m.runs(),
                                        m.nights(),
                                        sigma));
            }
        });
    }

    /** How frames for focus are taken in the filter that is in. */
    private FocusRun.Frames frames() {
        FilterSpec filter = filter();
        int binning = Math.min(
                filter.focusFrameBinning(), night.devices().camera().abilities().mostBinning());
        return new FocusRun.Frames(
                Duration.ofMillis(Math.round(1000 * filter.focusExposureSeconds())),
                binning,
                night.program().focus().points());
    }

    private boolean foundRoughly(boolean triedAgain) throws InterruptedException {
        night.record().doing(Stage.FOCUS, "Rough focus, for plate solving", Duration.ofSeconds(120));
        try {
            FocusRun.Result result = run.rough(ROUGH_EXPOSURE, shot -> show(FocusSwept.ROUGH, shot));
            record(FocusSwept.ROUGH, result, Optional.empty());
            done(result, triedAgain);
            if (result.verdict().accepted()) {
                holdAgainstExpected(result);
            }
            return result.verdict().accepted();
        } catch (DeviceException e) {
            // No stars: a cloud at dusk passes, a broken focuser does not.
            if (!triedAgain || !e.device().equals(FocusRun.NAME)) {
                throw e;
            }
            night.record().fault(Stage.FOCUS, e, nextTry().strip());
            return false;
        }
    }

    private static String nextTry() {
        return " The next try is in " + UNTIL_NEXT_TRY.toMinutes() + " minutes.";
    }

    /** Only a run that was believed is a focus; one that was refused is tried again, though not before every sub. */
    private void done(FocusRun.Result result, boolean triedAgain) {
        if (result.verdict().accepted()) {
            focusedAtC = Optional.of(night.devices().focuser().temperatureC());
            again = Optional.empty();
        } else {
            again = Optional.of(night.clock().now().plus(UNTIL_NEXT_TRY));
            night.record()
                    .fault(
                            Stage.FOCUS,
                            "A focus run was refused (" + result.verdict().reason() + "). The focuser stands at "
                                    + night.devices().focuser().positionSteps() + " steps."
                                    + (triedAgain ? nextTry() : ""));
        }
    }

    /**
     * A full sweep in the filter that is in, and a frame that proves where it ended. One that is refused is made once more and wider; if
     * that is refused too, the focuser goes to where it last was in focus, and it is told whether cloud or focus is at fault.
     *
     * @return whether the position is known to within the critical zone
     */
    boolean fine(String why) throws InterruptedException {
        night.record().doing(Stage.FOCUS, "Focus sweep: " + why, Duration.ofSeconds(110));
        FocusRun.Frames frames = frames();
        StarStrip.Gathering strip = new StarStrip.Gathering();
        FocusRun.Result result = run.fine(frames, sizePx, shot -> show("Focus sweep", shot, strip));
        record("Focus, " + why, result, kept(strip));
        Optional<String> wrong = wrong(result, frames);
        if (wrong.isPresent()) {
            night.record().fault(Stage.FOCUS, "A focus run was refused: " + wrong.get() + ". Once more, and wider.");
            night.record().doing(Stage.FOCUS, "Focus sweep, wider", Duration.ofSeconds(130));
            StarStrip.Gathering wider = new StarStrip.Gathering();
            result = run.wider(result, frames, shot -> show("Focus sweep, wider", shot, wider));
            record("Focus, wider", result, kept(wider));
            wrong = wrong(result, frames);
        }
        finish(result, wrong);
        return gate(result, wrong);
    }

    /** What speaks against a sweep: its curve, or the frame at its end. */
    private Optional<String> wrong(FocusRun.Result result, FocusRun.Frames frames) throws InterruptedException {
        return result.verdict().accepted()
                ? run.unconfirmed(result, frames, shot -> show("Proof", shot))
                : Optional.of(withoutStop(result.verdict().reason()));
    }

    private static String withoutStop(String sentence) {
        return sentence.endsWith(".") ? sentence.substring(0, sentence.length() - 1) : sentence;
    }

    private void finish(FocusRun.Result result, Optional<String> wrong) throws InterruptedException {
        if (wrong.isEmpty()) {
            focusedAtC = Optional.of(night.devices().focuser().temperatureC());
            again = Optional.empty();
            focusedAt = Optional.of(night.clock().now());
            subsSince = 0;
            compensated = 0;
            growth.begin();
            lastGood = Optional.of(new Good(
                    (int) Math.round(result.verdict().bestPosition()) - filter().knownOffsetSteps(), result.stars()));
            sizePx = Math.max(0.6, Math.min(4, result.verdict().bestSize()));
            return;
        }
        again = Optional.of(night.clock().now().plus(UNTIL_NEXT_TRY));
        if (lastGood.isPresent()) {
            run.settleAt(lastGood.get().steps() + filter().knownOffsetSteps());
        }
        night.record()
                .fault(
                        Stage.FOCUS,
                        "Focus could not be found: " + wrong.get() + ". "
                                + blame(result.stars())
                                + " The focuser stands at "
                                + night.devices().focuser().positionSteps() + " steps"
                                + (lastGood.isPresent() ? ", where focus last was." : ".")
                                + nextTry());
    }

    /** Cloud or focuser, by the stars that showed against those of the last focus; neither is known before there was one. */
    private String blame(int stars) {
        if (lastGood.isEmpty()) {
            return String.format(
                    Locale.ROOT,
                    "At most %d stars showed, and no earlier focus tells how many there should be: look at the sky first, then at the focuser.",
                    stars);
        }
        return stars < CLOUDED_SHARE * lastGood.get().stars()
                ? String.format(
                        Locale.ROOT,
                        "At most %d stars showed, %d did when focus was last found: this is cloud, and the focuser is not to blame.",
                        stars,
                        lastGood.get().stars())
                : "The stars are there: look at the focuser, its clutch and its cable.";
    }

    private boolean gate(FocusRun.Result result, Optional<String> wrong) {
        FocusVerdict verdict = result.verdict();
        double limit = zoneSteps();
        double sigma = verdict.positionSigma();
        boolean sure = wrong.isEmpty() && sigma <= limit;
        night.record()
                .gate(
                        new Gate(
                                Stage.FOCUS,
                                OptionalDouble.of(verdict.accepted() ? sigma : verdict.rSquared()),
                                verdict.accepted() ? limit : FocusCurve.LEAST_R_SQUARED,
                                verdict.accepted() ? "steps" : "R²",
                                sure),
                        sure
                                ? String.format(
                                        Locale.ROOT,
                                        "Stars %.2f px at %.0f ± %.0f steps; the critical zone is ± %.0f.",
                                        verdict.bestSize(),
                                        verdict.bestPosition(),
                                        sigma,
                                        limit)
                                : wrong.map(w -> "Focus is not proven: " + w + ".")
                                        .orElseGet(() -> String.format(
                                                Locale.ROOT,
                                                "The best position is known to ± %.0f steps only; the critical zone is ± %.0f.",
                                                sigma,
                                                limit)));
        return sure;
    }

    /** Whether a run is due before the next sub, whichever its filter. */
    boolean due() {
        return dueBecause().isPresent();
    }

    /** Why a run is due, for the journal; empty if none is. */
    Optional<String> dueBecause() {
        if (again.isPresent()) {
            return night.clock().now().isBefore(again.get())
                    ? Optional.empty()
                    : Optional.of("the last run was refused");
        }
        double change = temperatureChangeC();
        if (Math.abs(change) >= night.program().refocusAfterC() && !follows()) {
            return Optional.of(String.format(
                    Locale.ROOT, "tube %s by %.1f °C", change < 0 ? "colder" : "warmer", Math.abs(change)));
        }
        FocusTriggers triggers = night.program().focus();
        if (triggers.everySubs().filter(n -> subsSince >= n).isPresent()) {
            return Optional.of(subsSince + " subs since the last run");
        }
        if (triggers.everyMinutes().filter(n -> minutesSince() >= n).isPresent()) {
            return Optional.of(String.format(Locale.ROOT, "%.0f min since the last run", minutesSince()));
        }
        return triggers.growth().flatMap(growth::because);
    }

    /** A focuser that follows the temperature needs no run for it. */
    private boolean follows() {
        return night.program().focus().compensate()
                && model.flatMap(FocusModel::supportedSince).isPresent();
    }

    private double minutesSince() {
        return focusedAt
                .map(at -> Duration.between(at, night.clock().now()).toSeconds() / 60.0)
                .orElse(0.0);
    }

    /** A sub was taken and measured. */
    void taken(SubTaken sub) {
        subsSince++;
        growth.taken(sub);
    }

    /** Whether a run now would find what the last one found: it is younger than half of what any trigger waits for. */
    boolean isFresh() {
        FocusTriggers triggers = night.program().focus();
        if (!triggers.skipFresh() || again.isPresent() || focusedAt.isEmpty() || subsSince == 0) {
            return false;
        }
        double interval = Math.min(
                FRESH_MINUTES, triggers.everyMinutes().map(n -> n / 2.0).orElse(FRESH_MINUTES));
        return minutesSince() < interval
                && Math.abs(temperatureChangeC()) < night.program().refocusAfterC() / 2
                && triggers.growth().flatMap(growth::because).isEmpty();
    }

    private double temperatureChangeC() {
        return focusedAtC.map(c -> night.devices().focuser().temperatureC() - c).orElse(0.0);
    }

    /** Follows the tube's temperature between runs, where the rules want that and the kit's record carries it. */
    void compensate() throws InterruptedException {
        if (!night.program().focus().compensate() || focusedAtC.isEmpty()) {
            return;
        }
        if (model.flatMap(FocusModel::supportedSince).isEmpty()) {
            if (!toldUnsupported) {
                toldUnsupported = true;
                night.record()
                        .fault(
                                Stage.FOCUS,
                                "The focuser does not follow the temperature: "
                                        + model.map(m -> m.lacks(zoneSteps()))
                                                .orElse("there are too few runs of other nights")
                                        + ".");
            }
            return;
        }
        double wanted = model.get().stepsPerDegree() * temperatureChangeC();
        int due = (int) Math.round(wanted) - compensated;
        if (Math.abs(due) >= Math.max(1, zoneSteps() / 4)) {
            run.settleAt(night.devices().focuser().positionSteps() + due);
            compensated += due;
        }
    }

    /** Whether nobody knows where the filter that is in focuses. */
    boolean isOffsetUnknown() {
        return filter().focusOffsetSteps().isEmpty() && night.kit().filters().size() > 1;
    }

    /**
     * Puts a filter in and moves by the measured difference of their focus.
     *
     * @return whether another was in before
     */
    boolean change(String filterName) throws InterruptedException {
        int slot = night.kit().filterSlot(filterName);
        int present = night.devices().wheel().slot();
        if (slot == present) {
            return false;
        }
        int shift = night.kit().filters().get(slot).knownOffsetSteps()
                - night.kit().filters().get(present).knownOffsetSteps();
        night.devices().wheel().select(slot).await(night.clock());
        if (shift != 0) {
            run.settleAt(night.devices().focuser().positionSteps() + shift);
        }
        return true;
    }

    /** Sweeps in the filter that is in for a measurement of its own; the night's triggers begin anew with it. */
    FocusRun.Result swept(String why) throws InterruptedException {
        FocusRun.Frames frames = frames();
        night.record().doing(Stage.FOCUS, "Focus sweep: " + why, Duration.ofSeconds(110));
        StarStrip.Gathering strip = new StarStrip.Gathering();
        FocusRun.Result result = run.fine(frames, sizePx, shot -> show("Focus sweep", shot, strip));
        record("Focus, " + why, result, kept(strip));
        if (result.verdict().accepted()) {
            finish(result, Optional.empty());
        }
        return result;
    }

    /** How far out stars are a few times as large, for a focuser whose gearing nobody knows. */
    FocusRun.Outward outward(FocusRun.Result inFocus) throws InterruptedException {
        night.record().doing(Stage.FOCUS, "Outward until stars are three times as large", Duration.ofSeconds(120));
        return run.outward(inFocus, frames(), shot -> show("Outward", shot));
    }

    /** By how much a sweep outward finds focus farther out, with its standard error. */
    Optional<double[]> slack(FocusRun.Result inward) throws InterruptedException {
        night.record().doing(Stage.FOCUS, "The same sweep the other way", Duration.ofSeconds(110));
        return run.slack(inward, frames(), shot -> show("The other way", shot));
    }

    /** Half the critical zone. */
    double zoneSteps() {
        return night.kit().criticalFocusSteps();
    }

    FilterSpec filter() {
        return night.kit().filters().get(night.devices().wheel().slot());
    }

    private void show(String what, FocusRun.Shot shot, StarStrip.Gathering strip) {
        if (night.archive().keepsFrames()) {
            strip.add(shot);
        }
        show(what, shot);
    }

    /** A star of the sweep in all its frames, on the disk; that a picture cannot be kept costs no focus. */
    private Optional<FocusSwept.Strip> kept(StarStrip.Gathering gathered) {
        return gathered.strip().flatMap(strip -> {
            try {
                Path file = night.archive()
                        .derived(
                                "focus",
                                String.format(
                                        Locale.ROOT,
                                        "sweep_%04d.png",
                                        night.record()
                                                        .state()
                                                        .all(FocusSwept.class)
                                                        .size()
                                                + 1));
                Pictures.writePng(file, strip.frame(), strip.stretch());
                return Optional.of(new FocusSwept.Strip(night.archive().relative(file), strip.positions()));
            } catch (UncheckedIOException full) {
                night.record().fault(Stage.FOCUS, "The picture of the sweep is not kept: " + full.getMessage());
                return Optional.empty();
            }
        });
    }

    private void show(String what, FocusRun.Shot shot) {
        OptionalDouble size = shot.stars().medianHalfFluxRadiusPx();
        String text = what + " at " + shot.positionSteps()
                + (size.isPresent() ? String.format(Locale.ROOT, ", %.2f px", size.getAsDouble()) : ", no stars");
        night.record().frame(Stage.FOCUS, text, shot.frame(), Optional.of(shot.stars()));
        night.record()
                .tell(new FocusPoint(
                        night.record().now(),
                        text + ".",
                        shot.positionSteps(),
                        size,
                        shot.stars().good().size()));
    }

    private void record(String what, FocusRun.Result result, Optional<FocusSwept.Strip> strip) {
        FocusVerdict verdict = result.verdict();
        double[] abc = FocusCurve.fitHyperbola(result.samples());
        night.record()
                .tell(new FocusSwept(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "%s: %.2f px at %.0f steps, R² %.3f.",
                                what,
                                verdict.bestSize(),
                                verdict.bestPosition(),
                                verdict.rSquared()),
                        what,
                        result.samples().stream()
                                .map(s -> new FocusSwept.Point(s.position(), s.size(), OptionalDouble.of(s.sigma())))
                                .toList(),
                        verdict,
                        new FocusSwept.Hyperbola(abc[0], abc[1], abc[2]),
                        filter().name(),
                        filter().focusOffsetSteps().map(OptionalInt::of).orElse(OptionalInt.empty()),
                        night.devices().focuser().temperatureC(),
                        result.took(),
                        result.zones(),
                        strip));
    }
}
