package app.ironside.sky;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jastronomy.jsofa.JSOFA;
import org.jastronomy.jsofa.JSOFAException;

/**
 * Turns catalogue directions into what is seen from a site at an instant, and back: precession, nutation, aberration,
 * light deflection, Earth rotation, diurnal aberration and refraction, through SOFA's IAU 2006/2000A chain (iauApco13).
 *
 * <p>The slow part of the chain is computed once for each ten minutes, the pole itself more rarely ({@link EarthPole}), and only the Earth
 * is turned in between (iauAper13), which costs less than 0.1″. Refraction is good to about 0.1″ above 15° and 1″ above 5° altitude. Thread-safe.
 */
public final class Observer {
    private static final long BUCKET_SECONDS = 600;

    /** Two days: whoever walks through a night more than once finds it as it was left. */
    private static final int BUCKETS_KEPT = 288;

    private final Site site;
    private final Atmosphere atmosphere;
    private final EarthOrientation earth;
    private final Map<Long, JSOFA.Astrom> buckets = new LinkedHashMap<>();

    public Observer(Site site, Atmosphere atmosphere) {
        this(site, atmosphere, EarthOrientation.UNKNOWN);
    }

    public Observer(Site site, Atmosphere atmosphere, EarthOrientation earth) {
        this.site = site;
        this.atmosphere = atmosphere;
        this.earth = earth;
    }

    /** An observer at a site in the standard atmosphere of its elevation. */
    public static Observer at(Site site) {
        return new Observer(site, Atmosphere.standardAt(site.elevationM()));
    }

    /** The same place without air. */
    public Observer airless() {
        return new Observer(site, Atmosphere.NONE, earth);
    }

    public Site site() {
        return site;
    }

    /** Where a star of the catalogue is seen, refraction included (unless the atmosphere is {@link Atmosphere#NONE}). */
    public synchronized Horizontal observed(Equatorial star, Instant time) {
        JSOFA.Astrom astrom = astrom(time);
        JSOFA.SphericalCoordinate cirs =
                JSOFA.jauAtciqz(Math.toRadians(star.raDeg()), Math.toRadians(star.decDeg()), astrom);
        return horizontal(JSOFA.jauAtioq(cirs.alpha, cirs.delta, astrom));
    }

    /** The catalogue direction that is seen at {@code seen}: the inverse of {@link #observed}. */
    public synchronized Equatorial catalogue(Horizontal seen, Instant time) {
        JSOFA.Astrom astrom = astrom(time);
        JSOFA.SphericalCoordinate cirs =
                JSOFA.jauAtoiq("A", Math.toRadians(seen.azimuthDeg()), Math.toRadians(90 - seen.altitudeDeg()), astrom);
        JSOFA.SphericalCoordinate icrs = JSOFA.jauAticq(cirs.alpha, cirs.delta, astrom);
        return new Equatorial(Angles.wrap360(Math.toDegrees(icrs.alpha)), Math.toDegrees(icrs.delta));
    }

    /** Apparent hour angle without refraction, west positive, −180 to 180°. */
    public synchronized double hourAngleDeg(Equatorial star, Instant time) {
        JSOFA.Astrom astrom = astrom(time);
        JSOFA.SphericalCoordinate cirs =
                JSOFA.jauAtciqz(Math.toRadians(star.raDeg()), Math.toRadians(star.decDeg()), astrom);
        return Angles.wrap180(Math.toDegrees(astrom.eral - cirs.alpha));
    }

    /** Local apparent sidereal time, 0 up to 360°. */
    public synchronized double siderealTimeDeg(Instant time) {
        SkyTime t = SkyTime.of(time);
        double gast = rotationRad(t) - EarthPole.at(time).originsRad();
        return Angles.wrap360(Math.toDegrees(gast) + site.lonDeg());
    }

