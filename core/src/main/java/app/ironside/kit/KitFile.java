package app.ironside.kit;

import app.ironside.JsonText;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Optional;

/** A kit as an open JSON file: a part that is absent is not fitted, a value that is absent in "equipment" is the usual one. */
public final class KitFile {
    private KitFile() {}

    /** The file's own shape. Read by Jackson. */
    public record Entry(
            String name,
            Optics optics,
            Sensor sensor,
            List<FilterSpec> filters,
            Optional<FocuserSpec> focuser,
            MountSpec mount,
            Optional<GuiderSpec> guider,
            Optional<JsonNode> equipment) {
        /**
         * The kit that it tells of.
         *
         * @param file for messages
         */
        public Kit kit(String file) {
            Equipment known = equipment
                    .map(given -> JsonText.overlay(Equipment.UNKNOWN, given, Equipment.class, file + ", equipment"))
                    .orElse(Equipment.UNKNOWN);
            return new Kit(name, optics, sensor, filters, focuser, mount, guider, known);
        }
    }

    /**
     * Reads a kit.
     *
     * @param name of the file, for messages
     * @throws BadInputException naming what is wrong
     */
    public static Kit parse(String text, String name) {
        return JsonText.read(text, Entry.class, name, "a kit as in examples/").kit(name);
    }

    /** The kit as the tree that {@link #parse} reads. */
    public static ObjectNode tree(Kit kit) {
        return JsonText.tree(new Entry(
                kit.name(),
                kit.optics(),
                kit.sensor(),
                kit.filters(),
                kit.motorFocuser(),
                kit.mount(),
                kit.guideOptics(),
                Optional.of(JsonText.tree(kit.equipment()))));
    }
}
