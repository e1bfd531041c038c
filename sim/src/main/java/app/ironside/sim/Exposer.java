package app.ironside.sim;

import app.ironside.Workers;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Photometry;
import app.ironside.kit.Sensor;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import app.ironside.solve.Wcs;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Makes the pixels of one exposure: light on the sensor, then electrons, then numbers. */
final class Exposer {
    private static final int BAND_ROWS = 32;

    /** Star images are made for this many zones along each side, for the field's curvature. */
    private static final int ZONES = 3;

    /** A star contributes to pixels in which it leaves at least this many electrons. */
    private static final double LEAST_ELECTRONS = 0.15;

    /**
     * What falls on the sensor.
     *
     * @param wcs of the unbinned whole sensor at mid-exposure
     * @param transparency share of light that passes air and cloud
     * @param skyElectronsPerSecond in a pixel
     * @param fwhmPx of star images in focus
     * @param defocusUm of the middle of the field
     * @param path strayed during the exposure
     * @param spotShare of light that a spot of oil on the sensor takes
     * @param marks what it bears besides
     */
    record Scene(
            Wcs wcs,
            FilterSpec filter,
            double seconds,
            double transparency,
            double skyElectronsPerSecond,
            double fwhmPx,
            double defocusUm,
            List<StarImage.Stray> path,
            double spotShare,
            Marks marks) {}

    /**
     * What an exposure bears besides the sky.
     *
     * @param tiltUm defocus at the right edge of the sensor, and as much the other way at the left one
     * @param lostShare of the frame, from the top, that did not come
     * @param trails of satellites that are to be expected
     * @param hits of cosmic rays that are to be expected
     * @param slope of the sky's light: by this share brighter at the right edge than in the middle
     * @param frostShare of the light in the middle that ice on the sensor's window takes
     */
    record Marks(double tiltUm, double lostShare, double trails, double hits, double slope, double frostShare) {
        static final Marks NONE = new Marks(0, 0, 0, 0, 0, 0);

        /** Ice grows from the middle of the window, which is coldest. */
        private static final double FROST_RADIUS = 0.5;

        /** Share of light that ice on the sensor's window lets through at a place. */
        double throughFrost(Sensor sensor, double x, double y) {
            if (frostShare <= 0) {
                return 1;
            }
            double half = Math.hypot(sensor.widthPx(), sensor.heightPx()) / 2;
            double away = Math.hypot(x - sensor.widthPx() / 2.0, y - sensor.heightPx() / 2.0) / half / FROST_RADIUS;
            return 1 - frostShare * Math.exp(-away * away);
        }

        /** Factor of the sky's light at a place. */
        double sky(Sensor sensor, double x) {
            return 1 + slope * (2 * x / sensor.widthPx() - 1);
        }

        /** First row of the window that did not come. */
        int firstLost(Window window) {
            return (int) Math.round((1 - lostShare) * window.height());
        }
    }

    /** The part of the sensor that is read. */
    record Window(int left, int bottom, int width, int height) {}

    private final Kit kit;
    private final Sensor sensor;
    private final SensorTruth truth;
    private final SkyPatch patch;
    private final double curvatureUm;
    private final Workers workers;

    /**
     * @param kit whose optics and sensor form the picture (for a guide camera a kit made of those)
     * @param curvatureUm by which the field's corner is out of focus when its middle is in
     */
    Exposer(Kit kit, SensorTruth truth, SkyPatch patch, double curvatureUm, Workers workers) {
        this.kit = kit;
        this.sensor = kit.sensor();
        this.truth = truth;
        this.patch = patch;
        this.curvatureUm = curvatureUm;
        this.workers = workers;
    }

