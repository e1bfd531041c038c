package app.ironside.night;

/** What an event of the journal is about. */
public enum EventKind {
    NIGHT_STARTED,
    NIGHT_RESUMED,
    NIGHT_ENDED,
    PLAN,
    STAGE,
    GATE,
    DEVICE,
    FOCUS,
    POLAR,
    KNOBS,
    SOLVE,
    CENTRED,
    GUIDE_CALIBRATED,
    GUIDE_SETTLED,
    DITHER,
    SUB,
    /** An earlier sub whose verdict is another now that its series is known better. */
    REGRADED,
    FLIP,
    FAULT,
    PARKED,
    CALIBRATION,
    MASTER,
    STACK
}
