package app.ironside.plan;

import app.ironside.plan.Project.Goal;
import app.ironside.plan.Schedule.Run;
import app.ironside.sky.Vectors;
import java.util.ArrayList;
import java.util.List;

/** Deals the subs of a stretch out to the filters. Pure. */
final class FilterOrder {
    private final Project project;
    private final NightGrid grid;
    private final Scheduler.Rules rules;
    private final double[] direction;

    FilterOrder(Project project, NightGrid grid, Scheduler.Rules rules) {
        this.project = project;
        this.grid = grid;
        this.rules = rules;
        this.direction =
                Vectors.of(project.position().raDeg(), project.position().decDeg());
    }

    /** The runs of a number of subs between two edges of the grid. */
    List<Run> runs(int from, int until, int subs) {
        List<Integer> order = rules.interleave() ? interleaved(from, until, subs) : inBlocks(from, until, subs);
        List<Run> runs = new ArrayList<>();
        for (int goal : order) {
            int last = runs.size() - 1;
            var filter = project.goals().get(goal).filter();
            if (last >= 0 && runs.get(last).filter().equals(filter)) {
                runs.set(last, new Run(filter, runs.get(last).subs() + 1));
            } else {
                runs.add(new Run(filter, 1));
            }
        }
        return runs;
    }

    private double weight(int goal, int piece) {
        Goal g = project.goals().get(goal);
        NightGrid.Seen seen = grid.seen(piece, direction);
        boolean allowed = seen.up() && grid.moonBrighteningMag(piece, seen, direction) <= g.moonLimitMag();
        return allowed ? grid.weight(piece, seen, direction, g.light()) : 0;
    }

    private static int piece(int from, int until, int sub, int subs) {
        return Math.min(until - 1, from + (int) ((long) sub * (until - from) / Math.max(1, subs)));
    }

    /** In turns; each time the allowed filter that is furthest behind its share of what is left. */
    private List<Integer> interleaved(int from, int until, int subs) {
        int n = project.goals().size();
        double[] taken = new double[n];
        List<Integer> order = new ArrayList<>();
        int turn = -1;
        int inTurn = 0;
        for (int sub = 0; sub < subs; sub++) {
            int piece = piece(from, until, sub, subs);
            boolean stays = turn >= 0
                    && inTurn < rules.subsPerTurn()
                    && taken[turn] < project.goals().get(turn).subsLeft()
                    && weight(turn, piece) > 0;
            if (!stays) {
                turn = furthestBehind(taken, piece);
                inTurn = 0;
            }
            if (turn >= 0) {
                order.add(turn);
                taken[turn]++;
                inTurn++;
            }
        }
        return order;
    }

    private int furthestBehind(double[] taken, int piece) {
        int next = -1;
        double least = Double.POSITIVE_INFINITY;
        for (int goal = 0; goal < taken.length; goal++) {
            int left = project.goals().get(goal).subsLeft();
            if (taken[goal] < left && weight(goal, piece) > 0) {
                double share = taken[goal] / left;
                if (share < least - 1e-12) {
                    least = share;
                    next = goal;
                }
            }
        }
        return next;
    }

    /**
     * One filter after the other. Each gets its share of the subs; of all orders (at most 7! = 5,040) the one whose subs are worth
     * most.
     */
    private List<Integer> inBlocks(int from, int until, int subs) {
        int n = project.goals().size();
        int[] share = shares(subs);
        double[][] sums = new double[n][subs + 1];
        for (int goal = 0; goal < n; goal++) {
            for (int sub = 0; sub < subs; sub++) {
                sums[goal][sub + 1] = sums[goal][sub] + weight(goal, piece(from, until, sub, subs));
            }
        }
        Best best = new Best();
        arrange(new ArrayList<>(), 0, 0, new Deal(share, sums), best);
        List<Integer> order = new ArrayList<>();
        for (int goal : best.order) {
            for (int i = 0; i < share[goal]; i++) {
                order.add(goal);
            }
        }
        return order;
    }

    private record Deal(int[] share, double[][] sums) {}

    private static final class Best {
        private List<Integer> order = List.of();
        private double value = -1;
    }

    private static void arrange(List<Integer> order, int at, double value, Deal deal, Best best) {
        int n = deal.share().length;
        if (order.size() == n) {
            if (value > best.value) {
                best.value = value;
                best.order = List.copyOf(order);
            }
            return;
        }
        for (int goal = 0; goal < n; goal++) {
            if (!order.contains(goal)) {
                order.add(goal);
                int end = at + deal.share()[goal];
                double gain = deal.sums()[goal][end] - deal.sums()[goal][at];
                arrange(order, end, value + gain, deal, best);
                order.remove(order.size() - 1);
            }
        }
    }

    /** Subs by filter, in proportion to what is left, none above it. */
    private int[] shares(int subs) {
        int n = project.goals().size();
        int[] share = new int[n];
        int dealt = 0;
        for (boolean progress = true; dealt < subs && progress; ) {
            progress = false;
            int next = -1;
            double least = Double.POSITIVE_INFINITY;
            for (int goal = 0; goal < n; goal++) {
                int left = project.goals().get(goal).subsLeft();
                if (share[goal] < left && (double) share[goal] / left < least) {
                    least = (double) share[goal] / left;
                    next = goal;
                }
            }
            if (next >= 0) {
                share[next]++;
                dealt++;
                progress = true;
            }
        }
        return share;
    }
}
