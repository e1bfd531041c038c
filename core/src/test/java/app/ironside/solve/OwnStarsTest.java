package app.ironside.solve;

import static app.ironside.solve.InventedFrames.field;
import static app.ironside.solve.InventedFrames.star;
import static app.ironside.solve.InventedFrames.wcs;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.sky.CatalogueImport;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.TangentPlane;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CancellationException;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Stars of own frames, held against real ones: a third of the Hipparcos stars is hidden from the solver, a frame over real positions
 * shows them all, and the hidden ones must come out where the catalogue (ESA 1997, SP-1200) has them.
 */
class OwnStarsTest {
    private static final StarCatalogue ALL = StarCatalogue.hipparcos();
    private static final StarCatalogue KNOWN = without(3);
    private static final Equatorial MIDDLE = new Equatorial(35.6, 62.3);

    @TempDir
    Path folder;

    private static boolean isHidden(int index, int every) {
        return index % every == 0;
    }

    private static StarCatalogue without(int every) {
        int[] some =
                IntStream.range(0, ALL.size()).filter(i -> !isHidden(i, every)).toArray();
        List<Equatorial> places = IntStream.of(some)
                .mapToObj(i -> new Equatorial(ALL.raDeg(i), ALL.decDeg(i)))
                .toList();
        return StarCatalogue.of(
                "known ", places, IntStream.of(some).mapToDouble(ALL::magnitude).toArray());
    }

    private static StarField frame(Wcs wcs, double sigmaPx, Random random) {
        List<Star> stars = new ArrayList<>();
        double radius = 1750 * wcs.scaleArcsecPerPixel() / 3600;
        for (CatalogueStar star : ALL.within(wcs.reference(), radius)) {
            wcs.toPixel(star.position())
                    .filter(InventedFrames::inside)
                    .ifPresent(p -> stars.add(star(
                            p[0] + sigmaPx * random.nextGaussian(),
                            p[1] + sigmaPx * random.nextGaussian(),
                            star.magnitude())));
        }
        return field(stars);
    }

    private static PlateSolution solved(PlateSolver solver, Wcs truth, StarField frame) {
        SolveHints near = SolveHints.NONE.withNear(truth.reference(), 3).withScale(truth.scaleArcsecPerPixel(), 0.03);
        return (PlateSolution) solver.solve(frame, near);
    }

    private static OwnStars kept(OwnStars before, double scale, double sigmaPx) {
        Wcs truth = wcs(MIDDLE, scale, 17, false);
        StarField frame = frame(truth, sigmaPx, new Random(3));
        return before.with(solved(new PlateSolver(KNOWN, Workers.SERIAL), truth, frame), frame, KNOWN, 2026.9);
    }

    @Test
    void hiddenStarsComeOutWhereTheCatalogueHasThem() {
        Wcs wide = wcs(MIDDLE, 6, 17, false);
        OwnStars own = kept(OwnStars.NONE, 6, 0.15);
        StarCatalogue seen = own.catalogue();
        int hidden = 0;
        for (int i = 0; i < ALL.size(); i++) {
            Equatorial place = new Equatorial(ALL.raDeg(i), ALL.decDeg(i));
            if (isHidden(i, 3)
                    && wide.toPixel(place).filter(InventedFrames::inside).isPresent()
                    && KNOWN.indicesWithin(place, 6.0 / 3600).length == 0) {
                hidden++;
                // Centroids of 0.15 px of 6″ an axis: four standard errors.
                int[] near = seen.indicesWithin(place, 3.6 / 3600);
                assertThat(near).hasSize(1);
                assertThat(seen.magnitude(near[0])).isCloseTo(ALL.magnitude(i), within(0.05));
            }
        }
        assertThat(hidden).isGreaterThan(10);
        assertThat(own.size()).isGreaterThanOrEqualTo(hidden);
        for (int i = 0; i < seen.size(); i++) {
            Equatorial place = seen.star(i).position();
            assertThat(ALL.indicesWithin(place, 3.6 / 3600))
                    .as("each is a real star")
                    .isNotEmpty();
        }
    }