    /**
     * Where a body of the solar system is seen.
     *
     * @param geocentricAu direction and distance from the Earth's centre, GCRS axes, au, already as it appears
     */
    synchronized Horizontal observedBody(double[] geocentricAu, Instant time) {
        JSOFA.Astrom astrom = astrom(time);
        double[] cirs = JSOFA.jauRxp(astrom.bpn, geocentricAu);
        double[] here = placeAu(time);
        JSOFA.SphericalCoordinate direction = JSOFA.jauC2s(Vectors.minus(cirs, here));
        return horizontal(JSOFA.jauAtioq(direction.alpha, direction.delta, astrom));
    }

    /** The site relative to the Earth's centre in CIRS axes, au. */
    private double[] placeAu(Instant time) {
        SkyTime t = SkyTime.of(time);
        double era = rotationRad(t);
        try {
            double[] metres = JSOFA.jauPvtob(
                            Math.toRadians(site.lonDeg()),
                            Math.toRadians(site.latDeg()),
                            site.elevationM(),
                            0,
                            0,
                            0,
                            era)[0];
            return new double[] {metres[0] / JSOFA.DAU, metres[1] / JSOFA.DAU, metres[2] / JSOFA.DAU};
        } catch (JSOFAException e) {
            throw new IllegalStateException("JSOFA refuses the site " + site.name(), e);
        }
    }

    /** Earth rotation angle. */
    private double rotationRad(SkyTime t) {
        return JSOFA.jauEra00(t.utc1(), t.utc2() + earth.ut1MinusUtcSeconds() / 86_400);
    }

    private static Horizontal horizontal(JSOFA.ObservedPosition seen) {
        return new Horizontal(Angles.wrap360(Math.toDegrees(seen.aob)), 90 - Math.toDegrees(seen.zob));
    }

    /** The star-independent parameters, with the Earth turned to {@code time}. Callers hold the lock. */
    private JSOFA.Astrom astrom(Instant time) {
        long bucket = Math.floorDiv(time.getEpochSecond(), BUCKET_SECONDS);
        JSOFA.Astrom astrom = buckets.get(bucket);
        if (astrom == null) {
            if (buckets.size() >= BUCKETS_KEPT) {
                buckets.clear();
            }
            astrom = build(Instant.ofEpochSecond(bucket * BUCKET_SECONDS + BUCKET_SECONDS / 2));
            buckets.put(bucket, astrom);
        }
        SkyTime t = SkyTime.of(time);
        JSOFA.jauAper13(t.utc1(), t.utc2() + earth.ut1MinusUtcSeconds() / 86_400, astrom);
        return astrom;
    }

    private JSOFA.Astrom build(Instant middle) {
        SkyTime t = SkyTime.of(middle);
        EarthPole pole = EarthPole.at(middle);
        EarthMotion motion = EarthMotion.at(middle);
        JSOFA.RefCos refraction = JSOFA.jauRefco(
                atmosphere.pressureHpa(),
                atmosphere.temperatureC(),
                atmosphere.relativeHumidity(),
                Atmosphere.WAVELENGTH_UM);
        JSOFA.Astrom astrom = new JSOFA.Astrom();
        try {
            JSOFA.jauApco(
                    t.tt1(),
                    t.tt2(),
                    motion.barycentric(),
                    motion.heliocentric()[0],
                    pole.x(),
                    pole.y(),
                    pole.s(),
                    rotationRad(t),
                    Math.toRadians(site.lonDeg()),
                    Math.toRadians(site.latDeg()),
                    site.elevationM(),
                    earth.xPoleArcsec() / Angles.ARCSEC_PER_RADIAN,
                    earth.yPoleArcsec() / Angles.ARCSEC_PER_RADIAN,
                    JSOFA.jauSp00(t.tt1(), t.tt2()),
                    refraction.a,
                    refraction.b,
                    astrom);
        } catch (JSOFAException e) {
            throw new IllegalStateException("JSOFA refuses the site " + site.name(), e);
        }
        return astrom;
    }
}
