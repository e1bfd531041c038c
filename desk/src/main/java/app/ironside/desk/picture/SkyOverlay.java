package app.ironside.desk.picture;

import app.ironside.desk.parts.Words;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.solve.StarMatch;
import app.ironside.solve.Wcs;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What the sky writes over a solved frame, in FITS pixels: lines of equal right ascension and declination, objects, and the stars that
 * were matched.
 *
 * @param lines of the grid
 * @param objects in the frame, the largest first
 * @param matches of the solution; may be empty
 */
public record SkyOverlay(List<Line> lines, List<Mark> objects, List<StarMatch> matches) {
    private static final int MOST_OBJECTS = 40;
    private static final int POINTS = 40;

    /** Steps of the grid in declination, degrees. */
    private static final double[] STEPS = {0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10};

    /** Steps in right ascension, degrees: whole minutes and hours of time. */
    private static final double[] HOUR_STEPS = {0.0625, 0.125, 0.25, 0.5, 1.25, 2.5, 5, 15, 30};

    /** A line with its name at its first point. */
    record Line(String name, List<double[]> points) {}

    /** An object with its radius in pixels. */
    public record Mark(String name, double x, double y, double radiusPx) {}

    public SkyOverlay {
        lines = List.copyOf(lines);
        objects = List.copyOf(objects);
        matches = List.copyOf(matches);
    }

    public static SkyOverlay of(Wcs wcs, int width, int height, DeepSkyCatalogue catalogue, List<StarMatch> matches) {
        return new SkyOverlay(grid(wcs, width, height), objects(wcs, width, height, catalogue), matches);
    }

    private static List<Mark> objects(Wcs wcs, int width, int height, DeepSkyCatalogue catalogue) {
        Equatorial middle = wcs.toSky((width + 1) / 2.0, (height + 1) / 2.0);
        double radius = Math.hypot(width, height) / 2 * wcs.scaleArcsecPerPixel() / 3600;
        List<DeepSkyObject> near = catalogue.objects().stream()
                .filter(o -> Math.abs(o.position().decDeg() - middle.decDeg()) < radius + 1
                        && o.position().separationDeg(middle) < radius + 0.3)
                .sorted(Comparator.comparingDouble(DeepSkyObject::longAxisArcmin)
                        .reversed())
                .limit(MOST_OBJECTS)
                .toList();
        List<Mark> marks = new ArrayList<>();
        for (DeepSkyObject o : near) {
            Optional<double[]> p = wcs.toPixel(o.position());
            if (p.isPresent() && p.get()[0] > 0 && p.get()[1] > 0 && p.get()[0] < width && p.get()[1] < height) {
                double size = Math.max(10, o.longAxisArcmin() * 30 / wcs.scaleArcsecPerPixel());
                marks.add(new Mark(o.id(), p.get()[0], p.get()[1], size));
            }
        }
        return marks;
    }

    private static List<Line> grid(Wcs wcs, int width, int height) {
        Equatorial middle = wcs.toSky((width + 1) / 2.0, (height + 1) / 2.0);
        double half = Math.hypot(width, height) / 2 * wcs.scaleArcsecPerPixel() / 3600;
        if (half > 40) {
            return List.of();
        }
        List<Line> lines = new ArrayList<>();
        double step = step(STEPS, half / 2);
        double low = Math.max(-89.999, middle.decDeg() - half);
        double high = Math.min(89.999, middle.decDeg() + half);
        boolean pole = middle.decDeg() + half > 89 || middle.decDeg() - half < -89;
        double across =
                pole ? 180 : Math.min(180, half / Math.cos(Math.toRadians(Math.max(Math.abs(low), Math.abs(high)))));
        for (double dec = Math.ceil(low / step) * step; dec <= high; dec += step) {
            List<double[]> points = new ArrayList<>();
            for (int i = 0; i <= POINTS; i++) {
                add(points, wcs, middle.raDeg() + across * (2.0 * i / POINTS - 1), dec, width, height);
            }
            lines.add(new Line(Words.format(step < 1 ? "%+.2f°" : "%+.0f°", dec), points));
        }
        double hourStep = pole ? 15 : step(HOUR_STEPS, across / 2);
        for (double ra = Math.ceil((middle.raDeg() - across) / hourStep) * hourStep;
                ra < middle.raDeg() + across;
                ra += hourStep) {
            List<double[]> points = new ArrayList<>();
            for (int i = 0; i <= POINTS; i++) {
                add(points, wcs, ra, low + (high - low) * i / POINTS, width, height);
            }
            double hours = ((ra + 720) % 360) / 15;
            long minutes = Math.round(hours * 60) % 1440;
            lines.add(new Line(Words.format("%d h %02d", minutes / 60, minutes % 60), points));
        }
        return lines.stream().filter(l -> l.points().size() > 1).toList();
    }

    private static double step(double[] steps, double wanted) {
        double best = steps[0];
        for (double s : steps) {
            best = s <= wanted ? s : best;
        }
        return best;
    }

    private static void add(List<double[]> points, Wcs wcs, double ra, double dec, int width, int height) {
        wcs.toPixel(new Equatorial((ra + 720) % 360, dec))
                .filter(p -> p[0] > -width && p[1] > -height && p[0] < 2 * width && p[1] < 2 * height)
                .ifPresent(points::add);
    }
}