    /** A second look at the same stars adds none; one with a longer lens knows them better. */
    @Test
    void eachStarIsKeptOnceWithItsBestPlace() throws IOException {
        OwnStars once = kept(OwnStars.NONE, 6, 0.3);
        OwnStars twice = kept(once, 6, 0.3);
        assertThat(twice.size()).isEqualTo(once.size());
        OwnStars better = kept(once, 5.5, 0.05);
        assertThat(better.size()).isEqualTo(once.size());
        Path coarse = folder.resolve("coarse.csv");
        Path fine = folder.resolve("fine.csv");
        once.write(coarse);
        better.write(fine);
        assertThat(smallestError(fine)).isLessThan(0.5 * smallestError(coarse));
    }

    private static double smallestError(Path csv) throws IOException {
        return Files.readAllLines(csv).stream()
                .skip(1)
                .mapToDouble(line -> Double.parseDouble(line.split(",")[3]))
                .min()
                .orElseThrow();
    }

    /** Law: written and read again they are the same; any table reader takes the file. */
    @Test
    void theyAreKeptAsCsv() throws IOException {
        OwnStars own = kept(OwnStars.NONE, 6, 0.15);
        Path csv = folder.resolve("own-stars.csv");
        own.write(csv);
        OwnStars again = OwnStars.read(csv);
        assertThat(again.size()).isEqualTo(own.size());
        StarCatalogue imported = CatalogueImport.read(csv, CatalogueImport.Columns.USUAL, Progress.NONE);
        assertThat(imported.size()).isEqualTo(own.size());
        for (int i = 0; i < imported.size(); i++) {
            assertThat(imported.decDeg(i)).isCloseTo(again.catalogue().decDeg(i), within(1e-9));
        }
        Files.writeString(csv, Files.readString(csv) + "north,of,here\n");
        assertThatThrownBy(() -> OwnStars.read(csv))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("line " + (own.size() + 2))
                .hasMessageContaining("north,of,here");
    }

    @Test
    void aFrameTooCoarseIsRefused() {
        assertThatThrownBy(() -> kept(OwnStars.NONE, 20, 0.6))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("has 20.0″ a pixel")
                .hasMessageContaining("a longer lens");
    }

    // ---- the shelf

    private StarShelf shelf() {
        return new StarShelf(KNOWN, Workers.ALL_CORES, Optional.of(folder));
    }

    private static StarField narrow(Wcs truth) {
        StarField held = frame(truth, 0.15, new Random(8));
        Random random = new Random(9);
        List<Star> stars = new ArrayList<>(held.stars());
        for (int i = 0; i < 20; i++) {
            stars.add(
                    star(1 + 2799 * random.nextDouble(), 1 + 2099 * random.nextDouble(), 10 + 2 * random.nextDouble()));
        }
        return field(stars);
    }

    /** A narrow frame of which the catalogue holds four stars is refused with the remedy, and recognised once the remedy was applied. */
    @Test
    void aWideFrameMakesItsRegionGoodForNarrowOnes() {
        StarShelf shelf = shelf();
        Random random = new Random(12);
        Wcs truth = Stream.generate(() ->
                        new TangentPlane(MIDDLE).unproject(2 * random.nextDouble() - 1, random.nextDouble() - 0.5))
                .limit(500)
                .filter(c -> Coverage.of(KNOWN, c, 1.4, 1.05, 0).stars() <= 4
                        && Coverage.of(ALL, c, 1.4, 1.05, 0).stars() >= 7)
                .findFirst()
                .map(c -> wcs(c, 1.8, 0, false))
                .orElseThrow();
        SolveHints hints = SolveHints.NONE
                .withNear(truth.reference(), 2)
                .withScale(1.8, 0.02)
                .nearOnly();
        SolveResult before = shelf.solver().solve(narrow(truth), hints);
        assertThat(before).isInstanceOf(NoSolution.class);
        assertThat(((NoSolution) before).reason())
                .startsWith("The catalogue holds some ")
                .contains("in a field of 1.4° here")
                .contains("keep the stars of a wider picture");
        Wcs wide = wcs(MIDDLE, 4.5, 17, false);
        StarField seen = frame(wide, 0.15, new Random(3));
        int added = shelf.keep(solved(shelf.solver(), wide, seen), seen, 2026.9);
        assertThat(added).isGreaterThan(10);
        assertThat(shelf.holding().own()).isEqualTo(added);
        SolveResult after = shelf.solver().solve(narrow(truth), hints);
        assertThat(after).isInstanceOf(PlateSolution.class);
        assertThat(((PlateSolution) after).centre().separationDeg(truth.toSky(1400.5, 1050.5)) * 3600)
                .isLessThan(2.7);
        // Another process finds them; once taken away they are gone.
        assertThat(shelf().solver().solve(narrow(truth), hints)).isInstanceOf(PlateSolution.class);
        shelf.removeOwn();
        assertThat(shelf().holding().own()).isZero();
        assertThat(shelf.solver().solve(narrow(truth), hints)).isInstanceOf(NoSolution.class);
    }

