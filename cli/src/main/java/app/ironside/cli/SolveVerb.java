package app.ironside.cli;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.sky.CatalogueImport;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.solve.Wcs;
import app.ironside.star.StarField;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "solve",
        description =
                "Recognises the sky in a frame. Hints are optional; if the place is wrong, the whole sky is searched.")
final class SolveVerb extends Verb {
    /** A large telescope's finest and the coarsest of a lens that sees the whole sky. */
    private static final double FINEST = 0.01;

    private static final double COARSEST = 1000;

    @Parameters(paramLabel = "FILE", description = "A FITS or 16-bit TIFF image.")
    private Path file;

    @Option(names = "--ra", paramLabel = "D", description = "Right ascension J2000 near which to search, degrees.")
    private Double ra;

    @Option(names = "--dec", paramLabel = "D", description = "Declination J2000 near which to search, degrees.")
    private Double dec;

    @Option(
            names = "--radius",
            paramLabel = "D",
            defaultValue = "5",
            description = "How far from there the middle of the frame may be, degrees (default 5).")
    private double radius;

    @Option(names = "--scale", paramLabel = "ARCSEC_PER_PX", description = "Image scale, arcseconds per pixel.")
    private Double scale;

    @Option(
            names = "--scale-tolerance",
            paramLabel = "FRACTION",
            defaultValue = "0.05",
            description = "How wrong the scale may be (default 0.05).")
    private double tolerance;

    @Option(
            names = "--catalog",
            paramLabel = "FILE",
            description =
                    "A table of stars instead of the shipped ones: FITS, VOTable or CSV with right ascension, declination"
                            + " (degrees, J2000) and magnitude; proper motions are used where there are any.")
    private Path catalog;

    @Option(
            names = "--ra-column",
            paramLabel = "NAME",
            defaultValue = "",
            description = "Its column of right ascension.")
    private String raColumn;

    @Option(names = "--dec-column", paramLabel = "NAME", defaultValue = "", description = "Its column of declination.")
    private String decColumn;

    @Option(
            names = "--magnitude-column",
            paramLabel = "NAME",
            defaultValue = "",
            description = "Its column of magnitude.")
    private String magnitudeColumn;

    @Option(
            names = "--catalog-epoch",
            paramLabel = "YEAR",
            defaultValue = "2000",
            description = "Julian year of its positions, if they are to be brought to J2000 (default 2000).")
    private double catalogEpoch;

    @Option(
            names = "--write",
            description = "Write a copy with the WCS in its header beside the input (NAME.wcs.fits).")
    private boolean write;

    @Override
    Answer answer() {
        SolveHints given = hints();
        if (write) {
            Destination.file(
                    besides(file),
                    "option --write",
                    Stream.of(file, catalog).filter(Objects::nonNull).toList());
        }
        Frame frame = FrameFiles.readPicture(file);
        SolveHints hints = frame.header().middle().map(given::withTime).orElse(given);
        PlateSolver solver = solver();
        long began = System.nanoTime();
        StarField field = finder().find(frame);
        SolveResult result = solver.solve(field, hints);
        double elapsed = rounded((System.nanoTime() - began) / 1e6, 1);
        if (result instanceof NoSolution none) {
            return Answer.impossible(none.reason(), Answer.facts("solved", false, "elapsedMs", elapsed));
        }
        PlateSolution s = (PlateSolution) result;
        Map<String, Object> facts = Answer.facts(
                "solved", true,
                "raDeg", rounded(s.centre().raDeg(), 6),
                "decDeg", rounded(s.centre().decDeg(), 6),
                "scaleArcsecPerPixel", rounded(s.scaleArcsecPerPixel(), 5),
                "rotationDeg", rounded(s.rotationDeg(), 4),
                "mirrored", s.wcs().mirrored(),
                "matchedStars", s.matchedStars(),
                "rmsArcsec", rounded(s.rmsArcsec(), 3),
                "log10FalseOdds", rounded(s.log10FalseOdds(), 1),
                "wrongHints", s.wrongHints(),
                "distortionPx", rounded(s.wcs().largestDistortionPx(frame.width(), frame.height()), 2),
                "elapsedMs", elapsed,
                "wcs", s.wcs().toHeader().values());
        if (write) {
            Path out = besides(file);
            FitsFiles.write(
                    out,
                    frame.withHeader(frame.header()
                            .without(Wcs::isWcsKeyword)
                            .withAll(s.wcs().toHeader().values())),
                    FitsFiles.Encoding.FLOAT_32);
            facts.put("written", out.toString());
        }
        return Answer.done(facts);
    }

    private SolveHints hints() {
        SolveHints hints = SolveHints.NONE;
        if ((ra == null) != (dec == null)) {
            throw badOption(ra == null ? "--ra" : "--dec", "is missing", "both --ra and --dec, or neither");
        }
        if (!(radius > 0 && radius <= 180)) {
            throw badOption("--radius", "is " + radius, "degrees, above 0 to 180");
        }
        if (!(catalogEpoch >= 1800 && catalogEpoch <= 2200)) {
            throw badOption("--catalog-epoch", "is " + catalogEpoch, "a year, 1800 to 2200");
        }
        if (!(tolerance > 0 && tolerance < 0.9)) {
            throw badOption("--scale-tolerance", "is " + tolerance, "a share, above 0 and below 0.9");
        }
        if (ra != null) {
            hints = hints.withNear(TargetVerb.place(ra, dec), radius);
        }
        if (scale != null) {
            if (!(scale >= FINEST && scale <= COARSEST)) {
                throw badOption("--scale", "is " + scale, "arcseconds per pixel, " + FINEST + " to " + COARSEST);
            }
            hints = hints.withScale(scale, tolerance);
        }
        return hints;
    }

    private PlateSolver solver() {
        Wiring wiring = new Wiring(Workers.ALL_CORES, Optional.of(Wiring.usersData()));
        if (catalog == null) {
            return wiring.shelf().solver();
        }
        CatalogueImport.Columns columns = CatalogueImport.Columns.USUAL
                .withPlace(raColumn, decColumn)
                .withMagnitude(magnitudeColumn)
                .withEpochYear(catalogEpoch);
        return wiring.shelf().solverOf(CatalogueImport.read(catalog, columns, Progress.NONE));
    }

    private static Path besides(Path file) {
        String name = file.getFileName().toString().replaceFirst("\\.[A-Za-z]+$", "");
        return file.resolveSibling(name + ".wcs.fits");
    }
}
