package app.ironside.document;

import app.ironside.kit.Kit;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.NightPlanner.Outlook;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.Project;
import app.ironside.plan.Projects;
import app.ironside.plan.Schedule;
import app.ironside.plan.Scheduler;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleBiFunction;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * A night while it is being planned. Each change gives a new draft, so that changes can be taken back; what is known of the sky is shared
 * between drafts of the same night. Immutable.
 */
public final class NightDraft {
    /** What is shorter than this is dropped: it costs more in starting than it gives. */
    static final Duration SHORTEST = Duration.ofMinutes(15);

    private final NightFile file;
    private final Outlook outlook;
    private final NightPlan plan;
    private final List<Interval> gaps;

    private NightDraft(NightFile file, Outlook outlook) {
        this.file = file;
        this.outlook = outlook;
        this.plan = NightPlanner.plan(file.site(), file.kit(), file.program(), outlook);
        this.gaps = free();
    }

    public static NightDraft of(NightFile file) {
        return new NightDraft(file, outlook(file.site(), file.program()));
    }

    private static Outlook outlook(Site site, Program program) {
        return Outlook.of(site, program.date(), program.minimumAltitudeDeg());
    }

    public NightFile file() {
        return file;
    }

    /** What the program makes of the night. */
    public NightPlan plan() {
        return plan;
    }

    public Outlook outlook() {
        return outlook;
    }

    /** A target with the stretch of time it has. */
    private record Placed(TargetPlan target, Interval span) {}

    private List<Placed> placed() {
        return new ArrayList<>(plan.blocks().stream()
                .map(b -> new Placed(b.target(), b.span()))
                .toList());
    }

    /**
     * Gives a block another stretch of time. What lies in its way is cut back, or dropped when too little is left.
     *
     * @param index of the block in the plan
     */
    public NightDraft move(int index, Interval span) {
        List<Placed> all = placed();
        Placed moved = new Placed(all.remove(index).target().withMostSubs(Optional.empty()), span);
        return around(moved, all);
    }

    /** Targets of the program to which the plan gives no time: they are filled, or never up, or the others take it all. */
    public List<TargetPlan> unplaced() {
        List<TargetPlan> left = new ArrayList<>(file.program().targets());
        plan.blocks().forEach(b -> left.remove(b.target()));
        return left;
    }

    /** The same night without the targets that have no time. */
    public NightDraft withoutUnplaced() {
        return plan.blocks().isEmpty()
                ? this
                : withProgram(file.program()
                        .withTargets(
                                file.program().date(),
                                plan.blocks().stream().map(PlannedBlock::target).toList()));
    }

    /** Puts a target into a stretch of time; what lies there is cut back. */
    public NightDraft add(TargetPlan target, Interval span) {
        return around(new Placed(target.withMostSubs(Optional.empty()), span), placed());
    }

    private NightDraft around(Placed chosen, List<Placed> others) {
        List<Placed> next = new ArrayList<>();
        next.add(chosen);
        for (Placed other : others) {
            cut(other, chosen.span()).forEach(next::add);
        }
        return with(next);
    }

    /** What is left of a stretch when another one lies over it: its parts before and after. */
    private static List<Placed> cut(Placed other, Interval over) {
        if (other.span().intersection(over).isEmpty()) {
            return List.of(other);
        }
        TargetPlan target = other.target().withMostSubs(Optional.empty());
        return other.span().without(over).stream()
                .filter(part -> part.duration().compareTo(SHORTEST) >= 0)
                .map(part -> new Placed(target, part))
                .toList();
    }

    /** Takes a block out; its time is left free. */
    public NightDraft remove(int index) {
        List<Placed> all = placed();
        all.remove(index);
        return with(all);
    }

    /** Cuts a block in two at a time; nothing changes if a part would be too short. */
    public NightDraft split(int index, Instant at) {
        List<Placed> all = placed();
        Placed whole = all.get(index);
        if (at.isBefore(whole.span().from().plus(SHORTEST))
                || at.isAfter(whole.span().until().minus(SHORTEST))) {
            return this;
        }
        TargetPlan target = whole.target().withMostSubs(Optional.empty());
        all.set(index, new Placed(target, new Interval(whole.span().from(), at)));
        all.add(new Placed(target, new Interval(at, whole.span().until())));
        return with(all);
    }

    /** Replaces the target's settings of a block: filters, sub length. */
    public NightDraft replace(int index, TargetPlan target) {
        return replace(List.of(index), t -> target);
    }

    /** Changes the target's settings of some blocks at once. */
    public NightDraft replace(List<Integer> indices, UnaryOperator<TargetPlan> change) {
        List<Placed> all = placed();
        indices.forEach(i -> all.set(
                i, new Placed(change.apply(all.get(i).target()), all.get(i).span())));
        return with(all);
    }

