package app.ironside.journal;

import java.time.Instant;
import java.util.Optional;

/**
 * Where focus was expected from the kit's runs on other nights.
 *
 * @param steps for the filter in use at the tube's temperature
 * @param sigma how far a run may lie from that
 * @param runs that it rests on
 * @param stepsPerDegree of the tube's temperature
 * @param slopeSigma its standard error
 * @param supportedSince from when on the record carries a compensation by temperature; empty if it does not yet
 * @param lacks what is still lacking for that, in words; empty if nothing is
 */
public record FocusExpected(
        Instant time,
        String text,
        double steps,
        double sigma,
        int runs,
        int nights,
        double stepsPerDegree,
        double slopeSigma,
        Optional<Instant> supportedSince,
        String lacks)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.FOCUS;
    }
}
