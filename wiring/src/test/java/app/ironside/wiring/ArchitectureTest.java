package app.ironside.wiring;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.time.Instant;

/** Holds the direction of dependencies: desk, cli, wiring, sim toward core. */
@AnalyzeClasses(packages = "app.ironside", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
    private static final String[] OUTSIDE = {"..sim..", "..wiring..", "..cli..", "..desk..", "javafx..", "picocli.."};

    @ArchTest
    static final ArchRule coreKnowsNoFace = noClasses()
            .that()
            .resideOutsideOfPackages("..sim..", "..wiring..", "..cli..", "..desk..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(OUTSIDE);

    @ArchTest
    static final ArchRule theObservatoryKnowsOnlyCore = noClasses()
            .that()
            .resideInAPackage("..sim..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("..wiring..", "..cli..", "..desk..", "javafx..", "picocli..");

    @ArchTest
    static final ArchRule onlyTheClocksTellTime = noClasses()
            .that()
            .resideOutsideOfPackages("..wiring..", "..desk..")
            .should()
            .callMethod(Instant.class, "now")
            .orShould()
            .callMethod(System.class, "currentTimeMillis")
            .orShould()
            .callMethod(Thread.class, "sleep", long.class);

    @ArchTest
    static final ArchRule astrometryIsWalledIn = noClasses()
            .that()
            .resideOutsideOfPackage("..sky..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("org.jastronomy..");

    @ArchTest
    static final ArchRule tablesAreWalledIn = noClasses()
            .that()
            .resideOutsideOfPackage("..sky..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("uk.ac.starlink..");

    @ArchTest
    static final ArchRule fitsIsWalledIn = noClasses()
            .that()
            .resideOutsideOfPackage("..image..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("nom.tam..");

    @ArchTest
    static final ArchRule sqlIsWalledIn = noClasses()
            .that()
            .resideOutsideOfPackage("..logbook..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("java.sql..", "org.jdbi..", "org.flywaydb..", "org.sqlite..");

    @ArchTest
    static final ArchRule noCycles =
            slices().matching("app.ironside.(*)..").should().beFreeOfCycles();
}
