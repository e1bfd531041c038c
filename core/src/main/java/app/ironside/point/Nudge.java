package app.ironside.point;

import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.solve.PlateSolution;
import java.util.Locale;

/**
 * How to bring a target to the middle by hand, seen in the picture as it stands: for mounts without goto, and for aligning a finder.
 *
 * @param rightDeg to the right in the picture, degrees on the sky; negative to the left
 * @param upDeg up in the picture (+y)
 * @param rightFields the same in widths of the field
 * @param upFields the same in heights of the field
 * @param eastDeg about the right-ascension axis, east positive, as an angle of that axis
 * @param northDeg in declination
 * @param distanceDeg from the middle to the target
 */
public record Nudge(
        double rightDeg,
        double upDeg,
        double rightFields,
        double upFields,
        double eastDeg,
        double northDeg,
        double distanceDeg) {
    private static final double THERE_FIELDS = 0.01;

    /**
     * From a solved frame to a target anywhere on the sky.
     *
     * @param width of the frame, pixels
     */
    public static Nudge to(Equatorial target, PlateSolution from, int width, int height) {
        Equatorial middle = from.centre();
        double distance = middle.separationDeg(target);
        double angle = Math.toRadians(positionAngleDeg(middle, target) - from.rotationDeg());
        // With y up, east is to the left of the picture unless it is mirrored.
        double sense = from.wcs().mirrored() ? 1 : -1;
        double right = sense * distance * Math.sin(angle);
        double up = distance * Math.cos(angle);
        double scale = from.scaleArcsecPerPixel() / 3600;
        return new Nudge(
                right,
                up,
                right / (width * scale),
                up / (height * scale),
                Angles.wrap180(target.raDeg() - middle.raDeg()),
                target.decDeg() - middle.decDeg(),
                distance);
    }

    /** Position angle of a place as seen from another, east of north, degrees (spherical triangle). */
    static double positionAngleDeg(Equatorial from, Equatorial to) {
        double turn = to.raDeg() - from.raDeg();
        double y = Angles.sinDeg(turn) * Angles.cosDeg(to.decDeg());
        double x = Angles.cosDeg(from.decDeg()) * Angles.sinDeg(to.decDeg())
                - Angles.sinDeg(from.decDeg()) * Angles.cosDeg(to.decDeg()) * Angles.cosDeg(turn);
        return Math.toDegrees(Math.atan2(y, x));
    }

    /** Whether the target stands in the middle within a hundredth of the field. */
    public boolean isThere() {
        return Math.abs(rightFields) < THERE_FIELDS && Math.abs(upFields) < THERE_FIELDS;
    }

    /** What the hands do next, in the picture's directions. */
    public String sentence() {
        if (isThere()) {
            return "It is in the middle.";
        }
        return String.format(
                Locale.ROOT,
                "Point %s %s and %s %s (%.1f and %.1f fields).",
                amount(upDeg),
                upDeg >= 0 ? "up" : "down",
                amount(rightDeg),
                rightDeg >= 0 ? "right" : "left",
                Math.abs(upFields),
                Math.abs(rightFields));
    }

    /** The same for the two axes of an equatorial mount. */
    public String axesSentence() {
        return String.format(
                Locale.ROOT,
                "Turn right ascension %s %s, declination %s %s.",
                amount(eastDeg),
                eastDeg >= 0 ? "east" : "west",
                amount(northDeg),
                northDeg >= 0 ? "north" : "south");
    }

    /** For a finder whose cross stands on the target while the camera took the frame: which way its cross has to go. */
    public String finderSentence() {
        return isThere()
                ? "Finder and camera look the same way."
                : String.format(
                        Locale.ROOT,
                        "The finder looks %s %s and %s %s of the camera: point the camera back to the star, then bring the finder's cross onto it.",
                        amount(upDeg),
                        upDeg >= 0 ? "above" : "below",
                        amount(rightDeg),
                        rightDeg >= 0 ? "right" : "left");
    }

    private static String amount(double degrees) {
        double size = Math.abs(degrees);
        return size >= 1
                ? String.format(Locale.ROOT, "%.1f°", size)
                : size * 60 >= 1
                        ? String.format(Locale.ROOT, "%.0f′", size * 60)
                        : String.format(Locale.ROOT, "%.0f″", size * 3600);
    }
}
