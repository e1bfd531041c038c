package app.ironside.night;

import app.ironside.focus.FocusModel;
import app.ironside.journal.GuiderCalibrated;
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
 * @param guider how its guider was calibrated last
 * @param focusRuns that were believed, in order of time
 */
public record Earlier(
        List<Double> focusSteps,
        KnobGearing gearing,
        List<Placement> placements,
        Optional<PointingModel> pointingModel,
        Optional<GuiderCalibrated> guider,
        List<FocusModel.Run> focusRuns) {
    /** Of a kit that is used for the first time. */
    public static final Earlier NONE =
            new Earlier(List.of(), KnobGearing.UNKNOWN, List.of(), Optional.empty(), Optional.empty(), List.of());

    public Earlier {
        focusSteps = List.copyOf(focusSteps);
        placements = List.copyOf(placements);
        focusRuns = List.copyOf(focusRuns);
    }
}
