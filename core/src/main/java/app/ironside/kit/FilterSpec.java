package app.ironside.kit;

import app.ironside.Check;

/**
 * A filter in its slot.
 *
 * @param name as written to every file, for example "Ha"
 * @param bandwidthNm of the passband
 * @param centreNm of the passband
 * @param focusOffsetSteps where its best focus lies relative to the first filter's; 0 if unknown
 */
public record FilterSpec(String name, double bandwidthNm, double centreNm, int focusOffsetSteps) {
    public FilterSpec {
        Check.name("the name of a filter", name);
        Check.positive("bandwidthNm", bandwidthNm);
        Check.inRange("centreNm", centreNm, 300, 1100);
    }

    /** Whether it passes little more than emission lines. */
    public boolean narrow() {
        return bandwidthNm < 20;
    }
}
