package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.device.DeviceRole;
import app.ironside.journal.NightState;
import app.ironside.kit.Equipment;
import app.ironside.kit.Exposure;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.plan.Candidate;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.Framing;
import app.ironside.plan.GuideOptics;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Projects;
import app.ironside.plan.Schedule;
import app.ironside.plan.TargetLight;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import app.ironside.sky.Sexagesimal;
import app.ironside.sky.Site;
import app.ironside.sky.SkyScale;
import app.ironside.sky.StarSource;
import app.ironside.wiring.Outcome;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Words and numbers of the Plan station. */
public final class PlanReckoner {
    /** A night is moonless, clear or narrow as far as this share of it is. */
    private static final double MOST_OF = 0.8;

    private static final double USUAL_SEEING_ARCSEC = 4;
    private static final double PANEL_OVERLAP = 0.15;

    private final PlanDesk plan;
    private final ManyNightsReckoner manyNights;

    public PlanReckoner(PlanDesk plan) {
        this.plan = plan;
        this.manyNights = new ManyNightsReckoner(plan);
    }

    /**
     * @param filter that exposures are reckoned in
     */
    public ReckoningState of(NightBudget budget, FilterSpec filter) {
        if (!plan.message().isEmpty()) {
            ReckoningState calm = calm(budget, filter);
            return new ReckoningState(
                    calm.verdict(), plan.message(), true, calm.rows(), calm.actions(), calm.working(), calm.schools());
        }
        return calm(budget, filter);
    }

    private ReckoningState calm(NightBudget budget, FilterSpec filter) {
        return switch (plan.tab()) {
            case TONIGHT -> tonight(budget);
            case FRAMING -> framing();
            case SEASON -> manyNights.season(actions(true));
            case WISHES -> manyNights.wishes(actions(true));
            case RULES -> manyNights.rules(actions(false));
            case EXPOSURE -> exposure(filter);
            case COSTS -> costs(budget);
            case REHEARSAL -> rehearsal();
            case PROFILES -> profiles();
        };
    }

    private ZoneId zone() {
        return plan.file().site().zone();
    }

    private List<Action> actions(boolean withTarget) {
        if (plan.model().isProposed()) {
            return List.of(
                    new Action("take-arranged", "Take this plan", true, true, new Intent.TakeArranged()),
                    new Action("leave-arranged", "Keep the old one", false, true, new Intent.LeaveArranged()));
        }
        List<Action> actions = new ArrayList<>();
        if (withTarget && plan.looked().isPresent()) {
            actions.add(
                    new Action("add-target", "Add " + plan.looked().get().id(), false, true, new Intent.AddLookedAt()));
        }
        actions.add(new Action("arrange", "Arrange the night", false, !plan.isBusy(), new Intent.Arrange()));
        // A kit with a driver for its camera can be more than rehearsed.
        boolean real = plan.file().kit().equipment().drivers().containsKey(DeviceRole.CAMERA.word());
        actions.add(new Action("rehearse-plan", "Rehearse this plan", !real, true, new Intent.ShowRehearsals()));
        if (real) {
            actions.add(new Action("begin-night", "Begin the night", true, true, new Intent.BeginNight()));
        }
        return actions;
    }

    // ---- rehearsal
    // ---------------------------------------------------------------------------------------------------------

