package app.ironside.desk.plan;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A kit grows and shrinks, and stays a kit at each step. */
class KitPartsTest {
    private static ObjectNode kit(String name) throws IOException {
        return KitFile.tree(KitFile.parse(Files.readString(Path.of("..", "examples", "kits", name + ".json")), name));
    }

    private static Kit read(ObjectNode tree) {
        return KitFile.parse(tree.toString(), "kit");
    }

    @ParameterizedTest
    @ValueSource(strings = {"wren", "lark", "heron"})
    void whateverIsAddedIsAKitStill(String name) throws IOException {
        ObjectNode tree = kit(name);
        for (KitParts part : KitParts.values()) {
            if (KitParts.toAdd(tree).contains(part)) {
                ObjectNode more = part.addedTo(tree);
                assertThat(read(more)).as(part.words()).isNotEqualTo(read(tree));
                assertThat(ProfileFields.of(more, ProfileShape.KIT)).hasSizeGreaterThan(3);
            }
        }
        Kit twice = read(KitParts.FILTER.addedTo(KitParts.FILTER.addedTo(tree)));
        assertThat(twice.filters()).extracting(f -> f.name()).doesNotHaveDuplicates();
    }

    @Test
    void aDeviceIsFittedOrNot() throws IOException {
        ObjectNode wren = kit("wren");
        assertThat(KitParts.toAdd(wren)).doesNotContain(KitParts.GUIDER).contains(KitParts.OFF_AXIS, KitParts.PART);
        ObjectNode without = KitParts.GUIDER.takenFrom(wren, List.of("guider"));
        assertThat(read(without).guideOptics()).isEmpty();
        assertThat(KitParts.toAdd(without)).contains(KitParts.GUIDER);
        assertThat(read(KitParts.GUIDER.addedTo(without)).guideOptics()).isPresent();
        assertThat(read(KitParts.SUPPLY.takenFrom(wren, List.of("equipment", "supply")))
                        .equipment()
                        .supply())
                .isEmpty();
    }

    @Test
    void itemsAreTakenOutOfTheirLists() throws IOException {
        ObjectNode wren = kit("wren");
        Kit before = read(wren);
        List<String> second = List.of("filters", "1");
        assertThat(KitParts.ofGroup(second, wren)).contains(KitParts.FILTER);
        assertThat(read(KitParts.FILTER.takenFrom(wren, second)).filters())
                .doesNotContain(before.filters().get(1))
                .hasSize(before.filters().size() - 1);
        assertThat(KitParts.ofGroup(List.of("equipment", "parts", "0"), wren)).contains(KitParts.PART);
        assertThat(KitParts.ofGroup(List.of("optics"), wren)).isEmpty();
        ObjectNode lark = kit("lark");
        while (lark.get("filters").size() > 1) {
            lark = KitParts.FILTER.takenFrom(lark, List.of("filters", "0"));
        }
        assertThat(KitParts.ofGroup(List.of("filters", "0"), lark))
                .as("the last one stays")
                .isEmpty();
    }
}
