package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.Equipment.OffAxis;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Photometry;
import app.ironside.kit.Sampling;
import app.ironside.sky.Angles;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarSource;
import app.ironside.sky.TangentPlane;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * A field on the sky: where its edges lie, what is in it, how it is split into panels, and which guide stars it has.
 *
 * @param centre J2000
 * @param angleDeg position angle of the frame's upper side, east of north
 */
public record Framing(Kit kit, Equatorial centre, double angleDeg) {
    /** A nebula without a magnitude that is as large as this shows in a frame (common practice), arcminutes. */
    private static final double LARGE_ARCMIN = 5;

    /** A guide star's place must be good to a fortieth of its width: this signal-to-noise ratio in one exposure (common practice). */
    private static final double GUIDE_SNR = 40;

    private static final double GUIDE_QUANTUM_EFFICIENCY = 0.7;
    private static final double GUIDE_BANDWIDTH_NM = 300;
    private static final double GUIDE_READ_NOISE = 2;
    private static final double GUIDE_SEEING_ARCSEC = 3.5;
    private static final double GUIDE_TRANSMISSION = 0.7;

    public Framing {
        Check.inRange("angleDeg", angleDeg, -360, 360);
        angleDeg = Angles.wrap180(angleDeg);
    }

    /**
     * A point in the frame, degrees from its middle: x to the right, y up along {@code angleDeg}. East is to the left of north, as on
     * the sky.
     */
    public record Point(double xDeg, double yDeg) {}

    /** Where a direction falls in the frame; empty for the far side of the sky. */
    public Optional<Point> place(Equatorial sky) {
        return new TangentPlane(centre).project(sky).map(p -> {
            double cos = Angles.cosDeg(angleDeg);
            double sin = Angles.sinDeg(angleDeg);
            // Up is toward the position angle; right is west of it.
            return new Point(-p.xiDeg() * cos + p.etaDeg() * sin, p.xiDeg() * sin + p.etaDeg() * cos);
        });
    }

    /** The direction at a point of the frame. */
    public Equatorial at(Point point) {
        double cos = Angles.cosDeg(angleDeg);
        double sin = Angles.sinDeg(angleDeg);
        double xi = -point.xDeg() * cos + point.yDeg() * sin;
        double eta = point.xDeg() * sin + point.yDeg() * cos;
        return new TangentPlane(centre).unproject(xi, eta);
    }

    /** The frame's corners, from the lower left, counterclockwise as seen. */
    public List<Equatorial> corners() {
        double x = kit.fieldWidthDeg() / 2;
        double y = kit.fieldHeightDeg() / 2;
        return List.of(at(new Point(-x, -y)), at(new Point(x, -y)), at(new Point(x, y)), at(new Point(-x, y)));
    }

    /**
     * Whether a direction lies in the frame.
     *
     * @param margin share of each side that is left out at each edge
     */
    public boolean contains(Equatorial sky, double margin) {
        return place(sky)
                .filter(p -> Math.abs(p.xDeg()) <= kit.fieldWidthDeg() * (0.5 - margin)
                        && Math.abs(p.yDeg()) <= kit.fieldHeightDeg() * (0.5 - margin))
                .isPresent();
    }

    /** Objects whose middle lies in the frame, largest first, the subject included. */
    public List<DeepSkyObject> objects(DeepSkyCatalogue catalogue) {
        return catalogue.objects().stream()
                .filter(o -> Math.abs(o.position().decDeg() - centre.decDeg()) < kit.fieldRadiusDeg() + 0.1)
                .filter(o -> contains(o.position(), 0))
                .sorted(Comparator.comparingDouble(DeepSkyObject::longAxisArcmin)
                        .reversed())
                .toList();
    }

    /**
     * A companion worth taking in, and the middle that takes both.
     *
     * @param centre of the shifted frame
     */
    public record Companion(DeepSkyObject object, Equatorial centre) {}

