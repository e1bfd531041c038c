package app.ironside.polar;

import app.ironside.sky.Angles;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * Where the stars near the pole belong in the reticle of a polar scope at a minute and a site, precession, nutation, aberration and
 * refraction included: in the north the pole star, in the south the pattern of the four brightest.
 */
public final class PolarReticle {
    private static final double AROUND_POLE_DEG = 2.6;
    private static final int NORTHERN = 1;
    private static final int SOUTHERN = 4;

    /**
     * A star in the reticle.
     *
     * @param clockHours as on a clock's face, 0 to 12, 12 at the top, as one sees it facing the pole
     * @param distanceArcmin from the cross, where the true pole is to be
     * @param hourAngleDeg west positive, −180 to 180
     */
    public record ReticleStar(CatalogueStar star, double clockHours, double distanceArcmin, double hourAngleDeg) {
        /** In words: "7:24". */
        public String clock() {
            long minutes = Math.round(clockHours * 60) % 720;
            return (minutes / 60 == 0 ? 12 : minutes / 60) + ":" + (minutes % 60 < 10 ? "0" : "") + minutes % 60;
        }
    }

    private final Observer observer;
    private final List<CatalogueStar> stars;

    public PolarReticle(Observer observer, StarCatalogue catalogue) {
        this.observer = observer;
        boolean north = observer.site().latDeg() >= 0;
        stars = catalogue.within(new Equatorial(0, north ? 90 : -90), AROUND_POLE_DEG).stream()
                .limit(north ? NORTHERN : SOUTHERN)
                .toList();
    }

    /**
     * @param inverted whether the polar scope turns the view by half a turn, as most do
     */
    public List<ReticleStar> at(Instant time, boolean inverted) {
        double poleAltitude = observer.site().poleAltitudeDeg();
        double poleAzimuth = observer.site().poleAzimuthDeg();
        List<ReticleStar> places = new ArrayList<>();
        double year = CatalogueStar.julianYear(time);
        for (CatalogueStar star : stars) {
            Horizontal seen = observer.observed(star.positionAt(year), time);
            double turn = Angles.wrap180(seen.azimuthDeg() - poleAzimuth);
            // Toward the star from the pole, in the plane that touches the sky there.
            double sine = Angles.sinDeg(seen.altitudeDeg()) * Angles.cosDeg(poleAltitude)
                    - Angles.cosDeg(seen.altitudeDeg()) * Angles.sinDeg(poleAltitude) * Angles.cosDeg(turn);
            double right = Angles.cosDeg(seen.altitudeDeg()) * Angles.sinDeg(turn);
            double clock = Math.toDegrees(Math.atan2(right, sine));
            double distance = Math.toDegrees(Math.asin(Math.min(1, Math.hypot(right, sine)))) * 60;
            double shown = Angles.wrap360(inverted ? clock + 180 : clock);
            places.add(new ReticleStar(star, shown / 30, distance, observer.hourAngleDeg(star.positionAt(year), time)));
        }
        return places;
    }
}
