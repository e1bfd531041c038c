package app.ironside.plan;

import app.ironside.kit.Exposure;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.RoundRecord;
import app.ironside.kit.RoundStars;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Extinction;
import app.ironside.sky.Site;
import app.ironside.star.SubLimits;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Turns a wish into a project, and a schedule into a program. Pure. */
public final class Projects {
    /** Sub lengths in use, seconds (common practice). */
    private static final double[] LADDER = {15, 30, 60, 90, 120, 180, 240, 300, 420, 600};

    /** Gusts, trails and stumbles an hour that each cost the sub they fall into (common practice: one sub in twenty of 180 s). */
    private static final double SPOILS_PER_HOUR = 1.2;

    /** To register and integrate a megapixel of a sub on two cores, of the order measured: 1.1 s for six. */
    private static final double STACK_SECONDS_PER_MEGAPIXEL = 0.19;

    /** So many that a remainder shorter than a sub does not weigh. */
    private static final double ENOUGH_HOURS = 1000;

    private static final int USUAL_DITHER = 2;
    private static final int USUAL_TURN = 2;

    private static final double LONGEST_BROAD = 300;

    /** Where nobody has said what the site's is (common practice). */
    public static final double COMMON_SEEING_ARCSEC = 3;

    /** What alignment by a reticle alone leaves (common practice: 5′ to 10′). */
    private static final double RETICLE_ERROR_ARCMIN = 5;

    private Projects() {}

    /**
     * What to take of an object: the filters that serve it, each with the sub length that the sky behind it allows, as many as fit.
     *
     * @param bright whether Moon or town light the sky while it is up
     */
    public static List<FilterGoal> goals(DeepSkyObject object, Kit kit, Site site, boolean bright) {
        List<FilterSpec> filters = TargetLight.of(object.kind()).filters(kit, bright);
        List<FilterSpec> used = filters.isEmpty() ? kit.filters().subList(0, 1) : filters;
        return used.stream()
                .map(f -> new FilterGoal(f.name(), subSeconds(kit, site, f)))
                .toList();
    }

    /** All narrow filters of a kit, or all others, each with the sub length that the sky behind it allows. */
    public static List<FilterGoal> goals(Kit kit, Site site, boolean narrow) {
        return kit.filters().stream()
                .filter(f -> f.narrow() == narrow)
                .map(f -> new FilterGoal(f.name(), subSeconds(kit, site, f)))
                .toList();
    }

    /**
     * A project of an object with no end to what is wanted.
     *
     * @param broadUnderMoon the school that takes bright targets at any time
     */
    public static Project of(DeepSkyObject object, Kit kit, Site site, boolean broadUnderMoon) {
        TargetPlan target = new TargetPlan(object.id(), object.position(), goals(object, kit, site, false), USUAL_TURN);
        return planned(target, kit, site, broadUnderMoon);
    }

    /**
     * A target of a program as a project: what it is to be is the person's choice and stays, filters, sub lengths, counts and frame; only
     * when it is taken is open.
     *
     * @param broadUnderMoon the school that takes bright targets at any time
     */
    public static Project planned(TargetPlan target, Kit kit, Site site, boolean broadUnderMoon) {
        int each = target.mostSubs()
                .map(most -> (most + target.goals().size() - 1) / target.goals().size())
                .orElse(Project.Goal.ENDLESS);
        List<Project.Goal> goals = target.goals().stream()
                .map(g -> {
                    FilterSpec filter = kit.filter(g.filter());
                    return new Project.Goal(
                            filter,
                            Math.min(each, g.wanted().orElse(Project.Goal.ENDLESS)),
                            g.subSeconds(),
                            g.moon().limitMag(filter, broadUnderMoon),
                            light(kit, site, filter, g.subSeconds()));
                })
                .toList();
        return new Project(target.name(), target.position(), 1, goals);
    }

    /**
     * The length of the ladder whose stack of kept subs is quietest in the same hours: short subs lose to read noise and to the time between
     * them, long ones to each gust, and without a guider to the gear. Of lengths that differ by less than a two-hundredth the shorter.
     */
    public static double subSeconds(Kit kit, Site site, FilterSpec filter) {
        double limit = filter.narrow() ? LADDER[LADDER.length - 1] : LONGEST_BROAD;
        List<Exposure.Way> ways =
                ways(kit, site, filter, new Spending(ENOUGH_HOURS, USUAL_DITHER), RoundRecord.NONE, LADDER).stream()
                        .filter(w -> w.seconds() <= limit)
                        .toList();
        double least = ways.stream().mapToDouble(Exposure.Way::noise).min().orElse(1);
        return ways.stream()
                .filter(w -> w.noise() <= least * 1.005)
                .mapToDouble(Exposure.Way::seconds)
                .min()
                .orElse(LADDER[0]);
    }

    /**
     * Time to spend on subs.
     *
     * @param ditherEvery so many subs
     */
    public record Spending(double hours, int ditherEvery) {}

