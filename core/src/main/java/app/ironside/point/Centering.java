package app.ironside.point;

import app.ironside.device.Camera;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.device.TryLater;
import app.ironside.image.Frame;
import app.ironside.kit.Correction;
import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.TangentPlane;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.star.StarField;
import app.ironside.star.StarSearch;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Slews, solves, corrects, and slews again until the target is in the middle. A mount is corrected as its kit says, by telling it the
 * truth or by asking for a place shifted by what it missed; with a pointing model always by the latter.
 */
public final class Centering {
    /** The device that a frame which cannot be recognised is blamed on. */
    public static final String NAME = "pointing";

    private static final int MOST_ROUNDS = 6;
    private static final int ATTEMPTS = 3;
    private static final double SEARCH_DEG = 6;
    private static final double COARSE_ARCSEC_PER_PIXEL = 8;
    private static final double SCALE_TOLERANCE = 0.03;

    /** Is shown every frame with its answer as it comes. */
    @FunctionalInterface
    public interface Watcher {
        void solved(Frame frame, StarField stars, SolveResult result, double offsetArcsec);
    }

    private final Mount mount;
    private final Camera camera;
    private final NightClock clock;
    private final StarSearch finder;
    private final PlateSolver solver;
    private final Kit kit;
    private Optional<Modelled> modelled = Optional.empty();

    /** Shift of what is asked for against the target, degrees east and north, found on a side of the pier. */
    private final Map<Mount.PierSide, TangentPlane.Point> shifts = new EnumMap<>(Mount.PierSide.class);

    /** Arcseconds a pixel of these frames, as the last that was recognised showed it. */
    private OptionalDouble shownScale = OptionalDouble.empty();

    private record Modelled(PointingModel model, Observer observer) {}

    public Centering(Mount mount, Camera camera, NightClock clock, StarSearch finder, PlateSolver solver, Kit kit) {
        this.mount = mount;
        this.camera = camera;
        this.clock = clock;
        this.finder = finder;
        this.solver = solver;
        this.kit = kit;
    }

    /** From now on the mount is sent where a model says that it must be sent, until a frame contradicts the model. */
    public void use(PointingModel model, Observer observer) {
        modelled = Optional.of(new Modelled(model, observer));
    }

    private boolean byOffset() {
        return modelled.isPresent() || kit.mount().correction().orElse(Correction.SYNC) == Correction.OFFSET;
    }

    /**
     * Centres a target.
     *
     * @param exposure of the frames that are solved
     * @param limitArcsec stop when the target is within this
     * @throws TryLater if a frame cannot be solved
     */
    public CenteringResult centre(
            Equatorial target, Mount.PierSide side, Duration exposure, double limitArcsec, Watcher watcher)
            throws InterruptedException {
        List<Double> offsets = new ArrayList<>();
        PlateSolution solution = null;
        Optional<String> stale = Optional.empty();
        Equatorial asked = firstAsked(target, side);
        for (int round = 0; round < MOST_ROUNDS; round++) {
            mount.slewAndWait(clock, asked, side);
            solution = look(target, exposure, watcher);
            double offset = 3600 * solution.centre().separationDeg(target);
            offsets.add(offset);
            if (round == 0) {
                stale = judgeModel(asked, solution.centre(), side);
            }
            if (offset <= limitArcsec) {
                return new CenteringResult(offsets, solution, true, stale);
            }
            if (byOffset()) {
                asked = shifted(asked, solution.centre(), target, side);
            } else {
                mount.sync(solution.centre());
                asked = target;
            }
        }
        return new CenteringResult(offsets, solution, false, stale);
    }

    private Equatorial firstAsked(Equatorial target, Mount.PierSide side) {
        if (modelled.isPresent()) {
            Modelled m = modelled.get();
            return m.model().commandFor(target, clock.now(), side, m.observer());
        }
        TangentPlane.Point known = shifts.get(side);
        return known == null || !byOffset()
                ? target
                : new TangentPlane(target).unproject(known.xiDeg(), known.etaDeg());
    }

    /** A model that a frame contradicts is not used again. */
    private Optional<String> judgeModel(Equatorial asked, Equatorial solved, Mount.PierSide side) {
        Optional<String> stale = modelled.flatMap(
                m -> m.model().staleness(new PointingModel.Point(asked, solved, clock.now(), side), m.observer()));
        if (stale.isPresent()) {
            modelled = Optional.empty();
        }
        return stale;
    }

    private Equatorial shifted(Equatorial asked, Equatorial solved, Equatorial target, Mount.PierSide side) {
        TangentPlane.Point missed = new TangentPlane(solved).project(target).orElseThrow();
        Equatorial next = new TangentPlane(asked).unproject(missed.xiDeg(), missed.etaDeg());
        new TangentPlane(target).project(next).ifPresent(shift -> shifts.put(side, shift));
        return next;
    }

    /**
     * One frame where the mount stands, solved; if it cannot be, another of twice the exposure, and another.
     *
     * @throws TryLater if the longest cannot be recognised either
     */
    public PlateSolution look(Equatorial near, Duration exposure, Watcher watcher) throws InterruptedException {
        Duration length = exposure;
        NoSolution none = null;
        for (int attempt = 0; attempt < ATTEMPTS; attempt++) {
            // A longer exposure helps more often than the rest of the sky, which is searched last.
            SolveResult result = solve(near, length, attempt == ATTEMPTS - 1, watcher);
            if (result instanceof PlateSolution solution) {
                return solution;
            }
            none = (NoSolution) result;
            length = length.multipliedBy(2);
        }
        throw new TryLater(NAME, "the frame could not be recognised", none.reason());
    }

    /** One exposure, searched for near the place only; quick to find out that there is nothing. */
    public Optional<PlateSolution> glance(Equatorial near, Duration exposure, Watcher watcher)
            throws InterruptedException {
        return solve(near, exposure, false, watcher) instanceof PlateSolution s ? Optional.of(s) : Optional.empty();
    }

    /** Coarse pixels show a star in one of them already: summed, a crowd of stars runs together. */
    private int binning() {
        return kit.arcsecPerPixel() < COARSE_ARCSEC_PER_PIXEL ? 2 : 1;
    }

    private SolveResult solve(Equatorial near, Duration exposure, boolean anywhere, Watcher watcher)
            throws InterruptedException {
        Frame frame = camera.expose(clock, Camera.Exposure.light(exposure).withBinning(binning()));
        StarField stars = finder.find(frame);
        SolveResult result =
                solver.solve(stars, anywhere ? hints(near) : hints(near).nearOnly());
        double offset = 0;
        if (result instanceof PlateSolution s) {
            offset = 3600 * s.centre().separationDeg(near);
            shownScale = OptionalDouble.of(s.scaleArcsecPerPixel());
        }
        watcher.solved(frame, stars, result, offset);
        return result;
    }

    /** What a frame has shown of the scale goes before what the kit says of it. */
    private SolveHints hints(Equatorial near) {
        SolveHints here = SolveHints.NONE.withNear(near, SEARCH_DEG).withTime(clock.now());
        return shownScale.isPresent()
                ? here.withScale(shownScale.getAsDouble(), SCALE_TOLERANCE)
                : here.withKit(kit, binning(), SCALE_TOLERANCE);
    }
}
