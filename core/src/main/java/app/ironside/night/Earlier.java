package app.ironside.night;

import app.ironside.point.PointingModel;
import app.ironside.polar.KnobGearing;
import java.util.List;
import java.util.Optional;

/**
 * What other nights of a kit have taught: real ones for a real night, rehearsed ones for a rehearsal.
 *
 * @param focusSteps where it focused, the last of each night
 * @param gearing of its base's knobs
 * @param placements how it stood when it was set down, a night each
 * @param pointingModel of its mount, if one is kept
 */
public record Earlier(
        List<Double> focusSteps,
        KnobGearing gearing,
        List<Placement> placements,
        Optional<PointingModel> pointingModel) {
    /** Of a kit that is used for the first time. */
    public static final Earlier NONE = new Earlier(List.of(), KnobGearing.UNKNOWN, List.of(), Optional.empty());

    public Earlier {
        focusSteps = List.copyOf(focusSteps);
        placements = List.copyOf(placements);
    }
}
