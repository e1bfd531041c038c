package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.kit.Equipment;
import app.ironside.kit.Exposure;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.Projects;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Site;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/** Words and numbers of Plan, Exposure: lengths, gain, and which light, each with its price. */
final class ExposureReckoner {
    private final PlanDesk plan;

    ExposureReckoner(PlanDesk plan) {
        this.plan = plan;
    }

    /**
     * @param filter that exposures are reckoned in
     * @param actions what can be done with the plan
     */
    ReckoningState of(FilterSpec filter, List<Action> actions) {
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
                                Exposure.saturationMagnitude(
                                        kit, filter, seconds, FramingReckoner.USUAL_SEEING_ARCSEC))),
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
                actions,
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
                plan.wishes().round(),
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
        double now = Projects.ways(
                        kit, plan.file().site(), filter, spending, plan.wishes().round(), length)
                .get(0)
                .noise();
        double then = Projects.ways(
                        kit.atGain(point),
                        plan.file().site(),
                        filter,
                        spending,
                        plan.wishes().round(),
                        length)
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
}