    /**
     * Objects just outside that a shift of the frame would take in while the subject stays inside the crop margin.
     *
     * @param faintest magnitude worth a shift; of what has none, as most nebulae, the large ones count
     */
    public List<Companion> companions(DeepSkyCatalogue catalogue, double faintest) {
        List<Companion> found = new ArrayList<>();
        for (DeepSkyObject o : catalogue.objects()) {
            boolean bright = o.magnitude().map(m -> m <= faintest).orElse(o.longAxisArcmin() >= LARGE_ARCMIN);
            if (!bright
                    || Math.abs(o.position().decDeg() - centre.decDeg()) > 2 * kit.fieldRadiusDeg()
                    || contains(o.position(), CandidateSearch.CROP_MARGIN)) {
                continue;
            }
            Optional<Point> place = place(o.position());
            if (place.isPresent()) {
                Point p = place.get();
                double half = o.longAxisArcmin() / 120;
                double roomX = kit.fieldWidthDeg() * (0.5 - CandidateSearch.CROP_MARGIN) - half;
                double roomY = kit.fieldHeightDeg() * (0.5 - CandidateSearch.CROP_MARGIN) - half;
                Point shift = new Point(beyond(p.xDeg(), roomX), beyond(p.yDeg(), roomY));
                boolean keeps = Math.abs(shift.xDeg()) < kit.fieldWidthDeg() * 0.3
                        && Math.abs(shift.yDeg()) < kit.fieldHeightDeg() * 0.3;
                if (roomX > 0 && roomY > 0 && keeps) {
                    found.add(new Companion(o, at(shift)));
                }
            }
        }
        found.sort(Comparator.comparingDouble(c -> c.object().magnitude().orElse(99.0)));
        return found;
    }

    private static double beyond(double at, double room) {
        return at > room ? at - room : at < -room ? at + room : 0;
    }

    /** Stars in the frame brighter than a magnitude, brightest first. */
    public List<CatalogueStar> stars(StarSource source, double faintest) {
        return source.stars(centre, kit.fieldRadiusDeg(), faintest).stream()
                .filter(s -> contains(s.position(), 0))
                .sorted(Comparator.comparingDouble(CatalogueStar::magnitude))
                .toList();
    }

    /**
     * The panels of a mosaic around this frame's middle, row by row from the upper left as seen.
     *
     * @param overlap share of a panel's side that neighbours have in common (common practice: 0.1 to 0.25)
     */
    public List<Framing> mosaic(int columns, int rows, double overlap) {
        Check.atLeast("columns", columns, 1);
        Check.atLeast("rows", rows, 1);
        Check.inRange("overlap", overlap, 0, 0.8);
        List<Framing> panels = new ArrayList<>();
        double stepX = kit.fieldWidthDeg() * (1 - overlap);
        double stepY = kit.fieldHeightDeg() * (1 - overlap);
        for (int row = 0; row < rows; row++) {
            for (int column = 0; column < columns; column++) {
                double x = (column - (columns - 1) / 2.0) * stepX;
                double y = ((rows - 1) / 2.0 - row) * stepY;
                Equatorial middle = at(new Point(x, y));
                panels.add(new Framing(kit, middle, angleAt(new Point(x, y), middle)));
            }
        }
        return panels;
    }

    /** The position angle that is parallel to this frame's at another place: the meridians lean there. */
    private double angleAt(Point point, Equatorial middle) {
        return middle.positionAngleDeg(at(new Point(point.xDeg(), point.yDeg() + 0.01)));
    }

    /**
     * Panels that cover an object.
     *
     * @param angleDeg of the frame
     */
    public record Cover(int columns, int rows, double angleDeg) {
        public int panels() {
            return columns * rows;
        }
    }

    /** The panels that cover an object with the crop margin at this frame's angle; as a circle where it is not known how it lies. */
    public Cover coverOf(DeepSkyObject object, double overlap) {
        double length = object.longAxisArcmin() / 60;
        double width = object.hasShape() ? object.shortAxisArcmin() / 60 : length;
        double lies = object.positionAngleDeg().orElse(0.0) - angleDeg;
        // The box around an ellipse that is turned in it.
        double across = Math.hypot(length * Angles.sinDeg(lies), width * Angles.cosDeg(lies));
        double up = Math.hypot(length * Angles.cosDeg(lies), width * Angles.sinDeg(lies));
        double keep = 1 - 2 * CandidateSearch.CROP_MARGIN;
        return new Cover(
                panels(across / keep, kit.fieldWidthDeg(), overlap),
                panels(up / keep, kit.fieldHeightDeg(), overlap),
                angleDeg);
    }

