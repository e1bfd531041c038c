package app.ironside.guide;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * The loop of one axis: what it has seen goes in, what is sent back comes out. It may set itself by its own record, and takes up slack or
 * keeps to one side as it is told.
 */
public final class AxisLoop {
    /** A drift is known by its direction when it stands out of its error by so much. */
    private static final double SURE = 2;

    /** Arcseconds a second: a slower drift takes minutes to bring back what went too far. */
    private static final double LEAST_DRIFT = 1.0 / 60;

    private static final int FEWEST_FOR_DRIFT = 30;

    /** A drift that takes minutes to know is looked at after so many exposures. */
    private static final int DRIFT_EVERY = 10;

    /** From so far off a star is brought back quickly: this many of the air's deviations, and at least so many arcseconds. */
    private static final double FAR_SIGMAS = 5;

    private static final double LEAST_FAR_ARCSEC = 1.5;
    private static final double QUICK_SHARE = 0.8;

    /** A gear turns in more exposures than this. */
    private static final double SHORTEST_PERIODS = 20;

    private static final int FEWEST_FOR_PERIOD = 300;

    /** A record that has hardly grown says what it said before: it is gone through again when it is so much longer. */
    private static final double GROWN_BY = 0.4;

    /** The air is looked at after so many exposures. */
    private static final int AIR_EVERY = 30;

    private final AxisHistory history = new AxisHistory();
    private AxisRule rule;
    private boolean tunes;
    private SlackBy slackBy = SlackBy.NOTHING;
    private OptionalDouble periodSeconds = OptionalDouble.empty();
    private int sinceTuned;
    private int sinceAir = AIR_EVERY;
    private int sinceDrift = DRIFT_EVERY;
    private double againstDrift;
    private double far = LEAST_FAR_ARCSEC;
    private Optional<GuideTuning> tuned = Optional.empty();

    /**
     * @param tunes whether the loop sets share and least move by its own record
     */
    public AxisLoop(AxisRule rule, boolean tunes) {
        this.rule = rule;
        this.tunes = tunes;
    }

    /** Goes on by another rule. */
    public void use(AxisRule other, boolean tunesItself) {
        rule = other;
        tunes = tunesItself;
        sinceTuned = 0;
    }

    /** The rule in force, as the loop may have set it. */
    public AxisRule rule() {
        return rule;
    }

    /**
     * @param arcsec that a motor runs before the axis follows, where it turns round
     */
    public void slack(SlackBy by, double arcsec) {
        slackBy = by;
        history.slack(arcsec);
    }

    /** The gear's period as the kit's file has it; one that stands out of the record goes before it. */
    public void period(OptionalDouble seconds) {
        periodSeconds = seconds;
    }

    /** The period by which the gear is foreseen. */
    public OptionalDouble period() {
        return periodSeconds;
    }

    /** A swing that stands out of what the axis has shown, over two turns at least. */
    private void findPeriod() {
        if (rule.law() != GuideLaw.FORESEEING || history.size() < FEWEST_FOR_PERIOD) {
            return;
        }
        List<Periodogram.Peak> peaks =
                Periodogram.of(history.seconds(), history.open(), SHORTEST_PERIODS * GuideLaw.cadence(history));
        peaks.stream().findFirst().ifPresent(p -> periodSeconds = OptionalDouble.of(p.periodSeconds()));
    }

    /** Another star or another side: what was seen before tells nothing. */
    public void begin() {
        history.clear();
        sinceTuned = 0;
        sinceDrift = DRIFT_EVERY;
        againstDrift = 0;
    }

    /** The lock position was moved: the same axis shows so much more error. */
    public void shifted(double arcsec) {
        history.shifted(arcsec);
    }

    public AxisHistory history() {
        return history;
    }

    /**
     * An exposure has shown the axis.
     *
     * @param seconds of its middle
     * @param errorArcsec displacement from the lock position
     * @return arcseconds by which it is to be moved back; {@link #sent} tells how far the motor runs for that
     */
    public double answer(double seconds, double errorArcsec) {
        history.seen(seconds, errorArcsec);
        tune();
        double back = quickened().answer(rule.law().read(history, periodSeconds), history.sentArcsec());
        // What was struck the wrong way is not waited for.
        boolean struck = Math.abs(history.openAgo(0) - history.sentArcsec()) > far / 2;
        if (slackBy == SlackBy.BY_DRIFT && !struck && back * againstDrift() < 0) {
            back = 0;
        }
        return back;
    }

    /** A star that was struck or dithered is brought back at once; what suits a calm star would take minutes. */
    private AxisRule quickened() {
        if (history.size() >= GuideTuning.FEWEST && sinceAir >= AIR_EVERY) {
            sinceAir = 0;
            far = Math.max(
                    LEAST_FAR_ARCSEC, FAR_SIGMAS * GuideTuning.quick(history).orElse(0));
        }
        sinceAir++;
        double off = history.openAgo(0) - history.sentArcsec();
        if (history.size() > 1 && Math.abs(history.openAgo(0) - history.openAgo(1)) > far) {
            history.jumped();
        }
        return Math.abs(off) > far && rule.share() < QUICK_SHARE ? rule.withShare(QUICK_SHARE) : rule;
    }

    /**
     * The motor is sent; a law's own answer may have been held shorter.
     *
     * @param arcsec by which the axis is to move back
     * @return for the motor, with what takes up the slack
     */
    public double sent(double arcsec) {
        double run = arcsec + (slackBy == SlackBy.MORE_PULSE ? history.slack().added(arcsec) : 0);
        history.ran(run);
        return run;
    }

    /** +1 or −1 for the way that works against the drift; 0 while none is sure, or none is fast enough to guide by. */
    private double againstDrift() {
        if (sinceDrift >= DRIFT_EVERY && history.size() >= FEWEST_FOR_DRIFT) {
            sinceDrift = 0;
            Line line = history.drift();
            boolean sure = Math.abs(line.slope()) > Math.max(LEAST_DRIFT, SURE * line.slopeSigma());
            againstDrift = sure ? Math.signum(line.slope()) : 0;
        }
        sinceDrift++;
        return againstDrift;
    }

    private void tune() {
        sinceTuned++;
        int goneThrough = Math.min(GuideTuning.MOST, history.size() - sinceTuned);
        if (sinceTuned < Math.max(GuideTuning.FEWEST, GROWN_BY * goneThrough) || history.size() < GuideTuning.FEWEST) {
            return;
        }
        sinceTuned = 0;
        findPeriod();
        if (!tunes) {
            return;
        }
        if (slackBy != SlackBy.NOTHING) {
            history.learnSlack();
        }
        GuideTuning found =
                GuideTuning.of(history, rule, periodSeconds, history.slack(), slackBy == SlackBy.MORE_PULSE);
        if (found.isWorth()) {
            rule = found.rule();
            tuned = Optional.of(found);
        }
    }

    /** What the loop has set itself to since this was asked last. */
    public Optional<GuideTuning> takeTuned() {
        Optional<GuideTuning> taken = tuned;
        tuned = Optional.empty();
        return taken;
    }
}
