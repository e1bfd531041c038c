package app.ironside.sim;

import app.ironside.kit.Sensor;

/** What is peculiar to one sensor and stays: dust, pixel response, hot pixels, amplifier glow, bias pattern. */
final class SensorTruth {
    private static final double HOT_SHARE = 0.0006;
    private static final double RESPONSE_SIGMA = 0.006;
    private static final double VIGNETTING = 0.24;
    private static final int DUST = 9;

    /** Glow grows a little faster than time, because the amplifier warms: darks cannot be scaled. */
    private static final double GLOW_POWER = 1.25;

    private static final double GLOW_ELECTRONS_PER_S = 0.35;

    private final Sensor sensor;

    /** Response of each pixel, vignetting and dust included, about 1. */
    final float[] response;

    /** Dark current of each pixel over that of a usual one. */
    final float[] darkFactor;

    /** Level of each pixel in electrons without any light or time. */
    final float[] bias;

    /** Shape of the glow, 1 at its brightest. */
    final float[] glow;

    SensorTruth(Sensor sensor, long seed) {
        this.sensor = sensor;
        int width = sensor.widthPx();
        int height = sensor.heightPx();
        response = new float[width * height];
        darkFactor = new float[width * height];
        bias = new float[width * height];
        glow = new float[width * height];
        Noise noise = Noise.of(seed, 77);
        double[][] motes = motes(width, height, noise);
        float[] columns = new float[width];
        for (int x = 0; x < width; x++) {
            columns[x] = 0.5f * noise.gaussian();
        }
        double corner = Math.hypot(width, height) / 2;
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                int i = y * width + x;
                double r = Math.hypot(x - width / 2.0, y - height / 2.0) / corner;
                response[i] = (float) (vignetting(r) * (1 + RESPONSE_SIGMA * noise.gaussian()));
                darkFactor[i] = noise.uniform() < HOT_SHARE ? hot(noise) : 1;
                bias[i] = columns[x];
                double d = Math.hypot(x - width, y - height * 0.15) / (0.16 * width);
                glow[i] = (float) Math.exp(-d);
            }
        }
        for (double[] mote : motes) {
            shade(mote);
        }
    }

    /**
     * Share of light that reaches a place of the sensor.
     *
     * @param away from the middle, 1 in the corners
     */
    static double vignetting(double away) {
        return 1 - VIGNETTING * away * away;
    }

    private static float hot(Noise noise) {
        return (float) (40 * Math.pow(60, noise.uniform()));
    }

    private static double[][] motes(int width, int height, Noise noise) {
        double[][] motes = new double[DUST][];
        for (int i = 0; i < DUST; i++) {
            motes[i] = new double[] {
                noise.uniform() * width,
                noise.uniform() * height,
                14 + 26 * noise.uniform(),
                0.03 + 0.09 * noise.uniform()
            };
        }
        return motes;
    }

    private void shade(double[] mote) {
        int width = sensor.widthPx();
        int reach = (int) mote[2] + 2;
        for (int y = Math.max(0, (int) mote[1] - reach); y < Math.min(sensor.heightPx(), mote[1] + reach); y++) {
            for (int x = Math.max(0, (int) mote[0] - reach); x < Math.min(width, mote[0] + reach); x++) {
                double r = Math.hypot(x - mote[0], y - mote[1]) / mote[2];
                // The shadow of a grain before the sensor: a ring, lighter in the middle.
                double depth = r > 1 ? 0 : r < 0.35 ? 0.35 : 1;
                response[y * width + x] *= (float) (1 - mote[3] * depth);
            }
        }
    }

    /** Electrons of glow after a time where it is brightest. */
    static float glowElectrons(double seconds) {
        return (float) (GLOW_ELECTRONS_PER_S * Math.pow(seconds / 60, GLOW_POWER) * 60);
    }
}
