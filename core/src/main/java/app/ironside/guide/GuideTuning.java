package app.ironside.guide;

import app.ironside.image.Statistics;
import java.util.Arrays;
import java.util.OptionalDouble;

/**
 * Which share and which least move would have held an axis best: its record is gone through again, as it would have stood had nothing been
 * sent, with each setting. What is found is as good as the minutes it was found in.
 *
 * @param rule the best of those tried
 * @param heldArcsec RMS of the record with the rule that was asked about
 * @param bestArcsec and with the best
 */
public record GuideTuning(AxisRule rule, double heldArcsec, double bestArcsec) {
    /** Fewer exposures say more of their air than of the axis. */
    public static final int FEWEST = 90;

    /** A gain smaller than this is chance. */
    private static final double WORTH = 0.04;

    private static final double[] SHARES = {0.05, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0};

    /** Least moves that are tried, as shares of what the axis does from one exposure to the next. */
    private static final double[] MOVES = {0, 0.4, 0.8, 1.2, 1.8, 2.7};

    /** An exposure further off than so many spreads is a gust: no setting is judged by it. */
    private static final double GUST = 5;

    private static final int RUN_IN = 20;

    /** By so many of the last exposures the air is known. */
    private static final int AIR = 240;

    /** So many of the last exposures are gone through: the air of an hour ago is not tonight's any more. */
    static final int MOST = 500;

    /**
     * Goes through a history with every setting of one law.
     *
     * @param seen at least {@link #FEWEST} exposures
     * @param rule that is in force
     * @param periodSeconds of the gear, if it is known
     * @param slack of the gear
     * @param takesUp whether pulses that turn round are longer for it
     */
    static GuideTuning of(AxisHistory seen, AxisRule rule, OptionalDouble periodSeconds, Slack slack, boolean takesUp) {
        double[] open = seen.open(MOST);
        Readings readings = readings(seen.seconds(MOST), open, rule.law(), periodSeconds);
        double quick = quick(open);
        double most = gust(open, readings, rule, slack, takesUp);
        double held = replayed(open, readings, rule, slack, takesUp, most, Double.POSITIVE_INFINITY);
        GuideTuning best = new GuideTuning(rule, held, held);
        for (double share : SHARES) {
            for (double move : MOVES) {
                AxisRule tried = new AxisRule(rule.law(), share, Math.min(20, move * quick));
                double toBeat = (best.rule == rule ? 1 - WORTH : 1) * best.bestArcsec;
                double rms = replayed(open, readings, tried, slack, takesUp, most, toBeat);
                if (rms < toBeat) {
                    best = new GuideTuning(tried, held, rms);
                }
            }
        }
        return best;
    }

    /** Whether another setting would have been better by more than chance. */
    public boolean isWorth() {
        return bestArcsec < (1 - WORTH) * heldArcsec;
    }

    /** What the law made of each exposure: of those up to it alone. */
    private static Readings readings(double[] seconds, double[] open, GuideLaw law, OptionalDouble periodSeconds) {
        AxisHistory before = new AxisHistory();
        Readings readings = new Readings(new double[open.length], new double[open.length]);
        for (int i = 0; i < open.length; i++) {
            before.seen(seconds[i], open[i]);
            GuideLaw.Reading reading = law.read(before, periodSeconds);
            readings.levels[i] = reading.levelArcsec();
            readings.forwards[i] = reading.forwardArcsec();
        }
        return readings;
    }

    /** {@link GuideLaw.Reading}s, packed: they are gone through with each of many rules. */
    private record Readings(double[] levels, double[] forwards) {}

    /** A squared error from which on it was a gust: a few times what is usual with a rule. */
    private static double gust(double[] open, Readings readings, AxisRule rule, Slack slack, boolean takesUp) {
        Replay replay = new Replay(open, readings, rule, slack, takesUp);
        double[] squares = new double[open.length - RUN_IN];
        for (int i = 0; i < squares.length; i++) {
            squares[i] = replay.square();
        }
        Arrays.sort(squares);
        return GUST * GUST * squares[(int) (0.68 * squares.length)];
    }

    /**
     * RMS of a record as a rule would have held it.
     *
     * @param most of a squared error that counts
     * @param toBeat a rule that is worse than this is not gone through to the end
     */
    private static double replayed(
            double[] open, Readings readings, AxisRule rule, Slack slack, boolean takesUp, double most, double toBeat) {
        Replay replay = new Replay(open, readings, rule, slack, takesUp);
        double limit = toBeat * toBeat * (open.length - RUN_IN);
        double sum = 0;
        while (replay.goesOn() && sum <= limit) {
            sum += Math.min(replay.square(), most);
        }
        return Math.sqrt(sum / (open.length - RUN_IN));
    }

    /** A record as a rule would have held it. */
    private static final class Replay {
        private final double[] open;
        private final double[] levels;
        private final double[] forwards;
        private final AxisRule rule;
        private final Slack gear;
        private final boolean takesUp;
        private double sent;
        private int at;

        /** Has run in. */
        Replay(double[] open, Readings readings, AxisRule rule, Slack slack, boolean takesUp) {
            this.open = open;
            this.levels = readings.levels();
            this.forwards = readings.forwards();
            this.rule = rule;
            this.gear = slack.copy();
            this.takesUp = takesUp;
            this.sent = open[0];
            while (at < RUN_IN) {
                square();
            }
        }

        boolean goesOn() {
            return at < open.length;
        }

        /** The next exposure's squared error; then the answer is sent. */
        double square() {
            double error = open[at] - sent;
            double back = rule.answer(levels[at], forwards[at], sent);
            sent += gear.moves(takesUp ? back + gear.added(back) : back);
            at++;
            return error * error;
        }
    }

    /** What an axis does from one exposure to the next, a standard deviation; empty of few exposures. */
    static OptionalDouble quick(AxisHistory seen) {
        return seen.size() < FEWEST ? OptionalDouble.empty() : OptionalDouble.of(quick(seen.open(AIR)));
    }

    /** What the axis does from one exposure to the next, a standard deviation: mostly air. */
    private static double quick(double[] open) {
        double[] steps = new double[open.length - 1];
        for (int i = 0; i < steps.length; i++) {
            steps[i] = Math.abs(open[i + 1] - open[i]);
        }
        return 1.4826 * Statistics.median(steps) / Math.sqrt(2);
    }
}
