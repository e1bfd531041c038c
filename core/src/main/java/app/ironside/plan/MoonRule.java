package app.ironside.plan;

import app.ironside.kit.FilterSpec;

/** Under which Moon a filter is used (common practice; the figures are those of the sky's brightening at the target). */
public enum MoonRule {
    /** What the filter's width suggests: broad light only without the Moon, narrow filters under a half Moon. */
    BY_FILTER("as the filter's width suggests"),
    DARK("only while the Moon hardly lightens the sky"),
    HALF("while it is no brighter than a half Moon makes it"),
    ANY("under any Moon");

    /** Broad light is taken while the Moon brightens the sky by at most this; narrow filters stand more (common practice). */
    private static final double DARK_MAG = 0.3;

    private static final double HALF_MAG = 2.5;

    /** No Moon brightens the sky by more. */
    private static final double ANY_MAG = 20;

    private final String words;

    MoonRule(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /**
     * By how much the Moon may brighten the sky at the target, magnitudes per square arcsecond.
     *
     * @param broadUnderMoon the school that takes bright targets at any time; a rule that was chosen for a filter stands above it
     */
    public double limitMag(FilterSpec filter, boolean broadUnderMoon) {
        return switch (this) {
            case DARK -> DARK_MAG;
            case HALF -> HALF_MAG;
            case ANY -> ANY_MAG;
            case BY_FILTER -> filter.narrow() ? HALF_MAG : broadUnderMoon ? ANY_MAG : DARK_MAG;
        };
    }

    /** Whether a filter may be used now. What was not chosen is no rule of the night: it only guides the choice of times. */
    boolean allows(FilterSpec filter, double brighteningMag) {
        return this == BY_FILTER || brighteningMag <= limitMag(filter, false);
    }
}
