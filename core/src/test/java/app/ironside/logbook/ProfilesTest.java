package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.Examples;
import app.ironside.JsonText;
import app.ironside.kit.Kit;
import app.ironside.kit.Optics;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.MoonRule;
import app.ironside.plan.TargetPlan;
import app.ironside.plan.Wish;
import app.ironside.sky.Equatorial;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProfilesTest {
    @TempDir
    Path folder;

    @Test
    void whatIsSavedIsThereNextTime() {
        Profiles profiles = new Profiles(folder);
        assertThat(profiles.kits()).isEmpty();
        profiles.save(Examples.kit("wren"));
        profiles.save(Examples.kit("lark"));
        profiles.save(Examples.site());
        Profiles next = new Profiles(folder);
        assertThat(next.kits()).extracting(Kit::name).containsExactly("Lark", "Wren");
        assertThat(next.kit("Wren")).contains(Examples.kit("wren"));
        assertThat(next.site("Colle Sorbo")).isPresent();
        assertThat(folder.resolve("kits/wren.json")).exists();
    }

    /** A value changed for one night only is told, so that it is not forgotten. */
    @Test
    void aChangedValueIsFlagged() {
        Profiles profiles = new Profiles(folder);
        Kit wren = Examples.kit("wren");
        profiles.save(wren);
        assertThat(profiles.differences(wren)).isEmpty();
        Optics reduced = new Optics(90, 396, 0, 0.9, 3.6);
        Kit changed = new Kit(
                wren.name(),
                reduced,
                wren.sensor(),
                wren.filters(),
                wren.motorFocuser(),
                wren.mount(),
                wren.guideOptics(),
                wren.equipment());
        assertThat(profiles.differences(changed))
                .containsExactly(new JsonText.Difference("optics.focalLengthMm", "432.0", "396.0"));
        assertThat(profiles.differences(Examples.kit("heron"))).isEmpty();
    }

    /** One file that is broken hides no other, and is named. */
    @Test
    void aBrokenProfileIsNamedAndHidesNoOther() throws Exception {
        Profiles profiles = new Profiles(folder);
        profiles.save(Examples.kit("wren"));
        profiles.save(Examples.kit("lark"));
        Path file = folder.resolve("kits/wren.json");
        Files.writeString(file, Files.readString(file).replace("\"apertureMm\" : 90.0", "\"apertureMm\" : -90.0"));
        assertThat(profiles.kits()).extracting(Kit::name).containsExactly("Lark", "Wren");
        profiles.reload();
        assertThat(profiles.kits()).extracting(Kit::name).containsExactly("Lark");
        assertThat(profiles.broken())
                .singleElement()
                .asString()
                .contains("kits/wren.json")
                .contains("apertureMm is -90.0");
        // What is broken may be somebody's only copy: a kit of that name gets another file.
        profiles.save(Examples.kit("wren"));
        assertThat(Files.readString(file)).contains("-90.0");
        assertThat(profiles.kits()).extracting(Kit::name).contains("Wren");
    }

    /** Names that look alike to a file system: each keeps its own file, and saving again replaces only its own. */
    @Test
    void profilesOfDifferentNamesNeverShareAFile() {
        Profiles profiles = new Profiles(folder);
        List<String> names = List.of(
                "a/b", "a.b", "a b", "Lark", "lark", "LARK", "\u0130", "i\u0307", "Fore\u0302t x", "For\u00eat x");
        for (int round = 0; round < 2; round++) {
            names.forEach(name -> profiles.save(named(Examples.kit("wren"), name)));
        }
        assertThat(profiles.kits()).extracting(Kit::name).containsExactlyInAnyOrderElementsOf(names);
        assertThatThrownBy(() -> profiles.save(named(Examples.kit("wren"), "../..")))
                .hasMessageContaining("the name of a kit");
    }

    private static Kit named(Kit kit, String name) {
        return new Kit(
                name,
                kit.optics(),
                kit.sensor(),
                kit.filters(),
                kit.motorFocuser(),
                kit.mount(),
                kit.guideOptics(),
                kit.equipment());
    }

    @Test
    void lessonsStay() {
        Profiles profiles = new Profiles(folder);
        assertThat(profiles.lessons()).isEmpty();
        profiles.saveLessons(List.of("heater lead on the second plug"));
        assertThat(new Profiles(folder).lessons()).containsExactly("heater lead on the second plug");
    }

    @Test
    void aWishIsKept() {
        Profiles profiles = new Profiles(folder);
        TargetPlan target = new TargetPlan(
                        "M 33",
                        new Equatorial(23.46, 30.66),
                        List.of(
                                new FilterGoal("L", 60),
                                new FilterGoal("Ha", 300)
                                        .withMoon(MoonRule.ANY)
                                        .withGathered(Optional.of(new FilterGoal.Gathered(10, 4)))),
                        3)
                .withMinimumAltitude(Optional.of(30.0));
        profiles.saveWish(Wish.of("Galaxy", target));
        profiles.saveWish(Wish.of("Another", target));
        profiles.saveWish(Wish.of("Galaxy", target.withTurn(4)));
        assertThat(new Profiles(folder).wishes())
                .containsExactly(Wish.of("Another", target), Wish.of("Galaxy", target.withTurn(4)));
        Wish wish = new Profiles(folder).wishes().get(0);
        assertThat(wish.goals().get(1).gathered())
                .as("what one target has is not another's")
                .contains(new FilterGoal.Gathered(10, 0));
        assertThat(wish.on(target.withTurn(9), List.of("Ha")).orElseThrow().filters())
                .containsExactly("Ha");
        assertThat(wish.on(target, List.of("RGB"))).isEmpty();
        profiles.removeWish("Another");
        assertThat(profiles.wishes()).hasSize(1);
    }
}
