package app.ironside.star;

/** When a sub spoils a stack by its stars: one set of limits for the night that judges it and the stack that takes it. Common practice. */
public final class SubLimits {
    /** Stars so many times the size of the better subs' are soft. */
    public static final double SOFT_FACTOR = 1.45;

    /** Eccentricity of stars that are trailed: axes as 5 to 3. */
    public static final double TRAILED_ECCENTRICITY = 0.8;

    /** With less than this share of the better subs' stars something stood before them. */
    public static final double FEW_STARS_SHARE = 0.5;

    private SubLimits() {}
}
