package app.ironside.star;

import app.ironside.image.Statistics;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.OptionalDouble;
import java.util.function.ToDoubleFunction;

/**
 * The stars of a frame, brightest first, with its background.
 *
 * @param backgroundAdu median of the background
 * @param noiseAdu median of its standard deviation, pixel to pixel
 */
public record StarField(int width, int height, List<Star> stars, double backgroundAdu, double noiseAdu) {
    private static final double GOOD_SNR = 20;
    private static final int ENOUGH = 8;

    public StarField {
        stars = List.copyOf(stars);
    }

    /** Stars fit to judge shapes by: not saturated and well above the noise, or simply the unsaturated ones if those are few. */
    public List<Star> good() {
        List<Star> whole = new ArrayList<>(stars.size());
        List<Star> bright = new ArrayList<>(stars.size());
        for (Star star : stars) {
            if (!star.saturated()) {
                whole.add(star);
                if (star.snr() >= GOOD_SNR) {
                    bright.add(star);
                }
            }
        }
        return Collections.unmodifiableList(bright.size() >= ENOUGH ? bright : whole);
    }

    /** Median half-flux radius of the good stars, pixels; empty without stars. */
    public OptionalDouble medianHalfFluxRadiusPx() {
        return median(Star::halfFluxRadiusPx);
    }

    /** Median full width at half maximum of the good stars, pixels. */
    public OptionalDouble medianFwhmPx() {
        return median(Star::fwhmPx);
    }

    /** Median eccentricity of the good stars. */
    public OptionalDouble medianEccentricity() {
        return median(Star::eccentricity);
    }

    /** Median full width at half maximum of the fitted profiles, pixels. */
    public OptionalDouble medianProfileFwhmPx() {
        double[] values = good().stream()
                .flatMap(s -> s.profile().stream())
                .mapToDouble(Moffat::fwhmPx)
                .toArray();
        return values.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(Statistics.median(values));
    }

    private OptionalDouble median(ToDoubleFunction<Star> measure) {
        List<Star> good = good();
        double[] values = new double[good.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = measure.applyAsDouble(good.get(i));
        }
        return values.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(Statistics.median(values));
    }
}
