package app.ironside.sim;

import app.ironside.kit.FilterSpec;
import app.ironside.sky.DeepSkyObject;

/**
 * A galaxy's light: an exponential disc (Sérsic index 1) with a small round bulge, two logarithmic arms and knots of glowing
 * hydrogen along them. Orientation, arms and knots are invented, the same each time.
 *
 * @see "Sérsic 1963, Bol. Asoc. Argentina Astron. 6, 41; Freeman 1970, ApJ 160, 811, for the disc"
 */
final class GalaxyModel {
    private static final double BULGE_SHARE = 0.06;
    private static final double ARM_PITCH = 0.32;
    private static final double H_ALPHA_NM = 656.3;

    /** Line light of the knots as if spread over this many nanometres of continuum. */
    private static final double LINE_EQUIVALENT_NM = 18;

    private static final int KNOTS = 90;

    private final double scaleDeg;
    private final double axisRatio;
    private final double cosPa;
    private final double sinPa;
    private final double centralFlux;
    private final boolean spiral;
    private final double handedness;
    private final double[][] knots;

    /**
     * @param object with a magnitude
     */
    GalaxyModel(DeepSkyObject object) {
        Noise noise = Noise.of(33, object.id().hashCode());
        double longRadius = object.longAxisArcmin() / 120;
        scaleDeg = longRadius / 3.2;
        axisRatio = Math.max(0.12, object.shortAxisArcmin() / object.longAxisArcmin());
        double pa = Math.toRadians(noise.uniform() * 180);
        cosPa = Math.cos(pa);
        sinPa = Math.sin(pa);
        // Flux of the whole disc in units of a star of magnitude 0, per square degree at the centre.
        centralFlux = Math.pow(10, -0.4 * object.magnitude().orElse(12.0))
                / (2 * Math.PI * scaleDeg * scaleDeg * axisRatio);
        spiral = object.kind() == DeepSkyObject.Kind.SPIRAL;
        handedness = noise.uniform() < 0.5 ? -1 : 1;
        knots = new double[KNOTS][];
        for (int i = 0; i < KNOTS; i++) {
            double r = scaleDeg * (0.5 + 2.6 * noise.uniform());
            double along = armAngle(r) + (noise.uniform() < 0.5 ? Math.PI : 0) + 0.25 * noise.gaussian();
            double size = scaleDeg * (0.012 + 0.03 * noise.uniform());
            knots[i] = new double[] {r * Math.cos(along), r * Math.sin(along), size, 0.5 + 2 * noise.uniform()};
        }
    }

    private double armAngle(double radiusDeg) {
        return handedness * Math.log(Math.max(1e-6, radiusDeg / scaleDeg)) / ARM_PITCH;
    }

    /** Where the light ends for the picture, degrees from the centre. */
    double reachDeg() {
        return 5.5 * scaleDeg;
    }

    /**
     * Surface brightness.
     *
     * @param xiDeg east of the galaxy's centre
     * @param etaDeg north of it
     * @return continuum, in units of a star of magnitude 0 per square degree
     */
    double continuum(double xiDeg, double etaDeg) {
        double u = xiDeg * sinPa + etaDeg * cosPa;
        double v = (xiDeg * cosPa - etaDeg * sinPa) / axisRatio;
        double r = Math.hypot(u, v);
        if (r > reachDeg()) {
            return 0;
        }
        double disc = Math.exp(-r / scaleDeg);
        if (spiral && r > 0.15 * scaleDeg) {
            double phase = 2 * (Math.atan2(v, u) - armAngle(r));
            double arms = 0.55 + 0.9 * Math.exp(1.6 * (Math.cos(phase) - 1));
            disc *= arms;
        }
        double bulge = BULGE_SHARE * 18 * Math.exp(-r / (0.18 * scaleDeg));
        return centralFlux * (disc + bulge);
    }

    /** Light of the glowing knots in the same units, already times the share that a filter passes of it. */
    double knots(double xiDeg, double etaDeg, FilterSpec filter) {
        if (!spiral || Math.abs(filter.centreNm() - H_ALPHA_NM) > filter.bandwidthNm() / 2) {
            return 0;
        }
        double u = xiDeg * sinPa + etaDeg * cosPa;
        double v = (xiDeg * cosPa - etaDeg * sinPa) / axisRatio;
        double light = 0;
        for (double[] knot : knots) {
            double du = (u - knot[0]) / knot[2];
            double dv = (v - knot[1]) / knot[2];
            double d = du * du + dv * dv;
            if (d < 12) {
                light += knot[3] * Math.exp(-d / 2);
            }
        }
        return centralFlux * light * 0.4 * LINE_EQUIVALENT_NM / filter.bandwidthNm();
    }
}
