package app.ironside.sim;

import app.ironside.Workers;
import app.ironside.kit.FilterSpec;
import app.ironside.sky.DeepSkyObject;
import java.lang.ref.SoftReference;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

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

    /** Spacing of the drawing, 4″. */
    private static final double GRID_DEG = 4.0 / 3600;

    /** Squares of a knot's sizes from its middle at which it ends. */
    private static final double KNOT_END = 12;

    /** Line light of the brightest knots in units of the disc's middle, as if it were continuum over {@link #LINE_EQUIVALENT_NM}. */
    private static final double KNOT_LIGHT = 0.4;

    private static final Map<DeepSkyObject, SoftReference<Drawing>> DRAWN = new ConcurrentHashMap<>();

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
        centralFlux =
                Math.pow(10, -0.4 * object.magnitude().orElse(12.0)) / (2 * Math.PI * scaleDeg * scaleDeg * axisRatio);
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
    private double continuum(double xiDeg, double etaDeg) {
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

    /** Draws a galaxy on a grid, from which frames then take it: the same light at a hundredth of the cost. Drawn once, while memory lasts. */
    static Drawing drawn(DeepSkyObject object, Workers workers) {
        Drawing kept = DRAWN.getOrDefault(object, new SoftReference<>(null)).get();
        if (kept == null) {
            kept = new GalaxyModel(object).draw(workers);
            DRAWN.put(object, new SoftReference<>(kept));
        }
        return kept;
    }

    private Drawing draw(Workers workers) {
        int half = (int) Math.ceil(reachDeg() / GRID_DEG) + 1;
        int size = 2 * half + 1;
        float[] continuum = new float[size * size];
        float[] line = new float[size * size];
        workers.forEach(size, row -> {
            double eta = (row - half) * GRID_DEG;
            double[] knotted = spiral ? knots(eta, half) : new double[size];
            for (int column = 0; column < size; column++) {
                float light = (float) continuum((column - half) * GRID_DEG, eta);
                continuum[row * size + column] = light;
                line[row * size + column] = light > 0 ? (float) (centralFlux * knotted[column] * KNOT_LIGHT) : 0;
            }
        });
        return new Drawing(half, continuum, line);
    }

    /** Light of the glowing knots along a row of the grid. */
    private double[] knots(double etaDeg, int half) {
        double[] row = new double[2 * half + 1];
        for (double[] knot : knots) {
            double reach = knot[2] * Math.sqrt(KNOT_END);
            double xi = knot[0] * sinPa + knot[1] * axisRatio * cosPa;
            double eta = knot[0] * cosPa - knot[1] * axisRatio * sinPa;
            if (Math.abs(eta - etaDeg) > reach) {
                continue;
            }
            int from = Math.max(0, (int) Math.floor((xi - reach) / GRID_DEG) + half);
            int to = Math.min(row.length - 1, (int) Math.ceil((xi + reach) / GRID_DEG) + half);
            for (int column = from; column <= to; column++) {
                double xiDeg = (column - half) * GRID_DEG;
                double du = (xiDeg * sinPa + etaDeg * cosPa - knot[0]) / knot[2];
                double dv = ((xiDeg * cosPa - etaDeg * sinPa) / axisRatio - knot[1]) / knot[2];
                double d = du * du + dv * dv;
                if (d < KNOT_END) {
                    row[column] += knot[3] * Math.exp(-d / 2);
                }
            }
        }
        return row;
    }

    /** A galaxy on a grid. */
    static final class Drawing {
        private final int half;
        private final int size;
        private final float[] continuum;
        private final float[] line;

        private Drawing(int half, float[] continuum, float[] line) {
            this.half = half;
            this.size = 2 * half + 1;
            this.continuum = continuum;
            this.line = line;
        }

        /** Degrees from the centre beyond which there is nothing. */
        double reachDeg() {
            return (half - 1) * GRID_DEG;
        }

        /** How much of the line light a filter passes, as a factor for {@link #at}. */
        static double lineShare(FilterSpec filter) {
            return filter.passes(H_ALPHA_NM) ? LINE_EQUIVALENT_NM / filter.passNm() : 0;
        }

        /** Surface brightness in units of a star of magnitude 0 per square degree. */
        float at(double xiDeg, double etaDeg, float lineShare) {
            double u = xiDeg / GRID_DEG + half;
            double v = etaDeg / GRID_DEG + half;
            if (!(u >= 0 && v >= 0 && u < size - 1 && v < size - 1)) {
                return 0;
            }
            int at = (int) v * size + (int) u;
            float x = (float) (u - (int) u);
            float y = (float) (v - (int) v);
            float light = mix(continuum, at, x, y);
            return lineShare == 0 ? light : light + lineShare * mix(line, at, x, y);
        }

        private float mix(float[] grid, int at, float x, float y) {
            float low = grid[at] + x * (grid[at + 1] - grid[at]);
            float high = grid[at + size] + x * (grid[at + size + 1] - grid[at + size]);
            return low + y * (high - low);
        }
    }
}
