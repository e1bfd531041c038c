package app.ironside.sim;

import app.ironside.image.Frame;
import app.ironside.kit.Photometry;
import app.ironside.kit.Sensor;
import app.ironside.sky.Equatorial;
import app.ironside.star.DetectSettings;
import app.ironside.star.HalfPeakWidth;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * What measuring a frame would give, worked out from what fell on the sensor. In the pixels of the frame, binned if it is.
 *
 * <p>The numbers of common sense below were set so that drawn frames, measured, give the same: see SketchedFramesTest.
 */
final class SketchMeasure {
    /** From this half-flux radius stars are searched in a picture a quarter as large, as with pixels. */
    private static final double SWOLLEN_HFR_PX = 7;

    private static final int SWOLLEN_BIN = 4;

    /** Two stars closer than so many pixels, and half-flux radii, are found as one. */
    private static final double APART_PX = 3.8;

    private static final double APART_HFR = 2.6;

    /** A small star must stand out a little more than the threshold, a wide one has many pixels of which one may; a pixel of radius each. */
    private static final double SMALL_STAR = 1.12;

    private static final double WIDE_STAR_A_PIXEL = 0.065;

    /** Shapes are measured with this share of an error, however bright the star: a pixel is no small part of it. */
    private static final double SHAPE_FLOOR = 0.025;

    /** More for each pixel that a star's half-flux radius lacks. */
    private static final double UNDERSAMPLED_FLOOR = 0.33;

    private static final double WELL_SAMPLED_HFR_PX = 1.13;

    /** Of a moment, over that of the place. */
    private static final double SHAPE_ERROR = 2.2;

    /** Colours, corners and noise make a star no brighter than this lets the rest be. */
    private static final double FAINT_SHARE = 0.2;

    /** Noise and colour make some of the brightest others than the catalogue's. */
    private static final double MORE_THAN_ASKED = 1.5;

    /** What is read is small if the sensor is so many times as wide. */
    private static final int SMALL_WINDOW = 6;

    private static final int ZONES = 3;

    private final Frame frame;
    private final FrameMaker.Shot shot;
    private final SketchedFrames.Camera camera;
    private final Sensor sensor;
    private final int bin;
    private final double level;
    private final double noise;
    private final Noise random;

    SketchMeasure(Frame frame, SketchedFrames.Sketch sketch) {
        this.frame = frame;
        this.shot = sketch.shot();
        this.camera = sketch.camera();
        this.sensor = camera.kit().sensor();
        this.bin = shot.binning();
        this.random = Noise.of(shot.seed(), 31);
        double electrons = shot.evenElectrons()
                + shot.sky().map(s -> s.skyElectronsPerSecond() * s.seconds()).orElse(0.0);
        Exposer.Window w = shot.window();
        electrons *= response(w.left() + w.width() / 2.0 + w.width() / 2.96, w.bottom() + w.height() / 2.0);
        electrons += sensor.darkElectronsPerSecondAt(shot.temperatureC()) * shot.seconds();
        electrons = Math.min(electrons, sensor.fullWellElectrons());
        double gain = sensor.gainElectronsPerAdu();
        double full = sensor.fullScaleAdu();
        double one = Math.min(full, electrons / gain + sensor.offsetAdu());
        this.level = Math.min(full, one * bin * bin);
        this.noise = Math.sqrt(electrons + sensor.readNoiseElectrons() * sensor.readNoiseElectrons() + gain * gain / 12)
                / gain
                * bin;
    }

    /** Share of the light that reaches a place of the sensor. */
    private double response(double x, double y) {
        double corner = length(sensor.widthPx(), sensor.heightPx()) / 2;
        return SensorTruth.vignetting(length(x - sensor.widthPx() / 2.0, y - sensor.heightPx() / 2.0) / corner);
    }

    /** Median of the frame's pixels, ADU. */
    double level() {
        return level;
    }

    /** By how much the background is brighter on one side of the frame than on the other, ADU: between the middles of their thirds. */
    double slopeAdu() {
        double slope = shot.sky().map(s -> s.marks().slope()).orElse(0.0);
        double zero = sensor.offsetAdu() * bin * bin;
        double part = shot.window().width() / (double) sensor.widthPx();
        return Math.max(0, level - zero) * Math.abs(slope) * part * 4 / 3;
    }

    /** How far they spread about it. */
    double noise() {
        return noise;
    }

    StarField field(DetectSettings settings) {
        List<Star> stars = shot.sky().map(scene -> stars(scene, settings)).orElse(List.of());
        return new StarField(frame.width(), frame.height(), stars, level, noise);
    }

    /** A spread of light with what finding stars of it takes. */
    private record Zone(
            PointSpread spread,
            double[] moments,
            double peak,
            double leastFlux,
            double widthFactor,
            double aperturePx,
            double inAperture) {}

