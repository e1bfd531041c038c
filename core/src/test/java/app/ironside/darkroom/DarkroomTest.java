package app.ironside.darkroom;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.image.TiffExample;
import app.ironside.library.FactBook;
import app.ironside.library.FrameKind;
import app.ironside.library.FrameSet;
import app.ironside.library.HeadShelf;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.library.Told;
import app.ironside.solve.Registration;
import app.ironside.stack.Crop;
import app.ironside.stack.Drizzle;
import app.ironside.stack.Rejection;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * The whole way on a sensor made up by hand: an offset of 300, a hot column of dark current, a flat that falls to 0.8 at the right edge. What
 * is left after developing is known.
 */
@Order(3)
class DarkroomTest {
    private static final int WIDTH = 320;
    private static final int HEIGHT = 240;
    private static final double SKY = 400;
    private static final double NOISE = 8;

    @TempDir
    Path folder;

    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.SERIAL);
    private int number;

    private interface Light {
        double at(int x, int y);
    }

    private Path frame(String name, Map<String, Object> cards, Light light, double darkSeconds) throws Exception {
        Random noise = new Random(++number);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int y = 0; y < HEIGHT; y++) {
            for (int x = 0; x < WIDTH; x++) {
                double dark = x == 40 ? 10 * darkSeconds : 0.5 * darkSeconds;
                double flat = 1 - 0.2 * Math.max(0, x - WIDTH / 2.0) / (WIDTH / 2.0);
                pixels[y * WIDTH + x] =
                        (float) Math.round(300 + dark + flat * light.at(x, y) + NOISE * noise.nextGaussian());
            }
        }
        Map<String, Object> all = new HashMap<>(cards);
        all.put("GAIN", 100);
        all.put("CCD-TEMP", -10.0);
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        FitsFiles.write(
                file, new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY.withAll(all)), FitsFiles.Encoding.UNSIGNED_16);
        return file;
    }

    private Path light(String night, String filter, int i, double share) throws Exception {
        double dx = 3 * Math.sin(2.0 * i);
        double dy = 3 * Math.cos(3.0 * i);
        Random sky = new Random(7);
        double[][] stars = new double[60][];
        for (int k = 0; k < stars.length; k++) {
            stars[k] = new double[] {
                sky.nextDouble() * WIDTH + dx, sky.nextDouble() * HEIGHT + dy, 4000 * Math.pow(20, sky.nextDouble())
            };
        }
        return frame(
                "raw/" + night + "/" + filter + "_" + i + ".fits",
                Map.of(
                        "IMAGETYP",
                        "Light",
                        "OBJECT",
                        "IC 342",
                        "FILTER",
                        filter,
                        "EXPTIME",
                        60.0,
                        "DATE-OBS",
                        night + "T21:0" + i + ":00"),
                (x, y) -> {
                    double sum = SKY;
                    for (double[] s : stars) {
                        double d = Math.pow(x - s[0], 2) + Math.pow(y - s[1], 2);
                        sum += d < 100 ? share * s[2] / 12.3 * Math.exp(-d / 3.92) : 0;
                    }
                    return sum;
                },
                60);
    }

    @BeforeEach
    void aFolder() throws Exception {
        for (int i = 0; i < 6; i++) {
            frame("raw/bias/b" + i + ".fits", Map.of("IMAGETYP", "Bias", "EXPTIME", 0.0), (x, y) -> 0, 0);
            frame("raw/dark/d" + i + ".fits", Map.of("IMAGETYP", "Dark", "EXPTIME", 60.0), (x, y) -> 0, 60);
            for (String filter : List.of("L", "R")) {
                frame(
                        "raw/flat/" + filter + i + ".fits",
                        Map.of("IMAGETYP", "Flat", "FILTER", filter, "EXPTIME", 1.0, "DATE-OBS", "2026-10-11T18:00:00"),
                        (x, y) -> 20_000,
                        0);
            }
        }
        for (int i = 0; i < 4; i++) {
            light("2026-10-11", "L", i, 1);
            light("2026-10-12", "L", i + 4, i == 2 ? 0.2 : 1);
            light("2026-10-11", "R", i, 1);
        }
    }

    private Darkroom with(Darkroom.Settings settings) {
        return new Darkroom(Workers.ALL_CORES, finder, picture -> Optional.empty(), settings);
    }

    private Development develop(List<List<String>> colours, Progress progress) {
        return with(new Darkroom.Settings(Rejection.WINSORIZED, false, Map.of(), 64 << 20, colours))
                .develop(List.of(folder.resolve("raw")), folder.resolve("out"), Told.NOTHING, HeadShelf.NONE, progress);
    }

    @Test
    void aFolderBecomesStacksOnOneGrid() {
        Development made = develop(List.of(List.of("L", "R", "R")), Progress.NONE);
        assertThat(made.failed()).isEmpty();
        assertThat(made.gaps()).isEmpty();
        assertThat(made.masters()).hasSize(4);
        assertThat(made.stacks()).hasSize(2);
        Development.StackFile l = made.stacks().stream()
                .filter(s -> s.filter().equals("L"))
                .findFirst()
                .orElseThrow();
        assertThat(l.nights()).isEqualTo(2);
        assertThat(l.frames()).isEqualTo(8);
        assertThat(l.kept()).isEqualTo(7);
        assertThat(l.exposureS()).isEqualTo(7 * 60);
        assertThat(l.rejected()).singleElement().satisfies(r -> {
            assertThat(r.file().getFileName()).hasToString("L_6.fits");
            assertThat(r.reason()).startsWith("cloud: cloud took");
        });
        assertThat(l.snrGainOverOneSub()).isCloseTo(Math.sqrt(7), within(0.35));
        assertThat(made.pictures()).hasSize(2).allMatch(p -> Files.exists(p.file()));
        Frame stack = FitsFiles.read(l.file());
        Frame other = FitsFiles.read(made.stacks().stream()
                .filter(s -> s.filter().equals("R"))
                .findFirst()
                .orElseThrow()
                .file());
        assertThat(other.width()).isEqualTo(stack.width());
        // By hand: sky and pedestal everywhere, the hot column and the darker edge gone, to three errors of a mean of
        // seven.
        double middle = median(stack, 140, 180);
        double error = 3 * NOISE / Math.sqrt(7) / 0.8;
        assertThat(median(stack, 290, 310)).isCloseTo(middle, within(error));
        assertThat(median(stack, 38, 43)).isCloseTo(middle, within(error));
        var brightest = finder.find(stack).stars().get(0);
        assertThat(finder.find(other).stars())
                .anyMatch(s -> Math.hypot(s.x() - brightest.x(), s.y() - brightest.y()) < 0.1);
    }

    private static double median(Frame frame, int from, int to) {
        float[] values = new float[(to - from) * 160];
        for (int i = 0; i < values.length; i++) {
            values[i] = frame.pixels()[(40 + i / (to - from)) * WIDTH + from + i % (to - from)];
        }
        return Statistics.median(values);
    }

    /** A second run takes up what is still true; a light that changed is developed anew, alone. */
    @Test
    void aSecondRunMakesOnlyWhatChanged() throws Exception {
        Development first = develop(List.of(), Progress.NONE);
        assertThat(first.stacks()).allMatch(Development.StackFile::made);
        Map<String, FileTime> written = new HashMap<>();
        for (Development.StackFile s : first.stacks()) {
            written.put(s.filter(), Files.getLastModifiedTime(s.file()));
        }
        Development again = develop(List.of(), Progress.NONE);
        assertThat(again.stacks()).hasSize(2).noneMatch(Development.StackFile::made);
        assertThat(again.masters()).hasSize(4).noneMatch(Development.MasterFile::made);
        assertThat(again.stacks().get(0).rejected())
                .isEqualTo(first.stacks().get(0).rejected());
        light("2026-10-11", "R", 5, 1);
        Development more = develop(List.of(), Progress.NONE);
        assertThat(more.stacks())
                .filteredOn(Development.StackFile::made)
                .singleElement()
                .satisfies(s -> {
                    assertThat(s.filter()).isEqualTo("R");
                    assertThat(s.frames()).isEqualTo(5);
                });
        assertThat(Files.getLastModifiedTime(more.stacks().get(0).file())).isEqualTo(written.get("L"));
        try (var files = Files.list(folder.resolve("out/stacks"))) {
            assertThat(files).hasSize(2);
        }
    }

    /** By hand: the lights are shifted by 3 sin 2i and 3 cos 3i pixels, so that what all reach is smaller by what these span, and by
     * the kernel. */
    @Test
    void stacksAreCutToWhatAllReachAndTellWhatTheyAreMadeOf() {
        Development made = with(new Darkroom.Settings(
                        Rejection.WINSORIZED,
                        false,
                        Map.of(),
                        64 << 20,
                        List.of(List.of("L", "R", "R")),
                        Set.of(Darkroom.Extra.CROP, Darkroom.Extra.MAPS),
                        Optional.empty()))
                .develop(
                        List.of(folder.resolve("raw")),
                        folder.resolve("out"),
                        Told.NOTHING,
                        HeadShelf.NONE,
                        Progress.NONE);
        assertThat(made.failed()).isEmpty();
        double[] dx = IntStream.of(0, 1, 2, 3, 4, 5, 7)
                .mapToDouble(i -> 3 * Math.sin(2.0 * i))
                .toArray();
        double[] dy = IntStream.of(0, 1, 2, 3, 4, 5, 7)
                .mapToDouble(i -> 3 * Math.cos(3.0 * i))
                .toArray();
        Crop crop = made.stacks().get(0).cropped().orElseThrow().part();
        assertThat(crop.width()).isBetween((int) (WIDTH - span(dx)) - 8, (int) (WIDTH - span(dx)));
        assertThat(crop.height()).isBetween((int) (HEIGHT - span(dy)) - 8, (int) (HEIGHT - span(dy)));
        assertThat(made.stacks())
                .extracting(s -> s.cropped().orElseThrow().part())
                .containsOnly(crop);
        for (Development.StackFile s : made.stacks()) {
            Frame cut = FitsFiles.read(s.best());
            Frame whole = FitsFiles.read(s.file());
            assertThat(cut.width()).isEqualTo(crop.width());
            for (float v : cut.pixels()) {
                assertThat(v).isFinite();
            }
            assertThat(cut.pixels()[0]).isEqualTo(whole.pixels()[crop.bottom() * WIDTH + crop.left()]);
        }
        Path l = made.stacks().get(0).file();
        List<Frame> maps =
                FitsFiles.readPlanes(l.resolveSibling(l.getFileName().toString().replace(".fits", " maps.fits")));
        int middle = HEIGHT / 2 * WIDTH + WIDTH / 4;
        assertThat(maps).hasSize(4);
        assertThat(maps.get(0).pixels()[middle]).as("subs").isEqualTo(7);
        assertThat(maps.get(0).pixels()[0]).as("subs at the corner").isLessThan(7);
        assertThat(median(maps.get(1), 140, 180)).as("share left out").isLessThan(0.1);
        assertThat(median(maps.get(3), 140, 180)).as("noise").isCloseTo(NOISE / Math.sqrt(7), within(0.15 * NOISE));
    }

    private static double span(double[] values) {
        return Arrays.stream(values).max().orElseThrow()
                - Arrays.stream(values).min().orElseThrow();
    }

    private Darkroom plain() {
        return with(new Darkroom.Settings(Rejection.WINSORIZED, false, Map.of(), 64 << 20, List.of()));
    }

    /** The hot column has 600 ADU in the dark as in the light; the masters lie where developing finds them. */
    @Test
    void mastersAreProvenOnALight() {
        Library library = Library.read(
                List.of(folder.resolve("raw")), p -> false, Told.NOTHING, Workers.ALL_CORES, Progress.NONE);
        Darkroom.Proven proven = plain().prove(library.matches().get(0), folder.resolve("out"), Progress.NONE);
        assertThat(proven.proof().hot().orElseThrow().value()).isCloseTo(1, within(0.02));
        assertThat(proven.proof().isSound())
                .as("%s", proven.proof().sentences())
                .isTrue();
        assertThat(median(proven.raw(), 290, 310)).isLessThan(0.95 * median(proven.raw(), 140, 180));
        assertThat(develop(List.of(), Progress.NONE).masters()).anyMatch(m -> !m.made());
    }

    /**
     * Darks of 120 s for lights of 60 s: by the bias alone the column that gains 10 ADU a second stays 570 ADU brighter than its neighbours; scaled, it
     * goes as with darks of 60 s.
     */
    @Test
    void aDarkOfAnotherExposureIsScaledWhenAsked() throws Exception {
        for (int i = 0; i < 6; i++) {
            frame("raw/dark/d" + i + ".fits", Map.of("IMAGETYP", "Dark", "EXPTIME", 120.0), (x, y) -> 0, 120);
        }
        Development without = develop(List.of(), Progress.NONE);
        assertThat(without.masters()).noneMatch(m -> m.of().kind() == FrameKind.DARK);
        assertThat(without.matches().get(0).why())
                .anyMatch(w -> w.contains("6 darks of 120 s") && w.contains("could be scaled"));
        Match match = without.matches().get(0);
        assertThat(column(plain().prove(match, folder.resolve("out"), Progress.NONE)
                        .calibrated()))
                .isCloseTo(570, within(3.0));

        Darkroom scaling = with(new Darkroom.Settings(
                Rejection.WINSORIZED,
                false,
                Map.of(),
                64 << 20,
                List.of(),
                Set.of(Darkroom.Extra.SCALED_DARKS),
                Optional.empty()));
        Darkroom.Proven proven = scaling.prove(match, folder.resolve("out"), Progress.NONE);
        assertThat(column(proven.calibrated())).isCloseTo(0, within(3.0));
        assertThat(proven.proof().hot().orElseThrow().value()).isCloseTo(1, within(0.02));
        Development made = scaling.develop(
                List.of(folder.resolve("raw")), folder.resolve("out"), Told.NOTHING, HeadShelf.NONE, Progress.NONE);
        assertThat(made.failed()).isEmpty();
        Development.MasterFile scaled = made.masters().stream()
                .filter(m -> m.of().id().startsWith("scaled"))
                .findFirst()
                .orElseThrow();
        assertThat(scaled.sound()).as("%s", scaled.verdict()).isTrue();
        assertThat(scaled.of().exposureS()).hasValue(60);
        assertThat(scaled.made())
                .as("it was made for the proof, and is true still")
                .isFalse();
        assertThat(FitsFiles.read(scaled.file()).header().number("EXPTIME")).hasValue(60);
        assertThat(made.stacks().get(0).made()).as("of other masters").isTrue();
    }

    /** By how much the hot column exceeds the sky. */
    private static double column(Frame light) {
        return median(light, 40, 41) - median(light, 140, 180);
    }

    /** One of eight lights through cloud: left out by its verdict, taken in with its small weight when all are kept. */
    @Test
    void schoolsAreComparedByWhatTheyGive() {
        Library library = Library.read(
                List.of(folder.resolve("raw")), p -> false, Told.NOTHING, Workers.ALL_CORES, Progress.NONE);
        FrameSet l = library.matches().stream()
                .map(Match::lights)
                .filter(s -> s.filter().equals(Optional.of("L")))
                .findFirst()
                .orElseThrow();
        StacksCompared both = plain().compare(library, l, folder.resolve("out/compared"), Progress.NONE);
        assertThat(both.less().kept()).isEqualTo(7);
        assertThat(both.more().kept()).isEqualTo(8);
        assertThat(both.deeperMag()).isCloseTo(0, within(0.1));
        assertThat(both.lessFwhmPx()).isCloseTo(both.moreFwhmPx(), within(0.2));
        assertThat(both.sentence()).contains("By the verdicts: 7 of 8 lights", "All: 8 of 8", "Keeping all is 0.0");
    }

    /** By hand: seven good lights instead of four are 1.25 log10(7/4) = 0.30 mag deeper for faint light. */
    @Test
    void aNightIsWeighedByWhatItAdds() {
        Library library = Library.read(
                List.of(folder.resolve("raw")), p -> false, Told.NOTHING, Workers.ALL_CORES, Progress.NONE);
        FrameSet second = library.matches().stream()
                .map(Match::lights)
                .filter(s -> s.filter().equals(Optional.of("L"))
                        && s.night().equals(Optional.of(LocalDate.parse("2026-10-12"))))
                .findFirst()
                .orElseThrow();
        StacksCompared both = plain().weigh(library, second, folder.resolve("out/weighed"), Progress.NONE);
        assertThat(both.less().kept()).isEqualTo(4);
        assertThat(both.more().kept()).isEqualTo(7);
        assertThat(both.deeperMag()).isCloseTo(0.30, within(0.1));
        assertThat(both.sentence())
                .contains("Without 2026-10-12: 4 of 4 lights", "With it: 7 of 8 lights", "With it the stack is 0.")
                .contains(" mag deeper");
        FrameSet red = library.matches().stream()
                .map(Match::lights)
                .filter(s -> s.filter().equals(Optional.of("R")))
                .findFirst()
                .orElseThrow();
        assertThatThrownBy(() -> plain().weigh(library, red, folder.resolve("out/weighed"), Progress.NONE))
                .hasMessageContaining("there is no other night of it");
    }

    /** Cancelled in the middle it leaves nothing half-written, and the next run goes on. */
    @Test
    void cancelLeavesNothingHalfWritten() throws Exception {
        assertThatThrownBy(() -> develop(List.of(), (what, done) -> done < 0.5))
                .isInstanceOf(CancellationException.class);
        try (var files = Files.walk(folder.resolve("out"))) {
            assertThat(files.map(Path::toString)).noneMatch(f -> f.endsWith(".part"));
        }
        assertThat(develop(List.of(), Progress.NONE).masters()).anyMatch(m -> !m.made());
    }

    /** Inputs stay as they are, and results that lie among them are no inputs. */
    @Test
    void resultsAreNoInputs() throws Exception {
        Path light = folder.resolve("raw/2026-10-11/L_0.fits");
        byte[] before = Files.readAllBytes(light);
        Darkroom darkroom =
                with(new Darkroom.Settings(Rejection.WINSORIZED, true, Map.of(light, false), 64 << 20, List.of()));
        Path out = folder.resolve("raw/developed");
        Development made =
                darkroom.develop(List.of(folder.resolve("raw")), out, Told.NOTHING, HeadShelf.NONE, Progress.NONE);
        Development again =
                darkroom.develop(List.of(folder.resolve("raw")), out, Told.NOTHING, HeadShelf.NONE, Progress.NONE);
        assertThat(again.stacks()).extracting(Development.StackFile::frames).containsExactly(8, 4);
        assertThat(Files.readAllBytes(light)).isEqualTo(before);
        assertThat(made.stacks().get(0).rejected()).singleElement().satisfies(r -> assertThat(r.reason())
                .startsWith("left out by hand (good"));
        assertThat(made.stacks().get(0).kept())
                .as("all but the one that a hand left out")
                .isEqualTo(7);
    }

    @Test
    void aFilterThatIsNotThereIsTold() {
        assertThat(develop(List.of(List.of("R", "G", "B")), Progress.NONE).failed())
                .containsExactly("picture IC 342 R,G,B: there is no stack of filter G");
    }

    /** Both filters lie on one finer grid, also when one of them is taken up from before; the edges are cut alike. */
    @Test
    void dropsOfAllFiltersFallOnOneGrid() throws Exception {
        Darkroom finer = with(new Darkroom.Settings(
                Rejection.WINSORIZED,
                false,
                Map.of(),
                64 << 20,
                List.of(),
                Set.of(Darkroom.Extra.CROP),
                Optional.of(Drizzle.usual(2))));
        Path out = folder.resolve("finer");
        List<Path> raw = List.of(folder.resolve("raw"));
        Development made = finer.develop(raw, out, Told.NOTHING, HeadShelf.NONE, Progress.NONE);
        assertThat(made.failed()).isEmpty();
        assertThat(made.stacks())
                .hasSize(2)
                .allMatch(s -> s.drizzled().orElse("").contains("What fell on the pixels varies by"));
        Frame red = FitsFiles.read(made.stacks().get(1).file());
        assertThat(red.width()).isEqualTo(2 * WIDTH);
        Crop crop = made.stacks().get(0).cropped().orElseThrow().part();
        assertThat(crop).isEqualTo(made.stacks().get(1).cropped().orElseThrow().part());
        // By hand: shifts of 3 pixels and a kernel of three on every side.
        assertThat(crop.width()).isBetween(2 * (WIDTH - 14), 2 * WIDTH);
        Files.delete(made.stacks().get(1).file());
        Development again = finer.develop(raw, out, Told.NOTHING, HeadShelf.NONE, Progress.NONE);
        assertThat(again.stacks()).extracting(Development.StackFile::made).containsExactly(false, true);
        Registration lies = Registration.of(
                        finder.find(red),
                        finder.find(FitsFiles.read(again.stacks().get(1).file())))
                .orElseThrow();
        assertThat(lies.transform().x(WIDTH, HEIGHT)).isCloseTo(WIDTH, within(0.1));
        assertThat(lies.transform().y(WIDTH, HEIGHT)).isCloseTo(HEIGHT, within(0.1));
    }

    /** The same night as a raw converter writes it: what its Exif directory tells, the folders' names, and two words by hand are enough. */
    @Test
    void lightsOfTiffGiveTheStackOfTheirFits() throws Exception {
        FactBook book = new FactBook(folder);
        List<String> throughL = new ArrayList<>();
        List<Path> frames;
        try (var all = Files.walk(folder.resolve("raw"))) {
            frames = all.filter(f -> f.toString().endsWith(".fits")).sorted().toList();
        }
        for (Path fits : frames) {
            Frame frame = FitsFiles.read(fits);
            String kind = frame.header().text("IMAGETYP").orElseThrow();
            String filter = frame.header().text("FILTER").orElse("L");
            if (!filter.equals("L")) {
                continue;
            }
            Path tiff = folder.resolve("tiff")
                    .resolve(kind)
                    .resolve(fits.getFileName().toString().replace(".fits", ".tif"));
            Files.createDirectories(tiff.getParent());
            TiffExample.write(
                    tiff,
                    frame,
                    frame.header().exposureSeconds().orElseThrow(),
                    100,
                    frame.header()
                            .text("DATE-OBS")
                            .orElse("2026-10-11T18:00:00")
                            .replace('-', ':')
                            .replace('T', ' '));
            if (!kind.equals("Bias") && !kind.equals("Dark")) {
                throughL.add(tiff.toString());
            }
        }
        book.keep(new FactBook.Correction(
                throughL,
                Optional.empty(),
                Optional.of("IC 342"),
                Optional.of("L"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty()));
        Development made = plain().develop(
                        List.of(folder.resolve("tiff")),
                        folder.resolve("tiff-out"),
                        Told.in(folder),
                        HeadShelf.NONE,
                        Progress.NONE);
        Development ofFits = plain().develop(
                        List.of(folder.resolve("raw")),
                        folder.resolve("out"),
                        Told.NOTHING,
                        HeadShelf.NONE,
                        Progress.NONE);
        assertThat(made.unusable()).isEmpty();
        assertThat(made.failed()).isEmpty();
        assertThat(made.masters()).hasSize(3);
        Development.StackFile stack = made.stacks().get(0);
        Development.StackFile same = ofFits.stacks().get(0);
        assertThat(stack.target()).isEqualTo("IC 342");
        assertThat(stack.kept()).isEqualTo(same.kept());
        assertThat(stack.snrGainOverOneSub()).isCloseTo(same.snrGainOverOneSub(), within(1e-6));
        assertThat(FitsFiles.read(stack.file()).pixels())
                .isEqualTo(FitsFiles.read(same.file()).pixels());
    }
}
