package app.ironside.kit;

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
 */
public record FilterSpec(
        String name,
        double bandwidthNm,
        double centreNm,
        Optional<Integer> focusOffsetSteps,
        Optional<Double> focusSeconds,
        Optional<Integer> focusBinning) {
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
    }

    /** A filter whose focus was measured, with frames for focus as usual. */
    public FilterSpec(String name, double bandwidthNm, double centreNm, int focusOffsetSteps) {
        this(name, bandwidthNm, centreNm, Optional.of(focusOffsetSteps), Optional.empty(), Optional.empty());
    }

    public FilterSpec withFocusOffset(Optional<Integer> steps) {
        return new FilterSpec(name, bandwidthNm, centreNm, steps, focusSeconds, focusBinning);
    }

    /** Whether it passes little more than emission lines. */
    public boolean narrow() {
        return bandwidthNm < 20;
    }

    /** The offset as far as it is known: 0 where it is not. */
    public int knownOffsetSteps() {
        return focusOffsetSteps.orElse(0);
    }

    /** Exposure of a frame for focus, seconds: as told, else by the bandwidth, between a broad one's and three nanometres'. */
    public double focusExposureSeconds() {
        return focusSeconds.orElseGet(() -> narrow()
                ? Math.min(
                        LONGEST_SECONDS, Math.max(BROAD_SECONDS, NARROW_SECONDS * Math.sqrt(NARROW_NM / bandwidthNm)))
                : BROAD_SECONDS);
    }

    public int focusFrameBinning() {
        return focusBinning.orElse(1);
    }
}
