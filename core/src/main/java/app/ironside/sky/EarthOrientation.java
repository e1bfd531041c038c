package app.ironside.sky;

/**
 * How the Earth really turns, from the bulletins of the IERS.
 *
 * @param ut1MinusUtcSeconds within ±0.9 s
 * @param xPoleArcsec polar motion toward Greenwich
 * @param yPoleArcsec polar motion toward 90° west
 */
public record EarthOrientation(double ut1MinusUtcSeconds, double xPoleArcsec, double yPoleArcsec) {
    /** Without a bulletin: wrong by at most 14″ in hour angle, which the first plate solution takes up. */
    public static final EarthOrientation UNKNOWN = new EarthOrientation(0, 0, 0);
}