    private ReckoningState rehearsal() {
        Rehearsals rehearsals = plan.rehearsals();
        boolean free = !rehearsals.isBusy();
        List<Action> ways = List.of(
                new Action("rehearse-seconds", "In seconds", true, free, new Intent.RehearseInSeconds()),
                new Action("rehearse-many", "A hundred nights", false, free, new Intent.RehearseManyTimes()),
                new Action("rehearse-pixels", "With pixels", false, true, new Intent.Rehearse()));
        Optional<Rehearsals.Answer> answer = rehearsals.answer(plan.file());
        String working =
                "The same engine as on a real night, against the simulated observatory, on a virtual clock. Without pixels it is"
                        + " worked out what measuring the frames would give. A hundred nights: seeing, temperature, cloud and what breaks are"
                        + " drawn at rates of a damp hill (docs/FILES.md), common practice and no measurement of your place.";
        if (answer.flatMap(Rehearsals.Answer::many).isPresent()) {
            Outcome outcome = answer.flatMap(Rehearsals.Answer::many).get();
            return new ReckoningState(
                    RehearsalStates.verdict(outcome),
                    RehearsalStates.sentence(outcome),
                    false,
                    RehearsalStates.rows(outcome),
                    ways,
                    working,
                    List.of());
        }
        if (answer.flatMap(Rehearsals.Answer::one).isPresent()) {
            NightState night = answer.flatMap(Rehearsals.Answer::one).get();
            return new ReckoningState(
                    RehearsalStates.verdict(night),
                    RehearsalStates.sentence(night),
                    night.kept() == 0,
                    List.of(),
                    ways,
                    working,
                    List.of());
        }
        return new ReckoningState(
                free ? "Rehearse it before you go out." : "Rehearsing.",
                free
                        ? "What would go wrong is seen at the kitchen table. Set what is to go wrong, if you like."
                        : rehearsals.step() + ".",
                false,
                List.of(),
                ways,
                working,
                List.of());
    }

    // ---- tonight
    // -----------------------------------------------------------------------------------------------------------

    private ReckoningState tonight(NightBudget budget) {
        NightPlan p = plan.draft().plan();
        double light =
                p.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum();
        boolean trouble = !budget.warnings().isEmpty();
        List<Row> rows = new ArrayList<>();
        rows.add(new Row(
                "dark",
                Words.format(
                        "%.1f h, %.1f without Moon",
                        p.times().darkHours(), p.times().moonlessDarkHours())));
        rows.add(new Row("Moon", Words.format("%.0f %% lit", 100 * p.times().moonIlluminatedFraction())));
        rows.add(new Row("light", Words.format("%.1f h in %d subs", light, p.subs())));
        rows.add(new Row(
                "flips",
                Words.format(
                        "%d",
                        p.blocks().stream().filter(b -> b.flip().isPresent()).count())));
        rows.add(new Row("last light", Words.clock(budget.lightUntil(), zone())));
        rows.add(new Row("bed", CostsPane.bedtime(budget, zone())));
        List<TargetPlan> unplaced = plan.draft().unplaced();
        List<Action> actions = actions(true);
        if (!unplaced.isEmpty()) {
            rows.add(new Row(
                    "no time",
                    unplaced.stream().map(TargetPlan::name).distinct().collect(Collectors.joining(", "))));
            if (!plan.model().isProposed() && p.subs() > 0) {
                actions.add(
                        new Action("drop-unplaced", "Drop what has no time", false, true, new Intent.DropUnplaced()));
            }
        }
        chosenRows(rows);
        Optional<String> weather = foreseen(p);
        String sentence = trouble ? budget.warnings().get(0) : weather.orElseGet(() -> calmSentence(p, budget));
        plan.arranging().before().ifPresent(before -> {
            rows.add(new Row("before arranging", laidOut(before.plan())));
            rows.add(new Row(plan.model().isProposed() ? "arranged, as shown" : "now", laidOut(p)));
        });
        return new ReckoningState(
                p.subs() == 0 ? "Nothing is up." : Words.format("%d subs fit.", p.subs()),
                sentence,
                trouble,
                rows,
                actions,
                "An hour is worth (S/S₀)² · (B₀ + n)/(B + n): extinction dims the target, airmass, Moon and town brighten the sky, "
                        + "compared with the zenith without Moon (Krisciunas and Schaefer 1991; CCD equation, Howell 2006). "
                        + "Arranging is exact on pieces of five minutes, by dynamic programming over sets of stretches.",
                schools());
    }

