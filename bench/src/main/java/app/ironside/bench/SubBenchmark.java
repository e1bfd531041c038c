package app.ironside.bench;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Mount;
import app.ironside.image.Frame;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.FocuserSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.kit.Optics;
import app.ironside.kit.Sensor;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Site;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** What one sub of 2800 x 2100 pixels costs: to invent, to measure, to recognise; and, as the limit, to touch each pixel once. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 5, time = 2)
@Fork(1)
public class SubBenchmark {
    private static final Equatorial M33 = new Equatorial(23.4621, 30.659942);

    private final SteppedClock clock = new SteppedClock(Instant.parse("2026-11-14T22:30:00Z"));
    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT, Workers.ALL_CORES);
    private final StarFinder quick = new StarFinder(DetectSettings.BRIGHTEST, Workers.ALL_CORES);
    private Camera camera;
    private PlateSolver solver;
    private SolveHints hints;
    private Frame frame;
    private StarField field;

    @Setup
    public void takeOne() throws InterruptedException {
        StarCatalogue stars = StarCatalogue.hipparcos();
        Site site = new Site("Colle Sorbo", 44.05, 8.2, 740, ZoneOffset.UTC, 20.9, Horizon.FLAT);
        Kit kit = new Kit(
                "Wren",
                new Optics(90, 432, 0, 0.9, 3.6),
                new Sensor(2800, 2100, 6.3, 0.9, 500, 16, 4.5, 55_000, 0.75, 0.08, 0, 6, true, 1.5),
                List.of(new FilterSpec("L", 270, 550, 0)),
                new FocuserSpec(4, 5000, 2600, 16),
                new MountSpec(3, 3, 0.5, 4),
                new GuiderSpec(40, 160, 1280, 960, 3.75));
        SimulatedObservatory observatory = new SimulatedObservatory(
                site,
                kit,
                SimSettings.DEFAULT.withPolarError(0, 0),
                new SkySource(stars, DeepSkyCatalogue.load()),
                clock,
                Instant.parse("2026-11-14T16:02:00Z"),
                Workers.ALL_CORES);
        observatory.devices().mount().unpark();
        observatory.devices().mount().slewAndWait(clock, M33, Mount.PierSide.EAST);
        int focus = (int) Math.round(observatory.bestFocusSteps());
        observatory.devices().focuser().moveAndWait(clock, focus + 60);
        observatory.devices().focuser().moveAndWait(clock, focus);
        camera = observatory.devices().camera();
        solver = new PlateSolver(stars, Workers.ALL_CORES);
        hints = SolveHints.NONE.withNear(M33, 5).withScale(kit.arcsecPerPixel(), 0.02);
        frame = render();
        field = finder.find(frame);
    }

    /** The limit: every pixel is read once. */
    @Benchmark
    public double touchEachPixel() {
        double sum = 0;
        for (float pixel : frame.pixels()) {
            sum += pixel;
        }
        return sum;
    }

    @Benchmark
    public Frame render() throws InterruptedException {
        return camera.expose(clock, Camera.Exposure.light(Duration.ofSeconds(60)));
    }

    @Benchmark
    public StarField findStars() {
        return finder.find(frame);
    }

    @Benchmark
    public SolveResult solveWithHints() {
        return solver.solve(field, hints);
    }

    /** From pixels to the place in the sky, as it is done for every frame that points the telescope. */
    @Benchmark
    public SolveResult measureAndSolve() {
        return solver.solve(quick.find(frame), hints);
    }
}
