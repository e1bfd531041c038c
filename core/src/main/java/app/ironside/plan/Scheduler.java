package app.ironside.plan;

import app.ironside.kit.Kit;
import app.ironside.kit.MeridianRule;
import app.ironside.plan.Project.Goal;
import app.ironside.plan.Schedule.Alternative;
import app.ironside.plan.Schedule.Block;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Finds the night's best assignment of time to targets.
 *
 * <p>Time is cut into pieces of five minutes. A piece is worth, for a target, its priority times the effective time of the best filter
 * that may be used then; a stretch is worth the sum of its pieces, less the share of the light that the start, the flip, read-outs,
 * dithers and focus runs take, and no more than what is still wanted of the target. Each stretch of time in which a target is up
 * without a break may be taken once. The best set and order of stretches comes from dynamic programming over (set of stretches used,
 * time): the value of the best night that uses a set and ends at a time, extended by every stretch not in the set. On the grid that is
 * exact (tests compare it with trying everything). Where a target returns after a break, what is still wanted of it counts for both of
 * its stretches at once, and then the result may exceed the wish, never miss it.
 *
 * @see "Bellman 1962, J. ACM 9, 61, and Held and Karp 1962, J. SIAM 10, 196, for dynamic programming over sets"
 */
public final class Scheduler {
    private static final Duration STEP = Duration.ofMinutes(5);

    /** A stretch shorter than this costs more in starting than it gives. */
    private static final int LEAST_PIECES = 5;

    /** A break shorter than this is waited out: the target hides behind a chimney. */
    private static final int WAITED_OUT_PIECES = 4;

    /** Sets are numbered by the bits of an int, and there are 2^n of them. */
    private static final int MOST_STRETCHES = 14;

    private static final double NONE = Double.NEGATIVE_INFINITY;

    private final Kit kit;
    private final Observer observer;
    private final Overheads overheads;
    private final Rules rules;

    /**
     * The rules of the night.
     *
     * @param minimumAltitudeDeg on top of skyline and margin
     * @param ditherEvery subs
     * @param interleave filters take turns, so that a night cut short is balanced; else one filter after the other, each when it is
     *     worth most
     * @param subsPerTurn when they take turns
     */
    public record Rules(double minimumAltitudeDeg, int ditherEvery, boolean interleave, int subsPerTurn) {}

    public Scheduler(Kit kit, Observer observer, Rules rules) {
        this.kit = kit;
        this.observer = observer;
        this.overheads = Overheads.of(kit);
        this.rules = rules;
    }

    /** A target's stretch of time without a break, on the grid. */
    private record Stretch(int project, int from, int until) {}

    /** All that the search needs. */
    /** For each project the piece in which its telescope changes sides, and the seconds that are lost before. */
    private record Flips(int[] at, double[] idle) {}

    private static final class Board {
        final List<Project> projects;
        final NightGrid grid;
        final double[][] worth;
        final int[] flipAt;

        /** Seconds before a flip in which neither side serves. */
        final double[] idle;

        final List<Stretch> stretches;
        final double[][][] net;

        Board(List<Project> projects, NightGrid grid, double[][] worth, Flips flips, List<Stretch> stretches) {
            this.projects = projects;
            this.grid = grid;
            this.worth = worth;
            this.flipAt = flips.at();
            this.idle = flips.idle();
            this.stretches = stretches;
            this.net = new double[stretches.size()][][];
        }
    }

    /**
     * The best night within a span.
     *
     * @param span of darkness, less what set-up or sleep takes
     * @param clouds forecast
     * @return no blocks if nothing is up
     */
    public Schedule best(List<Project> projects, Interval span, CloudForecast clouds) {
        Board board = board(projects, span, clouds);
        Solution best = solve(board, -1);
        List<Block> blocks = new ArrayList<>();
        for (Choice choice : best.choices()) {
            Solution without = solve(board, choice.stretch());
            blocks.add(block(board, choice, best, without));
        }
        return new Schedule(blocks, best.value(), ideal(board));
    }

    // ---- the board
    // -----------------------------------------------------------------------------------------------------

