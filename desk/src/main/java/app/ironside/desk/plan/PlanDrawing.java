package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.document.NightDraft;
import app.ironside.document.PlanModel;
import app.ironside.plan.WeatherForecast;
import app.ironside.sky.DeepSkyObject;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * What the station shows of the plan, reckoned beside the interface: ribbon, costs, and what is looked at. Interface thread only.
 */
final class PlanDrawing implements AutoCloseable {
    private final PlanDesk plan;
    private final Path folder;
    private final Runnable changed;
    private final BackgroundWork drawing = new BackgroundWork("drawing of the plan");
    private final BackgroundWork dragging = new BackgroundWork("drag");
    private RibbonState.Sky sky;
    private Optional<PlanDrawn> drawn = Optional.empty();
    private Optional<DeepSkyObject> drawnFor = Optional.empty();

    /** The forecast that the plan was drawn under. */
    private int drawnUnder;

    /**
     * @param folder where frames go, whose room counts
     * @param changed told when something new is drawn
     */
    PlanDrawing(PlanDesk plan, Path folder, Runnable changed) {
        this.plan = plan;
        this.folder = folder;
        this.changed = changed;
    }

    /** The sky of another night or place. */
    void setSky(RibbonState.Sky next) {
        sky = next;
    }

    /** Another night: nothing is drawn of it yet. */
    void clear() {
        drawn = Optional.empty();
    }

    Optional<PlanDrawn> drawn() {
        return drawn;
    }

    /** Whether nothing is being drawn, and what is drawn is the draft. */
    boolean isSettled() {
        return dragging.isIdle()
                && drawing.isIdle()
                && drawn.filter(d -> d.of() == plan.draft()).isPresent();
    }

    /** Has what follows from the draft reckoned, if that is not drawn yet. */
    void refresh() {
        NightDraft now = plan.draft();
        RibbonState.Sky over = sky;
        WeatherForecast under = plan.forecasts().under(now);
        Optional<DeepSkyObject> at = plan.model().looked();
        int read = plan.forecasts().read();
        if (drawn.filter(d -> d.of() == now).isPresent() && at.equals(drawnFor) && read == drawnUnder) {
            return;
        }
        drawing.ask(progress -> PlanDrawn.of(now, over, under, folder, at))
                .onlyNewest()
                .failed(plan::say)
                .then(next -> {
                    drawn = Optional.of(next);
                    drawnFor = at;
                    drawnUnder = read;
                    changed.run();
                });
    }

    /** Draws what a drag would make of the plan. */
    void preview(UnaryOperator<NightDraft> step) {
        PlanModel model = plan.model();
        NightDraft from = model.workedOn();
        RibbonState.Sky over = sky;
        WeatherForecast under = plan.forecasts().under(from);
        Optional<DeepSkyObject> at = model.looked();
        dragging.ask(progress -> PlanDrawn.of(step.apply(from), over, under, folder, at))
                .onlyNewest()
                .failed(plan::say)
                .then(next -> {
                    if (model.settled() == from) {
                        // Drawn at once and once: the views have no more than a frame's time.
                        model.preview(next.of());
                        drawn = Optional.of(next);
                        drawnFor = at;
                        changed.run();
                    }
                });
    }

    /** No preview that is still on its way shows after this. */
    void endPreview() {
        dragging.ask(progress -> "settled").then(settled -> {});
    }

    @Override
    public void close() {
        drawing.close();
        dragging.close();
    }
}
