package app.ironside.journal;

import app.ironside.sky.Interval;
import app.ironside.solve.Wcs;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/**
 * A light frame.
 *
 * @param name "Sub 3 L 180 s of M 33"
 * @param seconds of its exposure
 * @param exposed from shutter to shutter
 * @param file relative to the night's folder; by it a sub is known
 * @param full whether the whole sensor was read out
 * @param test whether it is the first after a start or flip, that proves the rest
 * @param endedEarly whether its exposure was cut short by a command
 * @param overruled stages whose gate was not passed when it was taken
 * @param foundAfterStop whether it was finished and not yet told when the night was stopped
 * @param offsetArcsec of its middle from the target, if it was recognised
 */
public record SubTaken(
        Instant time,
        String name,
        String target,
        String filter,
        double seconds,
        Interval exposed,
        String file,
        boolean full,
        boolean test,
        boolean endedEarly,
        Set<Stage> overruled,
        boolean foundAfterStop,
        SubMeasures measures,
        SubCircumstances circumstances,
        GuideFigures guiding,
        OptionalDouble offsetArcsec,
        Optional<Wcs> wcs,
        Verdict verdict)
        implements NightEvent {
    public SubTaken {
        overruled = Set.copyOf(overruled);
    }

    @Override
    public String text() {
        return name + " " + verdict + ".";
    }

    public boolean kept() {
        return verdict.keep();
    }

    /** The same sub under another verdict. */
    public SubTaken judged(Verdict other) {
        return new SubTaken(
                time,
                name,
                target,
                filter,
                seconds,
                exposed,
                file,
                full,
                test,
                endedEarly,
                overruled,
                foundAfterStop,
                measures,
                circumstances,
                guiding,
                offsetArcsec,
                wcs,
                other);
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }

    @Override
    public boolean marked() {
        return !kept();
    }
}
