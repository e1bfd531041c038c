package app.ironside.kit;

import app.ironside.BadInputException;
import app.ironside.Check;
import java.util.Optional;

/**
 * A filter in its slot.
 *
 * @param name as written to every file, for example "Ha"
 * @param bandwidthNm of the passband
 * @param centreNm of the passband
 * @param focusOffsetSteps where its best focus lies relative to the first filter's; empty if nobody has measured it, which is not 0
 * @param focusSeconds exposure of frames for focus; empty for the usual, longer the narrower the filter is
 * @param focusBinning of these frames; empty for 1
 * @param secondBandwidthNm of the other passband of a filter that has two; empty for as wide as the first
 * @param secondCentreNm of that passband, as for hydrogen and oxygen at once before a colour sensor; empty for a filter that has one
 */
public record FilterSpec(
        String name,
        double bandwidthNm,
        double centreNm,
        Optional<Integer> focusOffsetSteps,
        Optional<Double> focusSeconds,
        Optional<Integer> focusBinning,
        Optional<Double> secondBandwidthNm,
        Optional<Double> secondCentreNm) {
    private static final double NARROW_BELOW_NM = 20;
    private static final double BROAD_SECONDS = 6;

    /** Of a filter of {@link #NARROW_NM}, growing as less light comes through (common practice: 25 s for one of 3 nm). */
    private static final double NARROW_SECONDS = 25;

    private static final double NARROW_NM = 3;

    private static final double LONGEST_SECONDS = 60;

    public FilterSpec {
        Check.name("the name of a filter", name);
        Check.positive("bandwidthNm", bandwidthNm);
        Check.inRange("centreNm", centreNm, 300, 1100);
        focusSeconds.ifPresent(s -> Check.inRange("focusSeconds", s, 0.1, 300));
        focusBinning.ifPresent(b -> Check.inRange("focusBinning", b, 1, 4));
        secondBandwidthNm.ifPresent(w -> Check.positive("secondBandwidthNm", w));
        secondCentreNm.ifPresent(c -> Check.inRange("secondCentreNm", c, 300, 1100));
        if (secondBandwidthNm.isPresent() && secondCentreNm.isEmpty()) {
            throw new BadInputException(
                    "filter " + name, "its second passband has a width and no middle", "secondCentreNm first");
        }
    }

    /** A filter whose focus was measured, with frames for focus as usual. */
    public FilterSpec(String name, double bandwidthNm, double centreNm, int focusOffsetSteps) {
        this(
                name,
                bandwidthNm,
                centreNm,
                Optional.of(focusOffsetSteps),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    public FilterSpec withFocusOffset(Optional<Integer> steps) {
        return new FilterSpec(
                name, bandwidthNm, centreNm, steps, focusSeconds, focusBinning, secondBandwidthNm, secondCentreNm);
    }

    /** Whether it passes little more than emission lines, each of its bands by itself. */
    public boolean narrow() {
        return bandwidthNm < NARROW_BELOW_NM && secondNm() < NARROW_BELOW_NM;
    }

    /** What it passes in all, nanometres. */
    public double passNm() {
        return bandwidthNm + secondNm();
    }

    /** The middle of what it passes, nanometres: of two bands the mean by their widths. */
    public double meanNm() {
        return (centreNm * bandwidthNm + secondCentreNm.orElse(0.0) * secondNm()) / passNm();
    }

    /** Middle of its bluest band, nanometres. */
    public double bluestNm() {
        return Math.min(centreNm, secondCentreNm.orElse(centreNm));
    }

    /** Whether a line passes. */
    public boolean passes(double lineNm) {
        return Math.abs(centreNm - lineNm) <= bandwidthNm / 2
                || secondCentreNm.isPresent() && Math.abs(secondCentreNm.get() - lineNm) <= secondNm() / 2;
    }

    private double secondNm() {
        return secondCentreNm.isEmpty() ? 0 : secondBandwidthNm.orElse(bandwidthNm);
    }

    /** The offset as far as it is known: 0 where it is not. */
    public int knownOffsetSteps() {
        return focusOffsetSteps.orElse(0);
    }

    /** Exposure of a frame for focus, seconds: as told, else by the bandwidth, between a broad one's and three nanometres'. */
    public double focusExposureSeconds() {
        return focusSeconds.orElseGet(() -> narrow()
                ? Math.min(LONGEST_SECONDS, Math.max(BROAD_SECONDS, NARROW_SECONDS * Math.sqrt(NARROW_NM / passNm())))
                : BROAD_SECONDS);
    }

    public int focusFrameBinning() {
        return focusBinning.orElse(1);
    }
}
