package app.ironside.night;

import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.KnobsTurned;
import app.ironside.journal.NightEvent;
import app.ironside.polar.KnobAdvice;
import app.ironside.polar.KnobGearing;
import app.ironside.polar.PolarError;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;

/**
 * How a kit stood on a night before anybody corrected anything: how far its marks hold.
 *
 * @param axisArcmin the first measurement of the polar axis
 * @param pointingArcmin the first frame's middle from where it was meant to be
 */
public record Placement(OptionalDouble axisArcmin, OptionalDouble pointingArcmin) {
    private static final double ARCSEC_AN_ARCMIN = 60;
    private static final int ENOUGH_NIGHTS = 3;

    /** Over the worst of the other nights. */
    private static final double FAR = 1.5;

    /** Of a night's events, those of axis and solved frames at least. */
    public static Placement of(List<NightEvent> events) {
        return new Placement(
                events.stream()
                        .filter(AxisMeasured.class::isInstance)
                        .mapToDouble(e -> ((AxisMeasured) e).totalErrorArcmin())
                        .findFirst(),
                events.stream()
                        .filter(FrameSolved.class::isInstance)
                        .mapToDouble(e -> ((FrameSolved) e).offsetArcsec() / ARCSEC_AN_ARCMIN)
                        .findFirst());
    }

    /**
     * The same of this night beside others, in a sentence.
     *
     * @param what stood so far off
     * @param earlier of other nights, arcminutes
     */
    static String compared(String what, double now, double[] earlier) {
        double[] sorted = Arrays.stream(earlier).sorted().toArray();
        double most = sorted[sorted.length - 1];
        String others = sorted.length == 1
                ? String.format(Locale.ROOT, "%.1f′ on one earlier night", most)
                : String.format(Locale.ROOT, "%.1f′ to %.1f′ on %d earlier nights", sorted[0], most, sorted.length);
        String meaning = sorted.length < ENOUGH_NIGHTS
                ? ""
                : now > FAR * most ? ". The marks were missed: look at the feet of the tripod" : ". The marks hold";
        return String.format(Locale.ROOT, "Set down, %s was %.1f′ off; %s%s.", what, now, others, meaning);
    }

    /**
     * What a night taught of its base's knobs, on top of what was known.
     *
     * @param events of axis and knobs in order
     */
    public static KnobGearing learned(KnobGearing before, List<NightEvent> events) {
        KnobGearing gearing = before.onAnotherNight();
        AxisMeasured seen = null;
        KnobsTurned turned = null;
        for (NightEvent event : events) {
            if (event instanceof KnobsTurned k) {
                turned = k;
            } else if (event instanceof AxisMeasured now) {
                if (seen != null && turned != null) {
                    gearing = gearing.learnedFrom(
                            new KnobAdvice(turned.altitudeTurns(), turned.azimuthTurns(), turned.text()),
                            error(seen),
                            error(now));
                }
                seen = now;
                turned = null;
            }
        }
        return gearing;
    }

    private static PolarError error(AxisMeasured e) {
        return new PolarError(e.altitudeErrorArcmin(), e.azimuthErrorArcmin(), e.uncertaintyArcmin(), e.turnDeg());
    }
}
