package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Mount;
import app.ironside.device.Operation;
import app.ironside.document.NightFile;
import app.ironside.image.FitsFiles;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Wcs;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Simulator truth (seed 14): frames of an observatory whose axis is 22′ too high and 15′ too far west, through the command line. */
class PolarVerbTest {
    private static final Instant EVENING = Instant.parse("2026-11-14T18:30:00Z");

    @TempDir
    Path folder;

    private final StringWriter out = new StringWriter();

    private JsonNode run(String... arguments) throws Exception {
        out.getBuffer().setLength(0);
        int exit = Main.run(arguments, new PrintWriter(out), new PrintWriter(new StringWriter()));
        assertThat(exit).isZero();
        return new ObjectMapper().readTree(out.toString());
    }

    /** Far from the pole, and with it in the frame, where frames hardly move and only turn. */
    @ParameterizedTest
    @ValueSource(doubles = {62, 89.6})
    void polarAndSolveOnFramesOfKnownTruth(double declinationDeg) throws Exception {
        DeepSkyCatalogue objects = DeepSkyCatalogue.load();
        NightFile file = NightFile.parse(
                Files.readString(Path.of("..", "examples", "colle-sorbo.json")), "colle-sorbo.json", objects);
        SteppedClock clock = new SteppedClock(EVENING);
        SimulatedObservatory observatory = new SimulatedObservatory(
                file.site(),
                file.kit(),
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class).withPolarError(22, -15),
                new SkySource(StarCatalogue.hipparcos(), objects),
                clock,
                Instant.parse("2026-11-14T16:02:00Z"),
                Workers.ALL_CORES);
        Mount mount = observatory.devices().mount();
        mount.unpark();
        int focus = (int) Math.round(observatory.bestFocusSteps());
        observatory.devices().focuser().moveAndWait(clock, focus + 60);
        observatory.devices().focuser().moveAndWait(clock, focus);
        double ra = Observer.at(file.site()).siderealTimeDeg(clock.now()) + 60;
        mount.slewAndWait(clock, new Equatorial(ra, declinationDeg), Mount.PierSide.WEST);
        List<String> frames = new ArrayList<>();
        Equatorial truth = null;
        for (int k = 0; k < 3; k++) {
            Camera.Exposure exposure =
                    Camera.Exposure.light(Duration.ofSeconds(6)).withBinning(2);
            Operation exposing = observatory.devices().camera().start(exposure);
            clock.await(Duration.ofSeconds(3));
            truth = observatory.looksAt();
            exposing.await(clock);
            Path frame = folder.resolve("polar" + k + ".fits");
            FitsFiles.write(frame, observatory.devices().camera().download(), FitsFiles.Encoding.UNSIGNED_16);
            frames.add(frame.toString());
            mount.turnRightAscensionAxis(24).await(clock);
        }
        JsonNode polar = run(
                "polar",
                frames.get(0),
                frames.get(1),
                frames.get(2),
                "--lat",
                "44.05",
                "--lon",
                "8.20",
                "--elevation",
                "740",
                "--json");
        // A hundredth of the error of 26.6′, and what the gear strays between the exposures.
        assertThat(polar.get("altitudeErrorArcmin").asDouble()).isCloseTo(22, within(0.45));
        assertThat(polar.get("azimuthErrorArcmin").asDouble()).isCloseTo(-15, within(0.45));
        assertThat(polar.get("advice").asText()).contains("lower the axis").contains("move the axis east");

        JsonNode solved = run("solve", frames.get(2), "--scale", "6.0", "--write", "--json");
        Equatorial centre = new Equatorial(
                solved.get("raDeg").asDouble(), solved.get("decDeg").asDouble());
        assertThat(centre.separationDeg(truth) * 3600).isLessThan(3); // half a pixel
        Wcs written = Wcs.from(FitsFiles.read(folder.resolve("polar2.wcs.fits")).header())
                .orElseThrow();
        assertThat(written.scaleArcsecPerPixel())
                .isCloseTo(solved.get("scaleArcsecPerPixel").asDouble(), within(1e-4));
    }
}
