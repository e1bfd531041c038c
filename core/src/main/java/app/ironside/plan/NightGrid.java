package app.ironside.plan;

import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SkyBrightness;
import app.ironside.sky.SunAndMoon;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A stretch of time cut into even pieces, with everything about each piece that does not depend on the target, so that thousands of
 * targets can be weighed against it in a moment.
 *
 * <p>A direction's altitude comes from one scalar product with the zenith among the catalogue's axes. What differs between directions
 * (aberration of 20″) is left out: altitudes are good to 0.01° above 10°. Immutable.
 */
public final class NightGrid {
    private static final int SKYLINE_CELLS = 720;
    private static final double SIDEREAL_DEG_PER_HOUR = 15.041_067;
    private static final Duration MOON_NODES = Duration.ofMinutes(90);

    private final Site site;
    private final Duration step;
    private final List<Instant> middles;
    private final double[][] zenith;
    private final double[][] north;
    private final double[][] east;
    private final double[][] moon;
    private final double[] moonAltitudeDeg;
    private final double[] moonPhaseDeg;
    private final double[] clear;
    private final double[] skyline = new double[SKYLINE_CELLS];
    private final double lowestSkylineDeg;
    private final double highestSkylineDeg;
    private final double zenithNanoLamberts;

    /**
     * A direction at one piece of the grid.
     *
     * @param altitudeDeg apparent
     * @param up whether it is above skyline and margin
     */
    public record Seen(double altitudeDeg, boolean up) {}

    /** Apparent altitude by the sine of the true one, which needs no arcsine; the highest are left to the exact way. */
    private static final EvenTable ALTITUDE =
            new EvenTable(-0.1, 0.99, 16_000, sine -> refracted(Math.toDegrees(Math.asin(sine))));

    private static final EvenTable AIRMASS = new EvenTable(0, 90, 3600, SkyBrightness::airmass);

    /** The moonless sky by altitude, over that of the zenith. */
    private static final EvenTable DARK_SKY = new EvenTable(
            0,
            90,
            3600,
            altitude -> SkyBrightness.darkSkyNanoLamberts(21, altitude) / SkyBrightness.darkSkyNanoLamberts(21, 90));

    /**
     * What of the sky's noise does not come from the sky: read noise and dark current of a sub, as a multiple of the dark zenith's
     * light through the filter. 0 where the sky is all.
     *
     * @param extinctionMag through the filter, magnitudes per airmass
     * @param moonShare how much of the Moon's light the filter sees compared with the rest of the sky; 1 unless measured
     */
    public record Light(double floor, double extinctionMag, double moonShare) {
        /** Broad visual light with no noise but the sky's. */
        public static final Light VISUAL = new Light(0, SkyBrightness.EXTINCTION_MAG_PER_AIRMASS, 1);
    }

    /**
     * @param step length of a piece; the last may reach beyond the span
     */
    public NightGrid(Observer observer, Interval span, Duration step, CloudForecast clouds) {
        this.site = observer.site();
        this.step = step;
        this.middles = new ArrayList<>();
        for (Instant t = span.from().plus(step.dividedBy(2)); t.isBefore(span.until()); t = t.plus(step)) {
            middles.add(t);
        }
        int n = middles.size();
        zenith = new double[n][];
        north = new double[n][];
        east = new double[n][];
        moon = new double[n][];
        moonAltitudeDeg = new double[n];
        moonPhaseDeg = new double[n];
        clear = new double[n];
        if (n > 0) {
            turnSky(observer.airless());
            followMoon(observer);
        }
        for (int i = 0; i < n; i++) {
            clear[i] = 1 - clouds.coverAt(middles.get(i));
        }
        for (int cell = 0; cell < SKYLINE_CELLS; cell++) {
            skyline[cell] = site.horizon().altitudeDeg(cell * 360.0 / SKYLINE_CELLS) + site.marginDeg();
        }
        lowestSkylineDeg = Arrays.stream(skyline).min().orElseThrow();
        highestSkylineDeg = Arrays.stream(skyline).max().orElseThrow();
        zenithNanoLamberts = SkyBrightness.darkSkyNanoLamberts(site.skyMagPerArcsec2(), 90);
    }

