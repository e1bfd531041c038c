package app.ironside.polar;

import java.util.Locale;

/**
 * What the hands do next: which knob, which way, how much.
 *
 * @param altitudeTurns positive raises the axis
 * @param azimuthTurns positive moves the axis east
 * @param sentence for the person at the mount
 */
public record KnobAdvice(double altitudeTurns, double azimuthTurns, String sentence) {
    /** Advice that takes an error to zero with knobs of known gearing. */
    public static KnobAdvice toRemove(PolarError error, KnobGearing gearing) {
        double[] turns = gearing.turnsFor(-error.altitudeErrorArcmin(), -error.azimuthErrorArcmin());
        double altitude = turns[0];
        double azimuth = turns[1];
        if (error.isWithinMeasurement()) {
            return new KnobAdvice(
                    altitude,
                    azimuth,
                    String.format(
                            Locale.ROOT,
                            "Stop turning: the %s left are within the measurement's own %s.",
                            amount(error.totalArcmin()),
                            amount(error.uncertaintyArcmin())));
        }
        boolean altitudeFirst = Math.abs(error.altitudeErrorArcmin()) >= Math.abs(error.azimuthErrorArcmin());
        String high = String.format(
                Locale.ROOT,
                "Altitude knob: %s the axis by %s%s.",
                error.altitudeErrorArcmin() > 0 ? "lower" : "raise",
                amount(error.altitudeErrorArcmin()),
                turns(altitude, gearing));
        String side = String.format(
                Locale.ROOT,
                "Azimuth knob: move the axis %s by %s%s.",
                error.azimuthErrorArcmin() > 0 ? "west" : "east",
                amount(error.azimuthErrorArcmin()),
                turns(azimuth, gearing));
        return new KnobAdvice(altitude, azimuth, altitudeFirst ? high + " " + side : side + " " + high);
    }

    /** Of knobs that nobody has turned yet the gearing is a guess, and a number of turns would be one too. */
    private static String turns(double turns, KnobGearing gearing) {
        return gearing.isLearned() ? String.format(Locale.ROOT, ", %.2f turn", Math.abs(turns)) : "";
    }

    private static String amount(double arcmin) {
        double size = Math.abs(arcmin);
        if (size >= 60) {
            return String.format(Locale.ROOT, "%.1f°", size / 60);
        }
        return size >= 2 ? String.format(Locale.ROOT, "%.1f′", size) : String.format(Locale.ROOT, "%.0f″", size * 60);
    }
}
