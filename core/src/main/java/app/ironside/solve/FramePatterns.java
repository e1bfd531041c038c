package app.ironside.solve;

import app.ironside.star.Star;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Patterns of a frame's brightest stars and their neighbours, brightest sets first, each once. Made as they are asked for: most frames
 * are recognised by one of the first few.
 */
final class FramePatterns {
    /** So many of the brightest stars are combined first, then more. */
    private final int[] levels;

    private final List<Star> stars;
    private final int neighbours;
    private final List<int[]> made = new ArrayList<>();
    private final Set<Long> seen = new HashSet<>();
    private final double[] code = new double[FourStars.LENGTH];
    private int level;
    private int star;

    /**
     * @param levels ascending
     * @param neighbours with which a star is combined
     */
    FramePatterns(List<Star> stars, int[] levels, int neighbours) {
        this.stars = stars;
        this.levels = levels;
        this.neighbours = neighbours;
    }

    /**
     * A block of them.
     *
     * @param from index of the first
     * @return fewer than {@code most} only if there are no more
     */
    List<int[]> block(int from, int most) {
        while (made.size() < from + most && level < levels.length) {
            makeOfNextStar();
        }
        return made.subList(Math.min(from, made.size()), Math.min(made.size(), from + most));
    }

    private void makeOfNextStar() {
        int size = Math.min(levels[level], stars.size());
        if (star < size) {
            make(star, nearest(star, size));
            star++;
        } else {
            level = size == stars.size() ? levels.length : level + 1;
            star = 0;
        }
    }

    private void make(int of, int[] near) {
        for (int a = 0; a < near.length; a++) {
            for (int b = a + 1; b < near.length; b++) {
                for (int c = b + 1; c < near.length; c++) {
                    int[] four = {of, near[a], near[b], near[c]};
                    if (seen.add(key(four))
                            && FourStars.code(
                                    four,
                                    (s, axis) -> axis == 0
                                            ? stars.get(s).x()
                                            : stars.get(s).y(),
                                    2,
                                    code)) {
                        made.add(four);
                    }
                }
            }
        }
    }

    private static long key(int[] four) {
        int[] sorted = four.clone();
        Arrays.sort(sorted);
        return ((sorted[0] * 1000L + sorted[1]) * 1000 + sorted[2]) * 1000 + sorted[3];
    }

    /** The nearest of the brightest stars, nearest first. */
    private int[] nearest(int of, int size) {
        int[] near = new int[Math.min(neighbours, size - 1)];
        double[] away = new double[near.length];
        int count = 0;
        Star at = stars.get(of);
        for (int i = 0; i < size; i++) {
            double distance = Math.hypot(stars.get(i).x() - at.x(), stars.get(i).y() - at.y());
            if (i == of || count == near.length && (count == 0 || distance >= away[count - 1])) {
                continue;
            }
            int place = count < near.length ? count++ : count - 1;
            while (place > 0 && away[place - 1] > distance) {
                away[place] = away[place - 1];
                near[place] = near[place - 1];
                place--;
            }
            away[place] = distance;
            near[place] = i;
        }
        return near;
    }
}
