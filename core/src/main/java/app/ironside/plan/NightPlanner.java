package app.ironside.plan;

import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;

/** Lays a program's targets into the night, one after the other, each from when it is up until it sinks or the next is due. */
public final class NightPlanner {
    private NightPlanner() {}

    /**
     * What is known of a night and does not change while its program does.
     *
     * @param windows of targets by their position
     */
    public record Outlook(NightTimes times, Function<Equatorial, TargetWindow> windows) {
        /** Computes each window when it is first asked for, and keeps it. Thread-safe. */
        public static Outlook of(Site site, LocalDate date, double minimumAltitudeDeg) {
            Observer observer = Observer.at(site);
            NightTimes times = NightTimes.of(site, date);
            Map<Equatorial, TargetWindow> known = new ConcurrentHashMap<>();
            return new Outlook(
                    times,
                    target -> known.computeIfAbsent(
                            target, t -> TargetWindow.of(t, observer, times, minimumAltitudeDeg)));
        }
    }

    public static NightPlan plan(Site site, Kit kit, Program program) {
        return plan(site, kit, program, Outlook.of(site, program.date(), program.minimumAltitudeDeg()));
    }

    /** As above, for a program that is changed again and again on the same night. */
    public static NightPlan plan(Site site, Kit kit, Program program, Outlook outlook) {
        return plan(
                site,
                kit,
                program,
                outlook,
                new Progress(outlook.times().night().from(), List.of()));
    }

    /**
     * How far a night has come.
     *
     * @param now what is planned begins no earlier
     * @param done subs taken for each of the program's targets, in their order; as many as there are targets, or none
     */
    public record Progress(Instant now, List<Integer> done) {
        public Progress {
            done = List.copyOf(done);
        }

        private int done(int target) {
            return target < done.size() ? done.get(target) : 0;
        }
    }

    /** What is left of a night that was stopped: the time that went by is given back to what was not reached. */
    public static NightPlan plan(Site site, Kit kit, Program program, Outlook outlook, Progress progress) {
        NightTimes times = outlook.times();
        List<PlannedBlock> blocks = new ArrayList<>();
        Instant free = progress.now();
        for (int i = 0; i < program.targets().size(); i++) {
            TargetPlan target = program.targets().get(i);
            int done = progress.done(i);
            boolean enough = target.mostSubs().map(most -> done >= most).orElse(false);
            TargetWindow window = outlook.windows().apply(target.position());
            Optional<Interval> span =
                    enough ? Optional.empty() : span(window, wanted(target, times, site, program.date()), free);
            if (span.isEmpty()) {
                continue;
            }
            PlannedBlock block = block(target, window, span.get(), kit, program, done);
            blocks.add(block);
            free = block.span().until();
        }
        return new NightPlan(times, blocks);
    }

    private static PlannedBlock block(
            TargetPlan target, TargetWindow window, Interval whole, Kit kit, Program program, int done) {
        Overheads overheads = Overheads.of(kit);
        double sub = target.subSeconds() + overheads.perSub();
        MeridianFlip meridian = MeridianFlip.in(
                whole, window.transit(), kit, target.position().decDeg(), sub, overheads.perFlip() + sub);
        Interval span = new Interval(whole.from(), meridian.until());
        Optional<Instant> flip = meridian.at();
        int flips = flip.isPresent() ? 1 : 0;
        int fit = overheads.subsIn(
                span.duration().toSeconds() - meridian.idleSeconds(),
                target.subSeconds(),
                program.ditherEvery(),
                flips);
        int wanted = target.mostSubs().map(most -> Math.max(0, most - done)).orElse(Integer.MAX_VALUE);
        int subs = Math.min(fit, wanted);
        if (subs == fit) {
            return new PlannedBlock(target, window, span, flip, subs, done);
        }
        // A count reached early frees the rest of the window for the next target.
        double used =
                overheads.secondsFor(subs, target.subSeconds(), program.ditherEvery(), flips) + meridian.idleSeconds();
        Instant end = span.from().plusSeconds(Math.round(used));
        Interval shorter = new Interval(span.from(), end.isBefore(span.until()) ? end : span.until());
        return new PlannedBlock(target, window, shorter, flip.filter(shorter::contains), subs, done);
    }

    private static Optional<Interval> span(TargetWindow window, Interval wanted, Instant free) {
        return window.usable().stream()
                .flatMap(u -> u.intersection(wanted).stream())
                .filter(u -> u.until().isAfter(free))
                .map(u -> new Interval(u.from().isAfter(free) ? u.from() : free, u.until()))
                .max(java.util.Comparator.comparing(Interval::duration));
    }

    private static Interval wanted(TargetPlan target, NightTimes times, Site site, LocalDate evening) {
        Instant from = target.from()
                .map(t -> at(t, evening, site))
                .orElse(times.night().from());
        Instant until = target.until()
                .map(t -> at(t, evening, site))
                .orElse(times.night().until());
        return new Interval(from, until.isBefore(from) ? from : until);
    }

    /** Times before noon belong to the morning after. */
    private static Instant at(LocalTime time, LocalDate evening, Site site) {
        LocalDate date = time.isBefore(LocalTime.NOON) ? evening.plusDays(1) : evening;
        return date.atTime(time).atZone(site.zone()).toInstant();
    }
}
