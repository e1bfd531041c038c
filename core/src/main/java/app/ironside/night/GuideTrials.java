package app.ironside.night;

import app.ironside.guide.GuideAnalysis;
import app.ironside.guide.GuideComparison;
import app.ironside.guide.GuideLog;
import app.ironside.guide.GuideRules;
import app.ironside.guide.GuideSample;
import app.ironside.guide.Guider;
import app.ironside.guide.Periodogram;
import app.ironside.journal.Command;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.Stage;
import app.ironside.journal.UnguidedWatched;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/** Tries of guiding that a person asks for: the star left to itself, and before and after of a change. */
final class GuideTrials {
    /** After a change the loop is left so long before it counts. */
    private static final Duration RUN_IN = Duration.ofSeconds(40);

    private static final int TURNS = 2;

    private final NightContext night;
    private final Conduct conduct;
    private final Guiding guiding;

    GuideTrials(NightContext night, Conduct conduct, Guiding guiding) {
        this.night = night;
        this.conduct = conduct;
        this.guiding = guiding;
    }

    /** Watches the star for some minutes without a correction; returns what that told. */
    String watch(TargetPlan target, int minutes) throws InterruptedException {
        Guider guider = guiding.guider().orElseThrow();
        night.record().doing(Stage.GUIDE, "The guide star is left to itself", Duration.ofMinutes(minutes));
        guider.takeSamples();
        Instant from = night.clock().now();
        Instant until = from.plus(Duration.ofMinutes(minutes));
        while (night.clock().now().isBefore(until)) {
            conduct.leaveIfAsked(Stage.GUIDE);
            guider.watch();
        }
        List<GuideSample> samples = guider.takeSamples();
        guider.takeLost();
        if (samples.size() < GuideLog.FEWEST) {
            return "the star was seen " + samples.size() + " times: too few to tell anything";
        }
        GuideAnalysis a = GuideAnalysis.of(GuideLog.unguided(samples));
        double ra = GuideAnalysis.driftArcsecPerMin(samples, GuideSample::raArcsec);
        double dec = GuideAnalysis.driftArcsecPerMin(samples, GuideSample::decArcsec);
        Optional<Periodogram.Peak> gear = a.periods().stream().findFirst();
        String text = String.format(
                Locale.ROOT,
                "%d minutes without guiding: the air moves the star by %.2f″, it drifts %+.1f″ a minute in right ascension and %+.1f″ in"
                        + " declination%s.",
                minutes,
                a.seeingArcsec(),
                ra,
                dec,
                gear.map(p -> String.format(
                                Locale.ROOT,
                                ", and the gear swings by %.1f″ to either side every %.0f s",
                                p.amplitude(),
                                p.periodSeconds()))
                        .orElse("; no swing of the gear stands out"));
        night.record()
                .tell(new UnguidedWatched(
                        night.record().now(),
                        text,
                        target.name(),
                        new Interval(from, night.clock().now()),
                        a.seeingArcsec(),
                        ra,
                        dec,
                        gear.map(p -> OptionalDouble.of(p.periodSeconds())).orElse(OptionalDouble.empty()),
                        gear.map(p -> OptionalDouble.of(p.amplitude())).orElse(OptionalDouble.empty())));
        return "the star was watched for " + minutes + " minutes";
    }

    Duration takes(Command.CompareGuiding asked) {
        return RUN_IN.plusMinutes(asked.minutes()).multipliedBy(2 * TURNS);
    }

    /** Guides as it is and changed, in turns, and holds the one against the other; returns what that told. */
    String compare(Command.CompareGuiding asked) throws InterruptedException {
        Guider guider = guiding.guider().orElseThrow();
        GuideRules before = guider.rulesInForce().withTunes(false);
        GuideRules own = guider.rules();
        List<GuideSample> as = new ArrayList<>();
        List<GuideSample> bs = new ArrayList<>();
        List<Interval> spansA = new ArrayList<>();
        List<Interval> spansB = new ArrayList<>();
        try {
            for (int turn = 0; turn < 2 * TURNS; turn++) {
                boolean changed = turn % 2 == 1;
                if (asked.other().isPresent()) {
                    guider.use(changed ? asked.other().get().withTunes(false) : before);
                } else if (turn > 0) {
                    night.devices()
                            .hands()
                            .confirm((changed ? "change it now: " : "put it back as it was: ") + asked.what());
                }
                night.record()
                        .doing(
                                Stage.GUIDE,
                                (changed ? "Changed: " : "As it was, against: ") + asked.what(),
                                Duration.ofMinutes(asked.minutes()));
                if (asked.other().isEmpty() && turn > 0) {
                    guider.acquire();
                }
                guided(guider, RUN_IN);
                guider.takeSamples();
                Instant from = night.clock().now();
                guided(guider, Duration.ofMinutes(asked.minutes()));
                (changed ? bs : as).addAll(guider.takeSamples());
                (changed ? spansB : spansA).add(new Interval(from, night.clock().now()));
            }
        } finally {
            // However it ends, nothing stays changed that a person has not chosen.
            guider.use(own);
        }
        guider.takeLost();
        if (Math.min(as.size(), bs.size()) < GuideLog.FEWEST) {
            return "the star was seen too seldom to compare anything";
        }
        GuideComparison found =
                GuideComparison.of(GuideLog.of(bs, OptionalDouble.empty()), GuideLog.of(as, OptionalDouble.empty()));
        night.record()
                .tell(new GuidingCompared(
                        night.record().now(),
                        Character.toUpperCase(asked.what().charAt(0))
                                + asked.what().substring(1) + ": " + found.sentence(),
                        asked.what(),
                        spansA,
                        spansB,
                        found.rmsRatio(),
                        found.low95(),
                        found.high95(),
                        found.pValue(),
                        found.verdict(),
                        found.minutesForTenPercent()));
        return "compared over " + TURNS + " runs of " + asked.minutes() + " minutes each";
    }

    private void guided(Guider guider, Duration time) throws InterruptedException {
        Instant until = night.clock().now().plus(time);
        while (night.clock().now().isBefore(until)) {
            conduct.leaveIfAsked(Stage.GUIDE);
            guider.cycle();
        }
    }
}