    /** The exact chain tells zenith and north once; from there the Earth turns about its pole, which stands still for a night. */
    private void turnSky(Observer airless) {
        Instant start = middles.get(0);
        double[] up = direction(airless, new Horizontal(0, 90), start);
        double[] level = direction(airless, new Horizontal(0, 0), start);
        // Each direction has its own aberration; making them square again shares it out.
        level = Vectors.unit(Vectors.minus(level, scaled(up, Vectors.dot(level, up))));
        double latitude = Math.toRadians(site.latDeg());
        double[] pole = Vectors.unit(Vectors.minus(scaled(up, Math.sin(latitude)), scaled(level, -Math.cos(latitude))));
        for (int i = 0; i < middles.size(); i++) {
            double hours = Duration.between(start, middles.get(i)).toMillis() / 3_600_000.0;
            double angle = Math.toRadians(hours * SIDEREAL_DEG_PER_HOUR);
            zenith[i] = Vectors.turn(up, pole, angle);
            north[i] = Vectors.turn(level, pole, angle);
            east[i] = Vectors.cross(north[i], zenith[i]);
        }
    }

    /** The Moon at nodes and straight between them: its path bends by less than 0.02° in so short a time. */
    private void followMoon(Observer observer) {
        SunAndMoon bodies = new SunAndMoon(observer);
        int every = (int) Math.max(1, MOON_NODES.toMillis() / step.toMillis());
        double[] before = null;
        int at = 0;
        for (int node = 0; at < middles.size(); node += every) {
            Instant t = edge(node).plus(step.dividedBy(2));
            double[] here = direction(observer, bodies.moon(t), t);
            double phase = bodies.moonPhaseAngleDeg(t);
            while (at <= node && at < middles.size()) {
                double share = before == null ? 1 : 1 - (double) (node - at) / every;
                moon[at] = before == null
                        ? here
                        : Vectors.unit(Vectors.minus(scaled(here, share), scaled(before, share - 1)));
                moonAltitudeDeg[at] = Math.toDegrees(Math.asin(Vectors.dot(zenith[at], moon[at])));
                moonPhaseDeg[at] = phase;
                at++;
            }
            before = here;
        }
    }

    private static double[] direction(Observer observer, Horizontal seen, Instant time) {
        Equatorial star = observer.catalogue(seen, time);
        return Vectors.of(star.raDeg(), star.decDeg());
    }

    private static double[] scaled(double[] v, double by) {
        return new double[] {v[0] * by, v[1] * by, v[2] * by};
    }

    Site site() {
        return site;
    }

    public int size() {
        return middles.size();
    }

    public Duration step() {
        return step;
    }

    /** Hours of one piece. */
    public double stepHours() {
        return step.toMillis() / 3_600_000.0;
    }

    /** The middle of a piece. */
    public Instant time(int i) {
        return middles.get(i);
    }

    /** When a piece begins; {@code size()} gives the end of the last. */
    public Instant edge(int i) {
        return middles.get(0).minus(step.dividedBy(2)).plus(step.multipliedBy(i));
    }

    public boolean moonIsUp(int i) {
        return moonAltitudeDeg[i] > 0;
    }

    /** Share of the sky that is clear by the forecast, 0 to 1. */
    public double clear(int i) {
        return clear[i];
    }

    /** Sine of the true altitude of a unit vector in catalogue axes: cheap, for sorting out what is never up. */
    double sinAltitude(int i, double[] direction) {
        return Vectors.dot(zenith[i], direction);
    }

