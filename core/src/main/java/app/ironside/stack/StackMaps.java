package app.ironside.stack;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.List;

/** What every pixel of a stack is made of. Of a mosaic, the mean over its colours. */
public final class StackMaps {
    /** What the planes tell, in their order. */
    public static final List<String> NAMES = List.of(
            "subs that reach the pixel",
            "share of them that the rejection left out",
            "weight of those that count, against the best sub",
            "noise to be expected, ADU");

    private final int width;
    private final int height;
    private final short[] there;
    private final short[] left;
    private final float[] weight;
    private Header header = Header.EMPTY;
    private double heaviest = 1;
    private int colours;

    StackMaps(int width, int height) {
        this.width = width;
        this.height = height;
        this.there = new short[width * height];
        this.left = new short[width * height];
        this.weight = new float[width * height];
    }

    /** Another colour. */
    void begin() {
        colours++;
    }

    /** One pixel of one colour. */
    void add(int at, int subs, int leftOut, double weights) {
        there[at] += (short) subs;
        left[at] += (short) leftOut;
        weight[at] += (float) weights;
    }

    /**
     * All is told.
     *
     * @param of the stack
     * @param best weight of the best sub, which is light² over noise² on the stack's scale
     */
    StackMaps of(Header of, double best) {
        header = of.withHistory("planes: " + String.join("; ", NAMES));
        heaviest = best;
        return this;
    }

    /** One of the planes, made when it is asked for: all four are as much as four stacks. */
    public Frame plane(int number) {
        float[] pixels = new float[there.length];
        for (int i = 0; i < pixels.length; i++) {
            double sum = weight[i] / colours;
            pixels[i] = (float)
                    switch (number) {
                        case 0 -> there[i] / (double) colours;
                        case 1 -> there[i] == 0 ? Double.NaN : left[i] / (double) there[i];
                        case 2 -> sum / heaviest;
                            // Of a mean by weights that are 1 over the variance.
                        default -> sum == 0 ? Double.NaN : 1 / Math.sqrt(sum);
                    };
        }
        return new Frame(width, height, pixels, header);
    }
}