    private String calmSentence(NightPlan p, NightBudget budget) {
        if (plan.arranging().schedule().isPresent()) {
            return loss(plan.arranging().schedule().get());
        }
        if (!budget.reminders().isEmpty()) {
            return budget.reminders().get(0);
        }
        return p.blocks().isEmpty() ? "" : bestLine(p.blocks().get(0));
    }

    /** A plan in one row: its light, and when each target has its turn. */
    private String laidOut(NightPlan p) {
        return Words.format(
                "%.1f h: %s",
                p.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum(),
                p.blocks().stream()
                        .map(b -> b.target().name() + " " + Words.clock(b.span().from(), zone()) + " to "
                                + Words.clock(b.span().until(), zone()))
                        .collect(Collectors.joining(", ")));
    }

    /** What the forecast says of the targets, and of a rare night; empty without one. */
    private Optional<String> foreseen(NightPlan p) {
        List<String> said = new ArrayList<>();
        p.blocks().stream()
                .findFirst()
                .flatMap(b ->
                        plan.forecasts().verdict(b.target().name(), b.window().usable(), plan.draft()))
                .ifPresent(said::add);
        if (said.isEmpty()) {
            return Optional.empty();
        }
        p.blocks().stream()
                .flatMap(b -> plan.forecasts().clouded(b, plan.draft()).stream())
                .forEach(said::add);
        rareNight(p).ifPresent(rare -> said.add(0, rare));
        return Optional.of(String.join(" ", said));
    }

    /** Clear and moonless coincide seldom: broad light is what such a night is for. */
    private Optional<String> rareNight(NightPlan p) {
        double dark = p.times().darkHours();
        double clear = p.times().dark().stream()
                .flatMap(d -> plan.clouds().usable(d).stream())
                .mapToDouble(Interval::hours)
                .sum();
        double light =
                p.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum();
        double narrow = p.blocks().stream()
                .flatMap(b -> b.target().goals().stream()
                        .filter(g -> plan.file().kit().filter(g.filter()).narrow())
                        .map(g -> b.byFilter().getOrDefault(g.filter(), 0) * g.subSeconds() / 3600))
                .mapToDouble(Double::doubleValue)
                .sum();
        boolean rare = dark > 0
                && p.times().moonlessDarkHours() >= MOST_OF * dark
                && clear >= MOST_OF * dark
                && narrow > light / 2;
        return rare
                ? Optional.of(Words.format(
                        "A rare night: %.1f h without Moon and clear, and the plan spends %.1f h of it on narrow filters, which a moonlit"
                                + " night serves as well: broad light first.",
                        Math.min(clear, p.times().moonlessDarkHours()), narrow))
                : Optional.empty();
    }

    private String bestLine(PlannedBlock b) {
        return Words.format(
                "%s is highest at %s, %.0f° up; %.1f effective hours of %.1f.",
                b.target().name(),
                Words.clock(b.window().transit(), zone()),
                b.window().transitAltitudeDeg(),
                b.window().effectiveHours(),
                b.window().usableHours());
    }

    private static String loss(Schedule s) {
        return s.blocks().stream()
                .filter(b -> b.alternative().isPresent())
                .findFirst()
                .map(b -> b.why() + " Without it "
                        + b.alternative()
                                .get()
                                .instead()
                                .map(n -> n + " would have the time and ")
                                .orElse("the time would stay free and ")
                        + Words.format(
                                "the night would lose %.1f.",
                                b.alternative().get().loss()))
                .orElse("");
    }

    private void chosenRows(List<Row> rows) {
        plan.looked().ifPresent(o -> {
            Optional<Candidate> c = plan.targets().candidates().stream()
                    .filter(x -> x.object() == o)
                    .findFirst();
            rows.add(new Row("looking at", o.id() + (o.name().isEmpty() ? "" : ", " + o.name())));
            c.ifPresent(x -> {
                rows.add(new Row("worth", Words.format("%.1f of %.1f h", x.effectiveHours(), x.usableHours())));
                rows.add(new Row("transit", Words.clock(x.transit(), zone())));
                rows.add(new Row("light", TargetLight.of(o.kind()).words()));
                x.surfaceBrightness()
                        .ifPresent(mu -> rows.add(new Row("surface", Words.format("%.1f mag/arcsec²", mu))));
            });
            if (!plan.lightIsSeen(o)) {
                rows.add(new Row("camera", "cuts most of its red"));
            }
        });
    }

