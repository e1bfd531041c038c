package app.ironside.focus;

import app.ironside.Check;
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

    /** Points of a usual sweep. */
    public static final int USUAL_POINTS = 9;

    private static final int USUAL_ARM = (USUAL_POINTS - 1) / 2;

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

    /** Stars this many times as large show how wide a sweep has to be (common practice: 3 to 5). */
    private static final double LEAST_GROWN = 3;

    private static final int MOST_OUTWARD = 12;

    private static final double LEAST_SCATTER_SHARE = 0.05;

    /**
     * What a run found, with all its points.
     *
     * @param startSteps where the focuser stood before
     * @param stars in the frame that showed most
     * @param zones where middle and corners are in focus, where enough stars showed
     */
    public record Result(
            FocusVerdict verdict,
            List<FocusSample> samples,
            int startSteps,
            int stepSteps,
            int stars,
            Duration took,
            Optional<SweepZones> zones) {}

    /**
     * How the frames of a sweep are taken.
     *
     * @param binning sizes are told in whole pixels all the same
     * @param points of the sweep: 5, 7 or 9
     */
    public record Frames(Duration exposure, int binning, int points) {
        public Frames {
            Check.inRange("points", points, 5, 21);
        }

        public static Frames usual(Duration exposure) {
            return new Frames(exposure, 1, USUAL_POINTS);
        }

        private int arm() {
            return (points - 1) / 2;
        }
    }

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
        return stepFor(kit, sizeInFocusPx, USUAL_ARM);
    }

    private static int stepFor(Kit kit, double sizeInFocusPx, int arm) {
        double endHfrUm = Math.sqrt(END_SIZE_FACTOR * END_SIZE_FACTOR - 1)
                * sizeInFocusPx
                * kit.sensor().pixelUm();
        double defocusUm = endHfrUm * kit.optics().focalRatio() / DISC_HFR;
        return (int) Math.max(1, Math.round(defocusUm / arm / kit.focuser().stepUm()));
    }

    /**
     * Finds focus from far out: a coarse sweep first, moved until it holds the minimum, then a fine one.
     *
     * @param each is shown every frame with its stars as it comes
     */
    public Result rough(Duration exposure, Consumer<Shot> each) throws InterruptedException {
        Frames frames = Frames.usual(exposure);
        Result coarse = sweep(focuser.positionSteps(), 3 * stepFor(kit, 1.0), frames, each);
        for (int again = 0; again < MOST_MOVES && outside(coarse); again++) {
            coarse = sweep((int) Math.round(limit(coarse.verdict().bestPosition())), coarse.stepSteps(), frames, each);
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
     * A sweep about the present position; the focuser ends at the best one if the curve is believable, else where it was.
     */
    public Result fine(Frames frames, double sizeInFocusPx, Consumer<Shot> each) throws InterruptedException {
        return settled(sweep(focuser.positionSteps(), stepFor(kit, sizeInFocusPx, frames.arm()), frames, each));
    }

    /**
     * The same once more and wider, about where the sweep before it points to: on toward a focus outside it, or about its smallest size.
     *
     * @param refused the sweep that was not believed
     */
    public Result wider(Result refused, Frames frames, Consumer<Shot> each) throws InterruptedException {
        double smallest = refused.samples().stream()
                .min(Comparator.comparingDouble(FocusSample::size))
                .map(FocusSample::position)
                .orElse((double) focuser.positionSteps());
        int step = (int) Math.max(1, Math.round(WIDER * refused.stepSteps()));
        return settled(sweep((int) Math.round(limit(smallest)), step, frames, each));
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
    public Optional<String> unconfirmed(Result result, Frames frames, Consumer<Shot> each) throws InterruptedException {
        int position = focuser.positionSteps();
        Frame frame = taken(frames);
        StarField field = finder.find(frame);
        each.accept(new Shot(position, frame, field));
        double foretold = result.verdict().bestSize();
        if (field.good().size() < FEWEST_STARS) {
            return Optional.of(String.format(
                    Locale.ROOT, "the frame at %d shows hardly a star, where %.2f px were due", position, foretold));
        }
        double size = frames.binning() * field.medianHalfFluxRadiusPx().orElseThrow();
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
                .limit(USUAL_ARM + 1L)
                .mapToDouble(s -> Math.abs(s.size() - FocusCurve.hyperbolaSize(abc, s.position())))
                .toArray();
        return Math.sqrt(Arrays.stream(off).map(v -> v * v).average().orElse(0));
    }

    private Frame taken(Frames frames) throws InterruptedException {
        return camera.expose(clock, Camera.Exposure.light(frames.exposure()).withBinning(frames.binning()));
    }

    private Result sweep(int centre, int step, Frames frames, Consumer<Shot> each) throws InterruptedException {
        int arm = frames.arm();
        int middle = (int)
                Math.round(Math.min(focuser.maxSteps() - (double) arm * step, Math.max((double) arm * step, centre)));
        List<FocusSample> samples = new ArrayList<>();
        SweepZones.Gathering zones = new SweepZones.Gathering();
        int start = focuser.positionSteps();
        int stars = 0;
        Instant began = clock.now();
        // From the outside inward, after one step too far out: the gears press the same way at every point.
        focuser.moveAndWait(clock, clamp(middle + (arm + 1) * step));
        for (int k = arm; k >= -arm; k--) {
            int position = clamp(middle + k * step);
            focuser.moveAndWait(clock, position);
            Frame frame = taken(frames);
            StarField field = finder.find(frame);
            each.accept(new Shot(position, frame, field));
            stars = Math.max(stars, field.good().size());
            if (field.good().size() >= FEWEST_STARS) {
                samples.add(sample(position, field, frames.binning()));
                zones.add(position, field, frames.binning());
            }
        }
        if (samples.size() < 3) {
            throw new TryLater(
                    NAME,
                    "only " + samples.size() + " of " + frames.points() + " frames showed stars",
                    "Look for cloud or a cap, or expose longer than "
                            + frames.exposure().toSeconds() + " s.");
        }
        FocusVerdict verdict = FocusCurve.judge(samples, FocusMethod.HYPERBOLA);
        return new Result(
                verdict, List.copyOf(samples), start, step, stars, Duration.between(began, clock.now()), zones.zones());
    }

    private static FocusSample sample(int position, StarField field, int binning) {
        double size = binning * field.medianHalfFluxRadiusPx().orElseThrow();
        return new FocusSample(
                position, size, 0.02 * size + 0.03 / Math.sqrt(field.good().size()));
    }

    /**
     * The step of a focuser whose gearing nobody knows: from focus outward until stars are a few times as large, then back. A sweep of so
     * many points reaches as far to either side (common practice: steps moved × 2 / (points − 1)).
     *
     * @param inFocus a sweep that was believed, at whose position the focuser stands
     */
    public Outward outward(Result inFocus, Frames frames, Consumer<Shot> each) throws InterruptedException {
        int start = focuser.positionSteps();
        double size = inFocus.verdict().bestSize();
        int out = 0;
        double grown = 1;
        int step = Math.max(1, inFocus.stepSteps());
        while (grown < LEAST_GROWN && clamp(start + out + step) > start + out && out < MOST_OUTWARD * step) {
            out = clamp(start + out + step) - start;
            focuser.moveAndWait(clock, start + out);
            Frame frame = taken(frames);
            StarField field = finder.find(frame);
            each.accept(new Shot(start + out, frame, field));
            if (field.good().size() < FEWEST_STARS) {
                break;
            }
            grown = frames.binning() * field.medianHalfFluxRadiusPx().orElseThrow() / size;
        }
        settleAt(start);
        int next = (int) Math.max(1, Math.round(2.0 * out / (frames.points() - 1)));
        return new Outward(out, grown, next);
    }

    /**
     * How far out stars are a few times as large as in focus.
     *
     * @param outSteps from focus
     * @param grown so many times
     * @param stepSteps from point to point that follows
     */
    public record Outward(int outSteps, double grown, int stepSteps) {}

    /**
     * A sweep from the inside outward: where it finds focus differs from one inward by the slack of the gear.
     *
     * @param inward a sweep that was believed
     * @return steps by which it lies farther out, with its standard error; empty if it was not believed
     */
    public Optional<double[]> slack(Result inward, Frames frames, Consumer<Shot> each) throws InterruptedException {
        int arm = frames.arm();
        int middle = (int) Math.round(limit(inward.verdict().bestPosition()));
        int step = inward.stepSteps();
        focuser.moveAndWait(clock, clamp(middle - (arm + 1) * step));
        List<FocusSample> samples = new ArrayList<>();
        for (int k = -arm; k <= arm; k++) {
            int position = clamp(middle + k * step);
            focuser.moveAndWait(clock, position);
            Frame frame = taken(frames);
            StarField field = finder.find(frame);
            each.accept(new Shot(position, frame, field));
            if (field.good().size() >= FEWEST_STARS) {
                samples.add(sample(position, field, frames.binning()));
            }
        }
        settleAt(middle);
        if (samples.size() < 3) {
            return Optional.empty();
        }
        FocusVerdict outward = FocusCurve.judge(samples, FocusMethod.HYPERBOLA);
        return outward.accepted()
                ? Optional.of(new double[] {
                    outward.bestPosition() - inward.verdict().bestPosition(),
                    Math.hypot(outward.positionSigma(), inward.verdict().positionSigma())
                })
                : Optional.empty();
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
