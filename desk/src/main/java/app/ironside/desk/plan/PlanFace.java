package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonState;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.document.NightFile;
import app.ironside.plan.NightBudget;
import java.util.Optional;

/** The plan as the desk shows it. It is copied to its views only when it changed: it does not move with the night. */
public final class PlanFace {
    private final PlanDesk plan;
    private final PlanBench bench;
    private final PlanReckoner reckoner;
    private boolean stale = true;
    private ReckoningState reckoning = ReckoningState.waiting("", "");
    private Optional<RibbonState> ribbon = Optional.empty();

    public PlanFace(PlanDesk plan) {
        this.plan = plan;
        this.bench = new PlanBench(plan);
        this.reckoner = new PlanReckoner(plan);
    }

    public PlanBench bench() {
        return bench;
    }

    /** What stands in the right column. */
    public ReckoningState reckoning() {
        return reckoning;
    }

    /** The planned night; empty until it is reckoned for the first time. */
    public Optional<RibbonState> ribbon() {
        return ribbon;
    }

    /** Another night is planned: nothing of the one before stays. */
    public void open(PlanStart start) {
        plan.open(start);
        ribbon = Optional.empty();
        reckoning = ReckoningState.waiting("Reckoning.", "The plan is being reckoned.");
        stale = true;
    }

    /** Something of the plan changed. */
    public void changed() {
        stale = true;
    }

    /** Copies the plan to its views, if it changed since. */
    public void refresh() {
        if (!stale || !plan.isDrawn()) {
            return;
        }
        stale = false;
        NightBudget budget = plan.budget();
        ribbon = Optional.of(plan.ribbon());
        bench.refresh(budget);
        reckoning = reckoner.of(budget, bench.filter());
    }

    /** The document of the plan, if it differs from a night in nothing but its program. */
    public Optional<String> changedFrom(NightFile night) {
        if (!plan.isOpen()) {
            return Optional.empty();
        }
        NightFile planned = plan.file();
        return night.differsInProgramOnly(planned) && !night.sameNight(planned)
                ? Optional.of(planned.text())
                : Optional.empty();
    }
}