    /** Electrons of light in each pixel of the window, response included. */
    float[] light(Scene scene, Window window) {
        float[] light = new float[window.width() * window.height()];
        fillSky(light, window, scene);
        Equatorial centre = scene.wcs().toSky((sensor.widthPx() + 1) / 2.0, (sensor.heightPx() + 1) / 2.0);
        patch.lookAt(centre);
        for (DeepSkyObject galaxy : patch.galaxies()) {
            addGalaxy(light, window, scene, galaxy);
        }
        addStars(light, window, scene);
        for (int row = 0; row < window.height(); row++) {
            int from = (window.bottom() + row) * sensor.widthPx() + window.left();
            for (int column = 0; column < window.width(); column++) {
                double x = window.left() + column;
                double y = window.bottom() + row;
                light[row * window.width() + column] *= truth.response[from + column]
                        * (float) (throughSpot(sensor, x, y, scene.spotShare())
                                * scene.marks().throughFrost(sensor, x, y));
            }
        }
        return light;
    }

    private void fillSky(float[] light, Window window, Scene scene) {
        double sky = scene.skyElectronsPerSecond() * scene.seconds();
        for (int column = 0; column < window.width(); column++) {
            light[column] = (float) (sky * scene.marks().sky(sensor, window.left() + column));
        }
        for (int row = 1; row < window.height(); row++) {
            System.arraycopy(light, 0, light, row * window.width(), window.width());
        }
    }

    /** Share of light that a spot on the sensor lets through: a soft disc, a twelfth of the frame wide, beside the middle. */
    static double throughSpot(Sensor sensor, double x, double y, double share) {
        if (share <= 0) {
            return 1;
        }
        double radius = sensor.widthPx() / 24.0;
        double away = Math.hypot(x - 0.58 * sensor.widthPx(), y - 0.44 * sensor.heightPx()) / radius;
        return 1 - share * Math.max(0, Math.min(1, 3 * (1 - away)));
    }

    /** Electrons of an even light before the telescope, response included. */
    float[] even(double electrons, Window window) {
        float[] light = new float[window.width() * window.height()];
        for (int row = 0; row < window.height(); row++) {
            int from = (window.bottom() + row) * sensor.widthPx() + window.left();
            for (int column = 0; column < window.width(); column++) {
                light[row * window.width() + column] = (float) electrons * truth.response[from + column];
            }
        }
        return light;
    }

    private void addGalaxy(float[] light, Window window, Scene scene, DeepSkyObject object) {
        TangentPlane plane = new TangentPlane(object.position());
        double scaleDeg = scene.wcs().scaleArcsecPerPixel() / 3600;
        double electrons = Photometry.electronsPerSecond(0, kit, scene.filter())
                * scene.seconds()
                * scene.transparency()
                * scaleDeg
                * scaleDeg;
        Optional<double[]> middle = scene.wcs().toPixel(object.position());
        if (middle.isEmpty()) {
            return;
        }
        GalaxyModel.Drawing drawing = GalaxyModel.drawn(object, workers);
        float lineShare = (float) GalaxyModel.Drawing.lineShare(scene.filter());
        // The galaxy's tangent plane and the frame's differ by a turn that is constant enough over it: an affine map.
        double[] a = planeAt(plane, scene.wcs(), middle.get()[0], middle.get()[1]);
        double reachPx = drawing.reachDeg() / scaleDeg;
        int low = (int) Math.max(0, middle.get()[1] - 1 - reachPx - window.bottom());
        int high = (int) Math.min(window.height(), middle.get()[1] - 1 + reachPx - window.bottom() + 1);
        if (low >= high) {
            return;
        }
        workers.forEach((high - low + BAND_ROWS - 1) / BAND_ROWS, band -> {
            for (int row = low + band * BAND_ROWS; row < Math.min(high, low + (band + 1) * BAND_ROWS); row++) {
                double dy = window.bottom() + row + 1 - middle.get()[1];
                for (int column = 0; column < window.width(); column++) {
                    double dx = window.left() + column + 1 - middle.get()[0];
                    if (Math.abs(dx) <= reachPx) {
                        float brightness = drawing.at(a[0] * dx + a[1] * dy, a[2] * dx + a[3] * dy, lineShare);
                        light[row * window.width() + column] += (float) (brightness * electrons);
                    }
                }
            }
        });
    }