    private List<Star> stars(Exposer.Scene scene, DetectSettings settings) {
        camera.patch().lookAt(middle(scene));
        SkyPatch.Projection projection = camera.patch().new Projection(scene.wcs());
        Zone[] zones = new Zone[ZONES * ZONES];
        double middleHfr = zone(zones, scene, settings, middleZone()).spread().halfFluxRadiusPx();
        double gain = sensor.gainElectronsPerAdu();
        double ofMagnitude0 = Photometry.electronsPerSecond(0, camera.kit(), scene.filter())
                * scene.seconds()
                * scene.transparency()
                / gain;
        double saturation = Math.max(0, frame.header().number("SATURATE").orElse(settings.saturationAdu()) - level);
        double shiftX =
                scene.path().stream().mapToDouble(StarImage.Stray::dx).average().orElse(0);
        double shiftY =
                scene.path().stream().mapToDouble(StarImage.Stray::dy).average().orElse(0);
        double leastFlux = zone(zones, scene, settings, middleZone()).leastFlux();
        Crowd crowd = new Crowd(frame, APART_PX + APART_HFR * middleHfr);
        List<Star> found = new ArrayList<>();
        double[] pixel = new double[2];
        double lastRow = (double) scene.marks().firstLost(shot.window()) / bin;
        Optional<int[]> some = inSmallWindow(scene);
        int count = some.map(s -> s.length).orElseGet(camera.patch()::size);
        for (int n = 0; n < count; n++) {
            int i = some.isPresent() ? some.get()[n] : n;
            double flux = ofMagnitude0 * camera.patch().light(i);
            if (flux < FAINT_SHARE * leastFlux || found.size() > MORE_THAN_ASKED * settings.most()) {
                break; // the rest is fainter still
            }
            if (!projection.pixel(i, pixel)) {
                continue;
            }
            double x = (pixel[0] + shiftX - shot.window().left() - 0.5) / bin + 0.5;
            double y = (pixel[1] + shiftY - shot.window().bottom() - 0.5) / bin + 0.5;
            if (x < 2 || y < 2 || x > frame.width() - 1 || y > lastRow - 1) {
                continue;
            }
            flux *= Exposer.colourFactor(camera.patch().colourBv(i), scene.filter());
            Zone zone = zone(zones, scene, settings, zone(pixel[0], pixel[1]));
            flux *= response(pixel[0], pixel[1])
                    * Exposer.throughSpot(sensor, pixel[0], pixel[1], scene.spotShare())
                    * scene.marks().throughFrost(sensor, pixel[0], pixel[1]);
            if (flux + noiseOf(flux) * random.gaussian() < zone.leastFlux() || !crowd.alone(x, y)) {
                continue;
            }
            found.add(star(zone, x, y, flux, saturation));
        }
        found.sort((a, b) -> Double.compare(b.fluxAdu(), a.fluxAdu()));
        return found.size() > settings.most() ? List.copyOf(found.subList(0, settings.most())) : found;
    }

    /** The stars that can lie in what is read; empty if that is no small part of the sensor. */
    private Optional<int[]> inSmallWindow(Exposer.Scene scene) {
        Exposer.Window w = shot.window();
        if (SMALL_WINDOW * w.width() > sensor.widthPx()) {
            return Optional.empty();
        }
        Equatorial of = scene.wcs().toSky(w.left() + (w.width() + 1) / 2.0, w.bottom() + (w.height() + 1) / 2.0);
        double reach = length(w.width(), w.height()) / 2 + APART_PX;
        return Optional.of(camera.patch().near(of, reach * scene.wcs().scaleArcsecPerPixel() / 3600));
    }

    private Equatorial middle(Exposer.Scene scene) {
        return scene.wcs().toSky((sensor.widthPx() + 1) / 2.0, (sensor.heightPx() + 1) / 2.0);
    }

    /** Of a star hardly wider than a pixel, what falls between its pixels is guessed. */
    private static double shapeFloor(double hfr) {
        return SHAPE_FLOOR + UNDERSAMPLED_FLOOR * Math.max(0, Math.min(0.45, WELL_SAMPLED_HFR_PX - hfr));
    }

    /** Photon noise of a star's own light, ADU. */
    private double noiseOf(double flux) {
        return Math.sqrt(Math.max(0, flux) / sensor.gainElectronsPerAdu());
    }

    private int zone(double x, double y) {
        int column = (int) Math.max(0, Math.min(ZONES - 1, x * ZONES / sensor.widthPx()));
        int row = (int) Math.max(0, Math.min(ZONES - 1, y * ZONES / sensor.heightPx()));
        return row * ZONES + column;
    }

    /** The zone in the middle of what is read. */
    private int middleZone() {
        Exposer.Window w = shot.window();
        return zone(w.left() + w.width() / 2.0, w.bottom() + w.height() / 2.0);
    }

    /** A zone, worked out when a star falls into it. */
    private Zone zone(Zone[] known, Exposer.Scene scene, DetectSettings settings, int number) {
        if (known[number] == null) {
            known[number] = zoneOf(scene, settings, number);
        }
        return known[number];
    }

