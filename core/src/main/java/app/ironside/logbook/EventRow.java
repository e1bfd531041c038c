package app.ironside.logbook;

import java.time.Instant;

/**
 * An event as it is written.
 *
 * @param version of the facts' shape
 * @param facts JSON
 */
public record EventRow(Instant time, String kind, int version, String text, String facts) {}