    private Board board(List<Project> projects, Interval span, CloudForecast clouds) {
        NightGrid grid = new NightGrid(observer, span, STEP, clouds);
        double[][] worth = new double[projects.size()][];
        int[] flipAt = new int[projects.size()];
        double[] idle = new double[projects.size()];
        List<Stretch> stretches = new ArrayList<>();
        for (int p = 0; p < projects.size(); p++) {
            worth[p] = worth(projects.get(p), grid);
            Instant transit = TargetWindow.transit(
                    projects.get(p).position(),
                    observer,
                    span.from().plus(span.duration().dividedBy(2)));
            // Where the telescope changes sides if the stretch began early enough; what it costs is known by the
            // stretch.
            double sub = projects.get(p).longestSubSeconds() + overheads.perSub();
            Instant act = transit.plusMillis(Math.round(1000
                    * MeridianRule.of(kit, projects.get(p).position().decDeg()).expectedFlipDeg(sub)
                    / MeridianRule.DEG_PER_SECOND));
            flipAt[p] = (int)
                    Math.floor((double) Duration.between(grid.edge(0), act).toMillis() / STEP.toMillis());
            idle[p] = MeridianRule.of(kit, projects.get(p).position().decDeg()).idleSeconds(sub);
            stretches.addAll(stretches(p, worth[p]));
        }
        stretches.sort(java.util.Comparator.comparingInt((Stretch s) -> s.from() - s.until()));
        List<Stretch> kept = stretches.subList(0, Math.min(MOST_STRETCHES, stretches.size()));
        Board board = new Board(projects, grid, worth, new Flips(flipAt, idle), List.copyOf(kept));
        for (int s = 0; s < board.stretches.size(); s++) {
            board.net[s] = net(board, board.stretches.get(s));
        }
        return board;
    }

    private static double ideal(Board board) {
        double sum = 0;
        for (int i = 0; i < board.grid.size(); i++) {
            double most = 0;
            for (double[] worth : board.worth) {
                most = Math.max(most, worth[i]);
            }
            sum += most;
        }
        return sum;
    }

    /** Effective hours times priority of each piece. */
    private double[] worth(Project project, NightGrid grid) {
        double[] direction =
                Vectors.of(project.position().raDeg(), project.position().decDeg());
        double[] worth = new double[grid.size()];
        for (int i = 0; i < worth.length; i++) {
            NightGrid.Seen seen = grid.seen(i, direction);
            if (seen.up() && seen.altitudeDeg() >= rules.minimumAltitudeDeg()) {
                double best = 0;
                double moon = grid.moonBrighteningMag(i, seen, direction);
                for (Goal goal : project.goals()) {
                    if (goal.subsLeft() > 0 && moon <= goal.moonLimitMag()) {
                        best = Math.max(best, grid.weight(i, seen, direction, goal.light()));
                    }
                }
                worth[i] = best * grid.stepHours() * project.priority();
            }
        }
        return worth;
    }

    private static List<Stretch> stretches(int project, double[] worth) {
        List<Stretch> found = new ArrayList<>();
        int since = -1;
        int last = -1;
        for (int i = 0; i <= worth.length; i++) {
            boolean up = i < worth.length && worth[i] > 0;
            if (up) {
                since = since < 0 ? i : since;
                last = i;
            } else if (since >= 0 && (i == worth.length || i - last > WAITED_OUT_PIECES)) {
                if (last + 1 - since >= LEAST_PIECES) {
                    found.add(new Stretch(project, since, last + 1));
                }
                since = -1;
            }
        }
        return found;
    }

    /** Value of taking a stretch from one edge to another; rows by start within the stretch, columns by length. */
    private double[][] net(Board board, Stretch stretch) {
        int n = stretch.until() - stretch.from();
        double[][] net = new double[n][];
        for (int a = 0; a < n; a++) {
            net[a] = new double[n - a + 1];
            Arrays.fill(net[a], NONE);
            double sum = 0;
            for (int length = 1; length <= n - a; length++) {
                sum += board.worth[stretch.project()][stretch.from() + a + length - 1];
                if (length >= LEAST_PIECES) {
                    net[a][length] =
                            value(board, stretch.project(), stretch.from() + a, stretch.from() + a + length, sum);
                }
            }
        }
        return net;
    }

    /** What a stretch of pieces is worth when their effective time is {@code sum}. */
    private double value(Board board, int project, int from, int until, double sum) {
        Project p = board.projects.get(project);
        double seconds = (until - from) * (double) STEP.toSeconds();
        int flips = flipInside(board, project, from, until) ? 1 : 0;
        double sub = p.meanSubSeconds();
        int subs = overheads.subsIn(seconds - flips * board.idle[project], sub, rules.ditherEvery(), flips);
        double light = Math.min(subs * sub, p.secondsLeft());
        return sum * Math.min(1, light / seconds);
    }

    private static boolean flipInside(Board board, int project, int from, int until) {
        return board.flipAt[project] > from && board.flipAt[project] < until;
    }

    // ---- the search
    // ----------------------------------------------------------------------------------------------------

    private record Choice(int stretch, int from, int until) {}

    private record Solution(double value, List<Choice> choices) {}

