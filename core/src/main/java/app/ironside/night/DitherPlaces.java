package app.ironside.night;

import app.ironside.guide.GuideRules;
import java.util.Random;

/** Where each dither of a night goes, from where guiding began. */
final class DitherPlaces {
    private static final double GOLDEN_ANGLE_DEG = 137.508;
    private static final int SPIRAL_PLACES = 9;

    private final Random random;
    private int dithers;

    /**
     * @param seed the same gives the same places
     */
    DitherPlaces(long seed) {
        this.random = new Random(seed);
    }

    /** From where guiding began. */
    record Place(double westArcsec, double northArcsec) {}

    /**
     * The next place.
     *
     * @param reachArcsec it lies at most so far away
     */
    Place next(GuideRules.DitherBy by, double reachArcsec) {
        dithers++;
        return switch (by) {
            case SPIRAL -> onSpiral(reachArcsec);
            case RANDOM -> {
                // Evenly over the disc: the square root of an even number is the radius.
                double radius = reachArcsec * Math.sqrt(random.nextDouble());
                double angle = 2 * Math.PI * random.nextDouble();
                yield new Place(radius * Math.cos(angle), radius * Math.sin(angle));
            }
            case RIGHT_ASCENSION -> new Place(reachArcsec * (2 * random.nextDouble() - 1), 0);
        };
    }

    private Place onSpiral(double reachArcsec) {
        double radius = reachArcsec * Math.sqrt((dithers % SPIRAL_PLACES + 1) / (double) SPIRAL_PLACES);
        double angle = Math.toRadians(dithers * GOLDEN_ANGLE_DEG);
        return new Place(radius * Math.cos(angle), radius * Math.sin(angle));
    }
}
