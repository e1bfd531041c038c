package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.device.DeviceRole;
import app.ironside.journal.NightState;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.plan.NightBudget;
import app.ironside.plan.Projects;
import app.ironside.sky.Site;
import app.ironside.sky.SkyScale;
import app.ironside.wiring.Outcome;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Words and numbers of the Plan station. */
public final class PlanReckoner {
    private final PlanDesk plan;
    private final TonightReckoner tonight;
    private final FramingReckoner framing;
    private final ExposureReckoner exposure;
    private final ManyNightsReckoner manyNights;

    public PlanReckoner(PlanDesk plan) {
        this.plan = plan;
        this.tonight = new TonightReckoner(plan);
        this.framing = new FramingReckoner(plan);
        this.exposure = new ExposureReckoner(plan);
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
            case TONIGHT -> tonight.of(budget, actions(true));
            case FRAMING -> framing.of(actions(true));
            case SEASON -> manyNights.season(actions(true));
            case WISHES -> manyNights.wishes(actions(true));
            case RULES -> manyNights.rules(actions(false));
            case EXPOSURE -> exposure.of(filter, actions(false));
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
        budget.load()
                .ifPresent(l -> rows.add(new Row(
                        plan.file().kit().equipment().needsCounterweight() ? "load, with the counterweight" : "load",
                        Words.format("%.1f of %.1f kg", l.kg(), l.limitKg()))));
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
