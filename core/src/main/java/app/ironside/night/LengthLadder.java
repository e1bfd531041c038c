package app.ironside.night;

import app.ironside.device.Camera;
import app.ironside.image.Frame;
import app.ironside.journal.LengthsTried;
import app.ironside.journal.LengthsTried.Rung;
import app.ironside.journal.Stage;
import app.ironside.kit.Exposure;
import app.ironside.kit.Sensor;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.TargetPlan;
import app.ironside.star.StarField;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.DoubleStream;

/** Tries how long stars stay round: subs of rising length, measured and not kept. */
final class LengthLadder {
    /** Short planned subs are tried at twice their length too; long ones would take too much of the night. */
    private static final double SHORT_SECONDS = 90;

    /** Nothing shorter tells of tracking. */
    private static final double LEAST_SECONDS = 2;

    private final NightContext night;
    private final Conduct conduct;
    private final NightLoop loop;

    LengthLadder(NightContext night, Conduct conduct, NightLoop loop) {
        this.night = night;
        this.conduct = conduct;
        this.loop = loop;
    }

    /** The lengths for a planned one, the shortest first. */
    static List<Double> lengths(double planned) {
        return (planned <= SHORT_SECONDS ? DoubleStream.of(0.25, 0.5, 1, 2) : DoubleStream.of(0.125, 0.25, 0.5, 1))
                .map(share -> Math.round(10 * share * planned) / 10.0)
                .filter(s -> s >= LEAST_SECONDS)
                .boxed()
                .toList();
    }

    /** How long they take together. */
    Duration takes(FilterGoal goal) {
        double seconds = lengths(goal.subSeconds()).stream()
                .mapToDouble(s -> s + night.kit().sensor().readoutSeconds())
                .sum();
        return Duration.ofMillis(Math.round(1000 * seconds));
    }

    /** Takes them and tells; ends early when a person ends one of them. */
    void climb(TargetPlan target, FilterGoal goal) throws InterruptedException {
        List<Rung> rungs = new ArrayList<>();
        for (double seconds : lengths(goal.subSeconds())) {
            Camera.Exposure exposure = Camera.Exposure.light(Duration.ofMillis(Math.round(1000 * seconds)));
            night.record().doing(Stage.RUN, String.format(Locale.ROOT, "%.0f s to try", seconds), exposure.length());
            NightLoop.Exposed exposed = loop.expose(night.devices().camera(), exposure);
            exposed.ended().ifPresent(order -> conduct.obeyed(order, Stage.RUN, "no more lengths are tried"));
            if (exposed.ended().isPresent() || exposed.frame().isEmpty()) {
                break;
            }
            rungs.add(rung(exposed.frame().get(), seconds));
        }
        night.record()
                .tell(new LengthsTried(
                        night.record().now(),
                        rungs.isEmpty() ? "No length was tried to its end." : LengthsTried.sentence(rungs),
                        target.name(),
                        goal.filter(),
                        rungs));
    }

    private Rung rung(Frame frame, double seconds) {
        StarField field = night.finder().find(frame);
        Sensor sensor = night.kit().sensor();
        double sky =
                Math.max(1e-3, (field.backgroundAdu() - sensor.offsetAdu()) * sensor.gainElectronsPerAdu() / seconds);
        return new Rung(
                seconds,
                field.stars().size(),
                field.medianFwhmPx(),
                field.medianEccentricity(),
                Exposure.readNoiseCost(sensor.readNoiseElectrons(), sky, seconds));
    }
}
