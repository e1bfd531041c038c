package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.polar.AxisFinder;
import app.ironside.polar.AxisSight;
import app.ironside.polar.KnobAdvice;
import app.ironside.polar.KnobGearing;
import app.ironside.polar.PolarError;
import app.ironside.polar.PolarRefusal;
import app.ironside.polar.PolarResult;
import app.ironside.sky.Observer;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import app.ironside.solve.SolveResult;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "polar",
        description =
                "Polar error from three exposures turned about the right-ascension axis only. Errors in arcminutes.")
final class PolarVerb extends Verb {
    @Parameters(
            arity = "3..*",
            paramLabel = "FILE",
            description = "Three or more FITS, TIFF or JPEG images with their time and exposure, in any order.")
    private List<Path> files;

    @Option(
            names = "--clock",
            paramLabel = "+HH:MM",
            defaultValue = "Z",
            description = "How far the camera's clock, by which TIFF and JPEG tell their time, is ahead of UTC.")
    private ZoneOffset clock;

    @Mixin
    private SiteOptions place;

    @Override
    Answer answer() {
        PlateSolver solver = new Wiring(Workers.ALL_CORES, Optional.of(Wiring.usersData()))
                .shelf()
                .solver();
        List<AxisSight> sights = new ArrayList<>();
        SolveHints hints = SolveHints.NONE;
        double sigma = AxisFinder.USUAL_CENTRE_SIGMA_ARCSEC;
        double fieldRadius = 1;
        for (Path file : files) {
            Frame frame = FrameFiles.readPicture(file);
            Instant middle = frame.header()
                    .middle()
                    .map(told -> FrameFiles.isByCamerasClock(file) ? told.minusSeconds(clock.getTotalSeconds()) : told)
                    .orElseThrow(() -> new BadInputException(
                            file.toString(), "has no DATE-OBS and EXPTIME", "a header with the UTC start and seconds"));
            SolveResult result = solver.solve(finder().find(frame), hints);
            if (result instanceof NoSolution none) {
                return Answer.impossible(
                        file.getFileName() + " was not recognised. " + none.reason(), Answer.facts("solved", false));
            }
            PlateSolution solution = (PlateSolution) result;
            sights.add(new AxisSight(solution.centre(), middle, OptionalDouble.of(solution.rotationDeg())));
            sigma = Math.max(sigma, solution.rmsArcsec() / Math.sqrt(solution.matchedStars()));
            fieldRadius = solution.scaleArcsecPerPixel() / 3600 * Math.hypot(frame.width(), frame.height()) / 2;
            hints = SolveHints.NONE.withScale(solution.scaleArcsecPerPixel(), 0.01);
        }
        PolarResult result = new AxisFinder(Observer.at(place.site(ZoneOffset.UTC, null)))
                .find(sights, sigma, AxisFinder.rollSigmaArcsec(sigma, fieldRadius));
        if (result instanceof PolarRefusal refusal) {
            return Answer.impossible(refusal.reason(), Map.of());
        }
        PolarError error = (PolarError) result;
        Map<String, Object> facts = Answer.facts(
                "altitudeErrorArcmin", rounded(error.altitudeErrorArcmin(), 3),
                "azimuthErrorArcmin", rounded(error.azimuthErrorArcmin(), 3),
                "totalErrorArcmin", rounded(error.totalArcmin(), 3),
                "uncertaintyArcmin", rounded(error.uncertaintyArcmin(), 3),
                "turnDeg", rounded(error.turnDeg(), 2),
                "advice", KnobAdvice.toRemove(error, KnobGearing.UNKNOWN).sentence());
        return Answer.done(facts);
    }
}
