package app.ironside.point;

import app.ironside.Progress;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.solve.PlateSolution;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Takes the frames of a pointing model: slew, look, go on; a point that cannot be solved or reached is explained and left out. */
public final class ModelRun {
    private final Mount mount;
    private final NightClock clock;
    private final Centering centering;

    /**
     * A point that gave nothing.
     *
     * @param reason why, with what helps
     */
    public record Failure(SkyPoints.Place place, String reason) {}

    /** What a run gave. */
    public record Outcome(List<PointingModel.Point> points, List<Failure> failures) {
        public Outcome {
            points = List.copyOf(points);
            failures = List.copyOf(failures);
        }
    }

    public ModelRun(Mount mount, NightClock clock, Centering centering) {
        this.mount = mount;
        this.clock = clock;
        this.centering = centering;
    }

    /**
     * @param exposure of each frame
     * @throws java.util.concurrent.CancellationException if the progress says so; the mount then stands where it is
     */
    public Outcome take(List<SkyPoints.Place> places, Duration exposure, Centering.Watcher watcher, Progress progress)
            throws InterruptedException {
        List<PointingModel.Point> points = new ArrayList<>();
        List<Failure> failures = new ArrayList<>();
        for (int i = 0; i < places.size(); i++) {
            SkyPoints.Place place = places.get(i);
            progress.step("Point " + (i + 1) + " of " + places.size(), (double) i / places.size());
            try {
                mount.slewAndWait(clock, place.place(), place.side());
                PlateSolution solution = centering.look(place.place(), exposure, watcher);
                points.add(new PointingModel.Point(place.place(), solution.centre(), clock.now(), mount.pierSide()));
            } catch (DeviceException e) {
                failures.add(new Failure(place, e.getMessage()));
            }
        }
        return new Outcome(points, failures);
    }
}
