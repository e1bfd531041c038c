package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.image.Frame;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.Gate;
import app.ironside.journal.Stage;
import app.ironside.journal.TargetCentred;
import app.ironside.plan.TargetPlan;
import app.ironside.point.Centering;
import app.ironside.point.CenteringResult;
import app.ironside.point.Nudge;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveResult;
import java.time.Duration;
import java.util.Locale;
import java.util.Optional;

/** Brings targets to the middle of the frame, with the evidence written down. */
final class Pointing {
    private static final Duration EXPOSURE = Duration.ofSeconds(8);

    private final NightContext night;
    private final Centering centering;

    Pointing(NightContext night, Centering centering) {
        this.night = night;
        this.centering = centering;
    }

    /** Centres a target; returns whether the gate is passed. */
    boolean centre(TargetPlan target, Mount.PierSide side) throws InterruptedException {
        night.record().doing(Stage.POINT, "Centring " + target.name(), Duration.ofSeconds(60));
        double limit = night.program().centreWithinArcsec();
        CenteringResult result =
                centering.centre(target.position(), side, EXPOSURE, limit, (frame, stars, answer, offset) -> {
                    String caption = answer instanceof PlateSolution
                            ? String.format(Locale.ROOT, "%s, %.0f″ off the middle", target.name(), offset)
                            : target.name() + " not recognised";
                    night.record().frame(Stage.POINT, caption, frame, Optional.of(stars));
                    String file = night.archive().save("pointing", FrameArchive.plainName(target.name()), frame);
                    solved(target, caption, file, answer, new Seen(offset, frame));
                });
        result.staleModel().ifPresent(why -> night.record().fault(Stage.POINT, why));
        night.record()
                .tell(new TargetCentred(
                        night.record().now(),
                        String.format(
                                Locale.ROOT,
                                "%s is %.0f″ from the middle after %d rounds, camera angle %.1f°.",
                                target.name(),
                                result.offsetArcsec(),
                                result.offsetsArcsec().size(),
                                result.last().rotationDeg()),
                        target.name(),
                        result.offsetArcsec(),
                        result.offsetsArcsec().size(),
                        result.last().rotationDeg(),
                        side));
        return night.record()
                .gate(
                        Gate.atMost(Stage.POINT, result.offsetArcsec(), limit, "″"),
                        String.format(
                                Locale.ROOT,
                                "%s %.0f″ from the middle of the frame; %.0f″ are allowed.",
                                target.name(),
                                result.offsetArcsec(),
                                limit));
    }

    /** A frame with how far its middle is from the target. */
    private record Seen(double offsetArcsec, Frame frame) {}

    private void solved(TargetPlan target, String caption, String file, SolveResult answer, Seen seen) {
        if (answer instanceof PlateSolution s) {
            night.record()
                    .tell(new FrameSolved(
                            night.record().now(),
                            caption + ".",
                            target.name(),
                            file,
                            s.centre(),
                            s.rotationDeg(),
                            s.scaleArcsecPerPixel(),
                            s.matchedStars(),
                            s.rmsArcsec(),
                            seen.offsetArcsec(),
                            Nudge.to(
                                            target.position(),
                                            s,
                                            seen.frame().width(),
                                            seen.frame().height())
                                    .sentence(),
                            s.wrongHints(),
                            s.log10FalseOdds(),
                            s.wcs()));
        } else {
            night.record().fault(Stage.POINT, caption + ". " + ((NoSolution) answer).reason());
        }
    }
}
