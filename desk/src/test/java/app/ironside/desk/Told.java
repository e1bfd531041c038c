package app.ironside.desk;

import app.ironside.Provenance;
import app.ironside.device.Mount;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightStarted;
import app.ironside.journal.StackMade;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.solve.Wcs;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;

/** Events for tests of the screens, from 21 h local time on. */
public final class Told {
    public static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    private static final double SECONDS = 180;

    private Told() {}

    static Instant at(int minute) {
        return NINE.plusSeconds(60L * minute);
    }

    /** A sub of M 33 in L that is kept, or out for cloud. */
    public static SubTaken sub(int minute, boolean keep) {
        GuideFigures.Spread spread = new GuideFigures.Spread(0.42, 0.43, 0.6, OptionalDouble.of(0.8));
        return sub(minute, keep, new GuideFigures(OptionalInt.of(80), 0, Optional.of(spread), Optional.empty()));
    }

    static SubTaken sub(int minute, boolean keep, GuideFigures guiding) {
        return new SubTaken(
                at(minute),
                "Sub " + minute + " L 180 s of M 33",
                "M 33",
                "L",
                SECONDS,
                new Interval(at(minute).minusSeconds((long) SECONDS), at(minute)),
                "lights/M_33_L_" + minute + ".fits",
                true,
                false,
                false,
                Set.of(),
                false,
                new SubMeasures(
                        2800,
                        900,
                        OptionalDouble.of(1.2),
                        OptionalDouble.of(2.4),
                        OptionalDouble.of(0.3),
                        1400,
                        30,
                        OptionalDouble.of(900),
                        OptionalDouble.of(9000),
                        Optional.empty(),
                        Optional.empty(),
                        OptionalDouble.empty()),
                new SubCircumstances(
                        OptionalDouble.of(70),
                        OptionalDouble.of(-10),
                        OptionalDouble.of(4),
                        OptionalInt.of(2600),
                        Optional.of(Mount.PierSide.WEST),
                        Optional.of(new SubCircumstances.Cooling(-9.9, -10, OptionalDouble.of(0.55)))),
                guiding,
                OptionalDouble.empty(),
                Optional.empty(),
                new Verdict(keep, keep ? "good" : "stars down to 300 from 900: cloud"));
    }

    static StepProven step(int minute, String subject, String step, String measured, boolean proven) {
        return new StepProven(at(minute), subject, subject, step, measured, proven);
    }

    static FrameSolved solved(double offsetArcsec, double rotationDeg) {
        Equatorial centre = new Equatorial(23.4621, 30.6599);
        return new FrameSolved(
                at(3),
                "M 33.",
                "M 33",
                "pointing/M_33_0001.fits",
                centre,
                rotationDeg,
                6.016,
                40,
                1.2,
                offsetArcsec,
                "nudge the mount",
                List.of(),
                -60,
                new Wcs(centre, 1400.5, 1050.5, -6.016 / 3600, 0, 0, 6.016 / 3600));
    }

    static AxisMeasured axis(double altitudeArcmin, double azimuthArcmin) {
        return new AxisMeasured(
                at(1),
                "",
                altitudeArcmin,
                azimuthArcmin,
                Math.hypot(altitudeArcmin, azimuthArcmin),
                0.3,
                48,
                0,
                false,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                "",
                List.of());
    }

    static StackMade stack(Optional<StackMade.Gain> gain) {
        return new StackMade(
                at(95),
                "stacked",
                "M_33_L_180s",
                "M 33",
                "L",
                "stacks/M_33_L_180s.fits",
                8,
                8,
                34,
                Duration.ofSeconds(1440),
                4.0,
                12.2,
                gain,
                OptionalDouble.of(1.1),
                1.12,
                0.001,
                "lights/M_33_L_1.fits",
                Optional.empty());
    }

    static NightStarted started(Instant time, String text) {
        return new NightStarted(time, text, "Colle Sorbo", "Wren", LocalDate.of(2026, 11, 14), Provenance.REHEARSED);
    }

    static NightEnded ended(Instant time) {
        return new NightEnded(time, "The night is done.", 0, 0);
    }
}
