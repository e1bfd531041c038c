package app.ironside.app;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The rooms of the desk, each of which knows only those before it. */
class RoomsTest {
    private static final List<String> ROOMS =
            List.of("parts", "picture", "reckon", "night", "plan", "session", "station", "inspect", "darkroom");
    private static final String DESK = "app.ironside.desk";

    private static JavaClasses classes;

    @BeforeAll
    static void readTheClasses() {
        classes = new ClassFileImporter()
                .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
                .importPackages(DESK);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7})
    void aRoomKnowsOnlyThoseBeforeIt(int room) {
        for (String later : ROOMS.subList(room + 1, ROOMS.size())) {
            noClasses()
                    .that()
                    .resideInAPackage(DESK + "." + ROOMS.get(room))
                    .should()
                    .dependOnClassesThat()
                    .resideInAPackage(DESK + "." + later)
                    .check(classes);
        }
        noClasses()
                .that()
                .resideInAPackage(DESK + "." + ROOMS.get(room))
                .should()
                .dependOnClassesThat()
                .resideInAPackage(DESK)
                .check(classes);
    }

    @Test
    void everyRoomIsListed() {
        assertThat(classes.stream()
                        .map(c -> c.getPackageName())
                        .filter(p -> p.startsWith(DESK + "."))
                        .map(p -> p.substring(DESK.length() + 1))
                        .distinct())
                .containsExactlyInAnyOrderElementsOf(ROOMS);
    }

    /** States are made without a toolkit. */
    @Test
    void statesKnowNoToolkit() {
        noClasses()
                .that()
                .haveSimpleNameEndingWith("State")
                .or()
                .haveSimpleNameEndingWith("Reckoner")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("javafx..")
                .check(classes);
    }
}
