package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Examples;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.kit.Kit;
import app.ironside.plan.SeasonBoard.ObjectClass;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Site;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What is in season does not depend on the day of asking. */
class SeasonBoardTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final Site SITE = Examples.site();
    private static final Kit WREN = Examples.kit("wren");

    private static DeepSkyObject object(String name) {
        return OBJECTS.find(name).orElseThrow();
    }

    private static SeasonBoard board(LocalDate evening) {
        return SeasonBoard.of(
                SITE,
                List.of(object("M 33"), object("NGC 4631"), object("M 13")),
                SeasonBoard.typical(OBJECTS, SITE, WREN),
                SeasonBoard.firstNight(evening),
                365,
                new SeasonBoard.Settings(25, Workers.ALL_CORES, Progress.NONE));
    }

    /** Common practice at middle northern latitudes: galaxies from about January to May, nebulae from June; by whole nights it is December. */
    @Test
    void theClassesChangeOverWhenTheyDoWheneverItIsAsked() {
        SeasonBoard november = board(LocalDate.of(2026, 11, 14));
        for (SeasonBoard b : List.of(november, board(LocalDate.of(2027, 3, 10)), board(LocalDate.of(2027, 6, 20)))) {
            List<SeasonBoard.ChangeOver> changes = b.changeOvers();
            assertThat(changes)
                    .filteredOn(c -> c.to() == ObjectClass.GALAXIES)
                    .singleElement()
                    .satisfies(c -> assertThat(c.month()).isIn(Month.DECEMBER, Month.JANUARY, Month.FEBRUARY));
            assertThat(changes)
                    .filteredOn(c -> c.to() == ObjectClass.NEBULAE)
                    .singleElement()
                    .satisfies(c -> assertThat(c.month()).isIn(Month.MAY, Month.JUNE, Month.JULY));
        }
        Map<ObjectClass, Double> april = november.months().get(Month.APRIL);
        assertThat(april.get(ObjectClass.GALAXIES)).isGreaterThan(april.get(ObjectClass.NEBULAE));
    }

    /** The dates have their year: a season under way began before tonight, one that is over comes next year. */
    @Test
    void aSeasonHasItsYear() {
        SeasonBoard november = board(LocalDate.of(2026, 11, 14));
        SeasonBoard.Season m33 =
                november.rows().get(0).season(LocalDate.of(2026, 11, 14)).orElseThrow();
        assertThat(m33.bestFrom()).isBetween(LocalDate.of(2026, 9, 15), LocalDate.of(2026, 11, 14));
        assertThat(m33.lastUseful()).isBetween(LocalDate.of(2026, 12, 15), LocalDate.of(2027, 2, 20));
        SeasonBoard.Season spring =
                november.rows().get(1).season(LocalDate.of(2026, 11, 14)).orElseThrow();
        assertThat(spring.bestFrom()).isBetween(LocalDate.of(2027, 1, 20), LocalDate.of(2027, 4, 20));
        assertThat(spring.lastUseful()).isAfter(spring.bestFrom()).isBefore(LocalDate.of(2027, 7, 1));
        LocalDate june = LocalDate.of(2027, 6, 20);
        SeasonBoard.Season m13 = board(june).rows().get(2).season(june).orElseThrow();
        assertThat(m13.bestFrom()).isBetween(LocalDate.of(2027, 2, 1), june);
        assertThat(m13.lastUseful()).isBetween(june, LocalDate.of(2027, 10, 15));
    }

    /** Common practice: wide fields for what is large, the long focal length for what is small. */
    @Test
    void theKitThatSuits() {
        List<Kit> kits = List.of(WREN, Examples.kit("lark"), Examples.kit("heron"));
        assertThat(KitChoice.forTarget(object("M 33"), kits).orElseThrow().name())
                .isEqualTo("Wren");
        assertThat(KitChoice.forTarget(object("NGC 7331"), kits).orElseThrow().name())
                .isEqualTo("Heron");
        assertThat(KitChoice.forClass(ObjectClass.GALAXIES, kits, OBJECTS, SITE)
                        .orElseThrow()
                        .name())
                .isEqualTo("Heron");
    }
}
