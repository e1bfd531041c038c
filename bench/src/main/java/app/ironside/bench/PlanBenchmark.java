package app.ironside.bench;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.plan.Candidate;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.NightGrid;
import app.ironside.plan.Project;
import app.ironside.plan.Schedule;
import app.ironside.plan.Scheduler;
import app.ironside.plan.SeasonBoard;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import app.ironside.sky.StarCatalogue;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Comparator;
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

/**
 * Planning, beside a measure of the machine: {@link #oneSecondOfTheMachine} is a fixed piece of arithmetic that takes about a second on
 * two cores of the kind that the limits are meant for. The limits as ratios to it: candidates 1, season of 200 targets 3, schedule of
 * ten targets 2, catalogue 0.5.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(1)
@Warmup(iterations = 2, time = 2)
@Measurement(iterations = 3, time = 2)
public class PlanBenchmark {
    private static final LocalDate DATE = LocalDate.of(2026, 11, 14);

    private Site site;
    private Kit kit;
    private NightTimes night;
    private CandidateSearch search;
    private List<DeepSkyObject> two00;
    private List<Project> ten;

    @Setup
    public void load() throws IOException {
        site = SiteFile.parse(Files.readString(Path.of("examples/sites/colle-sorbo.json")), "colle-sorbo.json");
        kit = KitFile.parse(Files.readString(Path.of("examples/kits/wren.json")), "wren.json");
        night = NightTimes.of(site, DATE);
        DeepSkyCatalogue objects = DeepSkyCatalogue.load();
        search = new CandidateSearch(objects, StarCatalogue.hipparcos());
        two00 = objects.objects().stream()
                .sorted(Comparator.comparingDouble(DeepSkyObject::longAxisArcmin)
                        .reversed())
                .limit(200)
                .toList();
        ten = candidates().stream()
                .limit(10)
                .map(c -> new Project(
                        c.object().id(),
                        c.object().position(),
                        1,
                        List.of(new Project.Goal(kit.filters().get(0), 60, 180, 20, NightGrid.Light.VISUAL))))
                .toList();
    }

    @Benchmark
    public double oneSecondOfTheMachine() {
        double sum = 0;
        for (int i = 1; i < 28_000_000; i++) {
            sum += Math.sin(i) / i;
        }
        return sum;
    }

    @Benchmark
    public DeepSkyCatalogue loadCatalogue() {
        return DeepSkyCatalogue.load();
    }

    @Benchmark
    public NightTimes nightTimes() {
        return NightTimes.of(site, DATE);
    }

    @Benchmark
    public List<Candidate> candidates() {
        return search.rank(
                site,
                kit,
                night,
                new CandidateSearch.Wish(25, Candidate.Level.PRACTISED, CloudForecast.CLEAR),
                Workers.ALL_CORES);
    }

    @Benchmark
    public SeasonBoard seasonOf200Targets() {
        return SeasonBoard.of(
                site, two00, List.of(), DATE, 365, new SeasonBoard.Settings(25, Workers.ALL_CORES, Progress.NONE));
    }

    @Benchmark
    public Schedule scheduleTenTargets() {
        return new Scheduler(kit, Observer.at(site), new Scheduler.Rules(25, 2, true, 2))
                .best(ten, night.dark().get(0), CloudForecast.CLEAR);
    }
}