    /** What each sub length would give in the same hours behind a filter. */
    public static List<Exposure.Way> ways(
            Kit kit, Site site, FilterSpec filter, Spending spending, RoundRecord record, double[] lengthsSeconds) {
        Overheads overheads = Overheads.of(kit);
        double between = overheads.perSub() + overheads.perDither() / spending.ditherEvery();
        return Exposure.ways(
                kit,
                new Exposure.Conditions(
                        spending.hours(),
                        background(kit, site, filter),
                        between,
                        SPOILS_PER_HOUR,
                        STACK_SECONDS_PER_MEGAPIXEL
                                * kit.sensor().widthPx()
                                * kit.sensor().heightPx()
                                / 1e6,
                        t -> roundShare(kit, site, record, t)),
                lengthsSeconds);
    }

    /**
     * Expected share of subs with round stars, with the axis as well aligned as by a reticle, corrected by the kit's own; 1 for a kit that
     * guides.
     */
    public static double roundShare(Kit kit, Site site, RoundRecord record, double seconds) {
        if (kit.guideOptics().isPresent()) {
            return 1;
        }
        double reckoned = RoundStars.share(
                kit,
                seconds,
                new RoundStars.Conditions(
                        site.seeingArcsec().orElse(COMMON_SEEING_ARCSEC),
                        RETICLE_ERROR_ARCMIN,
                        SubLimits.TRAILED_ECCENTRICITY));
        return record.corrected(seconds, reckoned);
    }

    /** Sky and dark current behind a filter, electrons a second and pixel. */
    public static double background(Kit kit, Site site, FilterSpec filter) {
        return Exposure.skyElectronsPerSecond(kit, filter, site.skyMagPerArcsec2())
                + kit.sensor().darkElectronsPerSecondAt(kit.sensor().cooled() ? -10 : 10);
    }

    /** How the sky looks to a filter on a kit. */
    public static NightGrid.Light light(Kit kit, Site site, FilterSpec filter, double seconds) {
        double sky = Exposure.skyElectronsPerSecond(kit, filter, site.skyMagPerArcsec2());
        double own = kit.sensor().readNoiseElectrons() * kit.sensor().readNoiseElectrons() / seconds
                + kit.sensor().darkElectronsPerSecondAt(kit.sensor().cooled() ? -10 : 10);
        return new NightGrid.Light(own / sky, Extinction.magPerAirmass(filter.meanNm(), site.elevationM()), 1);
    }

    /**
     * The program that carries a schedule out. A target that the model program has already keeps everything but its times: frame, angle,
     * filters and sub length; the turns of its filters too, while filters are taken in turns.
     *
     * @param interleave whether filters take turns; in blocks each is taken as long as the schedule says
     */
    public static Program program(Schedule schedule, Program model, LocalDate date, ZoneId zone, boolean interleave) {
        List<TargetPlan> targets = new ArrayList<>();
        for (Schedule.Block block : schedule.blocks()) {
            Set<String> order = new LinkedHashSet<>();
            block.runs().forEach(r -> order.add(r.filter().name()));
            if (order.isEmpty()) {
                continue;
            }
            int longest =
                    block.runs().stream().mapToInt(Schedule.Run::subs).max().orElse(1);
            Optional<LocalTime> from = Optional.of(time(block.span().from(), zone));
            Optional<LocalTime> until = Optional.of(time(block.span().until(), zone));
            Optional<TargetPlan> known = known(block.project(), model);
            targets.add(known.map(t -> interleave
                            ? t.at(from, until)
                            : inBlocks(t, order, longest).at(from, until))
                    .orElseGet(() -> new TargetPlan(
                                    block.project().name(),
                                    block.project().position(),
                                    goals(block.project(), order),
                                    interleave ? Math.min(USUAL_TURN, longest) : longest)
                            .at(from, until)));
        }
        return model.withTargets(date, targets);
    }

    /** The filters of a target in the order of its best hours; those for which no time was found come last. */
    private static TargetPlan inBlocks(TargetPlan target, Set<String> order, int longest) {
        Set<String> filters = new LinkedHashSet<>(order);
        filters.retainAll(target.filters());
        filters.addAll(target.filters());
        return target.withFilters(List.copyOf(filters)).withTurn(Math.max(1, longest));
    }

    /** The model's target that a project was made of. */
    private static Optional<TargetPlan> known(Project project, Program model) {
        return model.targets().stream()
                .filter(t -> t.name().equals(project.name())
                        && t.position().equals(project.position())
                        && isOf(t.goals(), project.goals()))
                .findFirst();
    }

    private static boolean isOf(List<FilterGoal> planned, List<Project.Goal> goals) {
        return planned.stream()
                .map(g -> g.filter() + g.subSeconds())
                .toList()
                .equals(goals.stream()
                        .map(g -> g.filter().name() + g.subSeconds())
                        .toList());
    }

    private static List<FilterGoal> goals(Project project, Set<String> order) {
        return order.stream()
                .map(name -> project.goals().stream()
                        .filter(g -> g.filter().name().equals(name))
                        .findFirst()
                        .orElseThrow())
                .map(g -> new FilterGoal(g.filter().name(), g.subSeconds()))
                .toList();
    }

    private static LocalTime time(java.time.Instant instant, ZoneId zone) {
        return instant.atZone(zone).toLocalTime().withNano(0);
    }
}
