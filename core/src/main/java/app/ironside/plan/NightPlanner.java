package app.ironside.plan;

import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;

/** Lays a program's targets into the night, one after the other, each from when it is up until it sinks or the next is due. */
public final class NightPlanner {
    /** So long it is waited before a filter that the Moon forbids is asked for again. */
    public static final Duration MOON_WAIT = Duration.ofMinutes(5);

    private NightPlanner() {}

    /** What is known of a night and does not change while its program does. Each window is computed when it is first asked for. Thread-safe. */
    public static final class Outlook {
        private final Observer observer;
        private final NightTimes times;
        private final double minimumAltitudeDeg;
        private final Map<Aim, TargetWindow> known = new ConcurrentHashMap<>();
        private NightGrid grid;

        private record Aim(Equatorial position, double minimumAltitudeDeg) {}

        private Outlook(Site site, LocalDate date, double minimumAltitudeDeg) {
            this.observer = Observer.at(site);
            this.times = NightTimes.of(site, date);
            this.minimumAltitudeDeg = minimumAltitudeDeg;
        }

        /**
         * The outlook of a night.
         *
         * @param minimumAltitudeDeg the night's rule, for targets that have none of their own
         */
        public static Outlook of(Site site, LocalDate date, double minimumAltitudeDeg) {
            return new Outlook(site, date, minimumAltitudeDeg);
        }

        public NightTimes times() {
            return times;
        }

        /** When a place can be used, by the night's rule. */
        public TargetWindow window(Equatorial position) {
            return window(new Aim(position, minimumAltitudeDeg));
        }

        /** When a target can be used, by its own rule of altitude if it has one. */
        public TargetWindow window(TargetPlan target) {
            return window(new Aim(target.position(), target.minimumAltitudeDeg().orElse(minimumAltitudeDeg)));
        }

        private TargetWindow window(Aim aim) {
            return known.computeIfAbsent(
                    aim, a -> TargetWindow.of(a.position(), observer, times, a.minimumAltitudeDeg()));
        }

        /** The night in small pieces, with the Moon in each. */
        private synchronized NightGrid grid() {
            if (grid == null) {
                grid = new NightGrid(observer, times.night(), MOON_WAIT, CloudForecast.CLEAR);
            }
            return grid;
        }

        /** When at least one of a target's filters may be used, by the rules that were chosen for them. */
        private List<Interval> allowed(TargetPlan target, Kit kit) {
            if (target.goals().stream().anyMatch(g -> g.moon() == MoonRule.BY_FILTER)) {
                return List.of(times.night());
            }
            NightGrid pieces = grid();
            List<Interval> allowed = new ArrayList<>();
            for (int i = 0; i < pieces.size(); i++) {
                double moon = pieces.moonBrighteningMag(i, target.position());
                if (target.goals().stream().anyMatch(g -> g.moon().allows(kit.filter(g.filter()), moon))) {
                    Interval piece = new Interval(pieces.edge(i), pieces.edge(i + 1));
                    int last = allowed.size() - 1;
                    if (last >= 0 && allowed.get(last).until().equals(piece.from())) {
                        allowed.set(last, new Interval(allowed.get(last).from(), piece.until()));
                    } else {
                        allowed.add(piece);
                    }
                }
            }
            return allowed;
        }

        private Predicate<FilterGoal> allowedAt(TargetPlan target, Kit kit, Instant time) {
            if (target.goals().stream().allMatch(g -> g.moon() == MoonRule.BY_FILTER)) {
                return g -> true;
            }
            NightGrid pieces = grid();
            double moon = pieces.moonBrighteningMag(pieces.at(time), target.position());
            return g -> g.moon().allows(kit.filter(g.filter()), moon);
        }
    }