    /** The fewest panels at any angle of a half turn; at this frame's own, if no other needs fewer. */
    public Cover fewestPanels(DeepSkyObject object, double overlap) {
        Cover best = coverOf(object, overlap);
        for (int turn = 0; turn < 180; turn++) {
            Cover tried = new Framing(kit, centre, turn).coverOf(object, overlap);
            // Of angles that need as few, the one along the object's axes keeps the most room.
            boolean along = object.positionAngleDeg()
                    .map(pa -> Math.abs(Angles.wrap180(4 * (pa - tried.angleDeg()))) < 2)
                    .orElse(false);
            if (tried.panels() < best.panels()
                    || along && tried.panels() == best.panels() && best.angleDeg() != angleDeg) {
                best = tried;
            }
        }
        return best;
    }

    private static int panels(double needDeg, double fieldDeg, double overlap) {
        return needDeg <= fieldDeg ? 1 : 1 + (int) Math.ceil((needDeg - fieldDeg) / (fieldDeg * (1 - overlap)));
    }

    /** This frame as the camera sees it on the other side of the meridian: turned by 180°. */
    public Framing flipped() {
        return new Framing(kit, centre, angleDeg + 180);
    }

    /**
     * The field of the off-axis guide camera.
     *
     * @param middle in the main frame's coordinates
     */
    public record GuideField(Point middle, double widthDeg, double heightDeg, List<CatalogueStar> stars) {
        public GuideField {
            stars = List.copyOf(stars);
        }
    }

    /**
     * The off-axis guide field on this side of the meridian; ask {@link #flipped} for the other.
     *
     * @param faintest limit of guide stars, see {@link #guideLimitMagnitude}
     * @return empty if the kit has no off-axis guider
     */
    public Optional<GuideField> guideField(StarSource source, double faintest) {
        if (kit.equipment().offAxis().isEmpty() || kit.guideOptics().isEmpty()) {
            return Optional.empty();
        }
        OffAxis prism = kit.equipment().offAxis().get();
        GuiderSpec guider = kit.guideOptics().get();
        double degPerMm = Math.toDegrees(1 / kit.optics().focalLengthMm());
        Point middle = new Point(
                prism.offsetMm() * degPerMm * Angles.sinDeg(prism.angleDeg()),
                prism.offsetMm() * degPerMm * Angles.cosDeg(prism.angleDeg()));
        double width = guider.widthPx() * guider.pixelUm() / 1000 * degPerMm;
        double height = guider.heightPx() * guider.pixelUm() / 1000 * degPerMm;
        List<CatalogueStar> stars = source.stars(at(middle), Math.hypot(width, height) / 2, faintest).stream()
                .filter(s -> place(s.position())
                        .filter(p -> inGuideField(p, middle, prism.angleDeg(), width, height))
                        .isPresent())
                .sorted(Comparator.comparingDouble(CatalogueStar::magnitude))
                .toList();
        return Optional.of(new GuideField(middle, width, height, stars));
    }

    /**
     * How far the pick-off stands clear of the sensor, as far as the guide camera's own field tells: millimetres, negative if it shades it.
     * Before the sensor's long side there is room nearer to the middle, where stars are round (common practice).
     *
     * @return empty if the kit has no off-axis guider
     */
    public static OptionalDouble prismClearanceMm(Kit kit) {
        if (kit.equipment().offAxis().isEmpty() || kit.guideOptics().isEmpty()) {
            return OptionalDouble.empty();
        }
        OffAxis prism = kit.equipment().offAxis().get();
        GuiderSpec guider = kit.guideOptics().get();
        double halfWide = kit.sensor().widthPx() * kit.sensor().pixelUm() / 2000;
        double halfHigh = kit.sensor().heightPx() * kit.sensor().pixelUm() / 2000;
        double sensor = Math.abs(halfWide * Angles.sinDeg(prism.angleDeg()))
                + Math.abs(halfHigh * Angles.cosDeg(prism.angleDeg()));
        return OptionalDouble.of(prism.offsetMm() - guider.heightPx() * guider.pixelUm() / 2000 - sensor);
    }

