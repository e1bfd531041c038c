package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.device.Rotator;
import app.ironside.image.Frame;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.Gate;
import app.ironside.journal.PlacementCompared;
import app.ironside.journal.Stage;
import app.ironside.journal.TargetCentred;
import app.ironside.plan.TargetPlan;
import app.ironside.point.Centering;
import app.ironside.point.CenteringResult;
import app.ironside.point.Nudge;
import app.ironside.sky.Angles;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveResult;
import java.time.Duration;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** Brings targets to the middle of the frame, with the evidence written down. */
final class Pointing {
    private static final Duration EXPOSURE = Duration.ofSeconds(8);

    private static final double ANGLE_WITHIN_DEG = 0.5;
    private static final int MOST_TURNS = 4;

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
        double cameraDeg = turnCamera(target, result.last().rotationDeg());
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
                                cameraDeg),
                        target.name(),
                        result.offsetArcsec(),
                        result.offsetsArcsec().size(),
                        cameraDeg,
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

    /**
     * Turns the camera to the angle that was framed, where a motor can. A frame turned by half a circle is the same frame, so that a flip
     * needs no turn. Which way a rotator counts is found out by looking.
     *
     * @return the angle that it has
     */
    private double turnCamera(TargetPlan target, double seenDeg) throws InterruptedException {
        if (night.devices().rotator().isEmpty() || target.angleDeg().isEmpty()) {
            return seenDeg;
        }
        Rotator rotator = night.devices().rotator().get();
        double wanted = target.angleDeg().get();
        double angle = seenDeg;
        double way = 1;
        for (int turn = 0; turn < MOST_TURNS && Math.abs(halfTurn(wanted - angle)) > ANGLE_WITHIN_DEG; turn++) {
            double off = halfTurn(wanted - angle);
            rotator.turnTo(Angles.wrap360(rotator.angleDeg() + way * off)).await(night.clock());
            angle = centering
                    .look(target.position(), EXPOSURE, (frame, stars, answer, offset) -> {
                        String caption = target.name() + ", camera turned";
                        night.record().frame(Stage.POINT, caption, frame, Optional.of(stars));
                    })
                    .rotationDeg();
            if (Math.abs(halfTurn(wanted - angle)) > Math.abs(off)) {
                way = -way;
            }
        }
        return angle;
    }

    /** An angle from −90° to 90°. */
    private static double halfTurn(double degrees) {
        return degrees - 180 * Math.rint(degrees / 180);
    }

    /** A frame with how far its middle is from the target. */
    private record Seen(double offsetArcsec, Frame frame) {}

    /** The first frame of the night that is recognised tells how well the kit was set down. */
    private void compare(double offsetArcsec) {
        double[] earlier = night.earlier().placements().stream()
                .flatMapToDouble(p -> p.pointingArcmin().stream())
                .toArray();
        if (earlier.length > 0 && night.record().state().all(FrameSolved.class).isEmpty()) {
            night.record()
                    .tell(new PlacementCompared(
                            night.record().now(),
                            Placement.compared("the first target", offsetArcsec / 60, earlier),
                            Stage.POINT,
                            offsetArcsec / 60,
                            Arrays.stream(earlier).boxed().toList()));
        }
    }

    private void solved(TargetPlan target, String caption, String file, SolveResult answer, Seen seen) {
        if (answer instanceof PlateSolution s) {
            compare(seen.offsetArcsec());
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
