package app.ironside.star;

import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The width of a frame's stars at half of their peak. Second moments see a star's wings and overstate it, by a quarter under the sky; how
 * much is a matter of the profile, which all stars of a frame share. So it is learned from profiles fitted to its best stars.
 */
public final class HalfPeakWidth {
    /** Fitted stars of a frame: their median is good to a fraction of a percent. */
    static final int FITTED = 60;

    /** Fainter stars' wings are lost in the noise. */
    static final double LEAST_SNR = 30;

    private static final double LEAST_FACTOR = 0.5;
    private static final double MOST_FACTOR = 1.3;

    private HalfPeakWidth() {}

    /** A profile's width over that of the moments, where it tells something; 1 where it does not, as of a star that is a ring. */
    public static double within(double factor) {
        return factor > LEAST_FACTOR && factor < MOST_FACTOR ? factor : 1;
    }

    /** Fits a profile to a star. */
    @FunctionalInterface
    interface Profiles {
        Optional<Moffat> of(Star star);
    }

    /**
     * The same stars with the width of their image at half peak.
     *
     * @param brightestFirst with the width of the Gaussian that has their second moments
     */
    static List<Star> of(List<Star> brightestFirst, Profiles profiles) {
        double[] factors = brightestFirst.stream()
                .filter(s -> !s.saturated() && s.snr() >= LEAST_SNR)
                .limit(FITTED)
                .flatMap(s -> s.profile().or(() -> profiles.of(s)).map(p -> p.fwhmPx() / s.fwhmPx()).stream())
                .mapToDouble(Double::doubleValue)
                .filter(f -> within(f) == f)
                .toArray();
        if (factors.length == 0) {
            return brightestFirst;
        }
        double factor = Statistics.median(factors);
        List<Star> stars = new ArrayList<>(brightestFirst.size());
        brightestFirst.forEach(s -> stars.add(s.withFwhm(factor * s.fwhmPx())));
        return stars;
    }
}
