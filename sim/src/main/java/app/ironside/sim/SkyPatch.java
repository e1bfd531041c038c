package app.ironside.sim;

import app.ironside.sky.Angles;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Vectors;
import app.ironside.solve.Wcs;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/** What shines about the place that a camera looks at; looked up anew when the camera has moved on. */
final class SkyPatch {
    /** The camera may stray so far from the middle of the patch, degrees; further with a wide field, of which it is a small part. */
    private static final double SLACK_DEG = 0.15;

    private static final double SLACK_SHARE = 0.15;

    private static final double EDGE_DEG = 0.02;

    /** Of what the camera may stray: half of its diagonal is well within. */
    private static final double GRID_SHARE = 0.66;

    /** A small circle may stray so far before its stars are looked up anew. */
    private static final double MARGIN_DEG = 0.03;

    private final SkySource sky;
    private final double fieldRadiusDeg;
    private final double faintest;
    private final double slackDeg;
    private Optional<Equatorial> centre = Optional.empty();
    private SkySource.Piece piece = SkySource.Piece.NOTHING;
    private Optional<double[]> nearMiddle = Optional.empty();
    private double nearRadiusDeg;
    private int[] near = {};

    SkyPatch(SkySource sky, double fieldRadiusDeg, double faintest) {
        this.sky = sky;
        this.fieldRadiusDeg = fieldRadiusDeg;
        this.faintest = faintest;
        this.slackDeg = Math.max(SLACK_DEG, SLACK_SHARE * fieldRadiusDeg);
    }

    /** Looks the patch up if it does not reach about a place already. */
    void lookAt(Equatorial place) {
        if (centre.filter(c -> c.separationDeg(place) <= slackDeg).isEmpty()) {
            Equatorial middle = onGrid(place);
            centre = Optional.of(middle);
            piece = sky.piece(middle, fieldRadiusDeg + slackDeg + EDGE_DEG, faintest);
            near = new int[0];
            nearMiddle = Optional.empty();
        }
    }

    /** Places so close together share one piece of sky, of whatever night. */
    private Equatorial onGrid(Equatorial place) {
        double step = GRID_SHARE * slackDeg;
        double dec = Math.max(-90, Math.min(90, Math.rint(place.decDeg() / step) * step));
        double around = Math.max(1, Math.rint(360 * Angles.cosDeg(dec) / step));
        return new Equatorial(Angles.wrap360(Math.rint(place.raDeg() * around / 360) * 360 / around), dec);
    }

    /** How many stars there are, brightest first. */
    int size() {
        return piece.size();
    }

    /** Of a star, magnitudes. */
    double colourBv(int star) {
        return piece.colourBv()[star];
    }

    /** A star's light against one of magnitude 0. */
    double light(int star) {
        return piece.light()[star];
    }

    List<DeepSkyObject> galaxies() {
        return piece.galaxies();
    }

    /**
     * The stars within a circle, brightest first, and perhaps some just outside it. A guide camera asks for the same small circle
     * thousands of times: it is found once, somewhat wider.
     */
    int[] near(Equatorial middle, double radiusDeg) {
        double[] toward = Vectors.of(middle.raDeg(), middle.decDeg());
        boolean known = nearRadiusDeg == radiusDeg
                && nearMiddle
                        .filter(m -> Vectors.dot(m, toward) > Math.cos(Math.toRadians(MARGIN_DEG)))
                        .isPresent();
        if (!known) {
            double least = Math.cos(Math.toRadians(radiusDeg + MARGIN_DEG));
            near = IntStream.range(0, piece.size())
                    .filter(i -> along(i, toward) > least)
                    .toArray();
            nearMiddle = Optional.of(toward);
            nearRadiusDeg = radiusDeg;
        }
        return near;
    }

    private double along(int star, double[] v) {
        double[] all = piece.directions();
        return all[3 * star] * v[0] + all[3 * star + 1] * v[1] + all[3 * star + 2] * v[2];
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
            double along = along(star, toCentre);
            if (along <= 0) {
                return false;
            }
            double xi = Math.toDegrees(along(star, toEast) / along);
            double eta = Math.toDegrees(along(star, toNorth) / along);
            out[0] = wcs.crpixX() + (wcs.cd22() * xi - wcs.cd12() * eta) / determinant;
            out[1] = wcs.crpixY() + (wcs.cd11() * eta - wcs.cd21() * xi) / determinant;
            return true;
        }
    }
}
