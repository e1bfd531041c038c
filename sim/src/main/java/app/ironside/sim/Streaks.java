package app.ironside.sim;

import java.util.SplittableRandom;

/** What is in a frame and not in the sky: trails of satellites that cross it, tracks of particles that hit the sensor. */
final class Streaks {
    /** Light of a trail along each pixel of its length, electrons. */
    private static final double FAINTEST_TRAIL = 60;

    private static final double BRIGHTEST_TRAIL = 1_500;

    /** Charge that a particle leaves in a pixel, electrons (common practice: hundreds to thousands). */
    private static final double LEAST_CHARGE = 400;

    private static final double MOST_CHARGE = 6_000;

    private static final int LONGEST_TRACK_PX = 9;

    /** Beyond so many widths of a star nothing of a trail is left. */
    private static final double TRAIL_REACH = 2.5;

    private Streaks() {}

    /** Adds to the light of an exposure what its seed and its expectations give. */
    static void draw(float[] light, FrameMaker.Shot shot) {
        Exposer.Scene scene = shot.sky().orElseThrow();
        SplittableRandom random = new SplittableRandom(shot.seed() * 31 + 77);
        for (int i = count(scene.marks().trails(), random); i > 0; i--) {
            trail(light, shot.window(), scene.fwhmPx(), random);
        }
        for (int i = count(scene.marks().hits(), random); i > 0; i--) {
            hit(light, shot.window(), random);
        }
    }

    /** Poisson's distribution, by multiplication of uniform numbers (Knuth, The Art of Computer Programming, 3.4.1). */
    private static int count(double expected, SplittableRandom random) {
        double limit = Math.exp(-expected);
        int count = 0;
        for (double product = random.nextDouble(); product > limit; product *= random.nextDouble()) {
            count++;
        }
        return count;
    }

    private static void trail(float[] light, Exposer.Window window, double fwhmPx, SplittableRandom random) {
        double angle = Math.PI * random.nextDouble();
        double nx = -Math.sin(angle);
        double ny = Math.cos(angle);
        double away = nx * window.width() * random.nextDouble() + ny * window.height() * random.nextDouble();
        double bright = FAINTEST_TRAIL * Math.pow(BRIGHTEST_TRAIL / FAINTEST_TRAIL, random.nextDouble());
        double sigma = fwhmPx / 2.355;
        for (int y = 0; y < window.height(); y++) {
            for (int x = 0; x < window.width(); x++) {
                double distance = nx * x + ny * y - away;
                if (Math.abs(distance) < TRAIL_REACH * fwhmPx) {
                    light[y * window.width() + x] += (float) (bright
                            * Math.exp(-distance * distance / (2 * sigma * sigma))
                            / (sigma * Math.sqrt(2 * Math.PI)));
                }
            }
        }
    }

    private static void hit(float[] light, Exposer.Window window, SplittableRandom random) {
        double x = window.width() * random.nextDouble();
        double y = window.height() * random.nextDouble();
        double angle = 2 * Math.PI * random.nextDouble();
        int length = 1 + random.nextInt(LONGEST_TRACK_PX);
        double charge = LEAST_CHARGE * Math.pow(MOST_CHARGE / LEAST_CHARGE, random.nextDouble());
        for (int i = 0; i < length; i++) {
            int column = (int) (x + i * Math.cos(angle));
            int row = (int) (y + i * Math.sin(angle));
            if (column >= 0 && row >= 0 && column < window.width() && row < window.height()) {
                light[row * window.width() + column] += (float) charge;
            }
        }
    }
}
