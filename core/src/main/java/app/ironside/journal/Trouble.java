package app.ironside.journal;

/** What can be wrong in a night. The words are those of the faults of a rehearsal, where there is one. */
public enum Trouble {
    CLOUD(
            "cloud",
            "cloud",
            false,
            "Wait. If pointing elsewhere does not bring the stars back, it is dew or frost and not cloud."),
    FOG("fog", "fog", false, "Wait or end the night: fog that has come up seldom goes before the morning."),
    DEW(
            "dew",
            "dew on the optics",
            true,
            "Heater up and look at the front glass; if pointing elsewhere brings the stars back, it is cloud."),
    FROST(
            "frost",
            "frost on the sensor's window",
            true,
            "Warm the sensor by ten degrees until the middle of the field is as bright as its edge."),
    FOCUS("focus-drift", "focus that drifts", true, "Focus again now."),
    SLIP(
            "focuser-slip",
            "a focuser that slips",
            true,
            "Focus again now; if it comes back within the hour, lock the focuser."),
    LOST_ZERO(
            "focuser-lost",
            "a focuser that has lost its zero",
            true,
            "Focus again and read where it stands; earlier positions no longer hold."),
    FILTER_OFFSET(
            "filter-offset",
            "a wrong offset of this filter",
            true,
            "Focus in this filter and keep what it needs against the others."),
    SEEING("seeing", "the air", false, "Nothing to mend: the air. Longer focal lengths may wait, wider fields go on."),
    WIND("wind", "wind", false, "Shield the telescope from wind; shorter subs lose less to a gust."),
    KNOCK("knock", "a knock", true, "Look who or what touches the tripod; the polar axis may have moved."),
    CABLE(
            "cable",
            "a cable that drags",
            true,
            "Look how the cables hang and what comes near the tripod before the next sub."),
    CONTACT(
            "contact",
            "the telescope touching something",
            true,
            "Stop the mount and look what it touches before it goes on."),
    MOUNT(
            "mount-stuck",
            "a mount that stands still",
            true,
            "Look at the mount's power and its clutches, and whether it is parked."),
    BALANCE("balance", "balance", true, "Balance again, a little heavy toward the east, and lock the clutches."),
    RATE(
            "trailing-exposure",
            "a wrong tracking rate",
            true,
            "Set the mount's rate to sidereal; guiding hides it and pays for it."),
    GEAR("gear-error", "the gear", false, "Guide with shorter exposures; look at balance and mesh by day."),
    POLAR("polar-error", "the polar axis", true, "Measure the polar axis again; until then shorter subs stay round."),
    FLEXURE(
            "flexure",
            "the guide scope bending away",
            true,
            "Tighten what holds the guide scope; until then shorter subs stay round."),
    GUIDE_STAR(
            "guide-star-lost",
            "the guide camera",
            true,
            "Look at the guide scope: its cap, dew on it, its cable; the main camera sees stars."),
    WRONG_STAR(
            "wrong-guide-star",
            "a hot pixel that is guided on",
            true,
            "Begin guiding anew on another star; darks for the guide camera keep hot pixels out."),
    GUIDE_FOCUS(
            "guide-focus",
            "the guide scope's focus",
            true,
            "Focus the guide scope; on a soft star guiding is coarser."),
    POWER("power-dip", "the power", true, "Look at supply, battery and plugs: several devices went at once."),
    CAMERA("camera-lost", "the camera", true, "Look at the camera's power and cable."),
    DEVICE(
            "device",
            "a device",
            true,
            "Look at the device that is named: its power, its cable, what it stands against."),
    COOLER(
            "cooler",
            "a cooler that does not hold",
            true,
            "Look at the cooler's supply and fan; where it gives all it can, choose a warmer set point, and take the darks of what came before at"
                    + " its own temperature."),
    BROKEN(
            "broken-frame",
            "frames that come broken",
            true,
            "Look at the camera's cable; another port or a shorter cable helps most often."),
    DISK("disk-full", "the disk", true, "Free some room; the night goes on from where it stands."),
    SPOT(
            "spot",
            "a spot on the sensor",
            false,
            "Take the flats before anything is touched; they take out what lies there tonight."),
    STRAY("stray-light", "stray light", true, "Look for a lamp beside the telescope: screen it or put it out."),
    MOON("moon", "moonlight", false, "Narrow filters lose least while the Moon is up."),
    TWILIGHT(
            "twilight",
            "twilight",
            false,
            "In the evening wait for the dark; in the morning the lights are over, darks and flats are next."),
    WRONG_FILTER(
            "wrong-filter",
            "another filter in the slot",
            true,
            "Look into the wheel and set the kit's list right; what was taken keeps its light."),
    KIT(
            "wrong-focal-length",
            "wrong data of the kit",
            true,
            "Correct the kit at Plan, Site and kit; what was taken is not touched by it."),
    WRONG_FIELD(
            "wrong-field", "another field", true, "Solve and point again: the telescope does not look where it did."),
    CAP(
            "cap",
            "a telescope that is shut",
            true,
            "Take the cap off. If it is off, look at roof and shutter: not even the light of the sky comes in."),
    NO_STARS(
            "no-stars",
            "a picture without stars",
            true,
            "Look at cap, roof and sky; if they are open and clear, at shutter and focuser."),
    NO_FRAMES(
            "no-frames",
            "silence",
            true,
            "Look whether the camera and its program still run, and whether the disk has room.");

    private final String word;
    private final String what;
    private final boolean handsHelp;
    private final String remedy;

    Trouble(String word, String what, boolean handsHelp, String remedy) {
        this.word = word;
        this.what = what;
        this.handsHelp = handsHelp;
        this.remedy = remedy;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }

    /** As in a sentence: "dew on the optics". */
    public String what() {
        return what;
    }

    /** Whether somebody who gets up can do something about it. */
    public boolean handsHelp() {
        return handsHelp;
    }

    public String remedy() {
        return remedy;
    }
}
