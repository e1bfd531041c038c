package app.ironside.bench;

import app.ironside.Workers;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.TangentPlane;
import app.ironside.solve.OwnStars;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.solve.Wcs;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;

/**
 * How often and how fast invented fields over real star positions are recognised: a fifth of the stars missing, half as many dots added,
 * every second one mirrored, distorted by up to 0.5 %, every sixth near a pole, every fifth across 0 h; and how often random dots are
 * taken for the sky (a thousand take some minutes; a smaller number as argument fewer). Times are of matching alone and stand beside those of one sine for each of ten million numbers on this machine.
 */
public final class SolveFigures {
    private static final int WIDTH = 2800;
    private static final int HEIGHT = 2100;
    private static final int FIELDS = 100;
    private static final int DOTS = 1000;
    private static final int MOST_HELD = 9;
    private static final int REGIONS = 60;
    private static final int FIELDS_A_REGION = 5;
    private static final double WIDE_SCALE = 4.5;
    private static final double WIDE_LIMIT = 12;
    private static final double NARROW_LIMIT = 13;

    private SolveFigures() {}

    public static void main(String[] arguments) {
        StarCatalogue catalogue = StarCatalogue.hipparcos();
        PlateSolver solver = new PlateSolver(catalogue, Workers.ALL_CORES);
        long began = System.nanoTime();
        double sum = 0;
        for (int i = 1; i < 10_000_000; i++) {
            sum += Math.sin(i);
        }
        say("ten million sines %.0f ms (%.3f)%n", (System.nanoTime() - began) / 1e6, sum);
        say("%-7s %7s %7s %9s %9s %9s %9s%n", "hints", "field", "found", "false", "median", "95 %", "off px");
        for (boolean hinted : new boolean[] {true, false}) {
            for (double scale : new double[] {4.5, 8, 15, 25.7}) {
                measure(catalogue, solver, hinted, scale);
            }
        }
        narrow(catalogue, solver);
        widened(catalogue, solver);
        dots(solver, arguments.length > 0 ? Integer.parseInt(arguments[0]) : DOTS);
    }

    private static void measure(StarCatalogue catalogue, PlateSolver solver, boolean hinted, double scale) {
        Random random = new Random(5);
        int found = 0;
        int wrong = 0;
        List<Double> times = new ArrayList<>();
        List<Double> off = new ArrayList<>();
        for (int i = 0; i < FIELDS; i++) {
            double dec =
                    i % 6 == 0 ? 89 * (i % 4 == 0 ? 1 : -1) : Math.toDegrees(Math.asin(2 * random.nextDouble() - 1));
            double ra = i % 5 == 0 ? (359.8 + 0.4 * random.nextDouble()) % 360 : 360 * random.nextDouble();
            Wcs truth = wcs(new Equatorial(ra, dec), scale, 360 * random.nextDouble(), i % 2 == 0);
            StarField field = field(catalogue, truth, random);
            SolveHints hints = hinted
                    ? SolveHints.NONE
                            .withNear(new Equatorial(ra, Math.max(-90, dec - 1)), 4)
                            .withScale(scale * 1.01, 0.03)
                    : SolveHints.NONE;
            long start = System.nanoTime();
            Optional<PlateSolution> solution =
                    solver.solve(field, hints) instanceof PlateSolution s ? Optional.of(s) : Optional.empty();
            times.add((System.nanoTime() - start) / 1e6);
            if (solution.isPresent()) {
                double px = solution.get().centre().separationDeg(truth.reference()) * 3600 / scale;
                found += px < 5 ? 1 : 0;
                wrong += px < 5 ? 0 : 1;
                off.add(px);
            }
        }
        times.sort(Comparator.naturalOrder());
        off.sort(Comparator.naturalOrder());
        say(
                "%-7s %6.1f° %6d%% %9d %6.0f ms %6.0f ms %9.3f%n",
                hinted ? "both" : "none",
                WIDTH * scale / 3600,
                100 * found / FIELDS,
                wrong,
                times.get(FIELDS / 2),
                times.get(FIELDS * 95 / 100),
                off.get(off.size() / 2));
    }

