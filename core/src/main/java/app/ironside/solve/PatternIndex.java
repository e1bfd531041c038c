package app.ironside.solve;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.Vectors;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;

/**
 * Patterns of neighbouring catalogue stars, found by their code. Each level holds the stars down to one magnitude, so that there
 * are patterns of every size: those that the brightest stars of a wide field make as well as those of a narrow one.
 */
final class PatternIndex {
    /** Is handed the unit vectors of a pattern's four stars. */
    @FunctionalInterface
    interface Visitor {
        void pattern(double[][] vectors);
    }

    private final double[][] vectors;
    private final List<PatternLevel> levels;

    private PatternIndex(double[][] vectors, List<PatternLevel> levels) {
        this.vectors = vectors;
        this.levels = levels;
    }

    /**
     * How an index is made.
     *
     * @param sizes how many of the brightest stars each level takes, rising
     * @param neighbours how many neighbours of a star enter its patterns
     */
    record Plan(int[] sizes, int neighbours) {
        private static final int CROWD = 200_000;
        private static final int CROWD_NEIGHBOURS = 4;

        int size(int level, int stars) {
            return Math.min(sizes[level], stars);
        }

        /** How many stars the level before has. */
        int before(int level, int stars) {
            return level == 0 ? 0 : size(level - 1, stars);
        }

        /** Where there are very many stars, fewer patterns of each are enough, and all there is room for. */
        int neighbours(int level) {
            return sizes[level] > CROWD ? Math.min(neighbours, CROWD_NEIGHBOURS) : neighbours;
        }

        /** Differs for plans that make different levels. */
        long mark(int level) {
            return 31L * (31L * (level == 0 ? 0 : sizes[level - 1]) + sizes[level]) + neighbours(level);
        }
    }

    /**
     * Builds an index in memory.
     *
     * @param brightestFirst catalogue indices, by magnitude
     */
    static PatternIndex build(StarCatalogue catalogue, int[] brightestFirst, Plan plan, Workers workers) {
        double[][] all = vectors(catalogue, brightestFirst);
        List<PatternLevel> levels = new ArrayList<>();
        for (int k = 0; k < plan.sizes().length; k++) {
            levels.add(level(all, plan, k, workers));
        }
        return new PatternIndex(all, levels);
    }

    /**
     * Opens an index kept in a folder; levels that are missing, or belong to another catalogue, are built and kept. Each level is a file
     * of its own, so that work that was stopped goes on where it stopped.
     */
    static PatternIndex kept(
            Path folder, StarCatalogue catalogue, int[] brightestFirst, Plan plan, Workers workers, Progress progress) {
        double[][] all = vectors(catalogue, brightestFirst);
        long fingerprint = catalogue.fingerprint();
        List<PatternLevel> levels = new ArrayList<>();
        double work = 0;
        for (int size : plan.sizes()) {
            work += Math.min(size, all.length);
        }
        double done = 0;
        Path[] files = new Path[plan.sizes().length];
        long[] marks = new long[files.length];
        List<Optional<PatternLevel>> there = new ArrayList<>(Collections.nCopies(files.length, Optional.empty()));
        // What is there already is read on all cores: a person waits for it.
        workers.forEach(files.length, k -> {
            files[k] = folder.resolve("patterns-" + k + ".bin");
            marks[k] = fingerprint * 1_000_003 + plan.mark(k);
            there.set(k, PatternLevel.open(files[k], marks[k]));
        });
        for (int k = 0; k < files.length; k++) {
            progress.step("Indexing the sky, level " + (k + 1) + " of " + plan.sizes().length, done / work);
            if (there.get(k).isPresent()) {
                levels.add(there.get(k).get());
            } else {
                PatternLevel made = level(all, plan, k, workers);
                try {
                    Files.createDirectories(folder);
                    made.write(files[k], marks[k]);
                } catch (IOException e) {
                    throw new UncheckedIOException(files[k] + " cannot be written", e);
                }
                levels.add(made);
            }
            done += plan.size(k, all.length);
        }
        return new PatternIndex(all, levels);
    }

    private static PatternLevel level(double[][] all, Plan plan, int k, Workers workers) {
        return PatternLevel.build(
                all, plan.size(k, all.length), plan.before(k, all.length), plan.neighbours(k), workers);
    }

    private static double[][] vectors(StarCatalogue catalogue, int[] brightestFirst) {
        double[][] all = new double[brightestFirst.length][];
        for (int i = 0; i < all.length; i++) {
            all[i] = Vectors.of(catalogue.raDeg(brightestFirst[i]), catalogue.decDeg(brightestFirst[i]));
        }
        return all;
    }

    /** Hands every pattern whose code differs by at most {@code tolerance} in each ratio to {@code each}. */
    void lookUp(double[] code, double tolerance, Visitor each) {
        for (PatternLevel level : levels) {
            level.lookUp(code, tolerance, pattern -> {
                double[][] four = new double[4][];
                for (int place = 0; place < 4; place++) {
                    four[place] = vectors[level.star(pattern, place)];
                }
                each.pattern(four);
            });
        }
    }

    int size() {
        return levels.stream().mapToInt(PatternLevel::size).sum();
    }
}
