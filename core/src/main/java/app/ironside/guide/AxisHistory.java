package app.ironside.guide;

import java.util.Arrays;

/**
 * What an axis has shown and been told, exposure by exposure: where it would stand had nothing been sent, and how much was sent. The two
 * apart tell the mount's own way from the loop's.
 *
 * <p>Holds the last exposures only: what is older than some periods of a gear teaches nothing.
 */
public final class AxisHistory {
    private static final int MOST = 900;

    /** Slacks that are held against the record, as shares of the one that calibration measured. */
    private static final double[] SLACKS = {0, 0.3, 0.5, 0.65, 0.75, 0.85, 0.95, 1.05, 1.15, 1.25, 1.4, 1.6};

    /** A motor that seldom turns round shows nothing of its slack. */
    private static final int FEWEST_TURNS = 6;

    /** Another slack must explain the record better by so much. */
    private static final double BETTER = 0.01;

    private static final double FOLLOWING = 0.3;

    private final double[] seconds = new double[2 * MOST];

    /** Displacements, with what the lock position was moved by taken out. */
    private final double[] bare = new double[2 * MOST];

    private final double[] open = new double[2 * MOST];

    /** What the motor ran after each exposure. */
    private final double[] run = new double[2 * MOST];

    private int from;
    private int count;
    private int sinceJump;
    private double sent;
    private double shifts;
    private Slack slack = new Slack(0);
    private double calibratedSlack;

    /**
     * An exposure has shown the axis.
     *
     * @param atSeconds of its middle, after the one before
     * @param errorArcsec displacement from the lock position
     */
    public void seen(double atSeconds, double errorArcsec) {
        if (from + count == seconds.length) {
            for (double[] kept : new double[][] {seconds, bare, open, run}) {
                System.arraycopy(kept, from, kept, 0, count);
            }
            from = 0;
        }
        int at = from + count;
        seconds[at] = atSeconds;
        bare[at] = errorArcsec - shifts;
        open[at] = errorArcsec + sentArcsec();
        run[at] = 0;
        count++;
        sinceJump++;
        if (count > MOST) {
            from++;
            count--;
        }
    }

    /** The motor ran, slack and all, to move the axis back. */
    public void ran(double arcsec) {
        if (count > 0) {
            run[from + count - 1] += arcsec;
        }
        sent += slack.moves(arcsec);
    }

    /** The last exposure shows the axis elsewhere: what was before it tells nothing of where it stands. */
    void jumped() {
        sinceJump = 1;
    }

    /** Exposures since the axis was thrown elsewhere. */
    int sinceJump() {
        return sinceJump;
    }

    /** The lock position is moved, so that the same axis shows this much more error from here on. */
    public void shifted(double arcsec) {
        shifts += arcsec;
    }

    /** Nothing is known any more: another star, another side of the pier. */
    public void clear() {
        from = 0;
        count = 0;
        sent = 0;
        shifts = 0;
        slack = new Slack(slack.arcsec());
    }

    public int size() {
        return count;
    }

    /** By how much the axis was moved back in all, less what the lock position was moved. */
    public double sentArcsec() {
        return sent - shifts;
    }

    /** Times of the exposures, oldest first. */
    public double[] seconds() {
        return Arrays.copyOfRange(seconds, from, from + count);
    }

    /** Of the last exposures, at most so many. */
    double[] seconds(int most) {
        return Arrays.copyOfRange(seconds, from + Math.max(0, count - most), from + count);
    }

    /** As {@link #open()}, of the last exposures, at most so many. */
    double[] open(int most) {
        return Arrays.copyOfRange(open, from + Math.max(0, count - most), from + count);
    }

    /** Where the axis would have stood, arcseconds, oldest first. */
    public double[] open() {
        return Arrays.copyOfRange(open, from, from + count);
    }

    /** How the axis would have gone by itself, as a straight line. */
    Line drift() {
        return Line.through(seconds, open, from, count);
    }

    /** @param back exposures ago, 0 for the last */
    double openAgo(int back) {
        return open[from + count - 1 - back];
    }

    double secondsAgo(int back) {
        return seconds[from + count - 1 - back];
    }

    Slack slack() {
        return slack;
    }

    /** The slack is this, as a calibration measured it. */
    void slack(double arcsec) {
        calibratedSlack = arcsec;
        reckon(new Slack(arcsec));
    }

    /**
     * Holds slacks about the known one against the record and takes the one that makes it least surprising: a wrong one leaves a step
     * wherever the motor turned round.
     */
    void learnSlack() {
        if (calibratedSlack <= 0 || turns() < FEWEST_TURNS) {
            return;
        }
        double known = slack.arcsec();
        double best = known;
        double least = (1 - BETTER) * surprise(known);
        for (double share : SLACKS) {
            double tried = surprise(share * calibratedSlack);
            if (tried < least) {
                least = tried;
                best = share * calibratedSlack;
            }
        }
        if (best != known) {
            reckon(new Slack(best));
        }
    }

    private int turns() {
        int turns = 0;
        double last = 0;
        for (int i = from; i < from + count; i++) {
            if (run[i] != 0) {
                turns += last * run[i] < 0 ? 1 : 0;
                last = run[i];
            }
        }
        return turns;
    }

    private void reckon(Slack other) {
        slack = other;
        double moved = 0;
        for (int i = from; i < from + count; i++) {
            open[i] = bare[i] + moved;
            moved += slack.moves(run[i]);
        }
        sent = moved;
    }

    /** How far each exposure lies from where those before it let expect it, in squares. */
    private double surprise(double arcsec) {
        Slack tried = new Slack(arcsec);
        double moved = 0;
        double level = bare[from];
        double sum = 0;
        for (int i = from; i < from + count; i++) {
            double off = bare[i] + moved - level;
            sum += off * off;
            level += FOLLOWING * off;
            moved += tried.moves(run[i]);
        }
        return sum;
    }
}
