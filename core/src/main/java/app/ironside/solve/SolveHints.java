package app.ironside.solve;

import app.ironside.Check;
import app.ironside.image.Header;
import app.ironside.kit.Kit;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What is believed of a frame before it is solved. A hint narrows the search at first; where it leads nowhere, the search goes on
 * without it, and the answer says that it was wrong.
 *
 * @param near where it points
 * @param radiusDeg how far from there it may be
 * @param scaleArcsecPerPixel image scale
 * @param scaleTolerance how wrong the scale may be, as a share
 * @param focalLengthMm from which the scale was reckoned, for words
 * @param epochYear Julian year of the frame, for stars that move
 * @param elsewhere whether the whole sky is searched when the frame is not near the place; slow where there is nothing to be found
 */
public record SolveHints(
        Optional<Equatorial> near,
        double radiusDeg,
        OptionalDouble scaleArcsecPerPixel,
        double scaleTolerance,
        OptionalDouble focalLengthMm,
        double epochYear,
        boolean elsewhere) {
    /** Nothing is known: search the whole sky. */
    public static final SolveHints NONE =
            new SolveHints(Optional.empty(), 180, OptionalDouble.empty(), 0.05, OptionalDouble.empty(), 2000, true);

    private static final double USUAL_SCALE_TOLERANCE = 0.05;
    private static final double NEAR_A_WCS_DEG = 3;

    /** A mount before its first sync may be some degrees off; the search looks nearer first. */
    private static final double NEAR_A_MOUNT_DEG = 6;

    public SolveHints {
        Check.inRange("radiusDeg", radiusDeg, 0.01, 180);
        Check.inRange("scaleTolerance", scaleTolerance, 0.0001, 0.9);
    }

    public SolveHints withNear(Equatorial place, double withinDeg) {
        return new SolveHints(
                Optional.of(place),
                withinDeg,
                scaleArcsecPerPixel,
                scaleTolerance,
                focalLengthMm,
                epochYear,
                elsewhere);
    }

    public SolveHints withScale(double arcsecPerPixel, double tolerance) {
        return new SolveHints(
                near,
                radiusDeg,
                OptionalDouble.of(Check.positive("arcsecPerPixel", arcsecPerPixel)),
                tolerance,
                focalLengthMm,
                epochYear,
                elsewhere);
    }

    /** The scale of a kit's main camera. */
    public SolveHints withKit(Kit kit, int binning, double tolerance) {
        SolveHints scaled = withScale(kit.arcsecPerPixel() * binning, tolerance);
        return new SolveHints(
                scaled.near,
                radiusDeg,
                scaled.scaleArcsecPerPixel,
                tolerance,
                OptionalDouble.of(kit.optics().focalLengthMm()),
                epochYear,
                elsewhere);
    }

    /**
     * What a frame's header says: time of its middle, where it points, its scale. A WCS counts more than the words of mount and camera
     * ({@code RA}, {@code DEC} or {@code OBJCTRA}, {@code OBJCTDEC}; {@code FOCALLEN}, {@code XPIXSZ}, which includes the binning).
     * What is missing, or is no number in its range, gives no hint.
     *
     * @param width pixels of the frame
     */
    public static SolveHints of(Header header, int width, int height) {
        SolveHints hints = header.middle().map(NONE::withTime).orElse(NONE);
        Optional<Wcs> believed = Wcs.from(header);
        if (believed.isPresent()) {
            Wcs wcs = believed.get();
            return hints.withNear(wcs.toSky(width / 2.0, height / 2.0), NEAR_A_WCS_DEG)
                    .withScale(wcs.scaleArcsecPerPixel(), USUAL_SCALE_TOLERANCE);
        }
        OptionalDouble focal = header.number("FOCALLEN");
        OptionalDouble pixel = header.number("XPIXSZ");
        if (focal.orElse(0) > 0 && pixel.orElse(0) > 0) {
            hints = hints.withScale(
                    Math.toDegrees(pixel.getAsDouble() / 1000 / focal.getAsDouble()) * 3600, USUAL_SCALE_TOLERANCE);
            hints = new SolveHints(
                    hints.near,
                    hints.radiusDeg,
                    hints.scaleArcsecPerPixel,
                    hints.scaleTolerance,
                    focal,
                    hints.epochYear,
                    hints.elsewhere);
        }
        Optional<Equatorial> pointed = pointed(header);
        return pointed.isPresent() ? hints.withNear(pointed.get(), NEAR_A_MOUNT_DEG) : hints;
    }

    private static Optional<Equatorial> pointed(Header header) {
        OptionalDouble ra = header.number("RA");
        OptionalDouble dec = header.number("DEC");
        if (ra.isEmpty() || dec.isEmpty()) {
            boolean inWords = header.text("OBJCTRA").isPresent();
            ra = header.text(inWords ? "OBJCTRA" : "RA")
                    .map(SolveHints::sexagesimal)
                    .orElse(OptionalDouble.empty());
            ra = ra.isPresent() ? OptionalDouble.of(15 * ra.getAsDouble()) : ra;
            dec = header.text(inWords ? "OBJCTDEC" : "DEC")
                    .map(SolveHints::sexagesimal)
                    .orElse(OptionalDouble.empty());
        }
        boolean inRange = ra.isPresent()
                && dec.isPresent()
                && ra.getAsDouble() >= 0
                && ra.getAsDouble() <= 360
                && Math.abs(dec.getAsDouble()) <= 90;
        return inRange ? Optional.of(new Equatorial(ra.getAsDouble(), dec.getAsDouble())) : Optional.empty();
    }

    /** An angle in a header: "01 33 50.9" or "+30:39:36": whole, sixtieths, sixtieths of those. */
    public static OptionalDouble sexagesimal(String text) {
        String[] parts = text.strip().split("[\\s:]+");
        try {
            double value = 0;
            for (int i = parts.length - 1; i >= 0; i--) {
                value = value / 60 + Math.abs(Double.parseDouble(parts[i]));
            }
            return OptionalDouble.of(text.strip().startsWith("-") ? -value : value);
        } catch (NumberFormatException e) {
            return OptionalDouble.empty();
        }
    }

    public SolveHints withTime(Instant time) {
        return new SolveHints(
                near,
                radiusDeg,
                scaleArcsecPerPixel,
                scaleTolerance,
                focalLengthMm,
                CatalogueStar.julianYear(time),
                elsewhere);
    }

    /** Only near the place. */
    public SolveHints nearOnly() {
        return new SolveHints(near, radiusDeg, scaleArcsecPerPixel, scaleTolerance, focalLengthMm, epochYear, false);
    }

    SolveHints withoutPlace() {
        return new SolveHints(
                Optional.empty(), 180, scaleArcsecPerPixel, scaleTolerance, focalLengthMm, epochYear, elsewhere);
    }

    SolveHints withoutScale() {
        return new SolveHints(
                near, radiusDeg, OptionalDouble.empty(), scaleTolerance, OptionalDouble.empty(), epochYear, elsewhere);
    }

    boolean allowsScale(double arcsecPerPixel) {
        return scaleArcsecPerPixel.isEmpty()
                || Math.abs(arcsecPerPixel / scaleArcsecPerPixel.getAsDouble() - 1) <= scaleTolerance;
    }

    boolean allowsCentre(Equatorial centre) {
        return near.isEmpty() || near.get().separationDeg(centre) <= radiusDeg;
    }

    /** In what a solution shows these to be wrong. */
    List<String> wrongIn(PlateSolution solution) {
        List<String> wrong = new ArrayList<>();
        if (!allowsCentre(solution.centre())) {
            wrong.add(String.format(
                    Locale.ROOT,
                    "The frame is %.1f° from where it was thought to be.",
                    near.orElseThrow().separationDeg(solution.centre())));
        }
        if (!allowsScale(solution.scaleArcsecPerPixel())) {
            double believed = scaleArcsecPerPixel.orElseThrow();
            double ratio = solution.scaleArcsecPerPixel() / believed;
            long binning = Math.round(ratio >= 1 ? ratio : 1 / ratio);
            boolean binned = binning >= 2 && Math.abs((ratio >= 1 ? ratio : 1 / ratio) / binning - 1) < 0.03;
            if (binned) {
                wrong.add(String.format(
                        Locale.ROOT,
                        "The scale is %.2f″ a pixel, %d times %s than the hint's %.2f: the binning is another.",
                        solution.scaleArcsecPerPixel(),
                        binning,
                        ratio > 1 ? "coarser" : "finer",
                        believed));
            } else if (focalLengthMm.isPresent()) {
                wrong.add(String.format(
                        Locale.ROOT,
                        "The focal length is %.0f mm, the kit says %.0f: correct the kit.",
                        focalLengthMm.getAsDouble() / ratio,
                        focalLengthMm.getAsDouble()));
            } else {
                wrong.add(String.format(
                        Locale.ROOT,
                        "The scale is %.3f″ a pixel, the hint said %.3f: focal length or pixel size is wrong.",
                        solution.scaleArcsecPerPixel(),
                        believed));
            }
        }
        return wrong;
    }
}
