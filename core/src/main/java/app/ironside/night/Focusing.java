package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusRun;
import app.ironside.focus.FocusVerdict;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.Gate;
import app.ironside.journal.Stage;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Sampling;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/** Keeps the telescope in focus: runs, filter changes, and when the next run is due. */
final class Focusing {
    private static final Duration ROUGH_EXPOSURE = Duration.ofSeconds(4);
    private static final Duration FINE_EXPOSURE = Duration.ofSeconds(6);

    /** A narrow filter needs longer focus frames (common practice: 25 s for a 3 nm one). */
    private static final Duration NARROW_EXPOSURE = Duration.ofSeconds(20);

    private static final double TYPICAL_HFR_PX = 1.1;

    private static final Duration UNTIL_NEXT_TRY = Duration.ofMinutes(10);
    private static final int ROUGH_TRIES = 3;

    private final NightContext night;
    private final FocusRun run;
    /** Of the tube at the last run that was believed. */
    private Optional<Double> focusedAtC = Optional.empty();

    /** When a refused run is tried again; empty after one that was believed. */
    private Optional<Instant> again = Optional.empty();

    private double sizePx = TYPICAL_HFR_PX;

    Focusing(NightContext night) {
        this.night = night;
        this.run = new FocusRun(
                night.devices().focuser(), night.devices().camera(), night.clock(), night.quickFinder(), night.kit());
    }

    /**
     * Finds focus from anywhere within the focuser's reach. A run that is refused in the last of dusk is tried again as it darkens, a few
     * times.
     *
     * @return whether a run was believed
     */
    boolean rough() throws InterruptedException {
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

    private boolean foundRoughly(boolean triedAgain) throws InterruptedException {
        night.record().doing(Stage.FOCUS, "Rough focus, for plate solving", Duration.ofSeconds(120));
        try {
            FocusRun.Result result = run.rough(ROUGH_EXPOSURE, shot -> show("Rough focus", shot));
            record("Rough focus", result);
            done(result, triedAgain);
            return result.verdict().accepted();
        } catch (DeviceException e) {
            // No stars: a cloud at dusk passes, a broken focuser does not.
            if (!triedAgain || !e.device().equals(FocusRun.NAME)) {
                throw e;
            }
            night.record().fault(Stage.FOCUS, e.getMessage() + nextTry());
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

    /** A full sweep in the filter that is in; returns whether the position is known to within the critical zone. */
    boolean fine(String why) throws InterruptedException {
        night.record().doing(Stage.FOCUS, "Focus sweep: " + why, Duration.ofSeconds(110));
        boolean narrow = filter().narrow();
        FocusRun.Result result =
                run.fine(narrow ? NARROW_EXPOSURE : FINE_EXPOSURE, sizePx, shot -> show("Focus sweep", shot));
        record("Focus, " + why, result);
        done(result, true);
        if (result.verdict().accepted()) {
            sizePx = Math.max(0.6, Math.min(4, result.verdict().bestSize()));
        }
        double limit = Sampling.criticalFocusUm(night.kit().optics().focalRatio())
                / night.kit().focuser().stepUm();
        double sigma = result.verdict().positionSigma();
        boolean sure = result.verdict().accepted() && sigma <= limit;
        night.record()
                .gate(
                        new Gate(
                                Stage.FOCUS,
                                OptionalDouble.of(
                                        result.verdict().accepted()
                                                ? sigma
                                                : result.verdict().rSquared()),
                                result.verdict().accepted() ? limit : FocusCurve.LEAST_R_SQUARED,
                                result.verdict().accepted() ? "steps" : "R²",
                                result.verdict().accepted()),
                        sure
                                ? String.format(
                                        Locale.ROOT,
                                        "Stars %.2f px at %.0f ± %.0f steps; the critical zone is ± %.0f.",
                                        result.verdict().bestSize(),
                                        result.verdict().bestPosition(),
                                        sigma,
                                        limit)
                                : result.verdict().accepted()
                                        ? String.format(
                                                Locale.ROOT,
                                                "The best position is known to ± %.0f steps only; the critical zone is ± %.0f.",
                                                sigma,
                                                limit)
                                        : result.verdict().reason());
        return sure;
    }

    /** Whether the tube's temperature has left the range in which the focus holds. */
    boolean due() {
        if (again.isPresent()) {
            return !night.clock().now().isBefore(again.get());
        }
        return Math.abs(temperatureChangeC()) >= night.program().refocusAfterC();
    }

    /** Why a run is due, for the journal. */
    String dueBecause() {
        double change = temperatureChangeC();
        return again.isPresent()
                ? "the last run was refused"
                : String.format(Locale.ROOT, "tube %s by %.1f °C", change < 0 ? "colder" : "warmer", Math.abs(change));
    }

    private double temperatureChangeC() {
        return focusedAtC.map(c -> night.devices().focuser().temperatureC() - c).orElse(0.0);
    }

    /** Puts a filter in and moves by the measured difference of their focus. */
    void change(String filterName) throws InterruptedException {
        int slot = night.kit().filterSlot(filterName);
        int present = night.devices().wheel().slot();
        if (slot == present) {
            return;
        }
        int shift = night.kit().filters().get(slot).focusOffsetSteps()
                - night.kit().filters().get(present).focusOffsetSteps();
        night.devices().wheel().select(slot).await(night.clock());
        if (shift != 0) {
            run.settleAt(night.devices().focuser().positionSteps() + shift);
        }
    }

    private FilterSpec filter() {
        return night.kit().filters().get(night.devices().wheel().slot());
    }

    private void show(String what, FocusRun.Shot shot) {
        String size = shot.stars().medianHalfFluxRadiusPx().isPresent()
                ? String.format(
                        Locale.ROOT,
                        ", %.2f px",
                        shot.stars().medianHalfFluxRadiusPx().getAsDouble())
                : ", no stars";
        night.record()
                .frame(
                        Stage.FOCUS,
                        what + " at " + shot.positionSteps() + size,
                        shot.frame(),
                        Optional.of(shot.stars()));
    }

    private void record(String what, FocusRun.Result result) {
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
                        OptionalInt.of(filter().focusOffsetSteps()),
                        night.devices().focuser().temperatureC(),
                        result.took()));
    }
}
