package app.ironside.journal;

import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideStatistics;
import app.ironside.image.Statistics;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import org.hipparchus.stat.descriptive.moment.StandardDeviation;

/**
 * How a stretch was guided. Without a sample there are no figures: a lost star is no perfect one.
 *
 * @param samples exposures that showed the star, where the journal tells it
 * @param lost exposures that did not
 * @param about the lock position, if the star was seen
 * @param effort what it took to hold it there, where the journal tells it
 */
public record GuideFigures(OptionalInt samples, int lost, Optional<Spread> about, Optional<Effort> effort) {
    /** Nothing is known of it. */
    public static final GuideFigures UNKNOWN =
            new GuideFigures(OptionalInt.empty(), 0, Optional.empty(), Optional.empty());

    private static final int FEWEST_FOR_EFFORT = 4;

    /**
     * About the lock position, arcseconds on the sky.
     *
     * @param rmsTotalArcsec both axes added in squares
     * @param p80Arcsec four fifths of the exposures lie within, where the journal tells it
     */
    public record Spread(double rmsRaArcsec, double rmsDecArcsec, double rmsTotalArcsec, OptionalDouble p80Arcsec) {}

    /**
     * What a stretch of guiding took, and how bright its star was.
     *
     * @param starSnr median signal-to-noise of the guide star
     * @param raPulseMs mean correction of an exposure, positive west
     * @param decPulseMs mean correction of an exposure, positive north
     * @param shakeArcsec how far the star moves from one exposure to the next, root mean square of both axes: the drives' slow errors do not
     *     show in it
     * @param jumpRaArcsec the longest of these ways, along right ascension
     * @param jumpDecArcsec the same, along declination
     * @param raSwingArcsec how far the star strays in right ascension about where it stood on average: gears, not a steady pull
     * @param seconds from one exposure to the next
     */
    public record Effort(
            double starSnr,
            double raPulseMs,
            double decPulseMs,
            double shakeArcsec,
            double jumpRaArcsec,
            double jumpDecArcsec,
            double raSwingArcsec,
            double seconds) {
        /** The longest way from one exposure to the next. */
        public double jumpArcsec() {
            return Math.hypot(jumpRaArcsec, jumpDecArcsec);
        }

        private static Optional<Effort> of(List<GuideSample> samples) {
            if (samples.size() < FEWEST_FOR_EFFORT) {
                return Optional.empty();
            }
            double squares = 0;
            int jump = 1;
            double longest = 0;
            for (int i = 1; i < samples.size(); i++) {
                GuideSample a = samples.get(i - 1);
                GuideSample b = samples.get(i);
                double way = Math.hypot(b.raArcsec() - a.raArcsec(), b.decArcsec() - a.decArcsec());
                squares += way * way;
                if (way > longest) {
                    longest = way;
                    jump = i;
                }
            }
            double span = Duration.between(
                                    samples.get(0).time(),
                                    samples.get(samples.size() - 1).time())
                            .toMillis()
                    / 1000.0;
            return Optional.of(new Effort(
                    Statistics.median(
                            samples.stream().mapToDouble(GuideSample::snr).toArray()),
                    samples.stream()
                            .mapToDouble(GuideSample::raPulseMs)
                            .average()
                            .orElseThrow(),
                    samples.stream()
                            .mapToDouble(GuideSample::decPulseMs)
                            .average()
                            .orElseThrow(),
                    Math.sqrt(squares / (samples.size() - 1)),
                    samples.get(jump).raArcsec() - samples.get(jump - 1).raArcsec(),
                    samples.get(jump).decArcsec() - samples.get(jump - 1).decArcsec(),
                    new StandardDeviation()
                            .evaluate(samples.stream()
                                    .mapToDouble(GuideSample::raArcsec)
                                    .toArray()),
                    span / (samples.size() - 1)));
        }
    }

    /** Of the samples of a stretch. */
    public static GuideFigures of(List<GuideSample> samples, int lost) {
        if (samples.isEmpty()) {
            return new GuideFigures(OptionalInt.of(0), lost, Optional.empty(), Optional.empty());
        }
        GuideStatistics guide = GuideStatistics.of(samples);
        return new GuideFigures(
                OptionalInt.of(samples.size()),
                lost,
                Optional.of(new Spread(
                        guide.rmsRaArcsec(),
                        guide.rmsDecArcsec(),
                        guide.rmsTotalArcsec(),
                        OptionalDouble.of(guide.p80Arcsec()))),
                Effort.of(samples));
    }

    public OptionalDouble rmsTotalArcsec() {
        return about.map(s -> OptionalDouble.of(s.rmsTotalArcsec())).orElse(OptionalDouble.empty());
    }
}
