package app.ironside.plan;

import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.SkyBrightness;
import app.ironside.sky.SunAndMoon;
import java.time.Instant;

/**
 * What a minute on a target is worth against a minute on the same target at the zenith with no Moon.
 *
 * <p>For a faint object against a bright sky the signal-to-noise ratio after a time t is S t / √(B t), so the time to reach a
 * given ratio goes as B / S². With extinction k per airmass X, S falls by 10^(−0.4 k (X − 1)); B is the brightness of the sky
 * there, Moon included. The weight is (S/S₀)² · (B₀ + n)/(B + n), where n is what of the noise the camera adds by itself (read noise and
 * dark current of a sub, in units of B₀): behind a narrow filter it is large, and the Moon then costs less.
 *
 * @see "Krisciunas and Schaefer 1991, PASP 103, 1033, for B; the ratio is the sky-limited case of the CCD equation (Howell 2006)"
 */
public final class EffectiveTime {
    private final Observer observer;
    private final SunAndMoon bodies;

    public EffectiveTime(Observer observer) {
        this.observer = observer;
        this.bodies = new SunAndMoon(observer);
    }

    /** Weight of a moment, 0 to about 1. */
    public double weight(Equatorial target, Instant time) {
        Horizontal seen = observer.observed(target, time);
        if (seen.altitudeDeg() <= 0) {
            return 0;
        }
        double zenith = SkyBrightness.darkSkyNanoLamberts(observer.site().skyMagPerArcsec2(), 90);
        return weight(
                SkyBrightness.airmass(seen.altitudeDeg()),
                SkyBrightness.EXTINCTION_MAG_PER_AIRMASS,
                skyNanoLamberts(target, seen, time) / zenith,
                0);
    }

    /**
     * The weight as a formula.
     *
     * @param airmass that the light comes through, 1 at the zenith
     * @param extinctionMag magnitudes per airmass
     * @param sky brightness there over that of the dark zenith
     * @param floor noise of the camera itself, as a multiple of the dark zenith's
     * @return 0 to about 1
     */
    public static double weight(double airmass, double extinctionMag, double sky, double floor) {
        double signal = Math.pow(10, -0.4 * extinctionMag * (airmass - 1));
        return signal * signal * (1 + floor) / (sky + floor);
    }

    private double skyNanoLamberts(Equatorial target, Horizontal seen, Instant time) {
        double dome = observer.site().dome().map(d -> d.share(seen)).orElse(0.0);
        double dark =
                SkyBrightness.darkSkyNanoLamberts(observer.site().skyMagPerArcsec2(), seen.altitudeDeg()) * (1 + dome);
        Horizontal moon = bodies.moon(time);
        double separation = observer.catalogue(moon, time).separationDeg(target);
        return dark
                + SkyBrightness.moonNanoLamberts(
                        bodies.moonPhaseAngleDeg(time), separation, moon.altitudeDeg(), seen.altitudeDeg());
    }
}
