package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class BlobsTest {
    private static final int WIDTH = 37;
    private static final int HEIGHT = 29;

    /** Groups as a flood that spreads to all eight neighbours finds them. */
    private static Set<Set<Integer>> flooded(boolean[] on) {
        Set<Set<Integer>> groups = new HashSet<>();
        boolean[] seen = new boolean[on.length];
        for (int start = 0; start < on.length; start++) {
            if (!on[start] || seen[start]) {
                continue;
            }
            Set<Integer> group = new HashSet<>();
            Deque<Integer> wave = new ArrayDeque<>(List.of(start));
            seen[start] = true;
            while (!wave.isEmpty()) {
                int p = wave.pop();
                group.add(p);
                for (int dy = -1; dy <= 1; dy++) {
                    for (int dx = -1; dx <= 1; dx++) {
                        int x = p % WIDTH + dx;
                        int y = p / WIDTH + dy;
                        if (x >= 0 && y >= 0 && x < WIDTH && y < HEIGHT && on[y * WIDTH + x] && !seen[y * WIDTH + x]) {
                            seen[y * WIDTH + x] = true;
                            wave.push(y * WIDTH + x);
                        }
                    }
                }
            }
            groups.add(group);
        }
        return groups;
    }

    /** From sparse dots to a sponge; the edges of the frame do not run into each other. */
    @ParameterizedTest
    @ValueSource(doubles = {0.03, 0.2, 0.35, 0.5, 0.7, 0.95, 1})
    void groupsAreThoseOfAFlood(double share) {
        for (int seed = 0; seed < 40; seed++) {
            Random random = new Random(seed);
            boolean[] on = new boolean[WIDTH * HEIGHT];
            for (int i = 0; i < on.length; i++) {
                on[i] = random.nextDouble() < share;
            }
            int[] above = IntStream.range(0, on.length).filter(i -> on[i]).toArray();
            Set<Set<Integer>> found = new HashSet<>();
            for (int[] group : new Blobs(new float[on.length], WIDTH).group(above, above.length)) {
                Set<Integer> set = new HashSet<>();
                Arrays.stream(group).forEach(set::add);
                assertThat(set).hasSize(group.length);
                found.add(set);
            }
            assertThat(found).isEqualTo(flooded(on));
        }
    }

    private static float[] picture(double[][] stars, double sigma) {
        float[] out = new float[WIDTH * HEIGHT];
        for (int i = 0; i < out.length; i++) {
            for (double[] s : stars) {
                double d = Math.pow(i % WIDTH - s[0], 2) + Math.pow(i / WIDTH - s[1], 2);
                out[i] += (float) (s[2] * Math.exp(-d / (2 * sigma * sigma)));
            }
        }
        return out;
    }

    private static List<int[]> split(float[] picture, double level) {
        int[] above = IntStream.range(0, picture.length)
                .filter(i -> picture[i] > level)
                .toArray();
        Blobs blobs = new Blobs(picture, WIDTH);
        List<int[]> groups = blobs.group(above, above.length);
        assertThat(groups).hasSize(1);
        return blobs.split(groups.get(0), level, 1);
    }

    @Test
    void aCloseFaintCompanionIsAStarOfItsOwn() {
        List<int[]> parts = split(picture(new double[][] {{14, 14, 1000}, {21, 14, 200}}, 1.6), 5);
        assertThat(parts).hasSize(2);
    }

    @Test
    void aBumpWithinTheNoiseIsNot() {
        // The companion stands two standard deviations above the saddle.
        List<int[]> parts = split(picture(new double[][] {{14, 14, 1000}, {19.5, 14, 45}}, 1.6), 5);
        assertThat(parts).hasSize(1);
    }

    /** A star out of focus: bright all around, dark in the middle. */
    @Test
    void aRingStaysWhole() {
        float[] ring = new float[WIDTH * HEIGHT];
        for (int i = 0; i < ring.length; i++) {
            double r = Math.hypot(i % WIDTH - 18, i / WIDTH - 14);
            ring[i] = (float) (100 * Math.exp(-Math.pow(r - 8, 2) / 4));
        }
        assertThat(split(ring, 5)).hasSize(1);
    }
}
