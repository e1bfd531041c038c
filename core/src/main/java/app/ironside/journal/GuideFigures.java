package app.ironside.journal;

import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideStatistics;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/**
 * How a stretch was guided. Without a sample there are no figures: a lost star is no perfect one.
 *
 * @param samples exposures that showed the star, where the journal tells it
 * @param lost exposures that did not
 * @param about the lock position, if the star was seen
 */
public record GuideFigures(OptionalInt samples, int lost, Optional<Spread> about) {
    /** Nothing is known of it. */
    public static final GuideFigures UNKNOWN = new GuideFigures(OptionalInt.empty(), 0, Optional.empty());

    /**
     * About the lock position, arcseconds on the sky.
     *
     * @param rmsTotalArcsec both axes added in squares
     * @param p80Arcsec four fifths of the exposures lie within, where the journal tells it
     */
    public record Spread(double rmsRaArcsec, double rmsDecArcsec, double rmsTotalArcsec, OptionalDouble p80Arcsec) {}

    /** Of the samples of a stretch. */
    public static GuideFigures of(List<GuideSample> samples, int lost) {
        if (samples.isEmpty()) {
            return new GuideFigures(OptionalInt.of(0), lost, Optional.empty());
        }
        GuideStatistics guide = GuideStatistics.of(samples);
        return new GuideFigures(
                OptionalInt.of(samples.size()),
                lost,
                Optional.of(new Spread(
                        guide.rmsRaArcsec(),
                        guide.rmsDecArcsec(),
                        guide.rmsTotalArcsec(),
                        OptionalDouble.of(guide.p80Arcsec()))));
    }

    public OptionalDouble rmsTotalArcsec() {
        return about.map(s -> OptionalDouble.of(s.rmsTotalArcsec())).orElse(OptionalDouble.empty());
    }
}
