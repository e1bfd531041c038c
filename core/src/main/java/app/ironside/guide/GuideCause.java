package app.ironside.guide;

/** What moves a guide star. */
public enum GuideCause {
    AIR("air"),
    GEARS("gears"),
    ALIGNMENT("alignment"),
    WIND_OR_CABLE("wind-or-cable"),
    CONTROL("control"),
    BACKLASH("backlash");

    private final String word;

    GuideCause(String word) {
        this.word = word;
    }

    /** As scripts know it. */
    public String word() {
        return word;
    }

    /** As a person reads it. */
    public String words() {
        return switch (this) {
            case AIR -> "the air";
            case GEARS -> "the gears";
            case ALIGNMENT -> "the polar alignment";
            case WIND_OR_CABLE -> "wind, or a cable";
            case CONTROL -> "the corrections themselves";
            case BACKLASH -> "slack in declination";
        };
    }
}
