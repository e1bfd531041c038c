package app.ironside.polar;

import app.ironside.sky.Equatorial;
import java.time.Instant;

/**
 * What one exposure saw.
 *
 * @param centre of the frame, J2000
 * @param middle of the exposure
 */
public record AxisSight(Equatorial centre, Instant middle) {}