    /** What has no time keeps its place in the program, after the others, unless it is given one. */
    private NightDraft with(List<Placed> placed) {
        Stream<TargetPlan> inTurn = placed.stream()
                .sorted(Comparator.comparing((Placed p) -> p.span().from()))
                .map(p -> p.target()
                        .at(
                                Optional.of(local(p.span().from())),
                                Optional.of(local(p.span().until()))));
        Stream<TargetPlan> waiting = unplaced().stream()
                .filter(t -> placed.stream().noneMatch(p -> p.target().name().equals(t.name())));
        List<TargetPlan> targets = Stream.concat(inTurn, waiting).toList();
        return withProgram(file.program().withTargets(file.program().date(), targets));
    }

    private LocalTime local(Instant time) {
        return time.atZone(file.site().zone()).toLocalTime().withNano(0);
    }

    /** Another program for the same night. */
    public NightDraft withProgram(Program program) {
        NightFile next = NightFile.of(file.site(), file.kit(), program, file.lessons(), file.observatory());
        boolean sameSky = program.date().equals(file.program().date())
                && program.minimumAltitudeDeg() == file.program().minimumAltitudeDeg();
        return new NightDraft(next, sameSky ? outlook : outlook(file.site(), program));
    }

    /**
     * The same night with what earlier nights kept.
     *
     * @param hoursKept by target and filter
     */
    public NightDraft withKept(ToDoubleBiFunction<String, String> hoursKept) {
        List<TargetPlan> targets = file.program().targets().stream()
                .map(t -> t.withGoals(t.goals().stream()
                        .map(g -> g.withGathered(g.gathered()
                                .map(w -> new FilterGoal.Gathered(
                                        w.hoursWanted(), hoursKept.applyAsDouble(t.name(), g.filter())))))
                        .toList()))
                .toList();
        return targets.equals(file.program().targets())
                ? this
                : withProgram(file.program().withTargets(file.program().date(), targets));
    }

    /** The same targets on another date, each whenever it is up. */
    public NightDraft onDate(LocalDate date) {
        List<TargetPlan> targets = file.program().targets().stream()
                .map(t -> t.at(Optional.empty(), Optional.empty()).withMostSubs(Optional.empty()))
                .toList();
        return withProgram(file.program().withTargets(date, targets));
    }

    /** The same program at another place with another kit. Filters that the kit lacks give way to its first. */
    public NightDraft with(Site site, Kit kit) {
        UnaryOperator<TargetPlan> fitted = t -> {
            List<String> filters = t.filters().stream()
                    .filter(f -> kit.filters().stream().anyMatch(k -> k.name().equals(f)))
                    .toList();
            return t.withFilters(
                    filters.isEmpty() ? List.of(kit.filters().get(0).name()) : filters);
        };
        Program program = file.program()
                .withTargets(
                        file.program().date(),
                        file.program().targets().stream().map(fitted).toList())
                .withStandIns(file.program().standIns().stream().map(fitted).toList());
        return NightDraft.of(NightFile.of(site, kit, program, file.lessons(), file.observatory()));
    }

    /** One filter all night, where it is wanted at all: nobody goes out to put another in. */
    public NightDraft onlyFilter(String filter) {
        UnaryOperator<TargetPlan> only = t -> t.filters().contains(filter) ? t.withFilters(List.of(filter)) : t;
        List<Integer> all = IntStream.range(0, placed().size()).boxed().toList();
        NightDraft planned = replace(all, only);
        return planned.withProgram(planned.file()
                .program()
                .withStandIns(file.program().standIns().stream().map(only).toList()));
    }

    /** The same night with another frame for a target, in all its blocks. */
    public NightDraft framed(String target, Equatorial centre, double angleDeg) {
        List<TargetPlan> targets = file.program().targets().stream()
                .map(t -> t.name().equals(target) ? t.framed(centre, angleDeg) : t)
                .toList();
        return withProgram(file.program().withTargets(file.program().date(), targets));
    }

    /**
     * The panels of a mosaic as targets of their own, each with an even share of the time that the whole object had, at one angle.
     *
     * @param target whose blocks give way
     * @param panels middles of the frames
     */
    public NightDraft withPanels(TargetPlan target, List<Equatorial> panels, double angleDeg) {
        List<Placed> next = new ArrayList<>();
        for (Placed placed : placed()) {
            if (!placed.target().name().equals(target.name())) {
                next.add(placed);
                continue;
            }
            Duration share = placed.span().duration().dividedBy(panels.size());
            for (int i = 0; i < panels.size(); i++) {
                Instant from = placed.span().from().plus(share.multipliedBy(i));
                next.add(new Placed(
                        placed.target()
                                .named(target.name() + " panel " + (i + 1))
                                .framed(panels.get(i), angleDeg),
                        new Interval(from, from.plus(share))));
            }
        }
        return with(next);
    }