    /**
     * Narrow fields among sixty stars fainter than the catalogue's, the place known to 0.8° and the scale to 0.4 %: how many are found
     * by how many of the frame's stars the catalogue holds.
     */
    private static void narrow(StarCatalogue catalogue, PlateSolver solver) {
        for (double scale : new double[] {2, 3}) {
            Random random = new Random(5);
            int[] held = new int[MOST_HELD + 1];
            int[] found = new int[MOST_HELD + 1];
            int wrong = 0;
            for (int i = 0; i < 3 * FIELDS; i++) {
                Equatorial centre = new Equatorial(
                        360 * random.nextDouble(), Math.toDegrees(Math.asin(2 * random.nextDouble() - 1)));
                Wcs truth = wcs(centre, scale, 360 * random.nextDouble(), random.nextBoolean());
                List<Star> stars = new ArrayList<>();
                for (CatalogueStar star : catalogue.within(centre, Math.hypot(WIDTH, HEIGHT) / 2 * scale / 3600)) {
                    truth.toPixel(star.position())
                            .filter(p -> p[0] >= 1 && p[1] >= 1 && p[0] <= WIDTH && p[1] <= HEIGHT)
                            .filter(p -> random.nextDouble() > 0.2)
                            .ifPresent(p -> stars.add(star(
                                    p[0] + 0.15 * random.nextGaussian(),
                                    p[1] + 0.15 * random.nextGaussian(),
                                    star.magnitude())));
                }
                int count = Math.min(MOST_HELD, stars.size());
                for (int k = 0; k < 60; k++) {
                    stars.add(star(
                            1 + WIDTH * random.nextDouble(),
                            1 + HEIGHT * random.nextDouble(),
                            8.5 + 4.5 * Math.sqrt(random.nextDouble())));
                }
                stars.sort(Comparator.comparingDouble(Star::fluxAdu).reversed());
                SolveHints hints = SolveHints.NONE
                        .withNear(new TangentPlane(centre).unproject(0.5, -0.6), 6)
                        .withScale(scale * 1.004, 0.03)
                        .nearOnly();
                held[count]++;
                if (solver.solve(new StarField(WIDTH, HEIGHT, stars, 1000, 10), hints) instanceof PlateSolution s) {
                    boolean right = s.centre().separationDeg(centre) * 3600 / scale < 5;
                    found[count] += right ? 1 : 0;
                    wrong += right ? 0 : 1;
                }
            }
            say("%.1f° with hints, false %d; found of fields by catalogue stars held:", WIDTH * scale / 3600, wrong);
            for (int k = 3; k <= MOST_HELD; k++) {
                say("  %d%s: %d/%d", k, k == MOST_HELD ? "+" : "", found[k], held[k]);
            }
            say("%n");
        }
    }

    /** A part of the sky with its stars, those of the catalogue and invented fainter ones. */
    private record Region(Equatorial middle, List<CatalogueStar> sky) {}

    /**
     * Narrow fields again, after the stars of one wide frame of each of some regions were kept: the regions have as many stars down to
     * magnitude 13 as the sky on average, of which the wide frames show those down to 12; in the narrow ones a fifth is missing and half
     * as many dots are added. Beside it the same fields where a table holds all those stars.
     */
    private static void widened(StarCatalogue catalogue, PlateSolver solver) {
        Random random = new Random(7);
        List<Region> regions = new ArrayList<>();
        OwnStars own = OwnStars.NONE;
        List<CatalogueStar> all = new ArrayList<>();
        for (int i = 0; i < REGIONS; i++) {
            Equatorial middle =
                    new Equatorial(360 * random.nextDouble(), Math.toDegrees(Math.asin(2 * random.nextDouble() - 1)));
            Region region = new Region(middle, region(catalogue, middle, random));
            Wcs wide = wcs(middle, WIDE_SCALE, 360 * random.nextDouble(), false);
            StarField seen = seen(wide, region.sky, WIDE_LIMIT, 0, 0.15, random);
            SolveHints near = SolveHints.NONE.withNear(middle, 3).withScale(WIDE_SCALE, 0.03);
            if (solver.solve(seen, near) instanceof PlateSolution s) {
                own = own.with(s, seen, catalogue, 2000);
                regions.add(region);
                all.addAll(region.sky);
            }
        }
        say("%d frames of %.1f° kept: %d stars of their own%n", regions.size(), WIDTH * WIDE_SCALE / 3600, own.size());
        StarCatalogue table = StarCatalogue.of(
                "table ",
                all.stream().map(CatalogueStar::position).toList(),
                all.stream().mapToDouble(CatalogueStar::magnitude).toArray());
        narrowIn(regions, new PlateSolver(catalogue.joined(own.catalogue(), 4), Workers.ALL_CORES), "own stars");
        narrowIn(regions, new PlateSolver(table.joined(catalogue, 4), Workers.ALL_CORES), "table");
    }

