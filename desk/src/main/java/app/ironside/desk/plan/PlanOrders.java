package app.ironside.desk.plan;

import app.ironside.desk.reckon.Intent;
import app.ironside.document.NightDraft;
import app.ironside.focus.FilterOffsets;
import app.ironside.kit.Kit;
import app.ironside.plan.Projects;
import app.ironside.sky.Site;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** What buttons and cards of the right column do to the plan. Interface thread only. */
final class PlanOrders {
    private final PlanDesk plan;
    private final PlanDesk.Runner runner;

    PlanOrders(PlanDesk plan, PlanDesk.Runner runner) {
        this.plan = plan;
        this.runner = runner;
    }

    /** Carries out what a button or a card of the right column is for. */
    void carryOut(Intent intent) {
        if (intent instanceof Intent.AddLookedAt) {
            plan.blocks().addLooked();
        } else if (intent instanceof Intent.Arrange) {
            plan.arranging().arrange();
        } else if (intent instanceof Intent.TakeArranged) {
            plan.arranging().take();
        } else if (intent instanceof Intent.LeaveArranged) {
            plan.arranging().leave();
        } else if (intent instanceof Intent.DropUnplaced) {
            plan.edit(NightDraft::withoutUnplaced);
        } else if (intent instanceof Intent.ShowRehearsals) {
            plan.setTab(PlanDesk.Tab.REHEARSAL);
        } else if (intent instanceof Intent.RehearseInSeconds) {
            plan.rehearsals().inSeconds(plan.file());
        } else if (intent instanceof Intent.RehearseManyTimes) {
            plan.rehearsals().aHundredTimes(plan.file());
        } else if (intent instanceof Intent.Rehearse) {
            runner.rehearse(plan.toRun());
        } else if (intent instanceof Intent.BeginNight) {
            runner.begin(plan.toRun());
        } else if (intent instanceof Intent.FiltersInTurns filters) {
            plan.arranging().setInterleave(filters.inTurns());
        } else if (intent instanceof Intent.BroadUnderMoon broad) {
            plan.arranging().setBroadUnderMoon(broad.allowed());
        } else if (intent instanceof Intent.Gain gain) {
            plan.use(plan.file().site(), plan.file().kit().atGain(gain.point()));
        } else if (intent instanceof Intent.FocalLength length) {
            changeKit(length.kit(), kit -> kit.withFocalLengthMm(length.mm()));
        } else if (intent instanceof Intent.GuideBy guide) {
            plan.use(plan.file().site(), guide.optics().kit());
        } else if (intent instanceof Intent.Light light) {
            Kit kit = plan.file().kit();
            Site site = plan.file().site();
            plan.edit(plan.model().with(t -> t.withGoals(Projects.goals(kit, site, light.narrow()))));
        } else if (intent instanceof Intent.SubLength length) {
            plan.setSubSeconds(length.seconds());
        } else if (intent instanceof Intent.SubLengthOf length) {
            plan.blocks().setSubSeconds(length.target(), length.seconds());
        } else if (intent instanceof Intent.GuideByRules by) {
            plan.setRules(p -> p.withGuiding(by.rules()));
        } else if (intent instanceof Intent.FocusBy by) {
            plan.setRules(p -> p.withFocus(by.triggers()));
        } else if (intent instanceof Intent.SetUpBy by) {
            plan.setRules(p -> p.withSetUp(by.setUp()));
        } else if (intent instanceof Intent.Frames frames) {
            plan.setRules(p -> p.withCalibrations(p.calibrations().with(frames.kind(), frames.count())));
        } else if (intent instanceof Intent.FilterSteps measured) {
            changeKit(measured.kit(), kit -> kit.withFilterOffsets(measured.reference(), steps(measured)));
        } else if (intent instanceof Intent.FocuserSlack measured) {
            changeKit(measured.kit(), kit -> kit.withFocuserSlack(measured.steps()));
        }
    }

    private static Map<String, Integer> steps(Intent.FilterSteps measured) {
        return measured.offsets().stream()
                .collect(Collectors.toMap(FilterOffsets.Offset::filter, o -> (int) Math.round(o.steps())));
    }

    private void changeKit(String name, UnaryOperator<Kit> change) {
        if (plan.file().kit().name().equals(name)) {
            plan.use(plan.file().site(), change.apply(plan.file().kit()));
        } else {
            plan.say("The plan has kit " + plan.file().kit().name() + " now; it was measured with " + name + ".");
        }
    }
}