    @Test
    void anImportedTableIsJoinedToTheShippedStars() throws IOException {
        Path csv = folder.resolve("region.csv");
        StringBuilder rows = new StringBuilder("ra,dec,mag\n");
        for (CatalogueStar star : ALL.within(MIDDLE, 4)) {
            rows.append(star.position().raDeg() + "," + star.position().decDeg() + "," + star.magnitude() + "\n");
        }
        Files.writeString(csv, rows);
        StarShelf shelf = shelf();
        List<String> steps = new ArrayList<>();
        assertThatThrownBy(() -> shelf.importTable(csv, CatalogueImport.Columns.USUAL, (what, done) -> {
                    steps.add(what);
                    return steps.size() < 3;
                }))
                .isInstanceOf(CancellationException.class);
        assertThat(shelf.holding().imported()).as("cancelled, nothing changed").isZero();
        shelf.importTable(csv, CatalogueImport.Columns.USUAL, Progress.NONE);
        int region = ALL.within(MIDDLE, 4).size();
        assertThat(shelf.holding().imported()).isEqualTo(region);
        StarCatalogue joined = shelf.solver().catalogue();
        assertThat(joined.within(MIDDLE, 3)).hasSameSizeAs(ALL.within(MIDDLE, 3));
        Equatorial elsewhere = new Equatorial(200, -40);
        assertThat(joined.within(elsewhere, 3)).hasSameSizeAs(KNOWN.within(elsewhere, 3));
        // An index of what was on the shelf before is not left behind.
        try (var indexes = Files.list(folder.resolve("index"))) {
            assertThat(indexes.map(p -> p.getFileName().toString()))
                    .containsExactly(Long.toHexString(joined.fingerprint()));
        }
        assertThat(shelf().solver().catalogue().fingerprint()).isEqualTo(joined.fingerprint());
        shelf.removeImported();
        assertThat(shelf().solver().catalogue().fingerprint()).isEqualTo(KNOWN.fingerprint());
    }

    /** A night can do without the added stars: what cannot be read is told, not thrown. */
    @Test
    void aBrokenFileIsToldAndTheRestIsUsed() throws IOException {
        Files.writeString(folder.resolve("stars.bin"), "no catalogue");
        kept(OwnStars.NONE, 6, 0.15).write(folder.resolve("own-stars.csv"));
        StarShelf shelf = shelf();
        assertThat(shelf.holding().trouble().orElseThrow())
                .contains("stars.bin")
                .contains("import the table");
        assertThat(shelf.holding().own()).isPositive();
        assertThat(shelf.solver().catalogue().size())
                .as("but for a close companion of a known star")
                .isBetween(
                        KNOWN.size() + shelf.holding().own() - 2,
                        KNOWN.size() + shelf.holding().own());
    }

    /** By hand: places in one frame, counted. */
    @Test
    void coverageCountsWhatIsInTheFrame() {
        StarCatalogue cross = StarCatalogue.of(
                "x ",
                List.of(
                        new Equatorial(100, 0),
                        new Equatorial(100.9, 0),
                        new Equatorial(100, 0.9),
                        new Equatorial(99.1, 0),
                        new Equatorial(100, -0.9)),
                new double[] {5, 6, 7, 8, 9});
        Equatorial middle = new Equatorial(100, 0);
        assertThat(Coverage.of(cross, middle, 2, 2, 0).stars()).isEqualTo(5);
        assertThat(Coverage.of(cross, middle, 2, 1, 0).stars())
                .as("wide, not high")
                .isEqualTo(3);
        assertThat(Coverage.of(cross, middle, 1.2, 1.2, 45).stars())
                .as("the corners reach no further than 0.85°")
                .isEqualTo(1);
        assertThat(Coverage.of(cross, middle, 1.4, 1.4, 45).stars())
                .as("corners upon the arms")
                .isEqualTo(5);
        assertThat(Coverage.of(cross, middle, 2, 2, 0).suffices()).isFalse();
        assertThat(new Coverage(7).suffices()).isTrue();
        assertThat(Coverage.of(cross, middle, 2, 1, 0).words()).isEqualTo("too few: 7 at least");
    }
}
