package app.ironside.guide;

/** What is done about slack in the declination gear. */
public enum SlackBy implements Way {
    NOTHING("pulses that turn round move less; right for a gear without slack"),
    MORE_PULSE("a pulse that turns round is longer by most of the slack that calibration measured"),
    BY_DRIFT(
            "against a drift that is sure only one way, so that the gear never turns round; without one, both ways by ordinary pulses");

    private final String explained;

    SlackBy(String explained) {
        this.explained = explained;
    }

    @Override
    public String explained() {
        return explained;
    }
}
