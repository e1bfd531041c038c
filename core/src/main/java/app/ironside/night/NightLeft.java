package app.ironside.night;

/** Thrown on the night's thread when it was told to park and stop. The message says by whom. */
final class NightLeft extends RuntimeException {
    private static final long serialVersionUID = 1;

    NightLeft(String sentence) {
        super(sentence);
    }
}
