package app.ironside.desk;

import app.ironside.desk.parts.Words;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.session.Looking;
import app.ironside.desk.session.ShownNight;
import app.ironside.desk.session.SubMarks;
import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import java.util.Optional;

/** Carries out what a button or a card of the right column asks for, and says where it is kept. Interface thread only. */
final class Orders {
    private final SubMarks marks;
    private final PlanDesk plan;
    private final Looking looking;
    private final Reins reins;

    Orders(SubMarks marks, PlanDesk plan, Looking looking, Reins reins) {
        this.marks = marks;
        this.plan = plan;
        this.looking = looking;
        this.reins = reins;
    }

    /** Does what is asked for; what there is to say of it is empty where the change itself is seen. */
    Optional<String> carryOut(Intent intent) {
        Optional<ShownNight> night = looking.night();
        if (night.isPresent() && marks.obey(intent, night.get())) {
            return Optional.empty();
        }
        plan.obey(intent);
        if (intent instanceof Intent.FocalLength seen && isPlanned(seen.kit())) {
            looking.toStation(Stage.PLAN);
            plan.setTab(PlanDesk.Tab.PROFILES);
            return Optional.of("The plan's kit has it; saved here, other nights have it too.");
        }
        if (intent instanceof Intent.GuideByRules by) {
            reins.give(new Command.GuideBy(by.rules()));
            return Optional.of("The plan has it, and a night that runs guides by it from the next exposure on.");
        }
        if (intent instanceof Intent.FocusBy || intent instanceof Intent.Frames || intent instanceof Intent.SetUpBy) {
            return Optional.of("The plan has it; a night under way goes on by it when told so at Plan.");
        }
        if (intent instanceof Intent.FilterSteps steps && isPlanned(steps.kit())
                || intent instanceof Intent.FocuserSlack slack && isPlanned(slack.kit())) {
            return Optional.of("The plan's kit has it; saved at Site and kit, other nights have it too.");
        }
        if (intent instanceof Intent.SubLengthOf length && hasBlock(length.target())) {
            looking.toStation(Stage.PLAN);
            return Optional.of(Words.format(
                    "The plan has %.0f s for %s; a night under way goes on by it when told so here.",
                    length.seconds(), length.target()));
        }
        return Optional.empty();
    }

    /** Takes back the last verdict that was given over the rule book's; false if there is none. */
    boolean takeBack() {
        return marks.takeBack();
    }

    private boolean isPlanned(String kit) {
        return plan.file().kit().name().equals(kit);
    }

    private boolean hasBlock(String target) {
        return plan.draft().plan().blocks().stream()
                .anyMatch(b -> b.target().name().equals(target));
    }
}