    /** Degrees east and north for a pixel along x and y at a place. */
    private static double[] planeAt(TangentPlane plane, Wcs wcs, double x, double y) {
        TangentPlane.Point zero = plane.project(wcs.toSky(x, y)).orElseThrow();
        TangentPlane.Point right = plane.project(wcs.toSky(x + 1, y)).orElseThrow();
        TangentPlane.Point up = plane.project(wcs.toSky(x, y + 1)).orElseThrow();
        return new double[] {
            right.xiDeg() - zero.xiDeg(),
            up.xiDeg() - zero.xiDeg(),
            right.etaDeg() - zero.etaDeg(),
            up.etaDeg() - zero.etaDeg()
        };
    }

    private void addStars(float[] light, Window window, Scene scene) {
        StarImage[] images = images(scene, window);
        int reach = images[zone(window.left(), window.bottom())].reachPx();
        double perMagnitude0 =
                Photometry.electronsPerSecond(0, kit, scene.filter()) * scene.seconds() * scene.transparency();
        List<Spot> spots = new ArrayList<>();
        SkyPatch.Projection projection = patch.new Projection(scene.wcs());
        double[] pixel = new double[2];
        for (int i = 0; i < patch.size(); i++) {
            if (projection.pixel(i, pixel)) {
                double x = pixel[0] - 1 - window.left();
                double y = pixel[1] - 1 - window.bottom();
                if (x > -reach && y > -reach && x < window.width() + reach && y < window.height() + reach) {
                    double electrons = perMagnitude0 * patch.light(i) * colourFactor(patch.colourBv(i), scene.filter());
                    double insideX = Math.max(0, Math.min(window.width() - 1, x)) + window.left();
                    double insideY = Math.max(0, Math.min(window.height() - 1, y)) + window.bottom();
                    StarImage image = images[zone(insideX, insideY)];
                    spots.add(new Spot(x, y, (float) electrons, image, reachFor(electrons, image)));
                }
            }
        }
        // Bands own their rows: each adds the part of every star that falls into it.
        int bands = Math.max(1, window.height() / 256);
        workers.forEach(bands, band -> {
            int from = band * window.height() / bands;
            int to = (band + 1) * window.height() / bands;
            for (Spot spot : spots) {
                add(light, window, spot, from, to);
            }
        });
    }

    /** A star on the window: where it falls, how much light, and how far from its middle there is any of it. */
    private record Spot(double x, double y, float electrons, StarImage image, int reach) {}

    /** A red star gives more of its light through a red filter than its V magnitude says (common practice: 0.4 mag a mag of B−V per 100 nm). */
    static double colourFactor(double colourBv, FilterSpec filter) {
        return Math.pow(10, 0.4 * 0.8 * (colourBv - 0.6) * (filter.meanNm() - 550) / 200);
    }

    private static void add(float[] light, Window window, Spot spot, int from, int to) {
        int y0 = Math.max(from, (int) Math.round(spot.y()) - spot.reach());
        int y1 = Math.min(to - 1, (int) Math.round(spot.y()) + spot.reach());
        int x0 = Math.max(0, (int) Math.round(spot.x()) - spot.reach());
        int x1 = Math.min(window.width() - 1, (int) Math.round(spot.x()) + spot.reach());
        for (int y = y0; y <= y1; y++) {
            int at = y * window.width();
            spot.image().addRow(light, at + x0, at + x1 + 1, x0 - spot.x(), y - spot.y(), spot.electrons());
        }
    }

    private static int reachFor(double electrons, StarImage image) {
        int reach = image.reachPx();
        while (reach > 3
                && electrons * image.inPixel(reach, 0) < LEAST_ELECTRONS
                && electrons * image.inPixel(0, reach) < LEAST_ELECTRONS
                && electrons * image.inPixel(-reach * 0.7, reach * 0.7) < LEAST_ELECTRONS) {
            reach--;
        }
        return reach;
    }