    private List<School> schools() {
        return List.of(
                new School(
                        "Filters in turns",
                        "A night cut short is still balanced.",
                        plan.arranging().interleave(),
                        Optional.of(new Intent.FiltersInTurns(true))),
                new School(
                        "Filters in blocks",
                        "Each filter has its best hour; focus is not paid at each change.",
                        !plan.arranging().interleave(),
                        Optional.of(new Intent.FiltersInTurns(false))),
                new School(
                        "Broad light only without Moon",
                        "Narrow filters meanwhile.",
                        !plan.arranging().broadUnderMoon(),
                        Optional.of(new Intent.BroadUnderMoon(false))),
                new School(
                        "Bright targets at any time",
                        "More hours, each worth less under the Moon.",
                        plan.arranging().broadUnderMoon(),
                        Optional.of(new Intent.BroadUnderMoon(true))));
    }

    // ---- framing
    // -----------------------------------------------------------------------------------------------------------

    private ReckoningState framing() {
        if (plan.looked().isEmpty()) {
            return ReckoningState.waiting("No target yet.", "Choose one under Tonight.");
        }
        DeepSkyObject o = plan.looked().get();
        Framing f = plan.framings().of(o);
        Kit kit = plan.file().kit();
        double share = o.longAxisArcmin() / 60 / Math.min(kit.fieldWidthDeg(), kit.fieldHeightDeg());
        Framing.Cover here = f.coverOf(o, PANEL_OVERLAP);
        Framing.Cover fewest = f.fewestPanels(o, PANEL_OVERLAP);
        double off = o.position().separationDeg(f.centre()) * 60;
        boolean outside = !f.contains(o.position(), 0.05);
        List<Row> rows = new ArrayList<>(List.of(
                new Row("field", Words.format("%.2f° × %.2f°", kit.fieldWidthDeg(), kit.fieldHeightDeg())),
                new Row("scale", Words.format("%.2f″ a pixel", kit.arcsecPerPixel())),
                new Row("camera angle", Words.format("%.0f°", f.angleDeg())),
                new Row(
                        "target's long axis",
                        Words.format("%.0f′, %.0f %% of the field", o.longAxisArcmin(), 100 * share)),
                new Row("off the middle", Words.format("%.0f′", off)),
                new Row(
                        "centre",
                        Sexagesimal.text(f.centre().raDeg(), f.centre().decDeg()))));
        rows.addAll(guideRows(f));
        String verdict =
                outside ? o.id() + " leaves the field." : here.panels() > 1 ? panels(here, fewest) : o.id() + " fits.";
        return new ReckoningState(
                verdict,
                plan.framings().isFramed(o)
                        ? Words.format(
                                "Use angle %.0f° again on every later night: the same framing within the crop margin, and the same flats.",
                                f.angleDeg())
                        : "No angle is planned: the camera stays as it is. Turn the frame to plan one.",
                outside,
                rows,
                actions(true),
                "Field = 2 atan(size / 2f). A twentieth of each side is left for the edges that registration costs. Turning the "
                        + "camera voids the flats and may upset the balance.",
                Stream.concat(samplingSchools().stream(), guideSchools(f).stream())
                        .toList());
    }

