package app.ironside.sky;

import java.time.Instant;

/**
 * A star of a catalogue.
 *
 * @param name designation, for example "HIP 8832"
 * @param position at J2000
 * @param magnitude V
 * @param colourBv B−V; 0.6, that of the Sun, where the catalogue has none
 * @param motionRaMasPerYear proper motion eastward, cos δ included; 0 where the catalogue has none
 * @param motionDecMasPerYear proper motion northward
 */
public record CatalogueStar(
        String name,
        Equatorial position,
        double magnitude,
        double colourBv,
        double motionRaMasPerYear,
        double motionDecMasPerYear) {
    private static final double MAS_PER_DEGREE = 3.6e6;
    private static final double SECONDS_PER_JULIAN_YEAR = 365.25 * 86_400;
    private static final Instant J2000 = Instant.parse("2000-01-01T12:00:00Z");

    /** A star whose motion is not known. */
    public CatalogueStar(String name, Equatorial position, double magnitude, double colourBv) {
        this(name, position, magnitude, colourBv, 0, 0);
    }

    /** The year by which motions count, to within a minute: 2000 at noon of 1 January. */
    public static double julianYear(Instant time) {
        return 2000 + (time.getEpochSecond() - J2000.getEpochSecond()) / SECONDS_PER_JULIAN_YEAR;
    }

    /** Where it stands in a Julian year, on the axes of J2000: linear motion, good to a few mas a century (space motion left out). */
    public Equatorial positionAt(double julianYear) {
        if (motionRaMasPerYear == 0 && motionDecMasPerYear == 0) {
            return position;
        }
        double years = julianYear - 2000;
        double east = motionRaMasPerYear * years / MAS_PER_DEGREE;
        double north = motionDecMasPerYear * years / MAS_PER_DEGREE;
        return new TangentPlane(position).unproject(east, north);
    }
}