    private int zone(double x, double y) {
        int column = (int) Math.max(0, Math.min(ZONES - 1, x * ZONES / sensor.widthPx()));
        int row = (int) Math.max(0, Math.min(ZONES - 1, y * ZONES / sensor.heightPx()));
        return row * ZONES + column;
    }

    /** The star image of each zone that the window touches; zones at one distance from the middle share one. */
    private StarImage[] images(Scene scene, Window window) {
        int first = zone(window.left(), window.bottom());
        int last = zone(window.left() + window.width() - 1.0, window.bottom() + window.height() - 1.0);
        List<Integer> needed = new ArrayList<>();
        for (int zone = first; zone <= last; zone++) {
            if (zone % ZONES >= first % ZONES && zone % ZONES <= last % ZONES) {
                needed.add(zone);
            }
        }
        // Without a tilt, zones at one distance from the middle share an image.
        double[] defocus = needed.stream()
                .mapToDouble(zone -> defocusUm(scene, curvatureUm, zone))
                .distinct()
                .toArray();
        StarImage[] drawn = new StarImage[defocus.length];
        workers.forEach(defocus.length, i -> drawn[i] = image(defocus[i], scene));
        StarImage[] images = new StarImage[ZONES * ZONES];
        for (int zone : needed) {
            for (int i = 0; i < defocus.length; i++) {
                if (defocus[i] == defocusUm(scene, curvatureUm, zone)) {
                    images[zone] = drawn[i];
                }
            }
        }
        return images;
    }

    /** How far a zone is from focus, micrometres. */
    static double defocusUm(Scene scene, double curvatureUm, int zone) {
        double u = (zone % ZONES) - (ZONES - 1) / 2.0;
        double v = (zone / ZONES) - (ZONES - 1) / 2.0;
        return scene.defocusUm()
                + curvatureUm * (u * u + v * v) / 2
                + scene.marks().tiltUm() * u;
    }

    private StarImage image(double defocusUm, Scene scene) {
        double radiusPx = Math.abs(defocusUm) / (2 * kit.optics().focalRatio()) / sensor.pixelUm();
        return new StarImage(scene.fwhmPx(), radiusPx, kit.optics().obstruction(), scene.path());
    }

    /**
     * Numbers from light: photon noise, dark current, glow, bias, read noise, gain, saturation, whole numbers.
     *
     * @param light electrons expected in each pixel of the window; empty array for none
     */
    float[] read(float[] light, Window window, double seconds, double temperatureC, long seed) {
        float[] adu = new float[window.width() * window.height()];
        float dark = (float) (sensor.darkElectronsPerSecondAt(temperatureC) * seconds);
        float gain = (float) sensor.gainElectronsPerAdu();
        float readNoise = (float) sensor.readNoiseElectrons();
        float offset = (float) sensor.offsetAdu();
        float full = (float) sensor.fullWellElectrons();
        float glow = SensorTruth.glowElectrons(seconds);
        workers.forEach((window.height() + BAND_ROWS - 1) / BAND_ROWS, band -> {
            Noise noise = Noise.of(seed, band);
            for (int row = band * BAND_ROWS; row < Math.min(window.height(), (band + 1) * BAND_ROWS); row++) {
                int from = (window.bottom() + row) * sensor.widthPx() + window.left();
                for (int column = 0; column < window.width(); column++) {
                    int i = row * window.width() + column;
                    float mean = light.length == 0 ? 0 : light[i];
                    if (seconds > 0) {
                        mean += dark * truth.darkFactor[from + column];
                        mean += glow * truth.glow[from + column];
                    }
                    float electrons = noise.electrons(mean, full, readNoise) + truth.bias[from + column];
                    float value = (float) Math.rint(electrons / gain + offset);
                    adu[i] = Math.max(0, Math.min(sensor.fullScaleAdu(), value));
                }
            }
        });
        return adu;
    }
}