    /**
     * Which filters of a target may be used at a moment, by the rules of the Moon that were chosen for them. The rule of plan and night
     * alike.
     */
    public static Predicate<FilterGoal> allowed(Observer observer, TargetPlan target, Kit kit, Instant time) {
        if (target.goals().stream().allMatch(g -> g.moon() == MoonRule.BY_FILTER)) {
            return g -> true;
        }
        NightGrid now = new NightGrid(
                observer, new Interval(time, time.plusSeconds(60)), Duration.ofMinutes(1), CloudForecast.CLEAR);
        double moon = now.moonBrighteningMag(0, target.position());
        return g -> g.moon().allows(kit.filter(g.filter()), moon);
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
     * @param done subs taken by filter for each of the program's targets, in their order; as many as there are targets, or none
     */
    public record Progress(Instant now, List<Map<String, Integer>> done) {
        public Progress {
            done = List.copyOf(done);
        }

        private Map<String, Integer> done(int target) {
            return target < done.size() ? done.get(target) : Map.of();
        }
    }

    /** What is left of a night that was stopped: the time that went by is given back to what was not reached. */
    public static NightPlan plan(Site site, Kit kit, Program program, Outlook outlook, Progress progress) {
        NightTimes times = outlook.times();
        List<PlannedBlock> blocks = new ArrayList<>();
        Instant free = progress.now();
        Interval awake = awake(site, kit, program, times);
        Filler filler = new Filler(kit, program, outlook);
        for (int i = 0; i < program.targets().size(); i++) {
            TargetPlan target = program.targets().get(i);
            Map<String, Integer> done = progress.done(i);
            TargetWindow window = outlook.window(target);
            List<Interval> usable = window.usable().stream()
                    .flatMap(u -> u.intersection(awake).stream())
                    .flatMap(u -> outlook.allowed(target, kit).stream().flatMap(a -> a.intersection(u).stream()))
                    .toList();
            Optional<Interval> span = target.isFilled(done)
                    ? Optional.empty()
                    : span(usable, wanted(target, times, site, program.date()), free);
            if (span.isEmpty()) {
                continue;
            }
            PlannedBlock block = filler.block(target, window, span.get(), done);
            blocks.add(block);
            free = block.span().until();
        }
        return new NightPlan(times, blocks);
    }

    /** The night, as far as a person who wants to sleep lets it be one. */
    public static Interval awake(Site site, Kit kit, Program program, NightTimes times) {
        Instant last = program.bedBy()
                .map(bed -> at(bed, program.date(), site).minus(NightBudget.afterLight(kit, program)))
                .filter(end -> end.isBefore(times.night().until()))
                .orElse(times.night().until());
        Instant from = times.night().from();
        return new Interval(from, last.isBefore(from) ? from : last);
    }

    /** Fills one target's time after the other with subs. */
    private static final class Filler {
        private final Kit kit;
        private final Program program;
        private final Outlook outlook;
        private final Overheads overheads;

        /** The filter that the target before leaves in; a night begins with the kit's first. */
        private String present;

        Filler(Kit kit, Program program, Outlook outlook) {
            this.kit = kit;
            this.program = program;
            this.outlook = outlook;
            this.overheads = Overheads.of(kit);
            this.present = kit.filters().get(0).name();
        }

        /** A sub with its share of the focus runs that the program's triggers ask for. */
        private double withFocus(TargetPlan target, double seconds) {
            double runs =
                    program.focus().runsAnHour(seconds, target.goals().size(), Math.max(1, target.subsPerFilter()));
            return seconds * (1 + runs * overheads.perFocus() / 3600);
        }

        PlannedBlock block(TargetPlan target, TargetWindow window, Interval whole, Map<String, Integer> done) {
            double sub = target.longestSubSeconds() + overheads.perSub();
            MeridianFlip meridian = MeridianFlip.in(
                    whole, window.transit(), kit, target.position().decDeg(), sub, overheads.perFlip() + sub);
            Interval span = new Interval(whole.from(), meridian.until());
            Optional<Instant> flip = meridian.at();
            int flips = flip.isPresent() ? 1 : 0;
            double afterFlip = program.focus().afterFlip() ? flips * overheads.perFocus() : 0;
            double seconds =
                    overheads.secondsForSubs(span.duration().toSeconds() - meridian.idleSeconds() - afterFlip, flips);
            Map<String, Integer> taken = new LinkedHashMap<>(done);
            double used = 0;
            while (!target.isFilled(taken)) {
                // What is used of the time for subs stands for as much of the whole.
                Optional<FilterGoal> next = target.next(
                        taken, outlook.allowedAt(target, kit, span.from().plus(share(span, used / seconds))));
                double cost = next.map(
                                g -> withFocus(target, overheads.secondsOf(g.subSeconds(), program.ditherEvery()))
                                        + (g.filter().equals(present) ? 0 : overheads.perFilterByHand()))
                        .orElse((double) MOON_WAIT.toSeconds());
                if (used + cost > seconds) {
                    break;
                }
                used += cost;
                if (next.isPresent()) {
                    present = next.get().filter();
                    taken.merge(present, 1, Integer::sum);
                }
            }
            boolean filled = target.isFilled(taken);
            taken.replaceAll((filter, count) -> count - done.getOrDefault(filter, 0));
            taken.values().removeIf(count -> count == 0);
            if (!filled) {
                return new PlannedBlock(target, window, span, flip, taken, done);
            }
            // A count reached early frees the rest of the window for the next target.
            double needed = overheads.secondsFor(used, flips, target.longestSubSeconds()) + meridian.idleSeconds();
            Instant end = span.from().plusSeconds(Math.round(needed));
            Interval shorter = new Interval(span.from(), end.isBefore(span.until()) ? end : span.until());
            return new PlannedBlock(target, window, shorter, flip.filter(shorter::contains), taken, done);
        }

        private static Duration share(Interval span, double share) {
            return Duration.ofMillis(Math.round(span.duration().toMillis() * Math.min(1, share)));
        }
    }

    private static Optional<Interval> span(List<Interval> usable, Interval wanted, Instant free) {
        return usable.stream()
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
