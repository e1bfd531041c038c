package app.ironside.guide;

import java.time.Instant;

/**
 * One guide exposure.
 *
 * @param raArcsec displacement along right ascension on the sky, positive as after a pulse west
 * @param decArcsec displacement along declination, positive as after a pulse north
 * @param raPulseMs correction sent, positive west
 * @param decPulseMs correction sent, positive north
 */
public record GuideSample(
        Instant time, double raArcsec, double decArcsec, double raPulseMs, double decPulseMs, double snr) {}
