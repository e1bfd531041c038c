package app.ironside.journal;

import app.ironside.device.Mount;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * How things stood while a sub was taken, as far as it is known.
 *
 * @param temperatureC of the tube
 */
public record SubCircumstances(
        OptionalDouble altitudeDeg,
        OptionalDouble hourAngleDeg,
        OptionalDouble temperatureC,
        OptionalInt focusSteps,
        Optional<Mount.PierSide> pierSide) {}