    /** The same night under another truth of the simulated observatory, of which the plan knows nothing. */
    public NightDraft withObservatory(Object settings) {
        return new NightDraft(file.withObservatory(settings), outlook);
    }

    /** The same night with other lessons. */
    public NightDraft withLessons(List<String> lessons) {
        return new NightDraft(
                NightFile.of(file.site(), file.kit(), file.program(), lessons, file.observatory()), outlook);
    }

    /**
     * The best times for what is planned. Nothing else changes: each target keeps its frame, filters, sub length and count.
     *
     * @param broadUnderMoon the school that takes bright targets at any time
     * @return the schedule and the draft that carries it out; the draft is unchanged if nothing is up
     */
    public Arranged arrange(CloudForecast clouds, boolean interleave, boolean broadUnderMoon) {
        List<Project> projects = distinct(file.program().targets()).stream()
                .map(t -> Projects.planned(t, file.kit(), file.site(), broadUnderMoon))
                .toList();
        Scheduler.Rules rules = new Scheduler.Rules(
                file.program().minimumAltitudeDeg(), file.program().ditherEvery(), interleave, 2);
        Scheduler scheduler = new Scheduler(file.kit(), Observer.at(file.site()), rules);
        Interval awake = NightPlanner.awake(file.site(), file.kit(), file.program(), plan.times());
        Optional<Interval> dark = plan.times().dark().stream()
                .flatMap(d -> d.intersection(awake).stream())
                .max(Comparator.comparing(Interval::duration));
        if (dark.isEmpty()) {
            return new Arranged(new Schedule(List.of(), 0, 0), this, List.of());
        }
        Schedule schedule = scheduler.best(projects, dark.get(), clouds);
        if (schedule.blocks().isEmpty()) {
            return new Arranged(schedule, this, List.of());
        }
        Program program = Projects.program(
                schedule, file.program(), file.program().date(), file.site().zone(), interleave);
        List<String> without = projects.stream()
                .map(Project::name)
                .filter(name ->
                        program.targets().stream().noneMatch(t -> t.name().equals(name)))
                .distinct()
                .toList();
        NightDraft next = withProgram(program);
        // Who found no time needs no calibration frames either: before bed there is more room for the others.
        Interval longer = NightPlanner.awake(file.site(), file.kit(), program, plan.times());
        if (longer.until().isAfter(awake.until())) {
            Arranged again = next.arrange(clouds, interleave, broadUnderMoon);
            return new Arranged(again.schedule(), again.draft(), without);
        }
        return new Arranged(schedule, next, without);
    }

    /** Blocks of one target with the same settings are one wish. */
    private static List<TargetPlan> distinct(List<TargetPlan> targets) {
        return targets.stream()
                .map(t -> t.at(Optional.empty(), Optional.empty()))
                .distinct()
                .toList();
    }

    /** The same night with filters in turns of two, or each in one block; nothing else changes, the times neither. */
    public NightDraft inTurns(boolean interleave) {
        List<Placed> all = placed();
        for (int i = 0; i < all.size(); i++) {
            TargetPlan t = all.get(i).target();
            int subs = Math.max(1, plan.blocks().get(i).subs());
            int turn = interleave
                    ? 2
                    : (subs + t.filters().size() - 1) / t.filters().size();
            all.set(i, new Placed(t.withTurn(Math.max(1, turn)), all.get(i).span()));
        }
        return with(all);
    }

    /**
     * A schedule with the draft that carries it out.
     *
     * @param without names of targets that found no time
     */
    public record Arranged(Schedule schedule, NightDraft draft, List<String> without) {}

    /** Dark time of half an hour and more that no block has, before bed. */
    public List<Interval> gaps() {
        return gaps;
    }

    private List<Interval> free() {
        Interval awake = NightPlanner.awake(file.site(), file.kit(), file.program(), plan.times());
        List<Interval> free = plan.times().dark().stream()
                .flatMap(d -> d.intersection(awake).stream())
                .toList();
        for (PlannedBlock b : plan.blocks()) {
            free = free.stream().flatMap(f -> f.without(b.span()).stream()).toList();
        }
        return free.stream()
                .filter(f -> f.duration().compareTo(SHORTEST.multipliedBy(2)) >= 0)
                .toList();
    }

    /** A gap, with the side of the meridian on which the telescope is when it begins. */
    public CandidateSearch.Gap gap(Interval span) {
        return new CandidateSearch.Gap(
                span,
                plan.blocks().stream()
                        .filter(b -> !b.span().until().isAfter(span.from()))
                        .reduce((a, b) -> b)
                        .map(b -> b.window().transit().isBefore(span.from())));
    }

    /** The block at a time. */
    public Optional<PlannedBlock> blockAt(Instant time) {
        return plan.blocks().stream().filter(b -> b.span().contains(time)).findFirst();
    }
}
