package app.ironside.journal;

import java.time.Instant;

/** Something that happened in a night: one record for each kind. */
public sealed interface NightEvent
        permits AirMeasured,
                AlertRaised,
                AxisDoubted,
                PlacementCompared,
                AxisMeasured,
                BlockPlanned,
                CalibrationTaken,
                CameraWarmed,
                CommandTaken,
                Dithered,
                FaultTold,
                Flipped,
                FocusExpected,
                FocusPoint,
                FocusSwept,
                FocuserMeasured,
                FrameSolved,
                GateMeasured,
                GateOverruled,
                GuideCameraLooked,
                GuiderCalibrated,
                GuiderSet,
                GuidingCompared,
                GuidingProven,
                HeatersSwitched,
                KnobsTurned,
                LengthsTried,
                MasterMade,
                MountParked,
                NightEnded,
                NightResumed,
                NightStarted,
                OffsetsMeasured,
                ProgramRevised,
                Reacted,
                LookedElsewhere,
                Noted,
                SkyTested,
                StackMade,
                StageBegan,
                StepProven,
                SubRegraded,
                SubTaken,
                TargetCentred,
                TargetLeft,
                TroubleOver,
                TroubleSeen,
                UnguidedWatched,
                Unknown {
    Instant time();

    /** One sentence for people, as it was told. */
    String text();

    /** The station on which its evidence is shown. */
    Stage station();

    /** Whether it is marked on the night's ribbon with a sign of its own. */
    default boolean marked() {
        return false;
    }
}