    private static void narrowIn(List<Region> regions, PlateSolver solver, String by) {
        for (double scale : new double[] {0.8, 1.3, 2}) {
            for (boolean hinted : new boolean[] {true, false}) {
                Random random = new Random(8);
                int found = 0;
                int wrong = 0;
                List<Double> times = new ArrayList<>();
                for (int k = 0; k < regions.size() * FIELDS_A_REGION; k++) {
                    Region region = regions.get(k / FIELDS_A_REGION);
                    Equatorial centre = new TangentPlane(region.middle)
                            .unproject(random.nextDouble() - 0.5, random.nextDouble() - 0.5);
                    Wcs truth = wcs(centre, scale, 360 * random.nextDouble(), random.nextBoolean());
                    StarField field = seen(truth, region.sky, NARROW_LIMIT, 0.5, 0.2, random);
                    SolveHints hints = hinted
                            ? SolveHints.NONE
                                    .withNear(new TangentPlane(centre).unproject(0.5, -0.6), 6)
                                    .withScale(scale * 1.004, 0.03)
                                    .nearOnly()
                            : SolveHints.NONE;
                    long start = System.nanoTime();
                    SolveResult result = solver.solve(field, hints);
                    times.add((System.nanoTime() - start) / 1e6);
                    if (result instanceof PlateSolution n) {
                        boolean right = n.centre().separationDeg(centre) * 3600 < 2 * WIDE_SCALE;
                        found += right ? 1 : 0;
                        wrong += right ? 0 : 1;
                    }
                }
                times.sort(Comparator.naturalOrder());
                say(
                        "%-9s %-5s %.1f°: %d of %d, false %d, median %.0f ms, 95 %% %.0f ms%n",
                        by,
                        hinted ? "both" : "none",
                        WIDTH * scale / 3600,
                        found,
                        times.size(),
                        wrong,
                        times.get(times.size() / 2),
                        times.get(times.size() * 95 / 100));
            }
        }
    }

    /** The catalogue's stars about a place and invented fainter ones, 150 a square degree, numbers rising 2.8 times a magnitude. */
    private static List<CatalogueStar> region(StarCatalogue catalogue, Equatorial middle, Random random) {
        double radius = Math.hypot(WIDTH, HEIGHT) / 2 * WIDE_SCALE / 3600 + 0.2;
        List<CatalogueStar> sky = new ArrayList<>(catalogue.within(middle, radius));
        TangentPlane plane = new TangentPlane(middle);
        int count = (int) (150 * 4 * radius * radius);
        for (int i = 0; i < count; i++) {
            double magnitude = NARROW_LIMIT + Math.log10(1e-9 + random.nextDouble()) / 0.45;
            Equatorial place =
                    plane.unproject(radius * (2 * random.nextDouble() - 1), radius * (2 * random.nextDouble() - 1));
            if (magnitude > 9) {
                sky.add(new CatalogueStar("invented", place, magnitude, 0.6));
            }
        }
        return sky;
    }