    /** A prism at the telescope's edge, or a telescope beside it: what each sees with this kit, in this frame. */
    private List<School> guideSchools(Framing f) {
        Kit now = plan.file().kit();
        StarSource known = FieldStates.known(plan.wiring());
        double sky = plan.file().site().skyMagPerArcsec2();
        List<School> schools = new ArrayList<>();
        for (GuideOptics way : GuideOptics.of(now)) {
            double faintest = Framing.guideLimitMagnitude(way.kit(), FramingPane.GUIDE_SECONDS, sky);
            String sees = Words.format(
                    "%.2f″ a pixel, so that a star is placed to %.2f of a main pixel.",
                    way.arcsecPerPixel(), way.seenInMainPixels());
            String field = way.offAxis()
                    ? " Nothing bends between. In this frame: "
                            + stars(new Framing(way.kit(), f.centre(), f.angleDeg()).guideField(known, faintest)) + "."
                    : Words.format(
                            " A field of %.1f°, no clearance to mind; what bends between the two telescopes is not seen.",
                            way.arcsecPerPixel() * way.kit().guider().widthPx() / 3600);
            schools.add(new School(
                    way.offAxis() ? "Guide off-axis" : "Guide by a telescope beside",
                    sees + field,
                    way.offAxis() == now.equipment().offAxis().isPresent(),
                    Optional.of(new Intent.GuideBy(way))));
        }
        return schools;
    }

    private static String panels(Framing.Cover here, Framing.Cover fewest) {
        return fewest.panels() < here.panels()
                ? Words.format(
                        "%d panels hold all of it at %.0f°, %d at this angle.",
                        fewest.panels(), fewest.angleDeg(), here.panels())
                : Words.format("%d panels hold all of it.", here.panels());
    }