    private Zone zoneOf(Exposer.Scene scene, DetectSettings settings, int number) {
        double defocusUm = Exposer.defocusUm(scene, camera.curvatureUm(), number);
        double radiusPx = Math.abs(defocusUm) / (2 * camera.kit().optics().focalRatio()) / sensor.pixelUm();
        PointSpread spread = new PointSpread(
                scene.fwhmPx() / bin, radiusPx / bin, camera.kit().optics().obstruction(), scene.path(), 1.0 / bin);
        double kernel = settings.kernelSigmaPx();
        // The noise that a Gaussian of unit sum leaves.
        double left = 1 / (2 * Math.sqrt(Math.PI) * kernel);
        if (spread.halfFluxRadiusPx() >= SWOLLEN_HFR_PX) {
            kernel *= SWOLLEN_BIN;
            left /= SWOLLEN_BIN;
        }
        double density = spread.density(kernel);
        double stands = Math.max(0.7, SMALL_STAR - WIDE_STAR_A_PIXEL * spread.halfFluxRadiusPx());
        double least = stands * settings.thresholdSigma() * noise * left / density;
        double[] m = spread.moments();
        double gaussian = 2.3548 * Math.sqrt(Math.sqrt(m[0] * m[1]));
        double aperture = Math.min(45, Math.max(4, 4.5 * spread.halfFluxRadiusPx()));
        return new Zone(
                spread,
                m,
                spread.density(0),
                least,
                HalfPeakWidth.within(spread.halfPeakWidthPx().orElse(gaussian) / gaussian),
                aperture,
                spread.within(aperture));
    }

    private Star star(Zone zone, double x, double y, double flux, double saturation) {
        PointSpread spread = zone.spread();
        double peak = zone.peak() * flux;
        double hfr = spread.halfFluxRadiusPx();
        double sigma = hfr / Math.sqrt(2 * Math.log(2));
        double electrons = Math.max(1, flux * sensor.gainElectronsPerAdu());
        // Of photons, and of the background under the star (King 1983, PASP 95, 163: 8 pi sigma^4 n^2 / F^2).
        double photons = 1 / electrons;
        double sky = 8 * Math.PI * sigma * sigma * noise * noise / (flux * flux);
        double error = Math.sqrt(photons + sky);
        double aperture = zone.aperturePx();
        double fluxError =
                Math.sqrt(Math.PI * aperture * aperture * noise * noise + flux / sensor.gainElectronsPerAdu());
        double[] m = zone.moments();
        double shape = length(shapeFloor(hfr), SHAPE_ERROR * m[3] * error) * (m[0] + m[1]) / 2;
        double xx = m[0] + shape * random.gaussian();
        double yy = m[1] + shape * random.gaussian();
        double xy = m[2] + shape / Math.sqrt(2) * random.gaussian();
        double half = (xx + yy) / 2;
        double difference = length((xx - yy) / 2, xy);
        double major = Math.max(1e-3, half + difference);
        double minor = Math.max(1e-3, half - difference);
        double width = Math.max(1, 1.5 * hfr);
        double disc = Math.PI * width * width;
        boolean saturated = peak >= saturation;
        return new Star(
                x + sigma * error * random.gaussian(),
                y + sigma * error * random.gaussian(),
                flux * zone.inAperture() + fluxError * random.gaussian(),
                Math.min(peak, saturation),
                Math.max(0.35, hfr * (1 + 0.7 * error * random.gaussian())),
                zone.widthFactor() * 2.3548 * Math.sqrt(Math.sqrt(major * minor)),
                Math.sqrt(1 - Math.min(1, minor / major)),
                Math.toDegrees(Math.atan2(2 * xy, xx - yy) / 2),
                flux / (noise * Math.sqrt(disc)),
                saturated,
                fluxError,
                Optional.empty());
    }

    /** Not {@code Math.hypot}, whose care for huge numbers takes most of the time here. */
    private static double length(double a, double b) {
        return Math.sqrt(a * a + b * b);
    }

    /** Who stands where: a star too close to a brighter one is not told apart from it. */
    private static final class Crowd {
        private final double apart;
        private final int columns;

        /** The last star of each cell, from 1; 0 for none. */
        private final int[] heads;

        private double[] xs = new double[256];
        private double[] ys = new double[256];
        private int[] before = new int[256];
        private int count;

        Crowd(Frame frame, double apart) {
            this.apart = apart;
            this.columns = (int) (frame.width() / apart) + 3;
            this.heads = new int[columns * ((int) (frame.height() / apart) + 3)];
        }

        /** Whether no brighter star is near; takes the star in. */
        boolean alone(double x, double y) {
            int cell = ((int) (y / apart) + 1) * columns + (int) (x / apart) + 1;
            for (int row = -1; row <= 1; row++) {
                for (int column = -1; column <= 1; column++) {
                    for (int i = heads[cell + row * columns + column]; i > 0; i = before[i - 1]) {
                        double dx = xs[i - 1] - x;
                        double dy = ys[i - 1] - y;
                        if (dx * dx + dy * dy < apart * apart) {
                            return false;
                        }
                    }
                }
            }
            if (count == xs.length) {
                xs = Arrays.copyOf(xs, 2 * count);
                ys = Arrays.copyOf(ys, 2 * count);
                before = Arrays.copyOf(before, 2 * count);
            }
            xs[count] = x;
            ys[count] = y;
            before[count] = heads[cell];
            heads[cell] = ++count;
            return true;
        }
    }
}