    private static StarField seen(
            Wcs wcs, List<CatalogueStar> sky, double limit, double extra, double sigmaPx, Random random) {
        List<Star> stars = new ArrayList<>();
        for (CatalogueStar star : sky) {
            Optional<double[]> pixel = wcs.toPixel(star.position());
            if (pixel.isEmpty() || star.magnitude() > limit || extra > 0 && random.nextDouble() < 0.2) {
                continue;
            }
            double x = pixel.get()[0] + sigmaPx * random.nextGaussian();
            double y = pixel.get()[1] + sigmaPx * random.nextGaussian();
            if (x >= 1 && y >= 1 && x <= WIDTH && y <= HEIGHT) {
                stars.add(star(x, y, star.magnitude() + 0.15 * random.nextGaussian()));
            }
        }
        int real = stars.size();
        for (int i = 0; i < extra * real; i++) {
            double magnitude =
                    8 - 2.5 * Math.log10(stars.get(random.nextInt(real)).fluxAdu() / 1e6);
            stars.add(star(1 + WIDTH * random.nextDouble(), 1 + HEIGHT * random.nextDouble(), magnitude));
        }
        stars.sort(Comparator.comparingDouble(Star::fluxAdu).reversed());
        return new StarField(WIDTH, HEIGHT, stars, 1000, 10);
    }

    private static void dots(PlateSolver solver, int fields) {
        int claimed = 0;
        for (int seed = 0; seed < fields; seed++) {
            Random random = new Random(seed);
            List<Star> dots = new ArrayList<>();
            int count = 8 + random.nextInt(60);
            for (int i = 0; i < count; i++) {
                dots.add(star(
                        1 + WIDTH * random.nextDouble(),
                        1 + HEIGHT * random.nextDouble(),
                        4 + 6 * random.nextDouble()));
            }
            dots.sort(Comparator.comparingDouble(Star::fluxAdu).reversed());
            claimed +=
                    solver.solve(new StarField(WIDTH, HEIGHT, dots, 1000, 10), SolveHints.NONE) instanceof PlateSolution
                            ? 1
                            : 0;
        }
        say("random fields taken for the sky: %d of %d%n", claimed, fields);
    }

    private static Wcs wcs(Equatorial centre, double scale, double turn, boolean mirrored) {
        double s = scale / 3600 * Math.sin(Math.toRadians(turn));
        double c = scale / 3600 * Math.cos(Math.toRadians(turn));
        int parity = mirrored ? -1 : 1;
        return new Wcs(centre, (WIDTH + 1) / 2.0, (HEIGHT + 1) / 2.0, -c * parity, s, s * parity, c);
    }

    private static StarField field(StarCatalogue catalogue, Wcs wcs, Random random) {
        double half = Math.hypot(WIDTH, HEIGHT) / 2;
        double bend = 0.005 * (2 * random.nextDouble() - 1);
        List<Star> stars = new ArrayList<>();
        for (CatalogueStar star : catalogue.within(wcs.reference(), half * wcs.scaleArcsecPerPixel() / 3600)) {
            Optional<double[]> pixel = wcs.toPixel(star.position());
            if (pixel.isEmpty() || random.nextDouble() < 0.2) {
                continue;
            }
            double u = pixel.get()[0] - (WIDTH + 1) / 2.0;
            double v = pixel.get()[1] - (HEIGHT + 1) / 2.0;
            double stretch = 1 + bend * (u * u + v * v) / half / half;
            double x = (WIDTH + 1) / 2.0 + u * stretch + 0.2 * random.nextGaussian();
            double y = (HEIGHT + 1) / 2.0 + v * stretch + 0.2 * random.nextGaussian();
            if (x >= 1 && y >= 1 && x <= WIDTH && y <= HEIGHT) {
                stars.add(star(x, y, star.magnitude() + 0.2 * random.nextGaussian()));
            }
        }
        int real = stars.size();
        for (int i = 0; i < real / 2; i++) {
            double magnitude =
                    8 - 2.5 * Math.log10(stars.get(random.nextInt(real)).fluxAdu() / 1e6);
            stars.add(star(1 + WIDTH * random.nextDouble(), 1 + HEIGHT * random.nextDouble(), magnitude));
        }
        stars.sort(Comparator.comparingDouble(Star::fluxAdu).reversed());
        return new StarField(WIDTH, HEIGHT, stars.subList(0, Math.min(400, stars.size())), 1000, 10);
    }

    private static Star star(double x, double y, double magnitude) {
        double flux = 1e6 * Math.pow(10, -0.4 * (magnitude - 8));
        return new Star(x, y, flux, flux / 6, 1.2, 2.4, 0.3, 0, 100, false, flux / 100, Optional.empty());
    }

    private static void say(String form, Object... values) {
        System.out.printf(Locale.ROOT, form, values);
    }
}
