package app.ironside.focus;

import app.ironside.device.Camera;
import app.ironside.device.Focuser;
import app.ironside.device.NightClock;
import app.ironside.device.TryLater;
import app.ironside.image.Frame;
import app.ironside.kit.Kit;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * Sweeps the focuser through focus and settles at the best position, every approach from the same side so that backlash is taken
 * up.
 */
public final class FocusRun {
    /** What complains in a run that sees no stars. */
    public static final String NAME = "focus";

    private static final int ARM_POINTS = 4;

    /** Stars at the ends of a fine sweep are about this many times their size in focus (common practice: 3 to 5). */
    private static final double END_SIZE_FACTOR = 3.2;

    /** Half-flux radius of a disc of light a defocus wide: a disc of radius R holds half its flux within R / √2. */
    private static final double DISC_HFR = 0.5 / Math.sqrt(2);

    private static final int FEWEST_STARS = 5;

    /** A coarse sweep is moved on so often toward a focus that lies outside it. */
    private static final int MOST_MOVES = 6;

    /** A sweep that was refused is made once more, so much wider. */
    private static final double WIDER = 1.7;

    /** A frame at the best position may miss the curve by so many of its standard deviations. */
    private static final double CONFIRMED_SIGMAS = 3;

    private static final double LEAST_SCATTER_SHARE = 0.05;

    /**
     * What a run found, with all its points.
     *
     * @param startSteps where the focuser stood before
     * @param stars in the frame that showed most
     */
    public record Result(
            FocusVerdict verdict, List<FocusSample> samples, int startSteps, int stepSteps, int stars, Duration took) {}

    private final Focuser focuser;
    private final Camera camera;
    private final NightClock clock;
    private final StarSearch finder;
    private final Kit kit;

    public FocusRun(Focuser focuser, Camera camera, NightClock clock, StarSearch finder, Kit kit) {
        this.focuser = focuser;
        this.camera = camera;
        this.clock = clock;
        this.finder = finder;
        this.kit = kit;
    }

    /**
     * The step of a nine-point sweep whose ends show stars a few times their size in focus, from the optics alone.
     *
     * @param sizeInFocusPx half-flux radius in focus
     */
    public static int stepFor(Kit kit, double sizeInFocusPx) {
        double endHfrUm = Math.sqrt(END_SIZE_FACTOR * END_SIZE_FACTOR - 1)
                * sizeInFocusPx
                * kit.sensor().pixelUm();
        double defocusUm = endHfrUm * kit.optics().focalRatio() / DISC_HFR;
        return (int)
                Math.max(1, Math.round(defocusUm / ARM_POINTS / kit.focuser().stepUm()));
    }

    /**
     * Finds focus from far out: a coarse sweep first, moved until it holds the minimum, then a fine one.
     *
     * @param each is shown every frame with its stars as it comes
     */
    public Result rough(Duration exposure, Consumer<Shot> each) throws InterruptedException {
        Result coarse = sweep(focuser.positionSteps(), 3 * stepFor(kit, 1.0), exposure, each);
        for (int again = 0; again < MOST_MOVES && outside(coarse); again++) {
            coarse =
                    sweep((int) Math.round(limit(coarse.verdict().bestPosition())), coarse.stepSteps(), exposure, each);
        }
        settleAt((int) Math.round(limit(coarse.verdict().bestPosition())));
        return coarse;
    }

    /** Whether the best position has fewer than two points of the sweep beyond it on one side. */
    private static boolean outside(Result result) {
        double[] positions = result.samples().stream()
                .mapToDouble(FocusSample::position)
                .sorted()
                .toArray();
        double best = result.verdict().bestPosition();
        return best < positions[1] || best > positions[positions.length - 2];
    }

    /** A frame of the sweep and what was measured in it. */
    public record Shot(int positionSteps, Frame frame, StarField stars) {}

    /**
     * Nine points about the present position; the focuser ends at the best one if the curve is believable, else where it was.
     */
    public Result fine(Duration exposure, double sizeInFocusPx, Consumer<Shot> each) throws InterruptedException {
        return settled(sweep(focuser.positionSteps(), stepFor(kit, sizeInFocusPx), exposure, each));
    }

    /**
     * The same once more and wider, about where the sweep before it points to: on toward a focus outside it, or about its smallest size.
     *
     * @param refused the sweep that was not believed
     */
    public Result wider(Result refused, Duration exposure, Consumer<Shot> each) throws InterruptedException {
        double smallest = refused.samples().stream()
                .min(Comparator.comparingDouble(FocusSample::size))
                .map(FocusSample::position)
                .orElse((double) focuser.positionSteps());
        int step = (int) Math.max(1, Math.round(WIDER * refused.stepSteps()));
        return settled(sweep((int) Math.round(limit(smallest)), step, exposure, each));
    }

