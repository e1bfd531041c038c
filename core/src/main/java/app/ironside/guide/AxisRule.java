package app.ironside.guide;

import app.ironside.Check;
import java.util.Locale;

/**
 * How an axis is guided.
 *
 * @param share of the displacement that is sent back at once, 0 to 1 (aggressiveness)
 * @param leastMoveArcsec smaller displacements are left alone: they are the air
 */
public record AxisRule(GuideLaw law, double share, double leastMoveArcsec) {
    public AxisRule {
        Check.inRange("share", share, 0.05, 1);
        Check.inRange("leastMoveArcsec", leastMoveArcsec, 0, 20);
    }

    public AxisRule withLaw(GuideLaw other) {
        return new AxisRule(other, share, leastMoveArcsec);
    }

    public AxisRule withShare(double other) {
        return new AxisRule(law, other, leastMoveArcsec);
    }

    public AxisRule withLeastMove(double other) {
        return new AxisRule(law, share, other);
    }

    /** For a mark on the trace: "proportional, 60 % from 0.25″ on". */
    public String words() {
        return String.format(Locale.ROOT, "%s, %.0f %% from %.2f″ on", law.word(), 100 * share, leastMoveArcsec);
    }

    /**
     * What is sent back, arcseconds.
     *
     * @param seen by the law
     * @param sentArcsec so far
     */
    double answer(GuideLaw.Reading seen, double sentArcsec) {
        return answer(seen.levelArcsec(), seen.forwardArcsec(), sentArcsec);
    }

    /** As {@link #answer(GuideLaw.Reading, double)}, of a reading's two numbers. */
    double answer(double levelArcsec, double forwardArcsec, double sentArcsec) {
        double off = levelArcsec - sentArcsec;
        return forwardArcsec + (Math.abs(off) < leastMoveArcsec ? 0 : share * off);
    }
}
