package app.ironside.sky;

import java.time.Instant;
import org.jastronomy.jsofa.JSOFA;

/**
 * The Sun and the Moon as seen from a site.
 *
 * <p>The Sun follows SOFA's iauEpv00 (a few mas). The Moon follows SOFA's iauMoon98, Meeus' abridgement of ELP 2000-82,
 * which claims 10″ in longitude and 4″ in latitude.
 */
public final class SunAndMoon {
    /** Mean radius of the Moon, km (IAU Working Group on Cartographic Coordinates 2015). */
    private static final double MOON_RADIUS_KM = 1737.4;

    private static final double LIGHT_SECONDS_PER_AU = 499.004_784;

    /** Where the Moon appeared at a time: whoever asks for its place asks for its phase as well. */
    private record Moon(Instant time, double[] apparentAu) {}

    private final Observer observer;
    private volatile Moon last = new Moon(Instant.MIN, new double[0]);

    public SunAndMoon(Observer observer) {
        this.observer = observer;
    }

    /** Where the Sun's centre is seen. */
    public Horizontal sun(Instant time) {
        return observer.observedBody(sunApparentAu(time), time);
    }

    /** Where the Moon's centre is seen, parallax included. */
    public Horizontal moon(Instant time) {
        return observer.observedBody(moonApparentAu(time), time);
    }

    /** The Moon's place among the stars from here (close enough for distances to a target; 1″ of aberration left in). */
    public Equatorial moonAmongStars(Instant time) {
        return observer.catalogue(moon(time), time);
    }

    /** The Moon's angular radius from the Earth's centre, degrees. */
    public double moonRadiusDeg(Instant time) {
        double distanceKm = Vectors.length(moonApparentAu(time)) * JSOFA.DAU / 1000;
        return Math.toDegrees(Math.asin(MOON_RADIUS_KM / distanceKm));
    }

    /**
     * Phase angle of the Moon, Sun-Moon-Earth: 0° full, 180° new.
     *
     * @see "Meeus 1998, Astronomical Algorithms, equation 48.3"
     */
    public double moonPhaseAngleDeg(Instant time) {
        double[] moon = moonApparentAu(time);
        double[] sun = sunApparentAu(time);
        return Math.toDegrees(Vectors.angle(new double[] {-moon[0], -moon[1], -moon[2]}, Vectors.minus(sun, moon)));
    }

    /** Share of the Moon's disc that is lit, 0 to 1, from the Earth's centre (Meeus 1998, equation 48.1). */
    public double moonIlluminatedFraction(Instant time) {
        return (1 + Math.cos(Math.toRadians(moonPhaseAngleDeg(time)))) / 2;
    }

    private static double[] sunApparentAu(Instant time) {
        EarthMotion motion = EarthMotion.at(time);
        double[] heliocentric = motion.heliocentric()[0];
        double[] velocity = motion.barycentric()[1];
        double[] sun = {-heliocentric[0], -heliocentric[1], -heliocentric[2]};
        double distance = Vectors.length(sun);
        double auPerDayToC = LIGHT_SECONDS_PER_AU / 86_400;
        double[] v = {velocity[0] * auPerDayToC, velocity[1] * auPerDayToC, velocity[2] * auPerDayToC};
        double[] direction = JSOFA.jauAb(Vectors.unit(sun), v, distance, Math.sqrt(1 - Vectors.dot(v, v)));
        return new double[] {direction[0] * distance, direction[1] * distance, direction[2] * distance};
    }

    /**
     * The Moon where it was when its light left it. Aberration need not be added: the Earth and the Moon share the orbital
     * velocity, so light time and stellar aberration cancel but for the Moon's own motion.
     */
    private double[] moonApparentAu(Instant time) {
        Moon known = last;
        if (!known.time().equals(time)) {
            known = new Moon(time, apparentAu(time));
            last = known;
        }
        return known.apparentAu();
    }

    private static double[] apparentAu(Instant time) {
        SkyTime t = SkyTime.of(time);
        double[] near = JSOFA.jauMoon98(t.tt1(), t.tt2())[0];
        double lightDays = Vectors.length(near) * LIGHT_SECONDS_PER_AU / 86_400;
        return JSOFA.jauMoon98(t.tt1(), t.tt2() - lightDays)[0];
    }
}
