package app.ironside.solve;

import app.ironside.sky.Equatorial;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Frames of 2800 by 2100 pixels made of dots at given places. */
final class InventedFrames {
    static final int WIDTH = 2800;
    static final int HEIGHT = 2100;

    private InventedFrames() {}

    static Wcs wcs(Equatorial centre, double scale, double turn, boolean mirrored) {
        double s = scale / 3600 * Math.sin(Math.toRadians(turn));
        double c = scale / 3600 * Math.cos(Math.toRadians(turn));
        int parity = mirrored ? -1 : 1;
        return new Wcs(centre, (WIDTH + 1) / 2.0, (HEIGHT + 1) / 2.0, -c * parity, s, s * parity, c);
    }

    static StarField field(List<Star> stars) {
        List<Star> sorted = stars.stream()
                .sorted(Comparator.comparingDouble(Star::fluxAdu).reversed())
                .limit(400)
                .toList();
        return new StarField(WIDTH, HEIGHT, sorted, 1000, 10);
    }

    static boolean inside(double[] p) {
        return p[0] >= 1 && p[1] >= 1 && p[0] <= WIDTH && p[1] <= HEIGHT;
    }

    static Star star(double x, double y, double magnitude) {
        return new Star(
                x,
                y,
                1e6 * Math.pow(10, -0.4 * (magnitude - 8)),
                1000,
                1.2,
                2.4,
                0.3,
                0,
                100,
                false,
                10,
                Optional.empty());
    }
}
