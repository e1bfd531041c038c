package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.device.NightClock;
import app.ironside.image.FolderWatch;
import app.ironside.image.FrameFiles;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.Command;
import app.ironside.journal.FaultTold;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.Marks;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Noted;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubRegraded;
import app.ironside.journal.SubTaken;
import app.ironside.judge.Grade;
import app.ironside.judge.Looks;
import app.ironside.library.FrameFacts;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.Wcs;
import app.ironside.star.StarField;
import app.ironside.watch.Alert;
import app.ironside.watch.Episodes;
import app.ironside.watch.FolderNight;
import app.ironside.watch.Watched;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;

/**
 * A night that somebody else runs, looked on at through the frames that come into a folder: each is judged, told and watched over as a sub
 * of a night that Ironside runs. It moves nothing.
 */
public final class FolderWork implements NightWork {
    private static final Duration EVERY = Duration.ofMillis(500);

    /** A mount that was never told where it points is off by less. */
    private static final double SEARCH_DEG = 5;

    private static final double SCALE_TOLERANCE = 0.05;

    private final Path folder;
    private final FolderNight night;
    private final NightStarted started;
    private final NightRecord record;
    private final NightControl control;
    private final NightClock clock;
    private final PlateSolver solver;
    private final Observer observer;
    /** Where each target was seen last. */
    private final Map<String, Equatorial> seen = new HashMap<>();

    private boolean ending;

    /**
     * @param started what is told first; its time lies before the first frame's
     * @param observer where the frames are taken
     */
    public FolderWork(
            Path folder,
            FolderNight night,
            NightStarted started,
            NightRecord record,
            NightControl control,
            NightClock clock,
            PlateSolver solver,
            Observer observer) {
        this.folder = folder;
        this.night = night;
        this.started = started;
        this.record = record;
        this.control = control;
        this.clock = clock;
        this.solver = solver;
        this.observer = observer;
    }

    @Override
    public void run() throws InterruptedException {
        if (record.state().events().isEmpty()) {
            record.tell(started);
            record.tell(new StageBegan(started.time(), "Frames are judged as they come.", Stage.RUN));
        }
        try {
            FolderWatch watch = FolderWatch.fromTheStart(folder, FrameFiles::isFrame);
            while (!ending) {
                control.announce(new NightControl.SafePoint("at once", clock.now()));
                for (Path file : watch.next()) {
                    obey();
                    if (ending) {
                        break;
                    }
                    take(file);
                }
                tell(night.silence(clock.now()), List.of(), now());
                obey();
                clock.await(EVERY);
            }
        } finally {
            control.over();
            end();
        }
    }

    /** Also when it is stopped: there is nothing to go on with, the folder can be watched again. */
    private void end() {
        int taken = record.state().subs().size();
        int kept = record.state().kept();
        record.tell(new NightEnded(
                now(), kept + " of " + taken + " subs are good. The folder is watched no more.", taken, kept));
    }

    /** Now; of frames that were taken long ago, the time of the last. */
    private Instant now() {
        return last(night.isLive() ? clock.now() : Instant.EPOCH);
    }

    /** Events stand in the order of their times. */
    private Instant last(Instant time) {
        return record.state().events().stream()
                .reduce((a, b) -> b)
                .map(NightEvent::time)
                .filter(t -> t.isAfter(time))
                .orElse(time);
    }

    private void obey() {
        for (Optional<NightControl.Order> order = control.take(c -> true);
                order.isPresent();
                order = control.take(c -> true)) {
            Command command = order.get().command();
            if (command instanceof Command.GiveVerdicts given) {
                Marks.events(record.state(), given.verdicts(), now()).forEach(record::tell);
            } else if (command instanceof Command.Note note) {
                record.tell(Noted.of(now(), note.note(), order.get().by()));
            } else if (command instanceof Command.EndNight || command instanceof Command.ParkNow) {
                ending = true;
            }
        }
    }

    private void take(Path file) {
        try {
            String name = file.toAbsolutePath().toString();
            Optional<FolderNight.Step> taken = night.take(file, clock.now());
            if (taken.isEmpty()
                    || record.state().subs().stream().anyMatch(s -> s.file().equals(name))) {
                return;
            }
            FolderNight.Step step = taken.get();
            SubTaken sub = sub(name, step);
            record.tell(sub);
            record.frame(
                    Stage.RUN,
                    sub.name(),
                    step.frame(),
                    Optional.of(step.measured().field()));
            step.changed().forEach(grade -> regrade(grade, sub.time()));
            tell(step.news(), step.subs(), sub.time());
        } catch (BadInputException | UncheckedIOException e) {
            record.tell(new FaultTold(
                    now(),
                    file.getFileName() + " is left aside: " + e.getMessage() + ".",
                    Stage.RUN,
                    Optional.empty()));
        }
    }

