package app.ironside.guide;

/** What is done about slack in the declination gear. */
public enum SlackBy {
    NOTHING("nothing", "pulses that turn round move less; right for a gear without slack"),
    MORE_PULSE("more-pulse", "a pulse that turns round is longer by most of the slack that calibration measured"),
    BY_DRIFT(
            "by-drift",
            "against a drift that is sure only one way, so that the gear never turns round; without one, both ways by ordinary pulses");

    private final String word;
    private final String explained;

    SlackBy(String word, String explained) {
        this.word = word;
        this.explained = explained;
    }

    /** As it stands in a night file. */
    public String word() {
        return word;
    }

    public String explained() {
        return explained;
    }
}
