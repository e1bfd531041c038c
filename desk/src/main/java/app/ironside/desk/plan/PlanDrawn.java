package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonState;
import app.ironside.document.NightDraft;
import app.ironside.plan.NightBudget;
import app.ironside.plan.WeatherForecast;
import app.ironside.sky.DeepSkyObject;
import java.nio.file.Path;
import java.util.Optional;

/**
 * What follows from a draft and is drawn of it.
 *
 * @param of the draft
 * @param budget what it costs
 * @param ribbon its curves, with that of a target that is looked at and not in it
 */
public record PlanDrawn(NightDraft of, NightBudget budget, RibbonState ribbon) {
    /** Where a disk does not tell how much room it has, room is not what a plan is warned of. */
    private static final double UNKNOWN_FREE_GB = 1e9;

    /** Reckons it; takes too long for the interface thread. */
    static PlanDrawn of(
            NightDraft draft,
            RibbonState.Sky sky,
            WeatherForecast weather,
            Path folder,
            Optional<DeepSkyObject> looked) {
        double free = folder.toFile().getUsableSpace() / 1e9;
        NightBudget budget = NightBudget.of(new NightBudget.Given(
                draft.file().site(),
                draft.file().kit(),
                draft.plan(),
                draft.file().program(),
                weather,
                free > 0 ? free : UNKNOWN_FREE_GB));
        RibbonState ribbon = RibbonState.of(draft.file().site(), draft.plan(), sky)
                .withTroubles(
                        RehearsalStates.troubles(draft.file(), draft.plan().times()));
        return new PlanDrawn(
                draft,
                budget,
                looked.filter(o -> draft.plan().blocks().stream()
                                .noneMatch(b -> b.target().name().equals(o.id())))
                        .map(o -> ribbon.withGhost(
                                o.id(),
                                draft.outlook().window(o.position()),
                                draft.file().site().horizon()))
                        .orElse(ribbon));
    }
}
