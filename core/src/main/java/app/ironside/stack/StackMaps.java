package app.ironside.stack;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.List;

/**
 * What every pixel of a stack is made of. Of a mosaic, the mean over its colours.
 */
public final class StackMaps {
    /** What the planes tell, in their order. */
    public static final List<String> NAMES = List.of(
            "subs that reach the pixel",
            "share of them that the rejection left out",
            "weight of those that count, against the best sub",
            "noise to be expected, ADU");

    private final int width;
    private final int height;
    private final float[] there;
    private final float[] left;
    private final float[] weight;
    private int planes;

    StackMaps(int width, int height) {
        this.width = width;
        this.height = height;
        this.there = new float[width * height];
        this.left = new float[width * height];
        this.weight = new float[width * height];
    }

    void begin() {
        planes++;
    }

    /** One pixel of one plane. */
    void add(int at, int subs, int leftOut, double weights) {
        there[at] += subs;
        left[at] += leftOut;
        weight[at] += (float) weights;
    }

    /**
     * The four planes.
     *
     * @param header of the stack
     * @param heaviest weight of the best sub, which is light² over noise² on the stack's scale
     */
    List<Frame> planes(Header header, double heaviest) {
        float[] share = new float[there.length];
        float[] noise = new float[there.length];
        for (int i = 0; i < there.length; i++) {
            share[i] = there[i] == 0 ? Float.NaN : left[i] / there[i];
            double sum = weight[i] / planes;
            // Of a mean by weights that are 1 over the variance.
            noise[i] = sum == 0 ? Float.NaN : (float) (1 / Math.sqrt(sum));
            weight[i] = (float) (sum / heaviest);
            there[i] /= planes;
        }
        Header told = header.withHistory("planes: " + String.join("; ", NAMES));
        return List.of(
                new Frame(width, height, there, told),
                new Frame(width, height, share, told),
                new Frame(width, height, weight, told),
                new Frame(width, height, noise, told));
    }
}
