package app.ironside.journal;

import app.ironside.device.HeldCamera;
import app.ironside.device.Mount;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * How things stood while a sub was taken, as far as it is known.
 *
 * @param temperatureC of the tube
 * @param cooling of the sensor, where the camera has a cooler that tells
 */
public record SubCircumstances(
        OptionalDouble altitudeDeg,
        OptionalDouble hourAngleDeg,
        OptionalDouble temperatureC,
        OptionalInt focusSteps,
        Optional<Mount.PierSide> pierSide,
        Optional<Cooling> cooling) {

    /**
     * How a cooler held at the end of a sub.
     *
     * @param wantedC its set point
     * @param power share of what it can give, 0 to 1, where the camera tells
     */
    public record Cooling(double sensorC, double wantedC, OptionalDouble power) {
        /** Whether darks taken at the set point fit. */
        public boolean holds() {
            return Math.abs(sensorC - wantedC) <= HeldCamera.LOST_BEYOND_C;
        }
    }
}
