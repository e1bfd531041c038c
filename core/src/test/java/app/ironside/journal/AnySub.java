package app.ironside.journal;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;

/** A sub of which only what is asked for matters. */
public final class AnySub {
    private AnySub() {}

    /** Its file is named by its time. */
    public static SubTaken of(Instant time, String target, String filter, double seconds, Verdict verdict) {
        return of(time, target, filter, seconds, verdict, OptionalDouble.empty(), OptionalDouble.empty());
    }

    /** The same with stars of a size, px, and a shape. */
    public static SubTaken of(
            Instant time,
            String target,
            String filter,
            double seconds,
            Verdict verdict,
            OptionalDouble hfrPx,
            OptionalDouble eccentricity) {
        return new SubTaken(
                time,
                "Sub " + time,
                target,
                filter,
                seconds,
                new Interval(time.minusSeconds((long) seconds), time),
                file(time),
                true,
                false,
                false,
                Set.of(),
                false,
                new SubMeasures(
                        2800,
                        900,
                        hfrPx,
                        OptionalDouble.empty(),
                        eccentricity,
                        1400,
                        30,
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        Optional.empty(),
                        Optional.empty(),
                        OptionalDouble.empty()),
                new SubCircumstances(
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalInt.empty(),
                        Optional.empty(),
                        Optional.empty()),
                GuideFigures.UNKNOWN,
                OptionalDouble.empty(),
                Optional.empty(),
                verdict);
    }

    /** The file of the sub of a time. */
    public static String file(Instant time) {
        return time.getEpochSecond() + ".fits";
    }
}
