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
import java.util.ArrayList;
import java.util.List;
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

    /** What a run found, with all its points. */
    public record Result(FocusVerdict verdict, List<FocusSample> samples, int stepSteps, Duration took) {}

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
        for (int again = 0; again < 3 && outside(coarse); again++) {
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
        int start = focuser.positionSteps();
        Result result = sweep(start, stepFor(kit, sizeInFocusPx), exposure, each);
        settleAt(result.verdict().accepted() ? (int) Math.round(result.verdict().bestPosition()) : start);
        return result;
    }

    private Result sweep(int centre, int step, Duration exposure, Consumer<Shot> each) throws InterruptedException {
        int middle = (int) Math.round(Math.min(
                focuser.maxSteps() - (double) ARM_POINTS * step, Math.max((double) ARM_POINTS * step, centre)));
        List<FocusSample> samples = new ArrayList<>();
        java.time.Instant began = clock.now();
        // From the outside inward, after one step too far out: the gears press the same way at every point.
        focuser.moveAndWait(clock, clamp(middle + (ARM_POINTS + 1) * step));
        for (int k = ARM_POINTS; k >= -ARM_POINTS; k--) {
            int position = clamp(middle + k * step);
            focuser.moveAndWait(clock, position);
            Frame frame = camera.expose(clock, Camera.Exposure.light(exposure));
            StarField field = finder.find(frame);
            each.accept(new Shot(position, frame, field));
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
        return new Result(verdict, List.copyOf(samples), step, Duration.between(began, clock.now()));
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
