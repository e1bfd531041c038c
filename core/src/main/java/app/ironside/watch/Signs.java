package app.ironside.watch;

import app.ironside.journal.GuideFigures;
import app.ironside.journal.SubCircumstances;
import app.ironside.solve.LightMap;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * What a night that Ironside runs knows of a sub besides its stars.
 *
 * @param file by which it is known
 * @param filter as the wheel has it
 * @param guiding while it was exposed
 * @param guideStar counts the guide stars of the night: brightness may be compared with the same number only
 * @param west whether the telescope stood on the side of the pier from which it looks east
 * @param toContactDeg how far the sky has to turn until the telescope comes to where it touches
 * @param temperatureC of the tube
 * @param focusedAtC of the tube at the last focus run
 * @param focusSteps where the focuser stood
 * @param focused whether a focus run lies between the sub before and this one
 * @param light how it lies over the sensor
 * @param slopeAdu by how much the background is brighter on one side
 * @param skyAdu background above an unexposed pixel
 * @param trailFromRaDeg angle between its stars' long axis and right ascension, 0 to 90, if both are known
 * @param movedArcsec how far the field jumped since the sub before without anybody pointing anew; 0 if it did not
 * @param humidityPercent of the air
 * @param dewMarginC how far glass under the sky stands above the dew point
 * @param skyColderByK by how much the sky is colder than the air
 * @param cooling of the sensor
 */
public record Signs(
        String file,
        String filter,
        GuideFigures guiding,
        int guideStar,
        boolean west,
        OptionalDouble toContactDeg,
        OptionalDouble temperatureC,
        OptionalDouble focusedAtC,
        OptionalInt focusSteps,
        boolean focused,
        Optional<LightMap> light,
        OptionalDouble slopeAdu,
        OptionalDouble skyAdu,
        OptionalDouble trailFromRaDeg,
        double movedArcsec,
        OptionalDouble humidityPercent,
        OptionalDouble dewMarginC,
        OptionalDouble skyColderByK,
        Optional<SubCircumstances.Cooling> cooling) {
    OptionalDouble starSnr() {
        return effort(GuideFigures.Effort::starSnr);
    }

    OptionalDouble shakeArcsec() {
        return effort(GuideFigures.Effort::shakeArcsec);
    }

    /** Correction in right ascension, milliseconds of pulse a minute, positive west. */
    OptionalDouble raPullMs() {
        return effort(e -> 60 * e.raPulseMs() / e.seconds());
    }

    /** Correction in declination, milliseconds of pulse a minute, positive north. */
    OptionalDouble decPullMs() {
        return effort(e -> 60 * e.decPulseMs() / e.seconds());
    }

    private OptionalDouble effort(java.util.function.ToDoubleFunction<GuideFigures.Effort> part) {
        return guiding.effort()
                .map(e -> OptionalDouble.of(part.applyAsDouble(e)))
                .orElse(OptionalDouble.empty());
    }
}
