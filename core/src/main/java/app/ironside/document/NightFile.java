package app.ironside.document;

import app.ironside.BadInputException;
import app.ironside.JsonText;
import app.ironside.guide.GuideRules;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.plan.BalanceBy;
import app.ironside.plan.Calibrations;
import app.ironside.plan.Ending;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.FocusTriggers;
import app.ironside.plan.MoonRule;
import app.ironside.plan.Patience;
import app.ironside.plan.PolarBy;
import app.ironside.plan.Program;
import app.ironside.plan.Reactions;
import app.ironside.plan.SetUp;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Site;
import app.ironside.sky.SiteFile;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * A night as an open JSON file: site, kit, program, and for rehearsals the truth of the observatory.
 *
 * @param lessons steps that earlier nights taught
 * @param observatory settings of a simulated observatory, as they stand in the file; empty object if absent
 * @param training the exercise that it is, which keeps its own opinion to itself; empty for any other night
 * @param text the file as it was read
 */
public record NightFile(
        Site site,
        Kit kit,
        Program program,
        List<String> lessons,
        JsonNode observatory,
        Optional<Training> training,
        String text) {
    private static final String EXAMPLE = "a night file as in examples/";

    /**
     * A night that is an exercise.
     *
     * @param exercise its id
     * @param seed of its sky
     */
    public record Training(String exercise, long seed) {}

    private record TargetEntry(
            String name,
            Optional<Double> raDeg,
            Optional<Double> decDeg,
            Optional<List<String>> filters,
            Optional<Integer> subsPerFilter,
            Optional<Double> subSeconds,
            Optional<List<GoalEntry>> goals,
            Optional<LocalTime> from,
            Optional<LocalTime> until,
            Optional<Integer> mostSubs,
            Optional<Double> angleDeg,
            Optional<Double> minimumAltitudeDeg) {}

    /** What is wanted in one filter, where filters differ; else filters and subSeconds of the target say it. */
    private record GoalEntry(
            String filter,
            double subSeconds,
            Optional<Integer> subs,
            Optional<Double> hoursWanted,
            Optional<Double> hoursKept,
            Optional<String> moon) {}

    private record ProgramEntry(
            List<TargetEntry> targets,
            double coolToC,
            int ditherEvery,
            double ditherArcsec,
            double refocusAfterC,
            double centreWithinArcsec,
            double recentreBeyondArcsec,
            double minimumAltitudeDeg,
            Calibrations calibrations,
            Optional<Integer> fullFramesPerLeg,
            Optional<LocalTime> bedBy,
            Optional<SetUpEntry> setUp,
            Optional<FocusEntry> focus,
            Optional<GuidingEntry> guiding,
            Optional<ReactionsEntry> reactions,
            Optional<EndingEntry> ending,
            Optional<List<TargetEntry>> standIns) {}

    /** What is left out is as usual. */
    private record FocusEntry(
            Optional<Double> growth,
            Optional<Integer> everySubs,
            Optional<Integer> everyMinutes,
            Optional<Boolean> onFilter,
            Optional<Boolean> afterFlip,
            Optional<Boolean> skipFresh,
            Optional<Integer> points,
            Optional<Boolean> compensate) {
        static Optional<FocusEntry> of(FocusTriggers t) {
            return t.equals(FocusTriggers.USUAL)
                    ? Optional.empty()
                    : Optional.of(new FocusEntry(
                            t.growth(),
                            t.everySubs(),
                            t.everyMinutes(),
                            Optional.of(t.onFilter()),
                            Optional.of(t.afterFlip()),
                            Optional.of(t.skipFresh()),
                            Optional.of(t.points()),
                            Optional.of(t.compensate())));
        }

        FocusTriggers triggers(String name) {
            try {
                return new FocusTriggers(
                        growth,
                        everySubs,
                        everyMinutes,
                        onFilter.orElse(FocusTriggers.USUAL.onFilter()),
                        afterFlip.orElse(FocusTriggers.USUAL.afterFlip()),
                        skipFresh.orElse(FocusTriggers.USUAL.skipFresh()),
                        points.orElse(FocusTriggers.USUAL.points()),
                        compensate.orElse(FocusTriggers.USUAL.compensate()));
            } catch (IllegalArgumentException e) {
                throw new BadInputException(
                        name + ", program.focus", e.getMessage(), "a trigger as docs/FILES.md has it", e);
            }
        }
    }

    /** What is left out is as usual; 0 minutes for never. */
    private record ReactionsEntry(
            Optional<Boolean> refocus,
            Optional<Boolean> heat,
            Optional<Boolean> guideAnew,
            Optional<Boolean> recentre,
            Optional<Boolean> nextTarget,
            Optional<Integer> giveUpAfterMinutes,
            Optional<Boolean> giveUpByWindow,
            Optional<Double> leaveAboveSky,
            Optional<Integer> elsewhereAfterMinutes) {
        static Optional<ReactionsEntry> of(Reactions r) {
            return r.equals(Reactions.USUAL)
                    ? Optional.empty()
                    : Optional.of(new ReactionsEntry(
                            Optional.of(r.refocus()),
                            Optional.of(r.heat()),
                            Optional.of(r.guideAnew()),
                            Optional.of(r.recentre()),
                            Optional.of(r.nextTarget()),
                            byWindow(r.giveUp())
                                    ? Optional.empty()
                                    : Optional.of(r.giveUp().minutes()),
                            byWindow(r.giveUp()) ? Optional.of(true) : Optional.empty(),
                            r.leaveAboveSky(),
                            Optional.of(r.elsewhereAfterMinutes().orElse(0))));
        }

        private static boolean byWindow(Patience patience) {
            return patience.how() == Patience.How.WINDOW;
        }

        private Patience giveUp() {
            return giveUpByWindow.orElse(false)
                    ? Patience.OF_THE_WINDOW
                    : giveUpAfterMinutes
                            .map(m -> m == 0 ? Patience.ENDLESS : Patience.ofMinutes(m))
                            .orElse(Reactions.USUAL.giveUp());
        }

        Reactions reactions(String name) {
            Reactions usual = Reactions.USUAL;
            try {
                return new Reactions(
                        refocus.orElse(usual.refocus()),
                        heat.orElse(usual.heat()),
                        guideAnew.orElse(usual.guideAnew()),
                        recentre.orElse(usual.recentre()),
                        nextTarget.orElse(usual.nextTarget()),
                        giveUp(),
                        leaveAboveSky.filter(x -> x != 0),
                        elsewhereAfterMinutes.isPresent()
                                ? elsewhereAfterMinutes.filter(m -> m != 0)
                                : usual.elsewhereAfterMinutes());
            } catch (IllegalArgumentException e) {
                throw new BadInputException(
                        name + ", program.reactions",
                        e.getMessage(),
                        "minutes from 10 (elsewhere: 5) to 1440, times the sky from 1.1 to 100, or 0 for never",
                        e);
            }
        }
    }

    /** What is left out is as usual. */
    private record EndingEntry(Optional<String> order, Optional<Boolean> disconnect, Optional<String> copyTo) {
        static Optional<EndingEntry> of(Ending e) {
            return e.equals(Ending.USUAL)
                    ? Optional.empty()
                    : Optional.of(
                            new EndingEntry(Optional.of(word(e.order())), Optional.of(e.disconnect()), e.copyTo()));
        }

        private static String folder(String folder, String name) {
            try {
                return Path.of(folder).toString();
            } catch (InvalidPathException e) {
                throw new BadInputException(
                        name + ", program.ending",
                        "copyTo is no folder: " + e.getReason(),
                        "a path on this machine",
                        e);
            }
        }

        Ending ending(String name) {
            return new Ending(
                    order.map(word -> named(Ending.Order.values(), word, name + ", program.ending", "order"))
                            .orElse(Ending.USUAL.order()),
                    disconnect.orElse(Ending.USUAL.disconnect()),
                    copyTo.filter(folder -> !folder.isBlank()).map(folder -> folder(folder, name)));
        }
    }

    /** What is left out is as usual. */
    private record SetUpEntry(
            Optional<Boolean> sweepAxes,
            Optional<String> polarBy,
            Optional<Boolean> atOnce,
            Optional<String> balanceBy) {
        static Optional<SetUpEntry> of(SetUp setUp) {
            return setUp.equals(SetUp.USUAL)
                    ? Optional.empty()
                    : Optional.of(new SetUpEntry(
                            Optional.of(setUp.sweepAxes()),
                            Optional.of(word(setUp.polarBy())),
                            Optional.of(setUp.atOnce()),
                            Optional.of(word(setUp.balanceBy()))));
        }

        SetUp setUp(String name) {
            return new SetUp(
                    sweepAxes.orElse(SetUp.USUAL.sweepAxes()),
                    polarBy.map(word -> named(PolarBy.values(), word, name + ", program.setUp", "polarBy"))
                            .orElse(SetUp.USUAL.polarBy()),
                    atOnce.orElse(SetUp.USUAL.atOnce()),
                    balanceBy
                            .map(word -> named(BalanceBy.values(), word, name + ", program.setUp", "balanceBy"))
                            .orElse(SetUp.USUAL.balanceBy()));
        }
    }

    private record Entry(
            LocalDate date,
            SiteFile.Entry site,
            KitFile.Entry kit,
            ProgramEntry program,
            Optional<List<String>> lessons,
            Optional<JsonNode> observatory,
            Optional<Training> training) {}

    /** A night put together by the application. */
    public static NightFile of(Site site, Kit kit, Program program, List<String> lessons, JsonNode observatory) {
        return of(site, kit, program, lessons, observatory, Optional.empty());
    }

    private static NightFile of(
            Site site,
            Kit kit,
            Program program,
            List<String> lessons,
            JsonNode observatory,
            Optional<Training> training) {
        ObjectNode tree = tree(site, kit, program, lessons, observatory, training);
        return new NightFile(site, kit, program, List.copyOf(lessons), observatory, training, JsonText.write(tree));
    }

    private static ObjectNode tree(
            Site site,
            Kit kit,
            Program program,
            List<String> lessons,
            JsonNode observatory,
            Optional<Training> training) {
        ObjectNode tree = JsonText.newObject();
        tree.put("date", program.date().toString());
        tree.set("site", SiteFile.tree(site));
        tree.set("kit", KitFile.tree(kit));
        tree.set("program", JsonText.tree(entry(program)));
        if (!lessons.isEmpty()) {
            lessons.forEach(tree.putArray("lessons")::add);
        }
        tree.set("observatory", observatory);
        training.ifPresent(t -> tree.set("training", JsonText.tree(t)));
        return tree;
    }

    /** The same plan on a later date, if its own has gone by. */
    public NightFile notBefore(LocalDate date) {
        return program.date().isBefore(date)
                ? of(site, kit, program.withTargets(date, program.targets()), lessons, observatory, training)
                : this;
    }

    /** The same night in another year's weather, as it were: the observatory's seed is another. */
    public NightFile withSeed(long seed) {
        ObjectNode changed = JsonText.newObject();
        changed.setAll((ObjectNode) observatory);
        changed.put("seed", seed);
        return of(site, kit, program, lessons, changed, training);
    }

    /**
     * The same night under another truth of the simulated observatory.
     *
     * @param settings a record of the simulator's
     */
    public NightFile withObservatory(Object settings) {
        return of(site, kit, program, lessons, JsonText.tree(settings), training);
    }

    /** The same night as an exercise. */
    public NightFile asTraining(Training exercise) {
        return of(site, kit, program, lessons, observatory, Optional.of(exercise));
    }

    /** The same night with another program. */
    public NightFile withProgram(Program other) {
        return of(site, kit, other, lessons, observatory, training);
    }

    /** The same night, no exercise any more. */
    public NightFile withoutTraining() {
        return of(site, kit, program, lessons, observatory);
    }

    private ObjectNode tree() {
        return tree(site, kit, program, lessons, observatory, training);
    }

    /** Whether another file tells of a night that differs in its program only: the same date, site, kit, and sky. */
    public boolean differsInProgramOnly(NightFile other) {
        return JsonText.differences(tree(), other.tree()).stream()
                .allMatch(d -> d.path().startsWith("program"));
    }

    /** Whether another file tells of the very same night, however it is laid out as text. */
    public boolean sameNight(NightFile other) {
        return JsonText.differences(tree(), other.tree()).isEmpty();
    }

    /**
     * Reads a night.
     *
     * @param name for messages, usually the file's
     * @param objects to find targets that are given by name only
     * @throws BadInputException naming the place in the file that is wrong
     */
    public static NightFile parse(String text, String name, DeepSkyCatalogue objects) {
        Entry entry = JsonText.read(text, Entry.class, name, EXAMPLE);
        JsonNode observatory = entry.observatory().filter(o -> !o.isNull()).orElseGet(JsonText::newObject);
        if (!observatory.isObject()) {
            throw new BadInputException(name + ", observatory", "is not an object in curly brackets", EXAMPLE);
        }
        try {
            Kit kit = entry.kit().kit(name);
            return new NightFile(
                    entry.site().site(name),
                    kit,
                    program(entry, kit, name, objects),
                    entry.lessons().orElse(List.of()),
                    observatory,
                    entry.training(),
                    text);
        } catch (IllegalArgumentException e) {
            throw new BadInputException(name, e.getMessage(), EXAMPLE, e);
        }
    }

    private static Program program(Entry entry, Kit kit, String name, DeepSkyCatalogue objects) {
        ProgramEntry p = entry.program();
        return new Program(
                entry.date(),
                targets(p.targets(), kit, name, objects),
                p.coolToC(),
                p.ditherEvery(),
                p.ditherArcsec(),
                p.refocusAfterC(),
                p.centreWithinArcsec(),
                p.recentreBeyondArcsec(),
                p.minimumAltitudeDeg(),
                p.calibrations(),
                p.fullFramesPerLeg(),
                p.bedBy(),
                p.setUp().map(setUp -> setUp.setUp(name)).orElse(SetUp.USUAL),
                p.focus().map(focus -> focus.triggers(name)).orElse(FocusTriggers.USUAL),
                p.guiding().map(g -> g.rules(name)).orElse(GuideRules.USUAL),
                p.reactions().map(r -> r.reactions(name)).orElse(Reactions.USUAL),
                p.ending().map(e -> e.ending(name)).orElse(Ending.USUAL),
                targets(p.standIns().orElse(List.of()), kit, name, objects));
    }

    private static List<TargetPlan> targets(List<TargetEntry> entries, Kit kit, String name, DeepSkyCatalogue objects) {
        List<TargetPlan> targets = entries.stream()
                .map(t -> new TargetPlan(
                        t.name(),
                        position(t, name, objects),
                        goals(t, name),
                        t.subsPerFilter().orElse(2),
                        t.from(),
                        t.until(),
                        t.mostSubs(),
                        t.angleDeg(),
                        t.minimumAltitudeDeg()))
                .toList();
        for (TargetPlan target : targets) {
            mustHaveFilters(target, kit, name);
        }
        return targets;
    }

    private static List<FilterGoal> goals(TargetEntry t, String name) {
        if (t.goals().isPresent() == (t.filters().isPresent() || t.subSeconds().isPresent())) {
            throw new BadInputException(
                    name + ", target " + t.name(),
                    "must have either goals, or filters and subSeconds",
                    "\"filters\": [\"L\"], \"subSeconds\": 120, or \"goals\": [{\"filter\": \"L\", \"subSeconds\": 120}]");
        }
        if (t.goals().isPresent()) {
            return t.goals().get().stream()
                    .map(g -> new FilterGoal(
                            g.filter(),
                            g.subSeconds(),
                            g.subs(),
                            g.hoursWanted()
                                    .map(h -> new FilterGoal.Gathered(
                                            h, g.hoursKept().orElse(0.0))),
                            g.moon()
                                    .map(word -> named(MoonRule.values(), word, name + ", target " + t.name(), "moon"))
                                    .orElse(MoonRule.BY_FILTER)))
                    .toList();
        }
        double seconds = t.subSeconds()
                .orElseThrow(() -> new BadInputException(
                        name + ", target " + t.name(), "subSeconds is missing", "seconds, for instance 120"));
        return t
                .filters()
                .orElseThrow(() -> new BadInputException(
                        name + ", target " + t.name(), "filters is missing", "names of the kit's filters"))
                .stream()
                .map(f -> new FilterGoal(f, seconds))
                .toList();
    }

    static <E extends Enum<E>> E named(E[] all, String word, String where, String what) {
        return Arrays.stream(all)
                .filter(each -> word(each).equals(word))
                .findFirst()
                .orElseThrow(() -> new BadInputException(
                        where,
                        what + " is \"" + word + "\"",
                        Arrays.stream(all).map(NightFile::word).collect(Collectors.joining(", "))));
    }

    private static String word(Enum<?> each) {
        return each.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The one length of all subs of a target that says nothing more of its filters. */
    private static Optional<Double> simple(TargetPlan target) {
        boolean plain = target.goals().stream().allMatch(FilterGoal::saysNoMore);
        return target.subSeconds().filter(seconds -> plain);
    }

    private static List<GoalEntry> entries(TargetPlan target) {
        return target.goals().stream()
                .map(g -> new GoalEntry(
                        g.filter(),
                        g.subSeconds(),
                        g.subs(),
                        g.gathered().map(FilterGoal.Gathered::hoursWanted),
                        g.gathered().map(FilterGoal.Gathered::hoursKept),
                        Optional.of(g.moon())
                                .filter(m -> m != MoonRule.BY_FILTER)
                                .map(NightFile::word)))
                .toList();
    }

    private static void mustHaveFilters(TargetPlan target, Kit kit, String name) {
        try {
            target.filters().forEach(kit::filterSlot);
        } catch (BadInputException e) {
            throw e.in(name + ", target " + target.name());
        }
    }

    private static List<TargetEntry> entriesOf(List<TargetPlan> targets) {
        return targets.stream()
                .map(t -> new TargetEntry(
                        t.name(),
                        Optional.of(t.position().raDeg()),
                        Optional.of(t.position().decDeg()),
                        simple(t).map(seconds -> t.filters()),
                        Optional.of(t.subsPerFilter()),
                        simple(t),
                        simple(t).isPresent() ? Optional.empty() : Optional.of(entries(t)),
                        t.from(),
                        t.until(),
                        t.mostSubs(),
                        t.angleDeg(),
                        t.minimumAltitudeDeg()))
                .toList();
    }

    private static ProgramEntry entry(Program p) {
        return new ProgramEntry(
                entriesOf(p.targets()),
                p.coolToC(),
                p.ditherEvery(),
                p.ditherArcsec(),
                p.refocusAfterC(),
                p.centreWithinArcsec(),
                p.recentreBeyondArcsec(),
                p.minimumAltitudeDeg(),
                p.calibrations(),
                p.fullFramesPerLeg(),
                p.bedBy(),
                SetUpEntry.of(p.setUp()),
                FocusEntry.of(p.focus()),
                GuidingEntry.of(p.guiding()),
                ReactionsEntry.of(p.reactions()),
                EndingEntry.of(p.ending()),
                Optional.of(p.standIns()).filter(s -> !s.isEmpty()).map(NightFile::entriesOf));
    }

    private static Equatorial position(TargetEntry t, String name, DeepSkyCatalogue objects) {
        if (t.raDeg().isPresent() && t.decDeg().isPresent()) {
            return new Equatorial(t.raDeg().get(), t.decDeg().get());
        }
        return objects.find(t.name())
                .orElseThrow(() -> new BadInputException(
                        name,
                        "the catalogue has no \"" + t.name() + "\"",
                        "a name like \"NGC 2403\", or raDeg and decDeg (J2000)"))
                .position();
    }

    /**
     * The observatory's settings as a record of the simulator's.
     *
     * @throws BadInputException if a value is of the wrong kind
     */
    public <T> T observatoryOver(T defaults, Class<T> type) {
        return JsonText.overlay(defaults, observatory, type, "observatory");
    }
}
