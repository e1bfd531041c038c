package app.ironside.image;

import app.ironside.Check;

/**
 * Maps pixel values to brightness for the eye, 0 black to 1 white, by an inverse hyperbolic sine: straight in the faint, like a
 * logarithm in the bright.
 *
 * @param black value shown as black
 * @param white value shown as white, above {@code black}
 * @param softening where the curve bends, as a share of the range; smaller shows fainter things
 * @see "Lupton et al. 2004, PASP 116, 133"
 */
public record Stretch(double black, double white, double softening) {
    private static final int SAMPLES = 100_000;
    private static final double BLACK_SIGMAS = 2.2;
    private static final double WHITE_SIGMAS = 700;
    private static final double BACKGROUND_BRIGHTNESS = 0.13;

    public Stretch {
        Check.positive("white - black", white - black);
        Check.positive("softening", softening);
    }

    /** A stretch that puts the sky of this frame at a dark grey and keeps its noise just visible. */
    public static Stretch automatic(Frame frame) {
        float[] samples = Statistics.sample(frame, SAMPLES);
        if (samples.length == 0) {
            return new Stretch(0, 1, 0.1);
        }
        Statistics.Spread sky = Statistics.robust(samples);
        double sigma = Math.max(sky.sigma(), 1e-6 * Math.max(1, Math.abs(sky.centre())));
        double black = sky.centre() - BLACK_SIGMAS * sigma;
        double white = black + WHITE_SIGMAS * sigma;
        double skyShare = BLACK_SIGMAS / WHITE_SIGMAS;
        // Bisection on the softening: brightness at the sky level falls steadily as the softening grows.
        double low = 1e-5;
        double high = 10;
        for (int i = 0; i < 60; i++) {
            double middle = Math.sqrt(low * high);
            if (curve(skyShare, middle) > BACKGROUND_BRIGHTNESS) {
                low = middle;
            } else {
                high = middle;
            }
        }
        return new Stretch(black, white, Math.sqrt(low * high));
    }

    private static double curve(double share, double softening) {
        return asinh(share / softening) / asinh(1 / softening);
    }

    private static double asinh(double x) {
        return Math.log(x + Math.sqrt(x * x + 1));
    }

    /** Brightness of a value, 0 to 1; NaN is black. */
    public double apply(double value) {
        double share = (value - black) / (white - black);
        return share <= 0 || Double.isNaN(share) ? 0 : share >= 1 ? 1 : curve(share, softening);
    }

    /** All pixels as 8-bit brightness, top row first, as screens want them. */
    public byte[] toBytes(Frame frame) {
        byte[] table = new byte[4096];
        for (int i = 0; i < table.length; i++) {
            table[i] = (byte) Math.round(255 * curve(square(i / (table.length - 1.0)), softening));
        }
        byte[] out = new byte[frame.width() * frame.height()];
        double range = white - black;
        for (int row = 0; row < frame.height(); row++) {
            int from = (frame.height() - 1 - row) * frame.width();
            for (int column = 0; column < frame.width(); column++) {
                double share = (frame.pixels()[from + column] - black) / range;
                // The table is even in the square root, so that its steps are finest where the curve is steepest.
                out[row * frame.width() + column] =
                        share > 0 ? table[(int) (Math.sqrt(Math.min(1, share)) * (table.length - 1) + 0.5)] : 0;
            }
        }
        return out;
    }

    private static double square(double x) {
        return x * x;
    }
}
