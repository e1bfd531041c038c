package app.ironside.star;

import app.ironside.image.Statistics;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/**
 * The profile that a frame's stars share, learned from its best ones: air, optics and guiding draw all of them alike.
 *
 * @param moffat along the mean of both axes, its peak 1
 * @param stretch axis ratio of the image, short over long
 * @param angleDeg long axis from +x toward +y
 * @param halfFluxRadiusPx of such a star
 */
record SharedProfile(Moffat moffat, double stretch, double angleDeg, double halfFluxRadiusPx) {
    private static final int FEWEST = 5;

    /** Radii squared are looked up in steps of this many px². */
    private static final double STEP = 0.02;

    /**
     * From the brightest stars that are whole.
     *
     * @return empty where they are too few, or have no profile
     */
    static Optional<SharedProfile> of(List<Star> brightestFirst, HalfPeakWidth.Profiles profiles) {
        record Fitted(Star star, Moffat moffat) {}
        List<Fitted> best = brightestFirst.stream()
                .filter(s -> !s.saturated() && s.snr() >= HalfPeakWidth.LEAST_SNR)
                .limit(HalfPeakWidth.FITTED)
                .flatMap(s -> s.profile().or(() -> profiles.of(s)).map(m -> new Fitted(s, m)).stream())
                .toList();
        if (best.size() < FEWEST) {
            return Optional.empty();
        }
        ToDoubleFunction<ToDoubleFunction<Fitted>> median =
                of -> Statistics.median(best.stream().mapToDouble(of).toArray());
        double beta = median.applyAsDouble(f -> f.moffat.beta());
        double fwhm = median.applyAsDouble(f -> f.moffat.fwhmPx());
        double alpha = fwhm / 2 / Math.sqrt(Math.pow(2, 1 / beta) - 1);
        double across = median.applyAsDouble(f -> drawnOut(f.star) * Math.cos(2 * Math.toRadians(f.star.angleDeg())));
        double along = median.applyAsDouble(f -> drawnOut(f.star) * Math.sin(2 * Math.toRadians(f.star.angleDeg())));
        double stretch = Math.max(0.3, 1 - Math.hypot(across, along));
        return Optional.of(new SharedProfile(
                new Moffat(1, alpha, beta),
                stretch,
                Math.toDegrees(Math.atan2(along, across) / 2),
                median.applyAsDouble(f -> f.star.halfFluxRadiusPx())));
    }

    private static double drawnOut(Star star) {
        return 1 - Math.sqrt(1 - star.eccentricity() * star.eccentricity());
    }

    /** The profile laid about a place, for many places. */
    final class Drawn {
        private final float[] table;
        private final double cos = Math.cos(Math.toRadians(angleDeg));
        private final double sin = Math.sin(Math.toRadians(angleDeg));

        Drawn(double farthestPx) {
            table = new float[(int) (farthestPx * farthestPx / stretch / STEP) + 2];
            for (int i = 0; i < table.length; i++) {
                table[i] = (float) moffat.at(Math.sqrt(i * STEP));
            }
        }

        /** As a share of the peak. */
        float at(double dx, double dy) {
            double along = dx * cos + dy * sin;
            double across = dy * cos - dx * sin;
            double place = (along * along * stretch + across * across / stretch) / STEP;
            int i = (int) place;
            return i + 1 >= table.length ? 0 : (float) (table[i] + (place - i) * (table[i + 1] - table[i]));
        }
    }
}