    private SubTaken sub(String name, FolderNight.Step step) {
        Looks.Measured m = step.measured();
        FrameFacts facts = m.facts();
        double seconds = facts.exposureS().orElse(0);
        Instant from = facts.start().orElse(step.time().minusMillis(Math.round(1000 * seconds)));
        Instant until = from.plusMillis(Math.round(1000 * seconds));
        String target = facts.target().orElse("unnamed");
        String filter = facts.filter().orElse("none");
        Optional<Wcs> wcs = place(target, facts, m.field());
        Optional<Equatorial> at = Optional.ofNullable(seen.get(target)).or(facts::pointed);
        return new SubTaken(
                last(until),
                String.format(
                        Locale.ROOT,
                        "Sub %d %s %.0f s of %s",
                        record.state().subs().size() + 1,
                        filter,
                        seconds,
                        target),
                target,
                filter,
                seconds,
                new Interval(from, until),
                name,
                true,
                false,
                false,
                Set.of(),
                false,
                measures(m),
                new SubCircumstances(
                        altitude(facts, at),
                        at.isPresent() && facts.middle().isPresent()
                                ? OptionalDouble.of(observer.hourAngleDeg(
                                        at.get(), facts.middle().get()))
                                : OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalInt.empty(),
                        Optional.empty(),
                        Optional.empty()),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                wcs,
                SubJudge.verdict(step.grade()));
    }

    private OptionalDouble altitude(FrameFacts facts, Optional<Equatorial> at) {
        if (at.isPresent() && facts.middle().isPresent()) {
            Horizontal seen = observer.observed(at.get(), facts.middle().get());
            return OptionalDouble.of(seen.altitudeDeg());
        }
        return facts.altitudeDeg();
    }

    private static SubMeasures measures(Looks.Measured m) {
        StarField field = m.field();
        return new SubMeasures(
                field.width(),
                field.stars().size(),
                field.medianHalfFluxRadiusPx(),
                field.medianFwhmPx(),
                field.medianEccentricity(),
                field.backgroundAdu(),
                m.noiseAdu(),
                OptionalDouble.empty(),
                OptionalDouble.of(SubJudge.brightFlux(field)),
                Optional.of(SubFacts.shape(field)),
                Optional.empty(),
                OptionalDouble.empty());
    }

    /** About where the header says that it looks, else about where its target was seen last. */
    private Optional<Wcs> place(String target, FrameFacts facts, StarField field) {
        Optional<Equatorial> about = facts.pointed().or(() -> Optional.ofNullable(seen.get(target)));
        if (about.isEmpty()) {
            return Optional.empty();
        }
        SolveHints hints = SolveHints.NONE.withNear(about.get(), SEARCH_DEG).nearOnly();
        SolveHints scaled = facts.arcsecPerPixel().isPresent()
                ? hints.withScale(facts.arcsecPerPixel().getAsDouble(), SCALE_TOLERANCE)
                : hints;
        if (solver.solve(field, scaled) instanceof PlateSolution found) {
            seen.put(target, found.centre());
            return Optional.of(found.wcs());
        }
        return Optional.empty();
    }

    private void regrade(Grade grade, Instant now) {
        String name = Path.of(grade.sub().name()).toAbsolutePath().toString();
        record.state().subs().stream()
                .filter(s -> s.file().equals(name) && s.verdict().by().isEmpty())
                .findFirst()
                .ifPresent(s -> record.tell(new SubRegraded(
                        now,
                        Path.of(name).getFileName() + (grade.keep() ? " is kept after all: " : " is out after all: ")
                                + grade.reason() + ".",
                        name,
                        SubJudge.verdict(grade))));
    }

    private void tell(Episodes.News news, List<Watched> subs, Instant now) {
        news.cases().forEach(c -> record.tell(NightDoctor.seen(c, subs, now)));
        news.over().forEach(over -> record.tell(NightDoctor.over(over.seen(), now)));
        for (Alert alert : news.alerts()) {
            record.tell(new AlertRaised(last(alert.time()), alert.sentence(), alert.trouble(), alert.wake()));
        }
    }
}
