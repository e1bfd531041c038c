package app.ironside.plan;

import app.ironside.kit.Exposure;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Extinction;
import app.ironside.sky.Site;
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

    /** To register and integrate a sub of six megapixels on two cores, of the order measured. */
    private static final double STACK_SECONDS_PER_SUB = 1.1;

    /** So many that a remainder shorter than a sub does not weigh. */
    private static final double ENOUGH_HOURS = 1000;

    private static final int USUAL_DITHER = 2;

    private static final double LONGEST_BROAD = 300;

    /** Broad light is taken while the Moon brightens the sky by at most this; narrow filters stand more (common practice). */
    private static final double BROAD_MOON_MAG = 0.3;

    private static final double NARROW_MOON_MAG = 2.5;

    private Projects() {}

    /**
     * A project with the filters that serve an object and a sub length that the sky allows, with no end to what is wanted.
     *
     * @param broadUnderMoon the school that takes bright targets at any time
     */
    public static Project of(DeepSkyObject object, Kit kit, Site site, boolean broadUnderMoon) {
        List<FilterSpec> filters = TargetLight.of(object.kind()).filters(kit, false);
        List<FilterSpec> used = filters.isEmpty() ? kit.filters().subList(0, 1) : filters;
        FilterSpec widest = used.get(0);
        double seconds = subSeconds(kit, site, widest);
        List<Project.Goal> goals = used.stream()
                .map(f -> new Project.Goal(
                        f,
                        Project.Goal.ENDLESS,
                        f.narrow() ? NARROW_MOON_MAG : broadUnderMoon ? 20 : BROAD_MOON_MAG,
                        light(kit, site, f, seconds)))
                .toList();
        return new Project(object.id(), object.position(), 1, seconds, goals);
    }

    /**
     * The length of the ladder whose stack is quietest in the same hours, no longer than the mount holds: short subs lose to read noise
     * and to the time between them, long ones to each gust. Of lengths that differ by less than a two-hundredth the shorter.
     */
    public static double subSeconds(Kit kit, Site site, FilterSpec filter) {
        double held = kit.guideOptics().isPresent() ? LADDER[LADDER.length - 1] : Exposure.unguidedSeconds(kit, 2);
        double limit = Math.min(held, filter.narrow() ? LADDER[LADDER.length - 1] : LONGEST_BROAD);
        List<Exposure.Way> ways = ways(kit, site, filter, new Spending(ENOUGH_HOURS, USUAL_DITHER), LADDER).stream()
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
            Kit kit, Site site, FilterSpec filter, Spending spending, double[] lengthsSeconds) {
        Overheads overheads = Overheads.of(kit);
        double between = overheads.perSub() + overheads.perDither() / spending.ditherEvery();
        return Exposure.ways(
                kit,
                new Exposure.Conditions(
                        spending.hours(),
                        background(kit, site, filter),
                        between,
                        SPOILS_PER_HOUR,
                        STACK_SECONDS_PER_SUB),
                lengthsSeconds);
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
        return new NightGrid.Light(own / sky, Extinction.magPerAirmass(filter.centreNm(), site.elevationM()), 1);
    }

    /** The program that carries a schedule out; the rest of it is taken from a model. */
    public static Program program(Schedule schedule, Program model, LocalDate date, ZoneId zone) {
        List<TargetPlan> targets = new ArrayList<>();
        for (Schedule.Block block : schedule.blocks()) {
            Set<String> filters = new LinkedHashSet<>();
            block.runs().forEach(r -> filters.add(r.filter().name()));
            if (filters.isEmpty()) {
                continue;
            }
            int turn = block.runs().stream().mapToInt(Schedule.Run::subs).max().orElse(1);
            targets.add(new TargetPlan(
                    block.project().name(),
                    block.project().position(),
                    List.copyOf(filters),
                    turn,
                    block.project().subSeconds(),
                    Optional.of(time(block.span().from(), zone)),
                    Optional.of(time(block.span().until(), zone)),
                    Optional.of(block.subs()),
                    angleOf(block.project().name(), model)));
        }
        return model.withTargets(date, targets);
    }

    /** The camera angle that a program has for a target already. */
    private static Optional<Double> angleOf(String target, Program program) {
        return program.targets().stream()
                .filter(t -> t.name().equals(target))
                .flatMap(t -> t.angleDeg().stream())
                .findFirst();
    }

    private static LocalTime time(java.time.Instant instant, ZoneId zone) {
        return instant.atZone(zone).toLocalTime().withNano(0);
    }
}
