package app.ironside.point;

import app.ironside.Check;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import java.util.Locale;

/**
 * A frame held against the one that was planned, or taken on an earlier night.
 *
 * @param offsetArcsec between the middles
 * @param turnDeg by which the camera has to be turned, east of north positive, −90 to 90: a half turn frames the same
 * @param cornerShare how far the worst corner lies off its place, as a share of the shorter side
 * @param same whether that is within the crop margin
 */
public record FramingMatch(double offsetArcsec, double turnDeg, double cornerShare, boolean same) {
    /** Share of the shorter side that is cut off when nights are stacked: common practice. */
    public static final double USUAL_CROP = 0.05;

    private static final double WORTH_TURNING_DEG = 0.5;

    /**
     * A framing to be met.
     *
     * @param angleDeg position angle of +y
     * @param cropMargin share of the shorter side that may be lost at each edge
     */
    public record Wanted(Equatorial centre, double angleDeg, double cropMargin) {
        public Wanted {
            Check.inRange("cropMargin", cropMargin, 0, 0.5);
        }
    }

    /**
     * @param centre of the frame
     * @param angleDeg its position angle
     * @param widthDeg of the field
     */
    public static FramingMatch of(
            Equatorial centre, double angleDeg, double widthDeg, double heightDeg, Wanted wanted) {
        double offset = centre.separationDeg(wanted.centre()) * 3600;
        double turn = wanted.angleDeg() - angleDeg;
        // The camera upside down, as after a flip, frames the same.
        double half = Angles.wrap180(2 * turn) / 2;
        double shorter = Math.min(widthDeg, heightDeg) * 3600;
        double corner = Math.hypot(widthDeg, heightDeg) / 2 * 3600;
        double share = (offset + corner * 2 * Math.abs(Angles.sinDeg(half / 2))) / shorter;
        return new FramingMatch(offset, half, share, share <= wanted.cropMargin());
    }

    /** What to do, with what goes with it. */
    public String sentence() {
        if (same) {
            return String.format(
                    Locale.ROOT,
                    "The same framing within the crop margin: %.0f″ off the middle, %.1f° off the angle.",
                    offsetArcsec,
                    Math.abs(turnDeg));
        }
        if (Math.abs(turnDeg) < WORTH_TURNING_DEG) {
            return String.format(
                    Locale.ROOT, "The angle is right, the middle %.1f′ off: centre again.", offsetArcsec / 60);
        }
        return String.format(
                Locale.ROOT,
                "Turn the camera by %.1f° %s on the sky. Flats taken before are void then, and balance wants another look.",
                Math.abs(turnDeg),
                turnDeg > 0 ? "from north toward east" : "from north toward west");
    }

    /**
     * How much of a target is in the frame.
     *
     * @param widthDeg of the field
     * @param targetDeg the target's longest extent
     * @return share of that extent, along the worse side, that the frame holds; 1 if all of it
     */
    public static double shareInside(Nudge fromMiddle, double widthDeg, double heightDeg, double targetDeg) {
        Check.positive("targetDeg", targetDeg);
        return Math.min(
                covered(fromMiddle.rightDeg(), widthDeg, targetDeg), covered(fromMiddle.upDeg(), heightDeg, targetDeg));
    }

    private static double covered(double offset, double side, double extent) {
        double low = Math.max(offset - extent / 2, -side / 2);
        double high = Math.min(offset + extent / 2, side / 2);
        return Math.max(0, Math.min(1, (high - low) / extent));
    }
}
