package app.ironside.sim;

import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Vectors;
import app.ironside.solve.Wcs;
import java.util.Comparator;
import java.util.List;

/** What shines about the place that a camera looks at; looked up anew when the camera has moved on. */
final class SkyPatch {
    /** The camera may stray so far from the middle of the patch, degrees. */
    private static final double SLACK_DEG = 0.15;

    private static final double EDGE_DEG = 0.02;

    private final SkySource sky;
    private final double fieldRadiusDeg;
    private final double faintest;
    private Equatorial centre;
    private List<CatalogueStar> stars = List.of();
    private List<DeepSkyObject> galaxies = List.of();
    private double[][] directions = {};
    private double[] light = {};

    SkyPatch(SkySource sky, double fieldRadiusDeg, double faintest) {
        this.sky = sky;
        this.fieldRadiusDeg = fieldRadiusDeg;
        this.faintest = faintest;
    }

    /** Looks the patch up if it does not reach about a place already. */
    void lookAt(Equatorial place) {
        if (centre == null || centre.separationDeg(place) > SLACK_DEG) {
            double radius = fieldRadiusDeg + SLACK_DEG + EDGE_DEG;
            stars = sky.stars(place, radius, faintest).stream()
                    .sorted(Comparator.comparingDouble(CatalogueStar::magnitude))
                    .toList();
            galaxies = sky.galaxies(place, radius);
            directions = stars.stream()
                    .map(s -> Vectors.of(s.position().raDeg(), s.position().decDeg()))
                    .toArray(double[][]::new);
            light = stars.stream()
                    .mapToDouble(s -> Math.pow(10, -0.4 * s.magnitude()))
                    .toArray();
            centre = place;
        }
    }

    /** Brightest first. */
    List<CatalogueStar> stars() {
        return stars;
    }

    /** A star's light against one of magnitude 0. */
    double light(int star) {
        return light[star];
    }

    List<DeepSkyObject> galaxies() {
        return galaxies;
    }

    /** Takes the sky to the pixels of a frame without distortion, many stars at a time. */
    final class Projection {
        private final double[] toCentre;
        private final double[] toEast;
        private final double[] toNorth;
        private final Wcs wcs;
        private final double determinant;

        Projection(Wcs wcs) {
            double ra = Math.toRadians(wcs.reference().raDeg());
            double dec = Math.toRadians(wcs.reference().decDeg());
            toCentre = Vectors.of(wcs.reference().raDeg(), wcs.reference().decDeg());
            toEast = new double[] {-Math.sin(ra), Math.cos(ra), 0};
            toNorth = new double[] {-Math.sin(dec) * Math.cos(ra), -Math.sin(dec) * Math.sin(ra), Math.cos(dec)};
            this.wcs = wcs;
            this.determinant = wcs.cd11() * wcs.cd22() - wcs.cd12() * wcs.cd21();
        }

        /**
         * FITS pixel of a star.
         *
         * @param out is given x and y
         * @return whether the star is on this side of the sky
         */
        boolean pixel(int star, double[] out) {
            double[] v = directions[star];
            double along = Vectors.dot(v, toCentre);
            if (along <= 0) {
                return false;
            }
            double xi = Math.toDegrees(Vectors.dot(v, toEast) / along);
            double eta = Math.toDegrees(Vectors.dot(v, toNorth) / along);
            out[0] = wcs.crpixX() + (wcs.cd22() * xi - wcs.cd12() * eta) / determinant;
            out[1] = wcs.crpixY() + (wcs.cd11() * eta - wcs.cd21() * xi) / determinant;
            return true;
        }
    }
}
