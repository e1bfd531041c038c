package app.ironside.desk;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.Moment;
import app.ironside.desk.night.RailState;
import app.ironside.desk.parts.Words;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.plan.PlanFace;
import app.ironside.desk.reckon.Cautions;
import app.ironside.desk.session.Looking;
import app.ironside.desk.session.Nights;
import app.ironside.desk.session.RunningNight;
import app.ironside.desk.session.ShownNight;
import app.ironside.desk.station.Benches;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import java.util.List;
import java.util.Optional;

/** Copies a moment of the night that is shown to the views of the desk. It decides nothing. Interface thread only. */
final class Facing {
    private final DeskShell shell;
    private final DeskShell.Views views;
    private final Nights nights;
    private final Looking looking;
    private final PlanDesk planDesk;
    private final PlanFace plan;
    private final Benches benches;
    private final BenchPicture picture;
    private final Reins reins;

    /**
     * @param shell where the views stand
     * @param plan the plan as it is shown
     * @param picture what lies on the bench
     */
    Facing(
            DeskShell shell,
            DeskShell.Views views,
            Nights nights,
            Looking looking,
            PlanDesk planDesk,
            PlanFace plan,
            Benches benches,
            BenchPicture picture,
            Reins reins) {
        this.shell = shell;
        this.views = views;
        this.nights = nights;
        this.looking = looking;
        this.planDesk = planDesk;
        this.plan = plan;
        this.benches = benches;
        this.picture = picture;
        this.reins = reins;
    }

    /**
     * Shows a moment everywhere.
     *
     * @param count of nights in the logbook
     * @param said what was done last; empty if that is over
     */
    void show(ShownNight night, Moment at, int count, String said) {
        showNight(night, at, count);
        showHeader(night, at);
        showWork(night, at, said);
        Bench bench = benches.of(looking.station());
        shell.showBench(bench.node());
        picture.want(night, at);
        bench.show(new Look(
                at,
                looking.chosen(),
                night.ribbon(),
                picture.picture(),
                night.file().kit().arcsecPerPixel(),
                night.reckoner().glance(at)));
    }

    /** Rail, ribbon, strips and the right column. */
    private void showNight(ShownNight night, Moment at, int count) {
        Stage station = looking.station();
        RailState stations = RailState.of(at.night(), count);
        boolean onlyPlanned = at.night().events().isEmpty() && planDesk.isOpen();
        views.rail()
                .show(onlyPlanned ? stations.planning(planDesk.draft().plan().subs()) : stations, station);
        if (station == Stage.PLAN) {
            plan.refresh();
            views.ribbon().show(plan.ribbon().orElse(night.ribbon()), at, List.of(), Optional.empty());
        } else {
            views.ribbon().show(night.ribbon(), at, night.model().night().events(), looking.chosen());
        }
        views.reckoning()
                .show(
                        station == Stage.PLAN
                                ? plan.reckoning()
                                : night.reckoner().of(station, at, looking.chosen()),
                        Cautions.of(station));
        views.strips().setVisible(station == Stage.RUN);
        views.strips().setManaged(station == Stage.RUN);
        if (station == Stage.RUN) {
            views.strips().show(night.ribbon(), at);
        }
    }

    /** What is asked of hands, what can be commanded, and the status line. */
    private void showWork(ShownNight night, Moment at, String said) {
        nights.underWay()
                .map(RunningNight::model)
                .ifPresentOrElse(
                        runs -> views.hands().show(runs.asked(), runs.isQuestion(), runs.wanted()),
                        () -> views.hands().show("", false, ""));
        views.commands().setVisible(true);
        views.commands().show(reins.state(looking.station(), looking.isRun(), () -> plan.changedFrom(night.file())));
        shell.say(new StatusLine(
                        nights.running().map(RunningNight::failure).orElse(""),
                        said,
                        looking.isElsewhere(),
                        picture.fault(),
                        isLookingBack())
                .of(at, looking.chosen(), night.model().doing()));
    }

    /** Whether another moment is shown than that of the night that runs, or ran last. */
    private boolean isLookingBack() {
        return !looking.isNow() && nights.running().isPresent();
    }

    private void showHeader(ShownNight night, Moment at) {
        // While a night is planned the head tells of what is planned, also after a change of site or kit.
        NightFile told = looking.station() == Stage.PLAN && planDesk.isOpen() ? planDesk.file() : night.file();
        boolean live = nights.running().filter(r -> r.transport().isEmpty()).isPresent();
        views.header()
                .show(new DeskHeader.Said(
                        told.site().name() + "   " + told.kit().name()
                                + Words.format("   %.0f mm", told.kit().optics().focalLengthMm()) + "   "
                                + told.program().date(),
                        Words.clock(at.time(), night.file().site().zone()),
                        nights.running().map(RunningNight::isFrozen).orElse(false),
                        !live,
                        nights.underWay().isPresent(),
                        looking.isElsewhere() ? "To the running night" : isLookingBack() ? "Back to now" : ""));
    }
}
