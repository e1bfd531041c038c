package app.ironside.focus;

import app.ironside.kit.Optics;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What a mask of three grids before the telescope makes of stars: three spikes, of which the middle one crosses the other two where they
 * meet when the star is in focus.
 *
 * @param offsetPx of the middle spike from the crossing of the outer two, square to it; positive to the left of its direction
 * @param sigmaPx its standard error
 * @param middleAngleDeg direction of the middle spike, 0 to 180, from +x toward +y
 * @param spreadDeg from the middle spike to an outer one
 * @param stars that were read
 */
public record MaskPattern(
        double offsetPx, double sigmaPx, double middleAngleDeg, double spreadDeg, List<StarRead> stars) {
    /**
     * One star.
     *
     * @param x of the crossing, pixels from 1
     * @param signal of the faintest of the three spikes over its noise
     * @param lines middle, left and right: how far each passes from the star's place and in what direction
     */
    public record StarRead(double x, double y, double offsetPx, double sigmaPx, double signal, List<Spike> lines) {
        public StarRead {
            lines = List.copyOf(lines);
        }
    }

    /**
     * A spike: the line through (x, y) in a direction.
     *
     * @param angleDeg from +x toward +y
     */
    public record Spike(double x, double y, double angleDeg) {}

    /** How the bars of the two quarters lean, seen with the half of straight bars below. */
    public enum Lean {
        UNKNOWN("unknown", 0),
        APART("apart", 1),
        TOGETHER("together", -1);

        private final String word;
        private final int sign;

        Lean(String word, int sign) {
            this.word = word;
            this.sign = sign;
        }

        public String word() {
            return word;
        }
    }

    /**
     * By so much more than the centroids of their parts the bright cores of the spikes move: half and quarter discs are skew. From the
     * Fourier transform of a mask with stars blurred to one and two pixels.
     */
    private static final double CORE = 1.15;

    /** Distance of the centroid of a half or quarter disc from its straight sides, in radii: 4 / 3π. */
    private static final double CENTROID = 4 / (3 * Math.PI);

    public MaskPattern {
        stars = List.copyOf(stars);
    }

    /**
     * How far the sensor is from focus.
     *
     * <p>Light through a part of the aperture whose centroid lies p from the axis comes to lie p z / f from the star's place when the
     * sensor is z from focus. One half of the mask carries the straight bars, its edge along the middle spike; two quarters the leaning
     * ones, their spikes turned by ± α. The middle spike then passes the others' crossing by (z / f) (4 R / 3π) (2 ± tan α), plus where the
     * leaning bars open away from the straight ones. By geometry; held against Fourier optics in the tests.
     *
     * @return micrometres, without sign: which side it is, the next turn tells
     */
    public double defocusUm(Optics optics, double pixelUm, Lean lean) {
        return perPixelUm(optics, pixelUm, lean) * Math.abs(offsetPx);
    }

    /** Standard error of {@link #defocusUm}, micrometres; a lean that is not known counts in it. */
    public double defocusSigmaUm(Optics optics, double pixelUm, Lean lean) {
        double known = perPixelUm(optics, pixelUm, lean) * sigmaPx;
        double tan = Math.tan(Math.toRadians(spreadDeg));
        return lean == Lean.UNKNOWN ? Math.hypot(known, tan / 2 * defocusUm(optics, pixelUm, lean)) : known;
    }

    private double perPixelUm(Optics optics, double pixelUm, Lean lean) {
        double radius = optics.apertureMm() / 2;
        double lever = CORE * CENTROID * radius * (2 + lean.sign * Math.tan(Math.toRadians(spreadDeg)));
        return pixelUm * optics.focalLengthMm() / lever;
    }

    /**
     * What to do, in a sentence.
     *
     * @param lean of the mask's leaning bars
     * @param zoneUm half the critical zone
     * @param before the last pattern read, to tell which way was right; empty for none
     */
    public String sentence(Optics optics, double pixelUm, Lean lean, double zoneUm, Optional<MaskPattern> before) {
        double off = defocusUm(optics, pixelUm, lean);
        double sigma = defocusSigmaUm(optics, pixelUm, lean);
        String measured = String.format(
                Locale.ROOT,
                "The middle spike passes %.2f ± %.2f px from the crossing: %.0f ± %.0f µm from focus, the critical zone is ± %.0f µm.",
                Math.abs(offsetPx),
                sigmaPx,
                off,
                sigma,
                zoneUm);
        if (off <= zoneUm) {
            return measured
                    + (sigma <= zoneUm / 2
                            ? " In focus: lock it, and take one more frame after locking."
                            : " In focus as far as this frame can tell: expose longer to be sure.");
        }
        double last = before.map(this::offsetAsHere).orElse(offsetPx);
        if (Math.abs(last - offsetPx)
                < 2 * Math.hypot(sigmaPx, before.map(MaskPattern::sigmaPx).orElse(0.0))) {
            return measured + " Turn a little either way; the next frame tells whether it was right.";
        }
        double moved = last - offsetPx;
        double left = offsetPx / moved;
        return measured
                + (left > 0
                        ? String.format(
                                Locale.ROOT, " The last turn was the right way: %.1f times as much again.", left)
                        : String.format(
                                Locale.ROOT,
                                last * offsetPx < 0
                                        ? " The last turn went too far: back by %.1f times as much."
                                        : " The last turn was the wrong way: back by %.1f times as much.",
                                -left));
    }

    /** Another frame's offset, counted to the side to which this one's is. */
    private double offsetAsHere(MaskPattern other) {
        double turned = Math.abs(Math.IEEEremainder(other.middleAngleDeg() - middleAngleDeg, 360));
        return turned > 90 ? -other.offsetPx() : other.offsetPx();
    }
}
