package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonState;
import app.ironside.document.NightDraft;
import app.ironside.document.NightFile;
import app.ironside.plan.WeatherForecast;
import app.ironside.wiring.Wiring;

/**
 * A night with which planning begins, and what hangs on its date and place alone.
 *
 * @param draft the plan
 * @param sky the darkness and the Moon over the ribbon
 * @param weather its forecast, or an invented one that says so
 */
public record PlanStart(NightDraft draft, RibbonState.Sky sky, WeatherForecast weather) {
    /** Reckons it; takes too long for the interface thread. */
    public static PlanStart of(Wiring wiring, NightFile file) {
        return of(wiring, NightDraft.of(file));
    }

    static PlanStart of(Wiring wiring, NightDraft draft) {
        NightFile file = draft.file();
        return new PlanStart(draft, RibbonState.Sky.of(file.site(), draft.plan().times()), wiring.weather(file));
    }
}