    /**
     * The best night.
     *
     * @param forbidden a stretch that may not be used; −1 for none
     */
    private static Solution solve(Board board, int forbidden) {
        int n = board.stretches.size();
        int times = board.grid.size() + 1;
        double[][] best = new double[1 << n][];
        int[][] cameBy = new int[1 << n][];
        int[][] cameFrom = new int[1 << n][];
        best[0] = new double[times];
        double value = 0;
        int atSet = 0;
        int atTime = 0;
        for (int set = 0; set < 1 << n; set++) {
            if (best[set] == null) {
                continue;
            }
            double[] here = best[set];
            // Waiting costs nothing: the best by a time is also there later.
            for (int t = 1; t < times; t++) {
                if (here[t - 1] > here[t]) {
                    here[t] = here[t - 1];
                    if (set != 0) {
                        cameBy[set][t] = -2;
                    }
                }
            }
            if (here[times - 1] > value + 1e-12) {
                value = here[times - 1];
                atSet = set;
                atTime = times - 1;
            }
            for (int s = 0; s < n; s++) {
                if ((set & 1 << s) == 0 && s != forbidden) {
                    extend(board, s, here, set | 1 << s, new Table(best, cameBy, cameFrom));
                }
            }
        }
        List<Choice> choices = new ArrayList<>();
        while (atSet != 0) {
            if (cameBy[atSet][atTime] == -2) {
                atTime--;
            } else {
                int s = cameBy[atSet][atTime];
                int from = cameFrom[atSet][atTime];
                choices.add(0, new Choice(s, from, atTime));
                atSet &= ~(1 << s);
                atTime = from;
            }
        }
        return new Solution(value, choices);
    }

    /** The value, the last stretch and its start, by set and time. */
    private record Table(double[][] best, int[][] cameBy, int[][] cameFrom) {}

    private static void extend(Board board, int s, double[] here, int next, Table table) {
        Stretch stretch = board.stretches.get(s);
        int times = here.length;
        if (table.best()[next] == null) {
            table.best()[next] = new double[times];
            Arrays.fill(table.best()[next], NONE);
            table.cameBy()[next] = new int[times];
            table.cameFrom()[next] = new int[times];
        }
        double[] there = table.best()[next];
        for (int a = stretch.from(); a < stretch.until(); a++) {
            double base = here[a];
            if (base == NONE) {
                continue;
            }
            double[] row = board.net[s][a - stretch.from()];
            for (int length = LEAST_PIECES; length < row.length; length++) {
                double sum = base + row[length];
                if (sum > there[a + length]) {
                    there[a + length] = sum;
                    table.cameBy()[next][a + length] = s;
                    table.cameFrom()[next][a + length] = a;
                }
            }
        }
    }

    // ---- the answer
    // ----------------------------------------------------------------------------------------------------

    private Block block(Board board, Choice choice, Solution best, Solution without) {
        Stretch stretch = board.stretches.get(choice.stretch());
        Project project = board.projects.get(stretch.project());
        Interval span = new Interval(board.grid.edge(choice.from()), board.grid.edge(choice.until()));
        boolean flips = flipInside(board, stretch.project(), choice.from(), choice.until());
        double idle = flips ? board.idle[stretch.project()] : 0;
        Optional<Instant> flip =
                flips ? Optional.of(board.grid.edge(board.flipAt[stretch.project()])) : Optional.empty();
        int subs = Math.min(
                project.subsLeft(),
                overheads.subsIn(
                        span.duration().toSeconds() - idle,
                        project.meanSubSeconds(),
                        rules.ditherEvery(),
                        flips ? 1 : 0));
        double value = board.net[choice.stretch()][choice.from() - stretch.from()][choice.until() - choice.from()];
        FilterOrder order = new FilterOrder(project, board.grid, rules);
        Alternative alternative = new Alternative(instead(board, choice, without), best.value() - without.value());
        return new Block(
                project,
                span,
                flip,
                order.runs(choice.from(), choice.until(), subs),
                value,
                why(board, choice, value),
                Optional.of(alternative));
    }

    private static Optional<String> instead(Board board, Choice choice, Solution without) {
        String name = null;
        int most = 0;
        for (Choice other : without.choices()) {
            int shared = Math.min(choice.until(), other.until()) - Math.max(choice.from(), other.from());
            if (shared > most) {
                most = shared;
                name = board.projects
                        .get(board.stretches.get(other.stretch()).project())
                        .name();
            }
        }
        return Optional.ofNullable(name);
    }

    private static String why(Board board, Choice choice, double value) {
        Stretch stretch = board.stretches.get(choice.stretch());
        Project project = board.projects.get(stretch.project());
        double hours = (choice.until() - choice.from()) * board.grid.stepHours();
        String start = choice.from() == stretch.from()
                ? "from when it may be used"
                : "from when the target before it is worth less";
        String end = choice.until() == stretch.until()
                ? "until it may no longer be used"
                : "until another is worth more or its wish is filled";
        return String.format(
                Locale.ROOT,
                "%s: %s, %s; %.1f h give %.1f effective.",
                project.name(),
                start,
                end,
                hours,
                value / project.priority());
    }
}