    /** Where a unit vector in catalogue axes is seen. */
    public Seen seen(int i, double[] direction) {
        double sine = sinAltitude(i, direction);
        double altitude = ALTITUDE.holds(sine)
                ? ALTITUDE.at(sine)
                : refracted(Math.toDegrees(Math.asin(Math.max(-1, Math.min(1, sine)))));
        return new Seen(
                altitude,
                altitude >= highestSkylineDeg
                        || altitude >= lowestSkylineDeg && altitude >= skyline[cell(azimuthDeg(i, direction))]);
    }

    private double azimuthDeg(int i, double[] direction) {
        return Angles.wrap360(
                Math.toDegrees(Math.atan2(Vectors.dot(east[i], direction), Vectors.dot(north[i], direction))));
    }

    private static int cell(double azimuthDeg) {
        return (int) (azimuthDeg * SKYLINE_CELLS / 360 + 0.5) % SKYLINE_CELLS;
    }

    /**
     * Refraction in a mild night at the elevation of most sites.
     *
     * @see "Saemundsson 1986, Sky and Telescope 72, 70 (Meeus 1998, equation 16.4)"
     */
    private static double refracted(double trueAltitudeDeg) {
        if (trueAltitudeDeg < -2) {
            return trueAltitudeDeg;
        }
        double argument = Math.toRadians(trueAltitudeDeg + 10.3 / (trueAltitudeDeg + 5.11));
        return trueAltitudeDeg + 1.02 / 60 / Math.tan(argument) * 0.93;
    }

    /** Angle between the Moon and a unit vector in catalogue axes, degrees. */
    public double moonSeparationDeg(int i, double[] direction) {
        return Math.toDegrees(Vectors.angle(moon[i], direction));
    }

    /**
     * What a minute in this piece is worth against one on the same target at the zenith of the same site with no Moon, cloud included.
     *
     * @see EffectiveTime
     */
    public double weight(int i, Seen seen, double[] direction, Light light) {
        if (seen.altitudeDeg() <= 0) {
            return 0;
        }
        double altitude = Math.min(90, seen.altitudeDeg());
        double dark = DARK_SKY.at(altitude);
        double dome = site.dome()
                .map(d -> d.share(new Horizontal(azimuthDeg(i, direction), altitude)))
                .orElse(0.0);
        double moonlight = moonAltitudeDeg[i] <= 0
                ? 0
                : light.moonShare()
                        * SkyBrightness.moonNanoLamberts(
                                moonPhaseDeg[i], moonSeparationDeg(i, direction), moonAltitudeDeg[i], altitude);
        double sky = dark * (1 + dome) + moonlight / zenithNanoLamberts;
        return clear[i] * EffectiveTime.weight(AIRMASS.at(altitude), light.extinctionMag(), sky, light.floor());
    }

    /** How much brighter the Moon makes the sky there, magnitudes. */
    public double moonBrighteningMag(int i, Seen seen, double[] direction) {
        if (moonAltitudeDeg[i] <= 0 || seen.altitudeDeg() <= 0) {
            return 0;
        }
        double dark = SkyBrightness.darkSkyNanoLamberts(site.skyMagPerArcsec2(), seen.altitudeDeg());
        double moonlight = SkyBrightness.moonNanoLamberts(
                moonPhaseDeg[i], moonSeparationDeg(i, direction), moonAltitudeDeg[i], seen.altitudeDeg());
        return 2.5 * Math.log10(1 + moonlight / dark);
    }

    /** As above for a place among the stars; 0 where it is below the horizon. */
    public double moonBrighteningMag(int i, Equatorial place) {
        double[] direction = Vectors.of(place.raDeg(), place.decDeg());
        return moonBrighteningMag(i, seen(i, direction), direction);
    }

    /** The piece that holds a moment, or the nearest to it. */
    public int at(Instant time) {
        long piece = Math.floorDiv(Duration.between(edge(0), time).toMillis(), step.toMillis());
        return (int) Math.max(0, Math.min(size() - 1, piece));
    }
}
