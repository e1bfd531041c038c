package app.ironside.desk.plan;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.document.NightDraft;
import app.ironside.plan.Framing;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** How the camera lies on each object: its angle, its middle, its panels. Interface thread only. */
public final class Framings implements AutoCloseable {
    private final PlanDesk plan;
    private final BackgroundWork reframing = new BackgroundWork("framing");

    Framings(PlanDesk plan) {
        this.plan = plan;
    }

    boolean isIdle() {
        return reframing.isIdle();
    }

    /** The frame of an object: as the plan has it, or as it was left, or with the object in its middle. */
    public Framing of(DeepSkyObject object) {
        return plan.model().framing(object);
    }

    /** Whether an angle was chosen for an object. */
    boolean isFramed(DeepSkyObject object) {
        return plan.model().isFramed(object);
    }

    /** Another frame for an object. Of a planned target it is a step that can be taken back, however many moves it took. */
    void set(DeepSkyObject object, Framing framing) {
        Optional<UnaryOperator<NightDraft>> step = plan.model().frame(object, framing);
        if (step.isEmpty()) {
            plan.changed();
            return;
        }
        NightDraft from = plan.model().workedOn();
        reframing
                .ask(progress -> step.get().apply(from))
                .onlyNewest()
                .failed(plan::say)
                .then(next -> {
                    plan.model().framed(from, next);
                    plan.changed();
                });
    }

    /** Each panel of a mosaic becomes a target: of a planned object its blocks are shared out, another is added first. */
    void takePanels(DeepSkyObject object, List<Framing> panels) {
        double angle = of(object).angleDeg();
        List<Equatorial> middles = panels.stream().map(Framing::centre).toList();
        Optional<UnaryOperator<NightDraft>> adding = plan.model()
                        .meant()
                        .filter(b -> plan.model().isOf(b.target(), object))
                        .isPresent()
                ? Optional.of(now -> now)
                : plan.model().addLooked(plan.arranging().broadUnderMoon());
        adding.ifPresent(add -> plan.edit(now -> {
            NightDraft with = add.apply(now);
            return with.file().program().targets().stream()
                    .filter(t -> plan.model().isOf(t, object))
                    .findFirst()
                    .map(t -> with.withPanels(t, middles, angle))
                    .orElse(with);
        }));
    }

    /** The camera's angle on the last night before this one, where the logbook tells it. */
    Optional<Double> lastAngle() {
        return plan.wishes().lastAngle();
    }

    @Override
    public void close() {
        reframing.close();
    }
}