    /** Guide stars that are known, off-axis on both sides of the meridian; how deep what is known goes; whether the prism shades the sensor. */
    private List<Row> guideRows(Framing f) {
        Kit kit = plan.file().kit();
        if (kit.guideOptics().isEmpty()) {
            return List.of();
        }
        double limit = FramingPane.guideLimit(plan);
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("guide stars to", Words.format("%.1f mag in 2 s", limit)));
        StarSource known = FieldStates.known(plan.wiring());
        if (kit.equipment().offAxis().isPresent()) {
            rows.add(new Row("before the flip", stars(f.guideField(known, limit))));
            rows.add(new Row("after it", stars(f.flipped().guideField(known, limit))));
            Framing.prismClearanceMm(kit)
                    .ifPresent(mm -> rows.add(new Row(
                            Framing.prismAtLongSide(kit) ? "prism, at the long side" : "prism, at the short side",
                            mm >= 0
                                    ? Words.format("%.1f mm clear of the sensor", mm)
                                    : Words.format("shades the sensor by %.1f mm: move it out", -mm))));
        }
        rows.add(new Row(
                "the catalogue here ends at", Words.format("%.1f mag", FieldStates.depth(plan.wiring(), f.centre()))));
        return rows;
    }

    private static String stars(Optional<Framing.GuideField> field) {
        int count = field.map(f -> f.stars().size()).orElse(0);
        return count == 0
                ? "none that is known"
                : Words.format(
                        "%d, brightest %.1f mag",
                        count, field.orElseThrow().stars().get(0).magnitude());
    }

    /** Pixels across a star's width, by the site's own seeing where somebody has said it. */
    private List<School> samplingSchools() {
        Kit kit = plan.file().kit();
        Optional<Double> said = plan.file().site().seeingArcsec();
        double star = Math.hypot(
                said.orElse(Projects.COMMON_SEEING_ARCSEC), kit.optics().blurFwhmArcsec());
        double across = star / kit.arcsecPerPixel();
        String by = Words.format(
                "%.1f pixels across a star of %.1f″ (%s).",
                across,
                star,
                said.isPresent()
                        ? "this site's seeing and the optics"
                        : Words.format("%.0f″ of seeing, as is common, and the optics", Projects.COMMON_SEEING_ARCSEC));
        return List.of(
                new School(
                        "Two to three pixels across a star",
                        "All that the air leaves is seen. " + by,
                        across >= 1.8 && across <= 3.5),
                new School(
                        "Fewer: a wide field",
                        "Small round stars lose shape; each pixel gathers more sky. " + by,
                        across < 1.8),
                new School(
                        "More: for steady air",
                        "Light is spread over more pixels, each with its read noise. " + by,
                        across > 3.5));
    }

    // ---- exposure
    // ----------------------------------------------------------------------------------------------------------

    private ReckoningState exposure(FilterSpec filter) {
        Kit kit = plan.file().kit();
        Site site = plan.file().site();
        double background = Projects.background(kit, site, filter);
        double seconds = Projects.subSeconds(kit, site, filter);
        double wanted = Exposure.skyLimitedSeconds(kit.sensor().readNoiseElectrons(), background, 0.05);
        List<Row> rows = new ArrayList<>(List.of(
                new Row("sky and dark", Words.format("%.2f e⁻/s a pixel", background)),
                new Row("read noise under 5 %", Words.format("from %.0f s", wanted)),
                new Row(
                        "stars full from",
                        Words.format(
                                "magnitude %.1f",
                                Exposure.saturationMagnitude(kit, filter, seconds, USUAL_SEEING_ARCSEC))),
                new Row("no star moves, unguided", seconds(Exposure.unguidedSeconds(kit, 2))),
                new Row("untracked, one pixel", seconds(Exposure.untrackedSeconds(kit, 0, 1))),
                new Row(
                        "rule of 500",
                        seconds(Exposure.rule500Seconds(
                                kit.optics().focalLengthMm(), Exposure.cropFactor(kit.sensor()))))));
        Exposure.gainFor(kit, background, seconds, 0.05)
                .ifPresent(g -> rows.add(
                        new Row("gain", Words.format("%.0f: %.1f stops", g.setting(), g.dynamicRangeStops()))));
        double night = Math.max(1, plan.draft().plan().times().darkHours());
        rows.add(new Row(
                "one night more gains under 10 %",
                Words.format("after %.0f h", Exposure.diminishingHours(night, 0.10))));
        plan.profiles().kits().stream()
                .filter(k -> !k.name().equals(kit.name()))
                .forEach(k -> rows.add(new Row(
                        "an hour here, on " + k.name(), Words.format("%.1f h", Exposure.equalSignalHours(kit, k)))));
        return new ReckoningState(
                Words.format("%.0f s in %s.", seconds, filter.name()),
                wanted > seconds
                        ? Words.format(
                                "The sky would like %.0f s; longer subs lose more to each gust than read noise costs.",
                                wanted)
                        : Words.format(
                                "Read noise then adds %.1f %%.",
                                100 * Exposure.readNoiseCost(kit.sensor().readNoiseElectrons(), background, seconds)),
                false,
                rows,
                actions(false),
                "The quietest stack for the same hours: read noise and the time between subs against what a gust costs. Read noise is "
                        + "under 5 % from t = R² / (B ((1 + p)² − 1)), p = 5 % (CCD equation, Howell 2006, 4.4). A star's middle pixel holds erf² of its "
                        + "light. Spoils fall at random: a sub survives with e^(−rate · t).",
                exposureSchools(filter, seconds));
    }

    /** Long and short with what each costs; choosing one gives the block that length. */
    private List<School> exposureSchools(FilterSpec filter, double seconds) {
        Kit kit = plan.file().kit();
        double[] lengths = {seconds / 3, seconds, seconds * 3};
        double hours = Math.max(0.5, plan.draft().plan().times().darkHours());
        List<Exposure.Way> ways = Projects.ways(
                kit,
                plan.file().site(),
                filter,
                new Projects.Spending(hours, plan.file().program().ditherEvery()),
                lengths);
        double planned = plan.plannedSubSeconds().orElse(seconds);
        List<School> schools = new ArrayList<>();
        String[] names = {"Short", "Between", "Long"};
        for (int i = 2; i >= 0; i--) {
            Exposure.Way w = ways.get(i);
            double length = w.seconds();
            schools.add(new School(
                    Words.format("%s: %.0f s", names[i], length),
                    Words.format(
                            "%.0f of %d kept, %.1f GB, %.0f min to stack, noise %+.1f %%.",
                            w.keptSubs(),
                            w.subs(),
                            w.gigabytes(),
                            w.stackMinutes(),
                            100 * (w.noise() / ways.get(1).noise() - 1)),
                    planned == length,
                    plan.plannedSubSeconds().map(p -> new Intent.SubLength(length))));
        }
        kit.equipment().gainCurve().forEach(point -> schools.add(gainSchool(filter, planned, hours, point)));
        schools.addAll(lightSchools());
        return schools;
    }

    /** Natural colour or the light of lines, for what is chosen, where the kit has filters for both. */
    private List<School> lightSchools() {
        Kit kit = plan.file().kit();
        double sky = plan.file().site().skyMagPerArcsec2();
        OptionalDouble broad = skyBehind(kit, sky, false);
        OptionalDouble narrow = skyBehind(kit, sky, true);
        if (broad.isEmpty() || narrow.isEmpty()) {
            return List.of();
        }
        Optional<List<FilterGoal>> goals = plan.chosenOrLooked().map(TargetPlan::goals);
        boolean all = goals.isPresent();
        return List.of(
                new School(
                        "In natural colour",
                        "Stars and dust as they are. The sky is what limits: moonless hours count.",
                        all
                                && goals.get().stream()
                                        .noneMatch(g -> kit.filter(g.filter()).narrow()),
                        goals.map(g -> new Intent.Light(false))),
                new School(
                        "In the light of lines",
                        Words.format(
                                "Behind the narrow filters this sky is %.0f times darker; only what glows in their lines shows, and stars lose colour.",
                                broad.getAsDouble() / narrow.getAsDouble()),
                        all
                                && goals.get().stream()
                                        .allMatch(g -> kit.filter(g.filter()).narrow()),
                        goals.map(g -> new Intent.Light(true))));
    }

    /** Mean of the sky behind the kit's narrow filters, or behind its others, electrons a second and pixel. */
    private static OptionalDouble skyBehind(Kit kit, double sky, boolean narrow) {
        return kit.filters().stream()
                .filter(f -> f.narrow() == narrow)
                .mapToDouble(f -> Exposure.skyElectronsPerSecond(kit, f, sky))
                .average();
    }

    /** A gain with its range, and what the stack of the same hours would then be. */
    private School gainSchool(FilterSpec filter, double seconds, double hours, Equipment.GainPoint point) {
        Kit kit = plan.file().kit();
        Projects.Spending spending =
                new Projects.Spending(hours, plan.file().program().ditherEvery());
        double[] length = {seconds};
        double now = Projects.ways(kit, plan.file().site(), filter, spending, length)
                .get(0)
                .noise();
        double then = Projects.ways(kit.atGain(point), plan.file().site(), filter, spending, length)
                .get(0)
                .noise();
        return new School(
                Words.format("Gain %.0f: %.1f stops", point.setting(), point.dynamicRangeStops()),
                Words.format(
                        "Read noise %.1f e⁻, full at %.0f e⁻; noise of the stack of %.0f s subs %+.1f %%.",
                        point.readNoiseElectrons(), point.fullWellElectrons(), seconds, 100 * (then / now - 1)),
                kit.isAtGain(point),
                Optional.of(new Intent.Gain(point)));
    }

    private static String seconds(double s) {
        return Double.isInfinite(s) || s > 3600 ? "no limit" : Words.format(s < 10 ? "%.1f s" : "%.0f s", s);
    }

    // ---- costs, profiles
    // -------------------------------------------------------------------------------------------------------

    private ReckoningState costs(NightBudget budget) {
        boolean trouble = !budget.warnings().isEmpty();
        Duration set = Duration.between(budget.setUpFrom(), budget.bedtime());
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("begin setting up", Words.clock(budget.setUpFrom(), zone())));
        rows.add(new Row("last light", Words.clock(budget.lightUntil(), zone())));
        rows.add(new Row("calibration until", Words.clock(budget.calibrationUntil(), zone())));
        rows.add(new Row("walks", Words.format("%d", budget.visits().size())));
        rows.add(new Row("files", Words.format("%d, %.1f GB", budget.files(), budget.gigabytes())));
        budget.power().ifPresent(p -> {
            rows.add(new Row(
                    "power",
                    Words.format("%.0f W, peak %.0f of %.0f W", p.idleWatts(), p.peakWatts(), p.supplyWatts())));
            p.batteryHours()
                    .ifPresent(h -> rows.add(new Row(
                            budget.dew().isEmpty()
                                    ? Words.format("battery at %.0f °C", NightBudget.UNKNOWN_COLD_C)
                                    : budget.weatherInvented()
                                            ? "battery in the invented cold"
                                            : "battery in this cold",
                            Words.format("%.1f h", h))));
        });
        budget.load().ifPresent(l -> rows.add(new Row("load", Words.format("%.1f of %.1f kg", l.kg(), l.limitKg()))));
        return new ReckoningState(
                "Bed at " + CostsPane.bedtime(budget, zone()) + ".",
                trouble ? budget.warnings().get(0) : Words.span(set) + " from the first box to the last light out.",
                trouble,
                rows,
                actions(false),
                "Dew point by Magnus' formula (WMO-No. 8); glass stands 3 K below the air. A battery loses 0.8 % for each kelvin under "
                        + "25 °C and keeps a fifth (common practice). Walks: fewest points that meet all windows, earliest end first.",
                List.of());
    }

    /** How long it takes elsewhere to reach the same depth of faint light, with the kit's first filter: noise of sky and camera. */
    private String sameDepth(Site here, Site there) {
        Kit kit = plan.file().kit();
        FilterSpec filter = kit.filters().get(0);
        double hours = Projects.background(kit, there, filter) / Projects.background(kit, here, filter);
        return hours < 1
                ? Words.format("%.0f min: the drive buys %.1f times the hours", 60 * hours, 1 / hours)
                : Words.format("%.1f h", hours);
    }

    private ReckoningState profiles() {
        Kit kit = plan.file().kit();
        Site site = plan.file().site();
        int changed = plan.profiles().differences(kit).size()
                + plan.profiles().differences(site).size();
        boolean unsaved = plan.profiles().kit(kit.name()).isEmpty();
        List<Row> rows = new ArrayList<>(List.of(
                new Row("scale", Words.format("%.2f″ a pixel", kit.arcsecPerPixel())),
                new Row("focal ratio", Words.format("f/%.1f", kit.optics().focalRatio())),
                new Row("load", Words.format("%.1f kg", kit.equipment().loadKg())),
                new Row("peak draw", Words.format("%.0f W", kit.equipment().peakWatts())),
                new Row("sky", Words.format("%.1f mag/arcsec²", site.skyMagPerArcsec2())),
                new Row("class", Words.format("%d of 9", SkyScale.classOf(site.skyMagPerArcsec2()))),
                new Row("faintest star by eye", Words.format("%.1f", SkyScale.faintestStar(site.skyMagPerArcsec2())))));
        plan.profiles().sites().stream()
                .filter(s -> !s.name().equals(site.name()))
                .forEach(s -> rows.add(new Row("an hour here, at " + s.name(), sameDepth(site, s))));
        return new ReckoningState(
                changed > 0
                        ? changed + (changed == 1 ? " value differs." : " values differ.")
                        : unsaved ? "Not saved yet." : "As saved.",
                changed > 0
                        ? "Tonight's values are not those of the saved profile. Save them, or choose the saved one again."
                        : "What is entered here is the one truth for every night.",
                changed > 0,
                rows,
                actions(false),
                "Scale = 206.265 × pixel / focal length. Faintest star: 7.93 − 5 log(10^(4.316 − B/5) + 1) (Schaefer 1990).",
                List.of());
    }
}
