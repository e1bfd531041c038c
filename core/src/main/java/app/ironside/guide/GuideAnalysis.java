package app.ironside.guide;

import app.ironside.guide.Periodogram.Peak;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.ToDoubleFunction;

/**
 * What a guide star's record tells: how far it strayed, what of that was the air, what the gears, the alignment, the corrections, and when
 * something struck.
 *
 * @param rmsRaArcsec about the lock position where it was guided, about the mean where it was not; as all figures here on the sky
 * @param p80Arcsec within which four fifths of the exposures stayed, both axes together
 * @param seeingArcsec the part that is faster than any mount, both axes together in squares
 * @param periods of the gears in right ascension, as they show in the record
 * @param decDriftArcsecPerMin where pulses are told, as it would have been without them
 * @param blame largest first; the shares of the whole sum to one
 */
public record GuideAnalysis(
        double rmsRaArcsec,
        double rmsDecArcsec,
        double p80Arcsec,
        double peakArcsec,
        double seeingArcsec,
        List<Peak> periods,
        double decDriftArcsecPerMin,
        List<Blame> blame,
        List<Excursion> excursions,
        List<String> advice) {
    /** Shorter periods, in exposures, are the loop's own. */
    private static final double SHORTEST_PERIOD = 6;

    private static final double LEAST_SHARE = 0.01;

    /** Exposures after an excursion. */
    private static final double RETURN = 8;

    /** A displacement that is answered by more than this share swings. */
    private static final double HASTY = 0.9;

    private static final double SLACK_ANSWER = 0.5;
    private static final int FEWEST_REVERSALS = 6;

    /**
     * A cause with what of the variance is its.
     *
     * @param share of the whole, 0 to 1
     */
    public record Blame(GuideCause cause, double share, String evidence) {}

    /** Both axes together. */
    public double rmsTotalArcsec() {
        return Math.hypot(rmsRaArcsec, rmsDecArcsec);
    }

    /** The part of a record that is faster than any mount, both axes together in squares. */
    static double airArcsec(GuideLog log) {
        Look look = new Look(log, Depth.AIR);
        return Math.hypot(look.raAnswer.airArcsec(), look.decAnswer.airArcsec());
    }

    /** When something struck, by itself. */
    public static List<Excursion> excursions(GuideLog log) {
        return new Look(log, Depth.STRUCK).excursions;
    }

    /**
     * How an axis drifts that nothing corrects: a line through a record, arcseconds a minute.
     *
     * @param axis of the displacement
     */
    public static double driftArcsecPerMin(List<GuideSample> samples, ToDoubleFunction<GuideSample> axis) {
        Instant start = samples.get(0).time();
        return 60
                * Line.through(
                                samples.stream()
                                        .mapToDouble(s -> Duration.between(start, s.time())
                                                        .toMillis()
                                                / 1000.0)
                                        .toArray(),
                                samples.stream().mapToDouble(axis).toArray())
                        .slope();
    }

    public static GuideAnalysis of(GuideLog log) {
        return new Look(log, Depth.WHOLE).analysis();
    }

    /** How much is asked of a record: when it was struck, what the air did, or all. */
    private enum Depth {
        STRUCK,
        AIR,
        WHOLE
    }

    /** The record while it is looked at. */
    private static final class Look {
        private final GuideLog log;
        private final double[] ra;
        private final double[] dec;
        private final Answering raAnswer;
        private final Answering decAnswer;
        private final List<Peak> periods;
        private final List<Excursion> excursions;

        Look(GuideLog log, Depth depth) {
            this.log = log;
            ra = log.guided() ? log.ra() : aboutMean(log.ra());
            dec = log.guided() ? log.dec() : aboutMean(log.dec());
            periods = depth == Depth.WHOLE
                    ? Periodogram.of(log.seconds(), ra, SHORTEST_PERIOD * log.cadenceSeconds())
                    : List.of();
            excursions = Excursion.of(
                    log,
                    Periodogram.without(log.seconds(), ra, periods),
                    Periodogram.without(log.seconds(), dec, List.of()));
            if (depth == Depth.STRUCK) {
                raAnswer = null;
                decAnswer = null;
                return;
            }
            boolean[] struck = struckOrAfter();
            raAnswer = Answering.of(log.ra(), log.raPulseMs(), log.guided(), struck);
            decAnswer = Answering.of(log.dec(), log.decPulseMs(), log.guided(), struck);
        }

        /** Exposures of an excursion, and the next few, in which the loop brings back what it had sent too much. */
        private boolean[] struckOrAfter() {
            boolean[] struck = new boolean[log.size()];
            double after = RETURN * log.cadenceSeconds();
            for (int i = 0; i < struck.length; i++) {
                double t = log.seconds()[i];
                struck[i] = excursions.stream().anyMatch(e -> t >= e.fromSeconds() && t <= e.untilSeconds() + after);
            }
            return struck;
        }

        GuideAnalysis analysis() {
            double[] off = new double[ra.length];
            for (int i = 0; i < off.length; i++) {
                off[i] = Math.hypot(ra[i], dec[i]);
            }
            Arrays.sort(off);
            List<Blame> blame = blame();
            double seeing = Math.hypot(raAnswer.airArcsec(), decAnswer.airArcsec());
            return new GuideAnalysis(
                    rms(ra),
                    rms(dec),
                    off[(int) Math.round(0.8 * (off.length - 1))],
                    off[off.length - 1],
                    seeing,
                    periods,
                    drift(),
                    blame,
                    excursions,
                    advice(blame, seeing));
        }

        private double drift() {
            return 60 * slope(decAnswer.open());
        }

        private double slope(double[] v) {
            return Line.through(log.seconds(), v).slope();
        }

        // ---- blame

        private List<Blame> blame() {
            double whole = rms(ra) * rms(ra) + rms(dec) * rms(dec);
            if (whole <= 0) {
                return List.of();
            }
            double struck = struck();
            double gears = periods.stream()
                    .mapToDouble(p -> p.amplitude() * p.amplitude() / 2)
                    .sum();
            double alignment = alignment();
            double fast = square(raAnswer.airArcsec()) + square(decAnswer.airArcsec());
            double control = control(raAnswer) + control(decAnswer);
            // What is left alike in both axes is the slow part of the air; what one has alone comes from that axis.
            double leftRa = left(ra, raAnswer, gears + struck / 2);
            double leftDec = left(dec, decAnswer, alignment + struck / 2);
            double slow = 2 * Math.min(leftRa, leftDec);
            double aloneRa = Math.max(0, leftRa - leftDec);
            double aloneDec = Math.max(0, leftDec - leftRa);
            boolean slack = hasSlack();
            double sum = struck + gears + alignment + fast + control + slow + aloneRa + aloneDec;
            List<Blame> all = new ArrayList<>(List.of(
                    new Blame(GuideCause.AIR, (fast + slow) / sum, airEvidence(slow)),
                    new Blame(GuideCause.GEARS, (gears + aloneRa) / sum, gearEvidence(aloneRa)),
                    new Blame(GuideCause.ALIGNMENT, alignment / sum, alignmentEvidence()),
                    new Blame(GuideCause.CONTROL, control / sum, controlEvidence()),
                    new Blame(GuideCause.BACKLASH, slack ? aloneDec / sum : 0, slackEvidence()),
                    new Blame(
                            GuideCause.WIND_OR_CABLE,
                            (struck + (slack ? 0 : aloneDec)) / sum,
                            struckEvidence(slack ? 0 : aloneDec))));
            all.removeIf(b -> b.share() < LEAST_SHARE);
            all.sort(Comparator.comparingDouble(Blame::share).reversed());
            return all;
        }

        /** Variance of an axis that its air, its loop and what is known of it leave. */
        private double left(double[] axis, Answering answer, double known) {
            return Math.max(0, square(rms(axis)) - square(answer.airArcsec()) - control(answer) - known);
        }

        /** Variance of the stretches in which something struck, above what is usual. */
        private double struck() {
            double usual = square(raAnswer.airArcsec()) + square(decAnswer.airArcsec());
            double sum = 0;
            double[] x = Periodogram.without(log.seconds(), ra, periods);
            double[] y = Periodogram.without(log.seconds(), dec, List.of());
            for (int i = 0; i < x.length; i++) {
                double t = log.seconds()[i];
                if (excursions.stream().anyMatch(e -> t >= e.fromSeconds() && t <= e.untilSeconds())) {
                    sum += Math.max(0, x[i] * x[i] + y[i] * y[i] - usual);
                }
            }
            return sum / x.length;
        }

        /** What a steady drift leaves: unguided the drift itself, guided the distance at which the loop holds against it. */
        private double alignment() {
            double span = 60 * log.minutes();
            if (log.guided()) {
                return square(Arrays.stream(dec).average().orElse(0));
            }
            return square(slope(dec) * span) / 12 + square(slope(ra) * span) / 12;
        }

        /** What the loop adds by following the air: g σ² / (2 − g) for a share g sent back of each displacement. */
        private double control(Answering axis) {
            double g = Math.min(1.9, axis.gain());
            return log.guided() ? g * square(axis.airArcsec()) / (2 - g) : 0;
        }

        /** Whether pulses that turn round move less than those that go on. */
        private boolean hasSlack() {
            if (!log.guided() || log.decPulseMs().isEmpty()) {
                return false;
            }
            double[] sent = log.decPulseMs().get();
            double[] turned = new double[3];
            double[] on = new double[3];
            double before = 0;
            for (int i = 0; i + 1 < sent.length; i++) {
                if (sent[i] == 0) {
                    continue;
                }
                double[] into = before != 0 && Math.signum(sent[i]) != Math.signum(before) ? turned : on;
                into[0] += (dec[i + 1] - dec[i]) * sent[i];
                into[1] += sent[i] * sent[i];
                into[2]++;
                before = sent[i];
            }
            return turned[2] >= FEWEST_REVERSALS
                    && on[2] >= FEWEST_REVERSALS
                    && Math.abs(turned[0] / turned[1]) < SLACK_ANSWER * Math.abs(on[0] / on[1]);
        }

        private String airEvidence(double slow) {
            return format(
                    "%.2f″ change from each exposure to the next, faster than a mount moves; %.2f″ slower, alike in both axes.",
                    Math.hypot(raAnswer.airArcsec(), decAnswer.airArcsec()), Math.sqrt(slow));
        }

        private String gearEvidence(double alone) {
            return periods.isEmpty()
                    ? format("%.2f″ in right ascension alone, without a period that stands out.", Math.sqrt(alone))
                    : format(
                            "%.1f″ to either side every %.0f s in right ascension%s.",
                            periods.get(0).amplitude(),
                            periods.get(0).periodSeconds(),
                            periods.size() == 1 ? "" : format(", and %d weaker periods", periods.size() - 1));
        }

        private String alignmentEvidence() {
            return log.guided()
                    ? format("It is held %.2f″ to one side in declination, as against a drift.", mean(dec))
                    : format("Declination drifts by %.1f″ a minute.", drift());
        }

        private String controlEvidence() {
            return format(
                    "%.0f %% of each displacement is sent back in right ascension, %.0f %% in declination; what the air did is sent with it.",
                    100 * raAnswer.gain(), 100 * decAnswer.gain());
        }

        private String slackEvidence() {
            return "Pulses that turn round move the star by less than half of what those move it that go on.";
        }

        private String struckEvidence(double alone) {
            if (excursions.isEmpty()) {
                return format("%.2f″ in declination alone, slower than the air.", Math.sqrt(alone));
            }
            double most =
                    excursions.stream().mapToDouble(Excursion::peakArcsec).max().orElseThrow();
            return excursions.size() == 1
                    ? format("Once it went astray, by %.1f″.", most)
                    : format("%d times it went astray, by up to %.1f″.", excursions.size(), most);
        }

        // ---- what to do

        private List<String> advice(List<Blame> blame, double seeing) {
            List<String> advice = new ArrayList<>();
            if (blame.isEmpty()) {
                return advice;
            }
            advice.add(format(
                    "%.0f %% of it is %s: %s",
                    100 * blame.get(0).share(),
                    blame.get(0).cause().words(),
                    remedy(blame.get(0).cause(), seeing)));
            if (log.guided() && Math.max(raAnswer.gain(), decAnswer.gain()) > HASTY) {
                advice.add(format(
                        "Corrections of %.0f %% swing: send back 50 to 70 %%.",
                        100 * Math.max(raAnswer.gain(), decAnswer.gain())));
            }
            if (blame.stream().anyMatch(b -> b.cause() == GuideCause.BACKLASH)
                    && blame.get(0).cause() != GuideCause.BACKLASH) {
                advice.add("Declination has slack: " + remedy(GuideCause.BACKLASH, seeing));
            }
            if (excursions.size() > 1 && blame.get(0).cause() != GuideCause.WIND_OR_CABLE) {
                advice.add(struckEvidence(0) + " Look at the subs of those minutes.");
            }
            return advice;
        }

        private String remedy(GuideCause cause, double seeing) {
            return switch (cause) {
                case AIR -> format(
                        "no setting takes that away. Leave displacements under %.1f″ alone, or expose the guide star longer.",
                        seeing / Math.sqrt(2));
                case GEARS -> log.guided()
                        ? "expose the guide star shorter"
                                + (periods.isEmpty()
                                        ? "."
                                        : format(
                                                ", or foresee the period of %.0f s.",
                                                periods.get(0).periodSeconds()))
                        : "a guider takes most of it away; without one, shorter subs.";
                case ALIGNMENT -> "align the polar axis again.";
                case WIND_OR_CABLE -> "look for what pulls or strikes: cables, wind on the tube, a loose part.";
                case CONTROL -> "send back less of each displacement: the loop follows the air.";
                case BACKLASH -> "tip the balance a little to one side in declination, or guide there one way only.";
            };
        }
    }

    private static double square(double v) {
        return v * v;
    }

    private static double mean(double[] v) {
        return Arrays.stream(v).average().orElse(0);
    }

    private static double rms(double[] v) {
        return Math.sqrt(Arrays.stream(v).map(a -> a * a).average().orElse(0));
    }

    private static double[] aboutMean(double[] v) {
        double mean = mean(v);
        return Arrays.stream(v).map(a -> a - mean).toArray();
    }

    private static String format(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
