package app.ironside.app;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaField;
import com.tngtech.archunit.core.domain.JavaType;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import java.time.Instant;
import java.util.stream.Stream;

/** Holds the direction of dependencies, app, desk and cli, wiring, sim and drivers toward core: here, where all are on the class path. */
@AnalyzeClasses(packages = "app.ironside", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
    private static final String[] OUTSIDE = {
        "..sim..", "..drivers..", "..wiring..", "..cli..", "..desk..", "app.ironside.app..", "javafx..", "picocli.."
    };

    @ArchTest
    static final ArchRule coreKnowsNoFace = noClasses()
            .that()
            .resideOutsideOfPackages(
                    "..sim..", "..drivers..", "..wiring..", "..cli..", "..desk..", "app.ironside.app..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(OUTSIDE);

    @ArchTest
    static final ArchRule driversKnowOnlyCore = noClasses()
            .that()
            .resideInAPackage("..drivers..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("..sim..", "..wiring..", "..cli..", "..desk..", "javafx..", "picocli..");

    @ArchTest
    static final ArchRule theFacesDoNotKnowEachOther = noClasses()
            .that()
            .resideInAPackage("..desk..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("..cli..");

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
            .resideInAnyPackage("nom.tam..", "com.twelvemonkeys..");

    @ArchTest
    static final ArchRule sqlIsWalledIn = noClasses()
            .that()
            .resideOutsideOfPackage("..logbook..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("java.sql..", "org.jdbi..", "org.flywaydb..", "org.sqlite..");

    /** What rooms hand to each other is typed: names and values in maps are for files, headers and answers on the command line. */
    @ArchTest
    static final ArchRule whatIsHandedOverIsTyped = classes()
            .that()
            .resideOutsideOfPackages("..logbook..", "..image..", "..cli..")
            .should(new ArchCondition<JavaClass>("hand over no Map<String, Object>") {
                @Override
                public void check(JavaClass type, ConditionEvents events) {
                    Stream<JavaType> handed = Stream.concat(
                            type.getFields().stream().map(JavaField::getType),
                            type.getCodeUnits().stream()
                                    .flatMap(unit -> Stream.concat(
                                            Stream.of(unit.getReturnType()), unit.getParameterTypes().stream())));
                    handed.filter(t -> t.toString().contains("Map<java.lang.String, java.lang.Object>"))
                            .forEach(t -> events.add(
                                    SimpleConditionEvent.violated(type, type.getName() + " hands over " + t)));
                }
            });

    @ArchTest
    static final ArchRule noCycles =
            slices().matching("app.ironside.(*)..").should().beFreeOfCycles();
}