    private Result settled(Result result) throws InterruptedException {
        if (result.verdict().accepted()) {
            settleAt((int) Math.round(result.verdict().bestPosition()));
        } else {
            settleAt(result.startSteps());
        }
        return result;
    }

    /**
     * A frame where the sweep ended, held against what its curve foretells there.
     *
     * @return what is wrong, in words; empty if it is as foretold
     */
    public Optional<String> unconfirmed(Result result, Duration exposure, Consumer<Shot> each)
            throws InterruptedException {
        int position = focuser.positionSteps();
        Frame frame = camera.expose(clock, Camera.Exposure.light(exposure));
        StarField field = finder.find(frame);
        each.accept(new Shot(position, frame, field));
        double foretold = result.verdict().bestSize();
        if (field.good().size() < FEWEST_STARS) {
            return Optional.of(String.format(
                    Locale.ROOT, "the frame at %d shows hardly a star, where %.2f px were due", position, foretold));
        }
        double size = field.medianHalfFluxRadiusPx().orElseThrow();
        double scatter = Math.max(LEAST_SCATTER_SHARE * foretold, scatter(result));
        return size <= foretold + CONFIRMED_SIGMAS * scatter
                ? Optional.empty()
                : Optional.of(String.format(
                        Locale.ROOT,
                        "the frame at %d shows %.2f px, where %.2f ± %.2f were due: something moved after the sweep",
                        position,
                        size,
                        foretold,
                        scatter));
    }

    /** By how much the sizes miss the curve, near focus. */
    private static double scatter(Result result) {
        double[] abc = FocusCurve.fitHyperbola(result.samples());
        double[] off = result.samples().stream()
                .sorted(Comparator.comparingDouble(FocusSample::size))
                .limit(ARM_POINTS + 1L)
                .mapToDouble(s -> Math.abs(s.size() - FocusCurve.hyperbolaSize(abc, s.position())))
                .toArray();
        return Math.sqrt(Arrays.stream(off).map(v -> v * v).average().orElse(0));
    }

    private Result sweep(int centre, int step, Duration exposure, Consumer<Shot> each) throws InterruptedException {
        int middle = (int) Math.round(Math.min(
                focuser.maxSteps() - (double) ARM_POINTS * step, Math.max((double) ARM_POINTS * step, centre)));
        List<FocusSample> samples = new ArrayList<>();
        int start = focuser.positionSteps();
        int stars = 0;
        Instant began = clock.now();
        // From the outside inward, after one step too far out: the gears press the same way at every point.
        focuser.moveAndWait(clock, clamp(middle + (ARM_POINTS + 1) * step));
        for (int k = ARM_POINTS; k >= -ARM_POINTS; k--) {
            int position = clamp(middle + k * step);
            focuser.moveAndWait(clock, position);
            Frame frame = camera.expose(clock, Camera.Exposure.light(exposure));
            StarField field = finder.find(frame);
            each.accept(new Shot(position, frame, field));
            stars = Math.max(stars, field.good().size());
            if (field.good().size() >= FEWEST_STARS) {
                double size = field.medianHalfFluxRadiusPx().orElseThrow();
                samples.add(new FocusSample(
                        position,
                        size,
                        0.02 * size + 0.03 / Math.sqrt(field.good().size())));
            }
        }
        if (samples.size() < 3) {
            throw new TryLater(
                    NAME,
                    "only " + samples.size() + " of " + (2 * ARM_POINTS + 1) + " frames showed stars",
                    "Look for cloud or a cap, or expose longer than " + exposure.toSeconds() + " s.");
        }
        FocusVerdict verdict = FocusCurve.judge(samples, FocusMethod.HYPERBOLA);
        return new Result(verdict, List.copyOf(samples), start, step, stars, Duration.between(began, clock.now()));
    }

    /** Moves to a position from outside, so that backlash is taken up as in the sweep. */
    public void settleAt(int position) throws InterruptedException {
        int beyond = clamp(position + 2 * kit.focuser().backlashSteps() + 10);
        focuser.moveAndWait(clock, beyond);
        focuser.moveAndWait(clock, clamp(position));
    }

    private double limit(double position) {
        return Math.max(0, Math.min(focuser.maxSteps(), position));
    }

    private int clamp(int position) {
        return (int) limit(position);
    }
}
