package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Every verb with every kind of file that it cannot use: one line that names the file, and never a fault of Ironside itself. */
class BadFilesTest {
    @TempDir
    static Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();

    private int run(List<String> arguments) {
        return Main.run(arguments.toArray(new String[0]), new PrintWriter(out), new PrintWriter(err));
    }

    private static Path file(String name, byte[] content) {
        try {
            return Files.write(folder.resolve(name), content);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static byte[] noise(int count) {
        byte[] bytes = new byte[count];
        new Random(3).nextBytes(bytes);
        return bytes;
    }

    private static byte[] ascii(String text) {
        return text.getBytes(StandardCharsets.US_ASCII);
    }

    private static Frame frame(int width, int height, float value) {
        float[] pixels = new float[width * height];
        Arrays.fill(pixels, value);
        return new Frame(width, height, pixels, Header.EMPTY.with("EXPTIME", 60.0));
    }

    private static byte[] fits(Frame frame) {
        Path whole = folder.resolve("whole.fits");
        FitsFiles.write(whole, frame, FitsFiles.Encoding.FLOAT_32);
        try {
            return Files.readAllBytes(whole);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** What may lie where a FITS image is expected. */
    private static Stream<Path> notImages() {
        byte[] whole = fits(frame(64, 48, 900));
        return Stream.of(
                folder.resolve("not there.fits"),
                folder,
                file("empty.fits", new byte[0]),
                file("noise.fits", noise(20_000)),
                file("text.fits", ascii("this is a letter, not a picture\n".repeat(300))),
                file("cut in the header.fits", Arrays.copyOf(whole, 1000)),
                file("cut in the data.fits", Arrays.copyOf(whole, 2880 + 4000)),
                file("name with accents é ü.fits", noise(100)));
    }

    private static Stream<Arguments> verbsOfImages() {
        String image = "FILE";
        List<List<String>> calls = List.of(
                List.of("stars", image),
                List.of("solve", image),
                List.of("solve", image, "--write", "--json"),
                List.of("polar", image, image, image, "--lat", "44", "--lon", "8"),
                List.of("master", "--kind", "bias", image, image, "--out", "OUT"),
                List.of("calibrate", image, "--out", "OUTDIR"),
                List.of("stack", image, image, "--out", "OUT"));
        return notImages().flatMap(path -> calls.stream().map(call -> Arguments.of(path, call)));
    }

    private static List<String> filledIn(List<String> call, Path image) {
        return call.stream()
                .map(word -> switch (word) {
                    case "FILE" -> image.toString();
                    case "OUT" -> folder.resolve("out.fits").toString();
                    case "OUTDIR" -> folder.resolve("out").toString();
                    default -> word;
                })
                .toList();
    }

    @ParameterizedTest
    @MethodSource("verbsOfImages")
    void whatIsNoImageIsNamed(Path image, List<String> call) {
        assertThat(run(filledIn(call, image))).as("exit code").isEqualTo(2);
        assertThat(err.toString().strip().lines()).as("one line").hasSize(1);
        assertThat(err.toString()).contains(image.getFileName().toString()).doesNotContain("fault of Ironside");
        assertThat(folder.resolve("out.fits")).as("nothing half-made is left").doesNotExist();
        assertThat(out.toString()).isEmpty();
    }

    /** What may lie where a table of text is expected. */
    private static Stream<Arguments> notCurves() {
        return Stream.of(
                Arguments.of(file("nothing.csv", new byte[0]), 2),
                Arguments.of(file("noise.csv", noise(5000)), 2),
                Arguments.of(file("heading.csv", ascii("position,size\n")), 2),
                Arguments.of(file("words.csv", ascii("position,size\nfar,wide\n")), 2),
                Arguments.of(file("one column.csv", ascii("position\n100\n200\n")), 2),
                Arguments.of(file("one point.csv", ascii("position,size\n100,3.5\n")), 2),
                Arguments.of(file("flat.csv", ascii("position,size\n1,3\n2,3\n3,3\n4,3\n5,3\n6,3\n")), 1),
                Arguments.of(file("same place.csv", ascii("position,size\n" + "7,3\n7,4\n".repeat(4))), 1),
                Arguments.of(file("negative.csv", ascii("position,size\n1,-3\n2,-2\n3,-1\n4,-2\n5,-3\n")), 2),
                Arguments.of(file("infinite.csv", ascii("position,size\n1,3\n2,Infinity\n3,3\n4,NaN\n5,3\n")), 2));
    }

    @ParameterizedTest
    @MethodSource("notCurves")
    void whatIsNoFocusCurveIsNamedOrNotAccepted(Path curve, int code) {
        for (String method : new String[] {"hyperbola", "parabola", "lowest-three", "trend-lines"}) {
            err.getBuffer().setLength(0);
            assertThat(run(List.of("focus", curve.toString(), "--method", method)))
                    .as(method)
                    .isEqualTo(code);
            assertThat(err.toString()).doesNotContain("fault of Ironside");
            if (code == 2) {
                assertThat(err.toString().strip().lines()).hasSize(1);
                assertThat(err.toString()).contains(curve.getFileName().toString());
            }
        }
    }

    /** Spreadsheets write a byte-order mark and carriage returns. */
    @Test
    void aCurveFromASpreadsheetIsRead() {
        StringBuilder rows = new StringBuilder("\uFEFFposition,size\r\n");
        for (int i = -5; i <= 5; i++) {
            rows.append(5000 + 40 * i).append(',').append(Math.sqrt(4 + i * i)).append("\r\n");
        }
        Path curve = file("spreadsheet.csv", rows.toString().getBytes(StandardCharsets.UTF_8));
        assertThat(run(List.of("focus", curve.toString(), "--json")))
                .as(err.toString())
                .isZero();
        assertThat(out.toString()).contains("\"bestPosition\":5000");
    }

    private static Stream<Arguments> notNights() {
        return Stream.of("", "{}", "[]", "null", "{\"date\": 5}", "{\"date\": \"2026-11-14\"", "not json", "\uFEFF{}")
                .map(text -> Arguments.of(text));
    }

    @ParameterizedTest
    @MethodSource("notNights")
    void whatIsNoNightIsNamed(String text) {
        Path night = file("night.json", text.getBytes(StandardCharsets.UTF_8));
        assertThat(run(List.of("rehearse", night.toString()))).isEqualTo(2);
        assertThat(err.toString()).contains("night.json").doesNotContain("fault of Ironside");
        assertThat(err.toString().strip().lines()).hasSize(1);
    }

    private static Stream<Arguments> notSkylines() {
        return Stream.of("0 5 7\n", "north 10\n", "0 -100\n", "0 95\n", "400 10\n", "0\n", "0 NaN\n")
                .map(text -> Arguments.of(text));
    }

    @ParameterizedTest
    @MethodSource("notSkylines")
    void whatIsNoSkylineIsNamed(String text) {
        Path skyline = file("skyline.txt", ascii("# east is clear\n90 10\n" + text));
        assertThat(run(List.of(
                        "target",
                        "M 33",
                        "--lat",
                        "44",
                        "--lon",
                        "8",
                        "--date",
                        "2026-11-14",
                        "--zone",
                        "UTC",
                        "--horizon",
                        skyline.toString())))
                .isEqualTo(2);
        assertThat(err.toString()).contains("skyline.txt").contains("line 3");
    }

    /** Pictures of different sizes do not go together; both sizes are told. */
    @Test
    void sizesThatDifferAreNamed() {
        Path small = file("small.fits", fits(frame(64, 48, 900)));
        Path large = file("large.fits", fits(frame(80, 60, 900)));
        Path out1 = folder.resolve("m.fits");
        assertThat(run(List.of(
                        "master", "--kind", "dark", small.toString(), large.toString(), "--out", out1.toString())))
                .isEqualTo(2);
        assertThat(err.toString()).contains("large.fits").contains("80").contains("64");
        err.getBuffer().setLength(0);
        assertThat(run(List.of(
                        "calibrate",
                        small.toString(),
                        "--dark",
                        large.toString(),
                        "--out",
                        folder.resolve("c").toString())))
                .isEqualTo(2);
        assertThat(err.toString()).contains("dark").contains("80 x 60").contains("64 x 48");
    }

    /** A frame without a single star, and one without a single value, are understood, and nothing can be done with them. */
    @ParameterizedTest
    @org.junit.jupiter.params.provider.ValueSource(floats = {0, 1000, Float.NaN})
    void anEvenFrameHasNoStars(float value) {
        Path even = file("even.fits", fits(frame(300, 200, value)));
        Path second = file("even2.fits", fits(frame(300, 200, value)));
        Path third = file("even3.fits", fits(frame(300, 200, value)));
        assertThat(run(List.of("stars", even.toString(), "--json"))).isEqualTo(1);
        assertThat(out.toString())
                .contains("\"count\":0")
                .contains("No star stands out")
                .doesNotContain("NaN");
        out.getBuffer().setLength(0);
        assertThat(run(List.of("solve", even.toString(), "--json"))).isEqualTo(1);
        assertThat(out.toString()).contains("\"solved\":false").contains("stars were found");
        assertThat(run(List.of(
                        "master",
                        "--kind",
                        "bias",
                        even.toString(),
                        second.toString(),
                        "--out",
                        folder.resolve("bias.fits").toString())))
                .isEqualTo(Float.isNaN(value) ? 2 : 0);
        assertThat(run(List.of(
                        "stack",
                        even.toString(),
                        second.toString(),
                        third.toString(),
                        "--out",
                        folder.resolve("s.fits").toString())))
                .isIn(1, 2);
        assertThat(err.toString()).doesNotContain("fault of Ironside");
    }

    /** No verb writes over what it reads, whatever its options are called, and none makes one file of two. */
    @Test
    void inputsStayAsTheyAre() throws IOException {
        Path one = file("n1.fits", fits(frame(64, 48, 900)));
        Path two = file("n2.fits", fits(frame(64, 48, 910)));
        byte[] before = Files.readAllBytes(one);
        String in = one.toString();
        List<List<String>> calls = List.of(
                List.of("stars", in, "--csv", in),
                List.of("stack", in, two.toString(), "--out", in),
                List.of("stack", two.toString(), "--dark", in, "--out", in),
                List.of("master", "--kind", "bias", in, two.toString(), "--out", in),
                List.of("master", "--kind", "flat", two.toString(), "--bias", in, "--out", in),
                List.of("calibrate", in, "--out", folder.toString()));
        for (List<String> call : calls) {
            err.getBuffer().setLength(0);
            assertThat(run(call)).as(String.join(" ", call)).isEqualTo(2);
            assertThat(err.toString().strip().lines()).hasSize(1);
            assertThat(err.toString()).contains("is one of the inputs").contains("option --");
            assertThat(Files.readAllBytes(one)).isEqualTo(before);
        }
    }

    @Test
    void aMasterInTheFolderOfResultsIsNotReplaced() throws IOException {
        Path results = Files.createDirectories(folder.resolve("results"));
        Path nights = Files.createDirectories(folder.resolve("night"));
        Files.write(nights.resolve("x.fits"), fits(frame(64, 48, 900)));
        Files.write(results.resolve("x.fits"), fits(frame(64, 48, 100)));
        byte[] dark = Files.readAllBytes(results.resolve("x.fits"));
        assertThat(run(List.of(
                        "calibrate",
                        nights.resolve("x.fits").toString(),
                        "--dark",
                        results.resolve("x.fits").toString(),
                        "--out",
                        results.toString())))
                .isEqualTo(2);
        assertThat(Files.readAllBytes(results.resolve("x.fits"))).isEqualTo(dark);
    }

    @Test
    void lightsOfOneNameKeepTwoResults() throws IOException {
        for (String night : List.of("a", "b")) {
            Files.createDirectories(folder.resolve(night));
            Files.write(folder.resolve(night).resolve("same.fits"), fits(frame(64, 48, 900)));
        }
        Path results = folder.resolve("both");
        assertThat(run(List.of(
                        "calibrate",
                        folder.resolve("a/same.fits").toString(),
                        folder.resolve("b/same.fits").toString(),
                        "--out",
                        results.toString())))
                .isZero();
        assertThat(results.resolve("a_same.fits")).exists();
        assertThat(results.resolve("b_same.fits")).exists();
    }

    /** What never ends is given up, and a date or a scale that can be none is named with its option. */
    @Test
    void valuesBeyondAllBoundsAreNamed() {
        List<String> night = List.of("night", "--lat", "44", "--lon", "8", "--zone", "UTC", "--date");
        for (String date : List.of("+999999999-12-31", "9999-12-31", "1066-10-14")) {
            err.getBuffer().setLength(0);
            assertThat(run(Stream.concat(night.stream(), Stream.of(date)).toList()))
                    .isEqualTo(2);
            assertThat(err.toString()).contains("--date").contains("1972 to 2098");
        }
        Path image = file("plain.fits", fits(frame(64, 48, 900)));
        for (String scale : List.of("Infinity", "1e308", "NaN", "0", "-3")) {
            err.getBuffer().setLength(0);
            assertThat(run(List.of("solve", image.toString(), "--scale", scale)))
                    .isEqualTo(2);
            assertThat(err.toString()).contains("option --scale");
        }
        err.getBuffer().setLength(0);
        assertThat(run(List.of(
                        "night",
                        "--lat",
                        "44",
                        "--lon",
                        "8",
                        "--zone",
                        "UTC",
                        "--date",
                        "2026-11-14",
                        "--horizon",
                        "/dev/zero")))
                .isEqualTo(2);
        assertThat(err.toString()).contains("/dev/zero").contains("128 MB");
    }
}
