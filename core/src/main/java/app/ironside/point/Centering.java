package app.ironside.point;

import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.image.Frame;
import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Slews, solves, tells the mount the truth, and slews again until the target is in the middle. */
public final class Centering {
    /** The device that a frame which cannot be recognised is blamed on. */
    public static final String NAME = "pointing";

    private static final int MOST_ROUNDS = 6;
    private static final int ATTEMPTS = 3;
    private static final double SEARCH_DEG = 6;
    private static final double SCALE_TOLERANCE = 0.03;

    /** Is shown every frame with its answer as it comes. */
    @FunctionalInterface
    public interface Watcher {
        void solved(Frame frame, StarField stars, SolveResult result, double offsetArcsec);
    }

    private final Mount mount;
    private final Camera camera;
    private final NightClock clock;
    private final StarFinder finder;
    private final PlateSolver solver;
    private final Kit kit;

    public Centering(Mount mount, Camera camera, NightClock clock, StarFinder finder, PlateSolver solver, Kit kit) {
        this.mount = mount;
        this.camera = camera;
        this.clock = clock;
        this.finder = finder;
        this.solver = solver;
        this.kit = kit;
    }

    /**
     * Centres a target.
     *
     * @param exposure of the frames that are solved
     * @param limitArcsec stop when the target is within this
     * @throws DeviceException if a frame cannot be solved
     */
    public CenteringResult centre(
            Equatorial target, Mount.PierSide side, Duration exposure, double limitArcsec, Watcher watcher)
            throws InterruptedException {
        List<Double> offsets = new ArrayList<>();
        PlateSolution solution = null;
        for (int round = 0; round < MOST_ROUNDS; round++) {
            mount.slewAndWait(clock, target, side);
            solution = look(target, exposure, watcher);
            double offset = 3600 * solution.centre().separationDeg(target);
            offsets.add(offset);
            if (offset <= limitArcsec) {
                return new CenteringResult(offsets, solution, true);
            }
            mount.sync(solution.centre());
        }
        return new CenteringResult(offsets, solution, false);
    }

    /**
     * One frame where the mount stands, solved; if it cannot be, another of twice the exposure, and another.
     *
     * @throws DeviceException if the longest cannot be recognised either
     */
    public PlateSolution look(Equatorial near, Duration exposure, Watcher watcher) throws InterruptedException {
        Duration length = exposure;
        String reason = "";
        for (int attempt = 0; attempt < ATTEMPTS; attempt++) {
            // A longer exposure helps more often than the rest of the sky, which is searched last.
            SolveResult result = solve(near, length, attempt == ATTEMPTS - 1, watcher);
            if (result instanceof PlateSolution solution) {
                return solution;
            }
            reason = ((NoSolution) result).reason();
            length = length.multipliedBy(2);
        }
        throw new DeviceException(NAME, "the frame could not be recognised", reason);
    }

    /** One exposure, searched for near the place only; quick to find out that there is nothing. */
    public Optional<PlateSolution> glance(Equatorial near, Duration exposure, Watcher watcher)
            throws InterruptedException {
        return solve(near, exposure, false, watcher) instanceof PlateSolution s ? Optional.of(s) : Optional.empty();
    }

    private SolveResult solve(Equatorial near, Duration exposure, boolean anywhere, Watcher watcher)
            throws InterruptedException {
        Frame frame = camera.expose(clock, Camera.Exposure.light(exposure).withBinning(2));
        StarField stars = finder.find(frame);
        SolveResult result =
                solver.solve(stars, anywhere ? hints(near) : hints(near).nearOnly());
        double offset = result instanceof PlateSolution s ? 3600 * s.centre().separationDeg(near) : 0;
        watcher.solved(frame, stars, result, offset);
        return result;
    }

    private SolveHints hints(Equatorial near) {
        return SolveHints.NONE
                .withNear(near, SEARCH_DEG)
                .withKit(kit, 2, SCALE_TOLERANCE)
                .withTime(clock.now());
    }
}
