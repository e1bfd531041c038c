package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.logbook.Logbook;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CliTest {
    private static final String[] COLLE_SORBO = {
        "--lat", "44.05", "--lon", "8.20", "--elevation", "740", "--date", "2026-11-14", "--zone", "Europe/Rome"
    };

    @TempDir
    Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();

    private int run(String... arguments) {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        return Main.run(arguments, new PrintWriter(out), new PrintWriter(err));
    }

    private JsonNode json() throws Exception {
        assertThat(out.toString().strip().lines()).hasSize(1);
        return new ObjectMapper().readTree(out.toString());
    }

    private static String[] with(String[] first, String... more) {
        List<String> all = new ArrayList<>(List.of(more));
        all.addAll(List.of(first));
        return all.toArray(new String[0]);
    }

    @Test
    void theVersionSaysWhatItIsAndWhenItWasBuilt() {
        assertThat(run("--version")).isZero();
        assertThat(out.toString().strip()).matches("Ironside \\d+\\.\\d+\\.\\d+, built 2\\d{3}-.*Z");
    }

    @Test
    void numbersThatAreNoneAreToldInPlainWords() {
        assertThat(run("stack", "a.fits", "--out", "b.fits", "--max-memory", "much"))
                .isEqualTo(2);
        assertThat(err.toString())
                .contains("--max-memory", "'much' is not a whole number")
                .doesNotContain("long");
        assertThat(run("stack", "a.fits", "--out", "b.fits", "--max-memory", "299"))
                .isEqualTo(2);
        assertThat(err.toString()).contains("option --max-memory: is 299; expected megabytes, 300 to 1048576");
        assertThat(run("stack", "a.fits", "--out", "b.fits", "--drizzle", "5")).isEqualTo(2);
        assertThat(err.toString()).contains("option --drizzle: is 5.0; expected 1 to 4");
        assertThat(run("stack", "a.fits", "--out", "b.fits", "--drop", "0.5")).isEqualTo(2);
        assertThat(err.toString()).contains("option --drop: is given without --drizzle");
    }

    /** There and back; a backup that is none, and data that is there already, are refused in a line. */
    @Test
    void aBackupIsTakenBack() throws Exception {
        Path data = folder.resolve("data");
        Logbook.open(data).close();
        Path zip = folder.resolve("ironside.zip");
        assertThat(run("backup", zip.toString(), "--data", data.toString(), "--json"))
                .isZero();
        assertThat(json().get("files").asInt()).isEqualTo(1);
        Path other = folder.resolve("other");
        assertThat(run("restore", zip.toString(), "--data", other.toString(), "--json"))
                .isZero();
        assertThat(other.resolve("logbook.sqlite")).exists();
        assertThat(run("restore", zip.toString(), "--data", other.toString())).isEqualTo(2);
        assertThat(err.toString()).contains("holds data already").hasLineCount(1);
        Files.writeString(zip, "no archive");
        assertThat(run(
                        "restore",
                        zip.toString(),
                        "--data",
                        folder.resolve("third").toString()))
                .isEqualTo(2);
        assertThat(err.toString()).contains("ironside.zip").hasLineCount(1);
    }

    /** Another library: astropy 5.2.1 for the times. */
    @Test
    void nightTellsTheTwilights() throws Exception {
        assertThat(run(with(COLLE_SORBO, "night", "--json"))).isZero();
        JsonNode night = json();
        OffsetDateTime dusk = OffsetDateTime.parse(night.get("astronomicalDusk").asText());
        assertThat(Duration.between(OffsetDateTime.parse("2026-11-14T18:41:59+01:00"), dusk)
                        .abs()
                        .toSeconds())
                .isLessThan(4);
        assertThat(night.get("darkHours").asDouble()).isCloseTo(11.0, within(0.01));
        assertThat(night.get("moonset")).hasSize(1);
        for (String field : new String[] {
            "sunset",
            "civilDusk",
            "nauticalDusk",
            "astronomicalDawn",
            "nauticalDawn",
            "civilDawn",
            "sunrise",
            "moonrise",
            "moonIlluminatedFraction",
            "moonlessDarkHours"
        }) {
            assertThat(night.has(field)).as(field).isTrue();
        }
    }

    @Test
    void aTargetByNameAndOneThatIsNeverUp() throws Exception {
        assertThat(run(with(COLLE_SORBO, "target", "M 33", "--json", "--min-altitude", "25")))
                .isZero();
        JsonNode target = json();
        assertThat(target.get("transitAltitudeDeg").asDouble()).isCloseTo(76.75, within(0.02)); // astropy, above
        assertThat(target.get("effectiveHours").asDouble())
                .isLessThan(target.get("usableHours").asDouble());
        assertThat(target.get("samples")).hasSize(145);
        assertThat(run(with(COLLE_SORBO, "target", "--ra", "10", "--dec", "-80", "--json")))
                .isEqualTo(1);
        assertThat(json().get("reason").asText()).contains("not up in astronomical darkness");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "night --lat 95 --lon 8 --date 2026-11-14 --zone UTC | option --lat: is 95.0; expected degrees, -90.0 to 90.0",
                "night --lat 44 --lon 8 --date 14.11.2026 --zone UTC | \"14.11.2026\" is no date; expected YYYY-MM-DD",
                "night --lat 44 --lon 8 --date 2026-11-14 --zone Roma | option --zone: \"Roma\" is no time zone",
                "target Nibiru --lat 44 --lon 8 --date 2026-11-14 --zone UTC | target \"Nibiru\": the catalogue has none",
                "stars nothing.fits | nothing.fits: there is no such file",
                "solve nothing.fits --ra 10 | option --dec: is missing",
                "focus nothing.csv | nothing.csv: cannot be read",
                "guiding nothing.csv | nothing.csv: cannot be read",
                "stack a.fits --out b.fits --reject magic | option --reject: is \"magic\"",
                "frobnicate | frobnicate"
            })
    void badInputIsOneLineAndExitTwo(String call, String message) {
        assertThat(run(call.strip().split(" "))).isEqualTo(2);
        assertThat(err.toString().strip().lines()).hasSize(1);
        assertThat(err.toString()).contains(message.strip()).doesNotContain("Exception");
        assertThat(out.toString()).isEmpty();
    }

    @Test
    void everyVerbHasHelp() {
        for (String verb : new String[] {
            "night",
            "target",
            "stars",
            "solve",
            "polar",
            "focus",
            "guiding",
            "mask",
            "master",
            "calibrate",
            "stack",
            "grade",
            "sort",
            "darkroom",
            "combine",
            "watch",
            "rehearse"
        }) {
            assertThat(run(verb, "--help")).isZero();
            assertThat(out.toString()).contains("Usage: ironside " + verb);
        }
    }

    /** A frame by Fourier optics, 60 µm from focus, after one at 30: the last turn was the wrong way (MaskReaderTest has the others). */
    @Test
    void maskReadsAFrame() throws Exception {
        Path frames = Path.of("..", "core", "src", "test", "resources", "app", "ironside", "focus");
        String far = frames.resolve("mask-q60.fits.gz").toString();
        String near = frames.resolve("mask-p30.fits.gz").toString();
        assertThat(run(
                        "mask",
                        far,
                        "--before",
                        near,
                        "--aperture",
                        "90",
                        "--focal-length",
                        "432",
                        "--pixel-um",
                        "6.3",
                        "--lean",
                        "together",
                        "--json"))
                .isZero();
        JsonNode answer = json();
        assertThat(answer.get("defocusUm").asDouble()).isCloseTo(60, within(8.0));
        assertThat(answer.get("inFocus").asBoolean()).isFalse();
        assertThat(answer.get("sentence").asText()).contains("The last turn was the wrong way");
        assertThat(run("mask", far, "--json")).isZero();
        assertThat(json().has("defocusUm")).isFalse();
        assertThat(run("mask", far, "--lean", "left")).isEqualTo(2);
        assertThat(err.toString()).contains("apart, together or unknown");
        assertThat(run("mask", far, "--aperture", "-3", "--focal-length", "432", "--pixel-um", "6.3"))
                .isEqualTo(2);
        assertThat(err.toString()).contains("--aperture").contains("from 1.0 to 20000.0");
    }

    @Test
    void guidingReadsARecordAndComparesTwo() throws Exception {
        StringBuilder calm = new StringBuilder("# guided: true\ntime_s,ra_arcsec,dec_arcsec\n");
        StringBuilder restless = new StringBuilder("time_s,ra_arcsec,dec_arcsec,ra_pulse_ms,dec_pulse_ms,snr\n");
        Random random = new Random(5);
        for (int i = 0; i < 300; i++) {
            calm.append(String.format(
                    java.util.Locale.ROOT,
                    "%d,%.3f,%.3f%n",
                    2 * i,
                    0.3 * random.nextGaussian(),
                    0.3 * random.nextGaussian()));
            double swing = 2 * Math.sin(2 * Math.PI * i / 40.0);
            restless.append(String.format(
                    java.util.Locale.ROOT,
                    "%d,%.3f,%.3f,0,0,30%n",
                    2 * i,
                    swing + 0.3 * random.nextGaussian(),
                    0.3 * random.nextGaussian()));
        }
        Path one = Files.writeString(folder.resolve("restless.csv"), restless);
        Path other = Files.writeString(folder.resolve("calm.csv"), calm);
        assertThat(run("guiding", one.toString(), "--against", other.toString(), "--json"))
                .isZero();
        JsonNode answer = json();
        assertThat(answer.get("periodicErrors").get(0).get("periodS").asDouble())
                .isCloseTo(80, within(0.5));
        assertThat(answer.get("periodicErrors").get(0).get("amplitudeArcsec").asDouble())
                .isCloseTo(2, within(0.1));
        assertThat(answer.get("blame").get(0).get("cause").asText()).isEqualTo("gears");
        assertThat(answer.get("rmsTotalArcsec").asDouble())
                .isGreaterThan(answer.get("seeingArcsec").asDouble());
        assertThat(answer.get("comparison").get("verdict").asText()).isEqualTo("worse");
        assertThat(answer.get("comparison").get("pValue").asDouble()).isLessThan(0.01);
        Path bad = Files.writeString(folder.resolve("bad.csv"), "time_s,ra_arcsec\n1,2\n");
        assertThat(run("guiding", bad.toString())).isEqualTo(2);
        assertThat(err.toString()).contains("time_s,ra_arcsec,dec_arcsec");
    }

    /** By hand: sizes of an exact hyperbola about 2462 with 1.2 px. */
    @Test
    void focusReadsACurve() throws Exception {
        StringBuilder curve = new StringBuilder("position,size\n");
        for (int p = 2300; p <= 2620; p += 40) {
            curve.append(p)
                    .append(',')
                    .append(Math.hypot(1.2, 0.02 * (p - 2462)))
                    .append('\n');
        }
        Path file = Files.writeString(folder.resolve("curve.csv"), curve);
        assertThat(run("focus", file.toString(), "--json")).isZero();
        assertThat(json().get("bestPosition").asDouble()).isCloseTo(2462, within(0.01));
        assertThat(json().get("bestSize").asDouble()).isCloseTo(1.2, within(0.001));
        Path bad = Files.writeString(folder.resolve("bad.csv"), "position,size\n100,2\n200,minus\n");
        assertThat(run("focus", bad.toString())).isEqualTo(2);
        assertThat(err.toString()).contains("bad.csv line 3: \"200,minus\" is no point");
    }

    private Path frame(String name, int seed, double shift) {
        int width = 300;
        int height = 260;
        Random noise = new Random(seed);
        Random sky = new Random(5);
        float[] pixels = new float[width * height];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (1500 + 10 * noise.nextGaussian());
        }
        for (int k = 0; k < 60; k++) {
            double x = sky.nextDouble() * width + shift;
            double y = sky.nextDouble() * height + shift / 2;
            double flux = 3000 * Math.pow(20, sky.nextDouble());
            for (int row = (int) Math.max(0, y - 8); row < Math.min(height, y + 8); row++) {
                for (int column = (int) Math.max(0, x - 8); column < Math.min(width, x + 8); column++) {
                    double d = Math.pow(column + 1 - x, 2) + Math.pow(row + 1 - y, 2);
                    pixels[row * width + column] += (float) (flux / (2 * Math.PI * 2) * Math.exp(-d / 4));
                }
            }
        }
        Path file = folder.resolve(name);
        FitsFiles.write(
                file,
                new Frame(width, height, pixels, Header.EMPTY.with("EXPTIME", 60.0)),
                FitsFiles.Encoding.UNSIGNED_16);
        return file;
    }

    @Test
    void starsWritesATable() throws Exception {
        Path csv = folder.resolve("stars.csv");
        assertThat(run("stars", frame("a.fits", 1, 0).toString(), "--csv", csv.toString(), "--json"))
                .isZero();
        List<String> lines = Files.readAllLines(csv);
        assertThat(lines.get(0)).isEqualTo("x,y,flux,peak,hfr,fwhm,eccentricity,angleDeg,snr,saturated");
        assertThat(lines).hasSize(json().get("count").asInt() + 1);
        assertThat(json().get("noiseAdu").asDouble()).isCloseTo(10, within(0.6));
    }

    @Test
    void mastersCalibrationAndStackThroughTheCommandLine() throws Exception {
        List<String> lights = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            lights.add(frame("light" + i + ".fits", i, 1.7 * i).toString());
        }
        Path bias = folder.resolve("bias.fits");
        List<String> call = new ArrayList<>(List.of("master", "--kind", "bias", "--out", bias.toString(), "--json"));
        for (int i = 0; i < 5; i++) {
            Path file = folder.resolve("b" + i + ".fits");
            float[] pixels = new float[300 * 260];
            java.util.Arrays.fill(pixels, 500 + i);
            FitsFiles.write(file, new Frame(300, 260, pixels, Header.EMPTY), FitsFiles.Encoding.UNSIGNED_16);
            call.add(file.toString());
        }
        assertThat(run(call.toArray(new String[0]))).isZero();
        assertThat(json().get("level").asDouble()).isCloseTo(502, within(1e-6)); // by hand: mean of 500 to 504
        assertThat(json().get("sound").asBoolean()).isFalse();
        assertThat(json().get("verdict").get(0).asText()).startsWith("The level goes from 500.0 to 504.0 ADU");
        byte[] before = Files.readAllBytes(Path.of(lights.get(0)));
        Path calibrated = folder.resolve("calibrated");
        assertThat(run("calibrate", lights.get(0), "--bias", bias.toString(), "--out", calibrated.toString(), "--json"))
                .isZero();
        assertThat(json().get("proof").get("file").asText()).isEqualTo(lights.get(0));
        assertThat(json().get("proof").get("sentences").get(0).asText())
                .startsWith("There is no flat: the corners stay");
        assertThat(json().get("proof").get("dustAfter").isNull()).isTrue();
        Frame done = FitsFiles.read(calibrated.resolve("light0.fits"));
        Frame raw = FitsFiles.read(Path.of(lights.get(0)));
        assertThat(done.pixels()[777]).isCloseTo(raw.pixels()[777] - 502, within(0.01f));
        Path stack = folder.resolve("stack.fits");
        List<String> stacking =
                new ArrayList<>(List.of("stack", "--bias", bias.toString(), "--out", stack.toString(), "--json"));
        stacking.addAll(lights);
        assertThat(run(stacking.toArray(new String[0]))).isZero();
        assertThat(json().get("kept").asInt()).isEqualTo(6);
        assertThat(json().get("snrGainOverOneSub").asDouble()).isBetween(Math.sqrt(6) * 0.8, Math.sqrt(6) * 1.12);
        assertThat(FitsFiles.read(stack).header().history()).anyMatch(h -> h.contains("light5.fits"));
        // By hand: shifts of 0 to 8.5 pixels along x leave 291 that all six reach, less five for a kernel of six.
        stacking.addAll(List.of("--crop", "--maps"));
        assertThat(run(stacking.toArray(new String[0]))).isZero();
        assertThat(json().get("widthPx").asInt()).isBetween(284, 288);
        assertThat(FitsFiles.read(stack).width())
                .isEqualTo(json().get("widthPx").asInt());
        List<Frame> maps = FitsFiles.readPlanes(Path.of(json().get("maps").asText()));
        assertThat(maps).hasSize(4);
        assertThat(maps.get(0).width()).isEqualTo(json().get("widthPx").asInt());
        assertThat(maps.get(0).pixels()).containsOnly(6f);
        // Maps are of interpolated stacks.
        stacking.addAll(List.of("--drizzle", "2"));
        assertThat(run(stacking.toArray(new String[0]))).isEqualTo(2);
        assertThat(err.toString()).contains("option --maps: is given with --drizzle");
        stacking.remove("--maps");
        assertThat(run(stacking.toArray(new String[0]))).isZero();
        // The same part of the sky, in pixels of half the size; by the usual drop of 1.4 / 2.
        assertThat(json().get("widthPx").asInt()).isBetween(2 * 284, 2 * 288 + 6);
        assertThat(json().get("drizzle").get("drop").asDouble()).isEqualTo(0.7);
        assertThat(json().get("drizzle").get("words").asText())
                .startsWith("Stars of ")
                .contains("What fell on the pixels varies by ");
        assertThat(FitsFiles.read(stack).width())
                .isEqualTo(json().get("widthPx").asInt());
        assertThat(Files.readAllBytes(Path.of(lights.get(0)))).isEqualTo(before);
    }

    @Test
    void calibrateNeverWritesOverItsInput() {
        Path light = frame("light.fits", 1, 0);
        assertThat(run("calibrate", light.toString(), "--out", folder.toString()))
                .isEqualTo(2);
        assertThat(err.toString()).contains("is one of the inputs").contains("inputs stay as they are");
    }

    @Test
    void solveRefusesAnInventedSky() throws Exception {
        assertThat(run("solve", frame("invented.fits", 1, 0).toString(), "--json", "--scale", "3"))
                .isEqualTo(1);
        assertThat(json().get("solved").asBoolean()).isFalse();
        // By hand: 118,216 stars over 41,253 square degrees are 2.9 a square degree; this frame is a few tenths of a
        // degree wide.
        assertThat(json().get("reason").asText())
                .startsWith("The catalogue holds some 0 stars")
                .contains("add a deeper table of stars");
    }

    @Test
    void aNightFileWithAMistakeIsNamed() throws Exception {
        Path night = Files.writeString(folder.resolve("night.json"), "{\"date\": \"2026-11-14\",\n \"sight\": {}}");
        assertThat(run("rehearse", night.toString())).isEqualTo(2);
        assertThat(err.toString()).contains("night.json line 2").contains("has no \"site\"");
    }
}