    /** Whether the pick-off stands before the sensor's long side. */
    public static boolean prismAtLongSide(Kit kit) {
        return kit.equipment()
                .offAxis()
                .map(p -> Math.abs(Angles.cosDeg(p.angleDeg())) > Math.abs(Angles.sinDeg(p.angleDeg()))
                        == (kit.sensor().widthPx() >= kit.sensor().heightPx()))
                .orElse(false);
    }

    /** The guide sensor's long side lies across the direction to the main sensor's middle. */
    private static boolean inGuideField(Point p, Point middle, double angleDeg, double width, double height) {
        double dx = p.xDeg() - middle.xDeg();
        double dy = p.yDeg() - middle.yDeg();
        double along = dx * Angles.sinDeg(angleDeg) + dy * Angles.cosDeg(angleDeg);
        double across = dx * Angles.cosDeg(angleDeg) - dy * Angles.sinDeg(angleDeg);
        return Math.abs(across) <= width / 2 && Math.abs(along) <= height / 2;
    }

    /** The camera angle of a half turn in steps of 5° that has the brightest worst guide star on both sides of the meridian. */
    public Optional<Framing> bestGuideAngle(StarSource source, double faintest) {
        Framing best = null;
        double bestMagnitude = Double.POSITIVE_INFINITY;
        for (int turn = 0; turn < 180; turn += 5) {
            Framing tried = new Framing(kit, centre, angleDeg + turn);
            double worst = Math.max(
                    tried.brightestGuide(source, faintest), tried.flipped().brightestGuide(source, faintest));
            if (worst < bestMagnitude) {
                bestMagnitude = worst;
                best = tried;
            }
        }
        return Optional.ofNullable(best);
    }

    private double brightestGuide(StarSource source, double faintest) {
        return guideField(source, faintest)
                .flatMap(f -> f.stars().stream().findFirst())
                .map(CatalogueStar::magnitude)
                .orElse(Double.POSITIVE_INFINITY);
    }

    /**
     * The faintest guide star with a signal-to-noise ratio of forty in one exposure, by the CCD equation over a star image of 3.5″
     * with a sensitive small camera (common practice: about 11 is usual).
     */
    public static double guideLimitMagnitude(Kit kit, double seconds, double skyMagPerArcsec2) {
        Check.positive("seconds", seconds);
        GuiderSpec guider = kit.guider();
        boolean offAxis = kit.equipment().offAxis().isPresent();
        double aperture = offAxis ? kit.optics().apertureMm() : guider.apertureMm();
        double focal = offAxis ? kit.optics().focalLengthMm() : guider.focalLengthMm();
        double area = Math.PI * aperture * aperture / 400;
        double zero = Photometry.photonsPerSecondCm2Nm()
                * area
                * GUIDE_BANDWIDTH_NM
                * GUIDE_QUANTUM_EFFICIENCY
                * GUIDE_TRANSMISSION
                * seconds;
        double scale = Sampling.arcsecPerPixel(guider.pixelUm(), focal);
        double pixels = Math.max(4, Math.PI * Math.pow(GUIDE_SEEING_ARCSEC / scale, 2));
        double noise2 = pixels
                * (zero * Math.pow(10, -0.4 * skyMagPerArcsec2) * scale * scale + GUIDE_READ_NOISE * GUIDE_READ_NOISE);
        // s / √(s + n²) = k  →  s = (k² + √(k⁴ + 4 k² n²)) / 2
        double k2 = GUIDE_SNR * GUIDE_SNR;
        double electrons = (k2 + Math.sqrt(k2 * k2 + 4 * k2 * noise2)) / 2;
        return 2.5 * Math.log10(zero / electrons);
    }
}
