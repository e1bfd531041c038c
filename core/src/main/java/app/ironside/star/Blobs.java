package app.ironside.star;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Groups of neighbouring pixels above a level, and their division into the stars that make them up. */
final class Blobs {
    /** Each step of the search for a split raises the level by this factor. */
    private static final double LEVEL_STEP = 1.15;

    /** A part is a star of its own if it holds at least this share of the whole blob's light above the splitting level. */
    private static final double OWN_SHARE = 0.001;

    private static final int SMALLEST_TO_SPLIT_PX = 10;
    private static final double PEAK_ABOVE_SADDLE_SIGMAS = 5;

    private final float[] filtered;
    private final int width;

    Blobs(float[] filtered, int width) {
        this.filtered = filtered;
        this.width = width;
    }

    /** All groups (8 neighbours) of the pixels listed in {@code above}; each result holds pixel indices. */
    List<int[]> group(int[] above, int count) {
        int[] pixels = Arrays.copyOf(above, count);
        int[] parent = new int[count];
        for (int i = 0; i < count; i++) {
            parent[i] = i;
        }
        // Pixels come in raster order: only the left and the three upper neighbours can already be there.
        int up = 0;
        for (int i = 0; i < count; i++) {
            int p = pixels[i];
            int column = p % width;
            while (up < i && pixels[up] < p - width - 1) {
                up++;
            }
            int k = up;
            boolean upLeft = pixels[k] == p - width - 1;
            int over = upLeft ? k + 1 : k;
            if (pixels[over] == p - width) {
                // It touches the other three, which have been joined to it already.
                join(parent, i, over);
                continue;
            }
            if (i > 0 && column > 0 && pixels[i - 1] == p - 1) {
                join(parent, i, i - 1);
            }
            if (upLeft && column > 0) {
                join(parent, i, k);
            }
            if (pixels[over] == p - width + 1 && column < width - 1) {
                join(parent, i, over);
            }
        }
        return collect(pixels, parent);
    }

    private static List<int[]> collect(int[] pixels, int[] parent) {
        int[] size = new int[pixels.length];
        for (int i = 0; i < pixels.length; i++) {
            parent[i] = root(parent, i);
            size[parent[i]]++;
        }
        int[][] groups = new int[pixels.length][];
        int[] filled = new int[pixels.length];
        List<int[]> out = new ArrayList<>();
        for (int i = 0; i < pixels.length; i++) {
            int r = parent[i];
            if (groups[r] == null) {
                groups[r] = new int[size[r]];
                out.add(groups[r]);
            }
            groups[r][filled[r]++] = pixels[i];
        }
        return out;
    }

    private static void join(int[] parent, int a, int b) {
        int rootA = root(parent, a);
        int rootB = root(parent, b);
        if (rootA != rootB) {
            parent[Math.max(rootA, rootB)] = Math.min(rootA, rootB);
        }
    }

    private static int root(int[] parent, int i) {
        int at = i;
        while (parent[at] != at) {
            parent[at] = parent[parent[at]];
            at = parent[at];
        }
        return at;
    }

    /**
     * Divides a blob wherever raising the level parts it into pieces that are stars in their own right. A ring (a star out of
     * focus) stays whole, because its parts hang together at every level that stands above the noise.
     *
     * @param level the level at which the blob was cut
     * @param noise standard deviation of the filtered picture
     */
    List<int[]> split(int[] blob, double level, double noise) {
        List<int[]> stars = new ArrayList<>();
        split(blob, level, noise, total(blob, 0), stars);
        return stars;
    }

    private void split(int[] blob, double level, double noise, double whole, List<int[]> stars) {
        double peak = peak(blob);
        if (blob.length < SMALLEST_TO_SPLIT_PX) {
            stars.add(blob);
            return;
        }
        int[] left = blob;
        for (double raised = level * LEVEL_STEP; raised < 0.85 * peak; raised *= LEVEL_STEP) {
            List<int[]> parts = group(left, raised);
            double above = raised;
            List<int[]> own = parts.stream()
                    .filter(p -> p.length >= 3
                            && peak(p) - above > Math.max(PEAK_ABOVE_SADDLE_SIGMAS * noise, 0.1 * peak(p))
                            && total(p, above) > OWN_SHARE * whole)
                    .toList();
            if (own.size() > 1) {
                for (int[] part : own) {
                    split(part, raised, noise, whole, stars);
                }
                return;
            }
            if (own.isEmpty()) {
                break;
            }
            // What is no star at this level holds none at a higher one: its peaks are lower and its light is less.
            left = own.get(0);
        }
        stars.add(blob);
    }

    private List<int[]> group(int[] blob, double level) {
        int[] above = new int[blob.length];
        int n = 0;
        for (int p : blob) {
            if (filtered[p] > level) {
                above[n++] = p;
            }
        }
        return group(above, n);
    }

    private double peak(int[] blob) {
        double peak = Double.NEGATIVE_INFINITY;
        for (int p : blob) {
            peak = Math.max(peak, filtered[p]);
        }
        return peak;
    }

    private double total(int[] blob, double level) {
        double sum = 0;
        for (int p : blob) {
            sum += filtered[p] - level;
        }
        return sum;
    }
}
