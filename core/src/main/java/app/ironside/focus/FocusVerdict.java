package app.ironside.focus;

/**
 * What a sweep says.
 *
 * @param bestPosition in steps
 * @param bestSize predicted size there, px
 * @param rSquared share of the sizes' variance that the curve explains
 * @param positionSigma standard error of {@code bestPosition}, steps; 0 where the method gives none
 * @param accepted whether the curve is believable
 * @param reason one sentence why or why not
 */
public record FocusVerdict(
        double bestPosition,
        double bestSize,
        double rSquared,
        double positionSigma,
        FocusMethod method,
        boolean accepted,
        String reason) {}
