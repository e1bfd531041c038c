package app.ironside.plan;

/** How the polar axis is set. */
public enum PolarBy {
    IMAGES("images", "three exposures, then knobs"),
    RETICLE_THEN_IMAGES("reticle, then images", "the pole star in its place first, then exposures and knobs"),
    RETICLE("reticle alone", "the pole star in its place, and nothing measured"),
    DRIFT("drift", "a star at the meridian and one in the east are watched, the pole may be hidden");

    private final String words;
    private final String how;

    PolarBy(String words, String how) {
        this.words = words;
        this.how = how;
    }

    public String words() {
        return words;
    }

    /** What is done, in a clause. */
    public String how() {
        return how;
    }

    /** Whether the pole star is set in a reticle before it is dark. */
    public boolean byReticle() {
        return this == RETICLE_THEN_IMAGES || this == RETICLE;
    }

    /** Usual minutes before the first sub, knobs turned twice (common practice). */
    public int minutes() {
        return switch (this) {
            case IMAGES -> 5;
            case RETICLE_THEN_IMAGES -> 7;
            case RETICLE -> 3;
            case DRIFT -> 35;
        };
    }
}
