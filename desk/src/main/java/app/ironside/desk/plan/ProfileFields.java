package app.ironside.desk.plan;

import app.ironside.sky.Sexagesimal;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The values of a site or kit as rows to edit: names in words, units from the names. Pure. */
public final class ProfileFields {
    /** Endings of names that are units, longest first. */
    private static final List<Map.Entry<String, String>> UNITS = List.of(
            Map.entry("MagPerArcsec2", "mag/arcsec²"),
            Map.entry("DegPerSecond", "°/s"),
            Map.entry("ElectronsPerSecond", "e⁻/s"),
            Map.entry("ElectronsPerAdu", "e⁻/ADU"),
            Map.entry("electronsPerAdu", "e⁻/ADU"),
            Map.entry("WattHours", "Wh"),
            Map.entry("Gigabytes", "GB"),
            Map.entry("Electrons", "e⁻"),
            Map.entry("Arcsec", "″"),
            Map.entry("Seconds", "s"),
            Map.entry("Minutes", "min"),
            Map.entry("Sidereal", "× sidereal"),
            Map.entry("Steps", "steps"),
            Map.entry("Watts", "W"),
            Map.entry("volts", "V"),
            Map.entry("amps", "A"),
            Map.entry("Adu", "ADU"),
            Map.entry("Deg", "°"),
            Map.entry("Mm", "mm"),
            Map.entry("Um", "µm"),
            Map.entry("Px", "px"),
            Map.entry("Nm", "nm"),
            Map.entry("Kg", "kg"),
            Map.entry("M", "m"),
            Map.entry("C", "°C"));

    /** What has editors of its own. */
    private static final Set<String> EDITED_ELSEWHERE = Set.of("horizon", "drivers");

    private ProfileFields() {}

    /**
     * A value that can be edited.
     *
     * @param path keys and indices from the root
     * @param group what it belongs to, in words
     * @param name in words
     * @param unit empty if it has none
     * @param value empty if none is given
     * @param optional what it is if it may be left out; empty text leaves it out
     */
    record Field(
            List<String> path,
            String group,
            String name,
            String unit,
            String value,
            Optional<ProfileShape.Kind> optional) {
        /** As the differences name it. */
        String dotted() {
            return String.join(".", path);
        }
    }

    /** All single values of a tree, in its order, without what has editors of its own; those that could be given follow their fellows. */
    static List<Field> of(JsonNode tree, ProfileShape shape) {
        List<Field> fields = new ArrayList<>();
        walk(tree, shape, List.of(), fields);
        for (List<String> path : shape.optional(tree)) {
            List<String> parent = path.subList(0, path.size() - 1);
            JsonNode holder = tree.at(parent.isEmpty() ? "" : "/" + String.join("/", parent));
            if (holder.isObject() && !holder.has(path.get(path.size() - 1))) {
                fields.add(placeAfter(fields, parent), field(path, "", shape));
            }
        }
        return fields;
    }

    /** Behind the last value with the same parent; behind everything if there is none. */
    private static int placeAfter(List<Field> fields, List<String> parent) {
        for (int i = fields.size() - 1; i >= 0; i--) {
            List<String> path = fields.get(i).path();
            if (path.subList(0, path.size() - 1).equals(parent)) {
                return i + 1;
            }
        }
        return fields.size();
    }

    private static Field field(List<String> path, String value, ProfileShape shape) {
        String key = path.get(path.size() - 1);
        return new Field(path, group(path), words(key), unit(key), value, shape.optional(path));
    }

    private static void walk(JsonNode node, ProfileShape shape, List<String> path, List<Field> fields) {
        if (node.isObject()) {
            node.fields().forEachRemaining(f -> {
                if (!EDITED_ELSEWHERE.contains(f.getKey())) {
                    walk(f.getValue(), shape, plus(path, f.getKey()), fields);
                }
            });
        } else if (node.isArray()) {
            for (int i = 0; i < node.size(); i++) {
                walk(node.get(i), shape, plus(path, String.valueOf(i)), fields);
            }
        } else {
            fields.add(field(path, node.asText(), shape));
        }
    }

    private static List<String> plus(List<String> path, String key) {
        List<String> longer = new ArrayList<>(path);
        longer.add(key);
        return List.copyOf(longer);
    }

    private static String group(List<String> path) {
        List<String> words = new ArrayList<>();
        for (String key : path.subList(0, path.size() - 1)) {
            words.add(key.matches("\\d+") ? String.valueOf(Integer.parseInt(key) + 1) : words(key));
        }
        return words.isEmpty() ? "general" : String.join(" ", words);
    }

    static String unit(String key) {
        return UNITS.stream()
                .filter(u -> key.endsWith(u.getKey()))
                .map(Map.Entry::getValue)
                .findFirst()
                .orElse("");
    }

    static String words(String key) {
        String plain = key;
        for (Map.Entry<String, String> unit : UNITS) {
            if (key.endsWith(unit.getKey()) && key.length() > unit.getKey().length()) {
                plain = key.substring(0, key.length() - unit.getKey().length());
                break;
            }
        }
        return plain.replaceAll("([a-z])([A-Z])", "$1 $2").toLowerCase(Locale.ROOT);
    }

    /**
     * A copy of the tree with one value replaced; numbers stay numbers. Empty text leaves out what may be left out.
     *
     * @throws NumberFormatException if a number is wanted and the text is none
     * @throws IllegalArgumentException if yes or no is wanted and the text is neither
     */
    static ObjectNode with(ObjectNode tree, Field field, String text) {
        ObjectNode copy = tree.deepCopy();
        JsonNode parent = copy;
        for (String key : field.path().subList(0, field.path().size() - 1)) {
            parent = parent.isArray() ? parent.get(Integer.parseInt(key)) : parent.get(key);
        }
        String last = field.path().get(field.path().size() - 1);
        if (field.optional().isPresent()) {
            if (text.isBlank()) {
                ((ObjectNode) parent).remove(last);
            } else {
                ((ObjectNode) parent).set(last, field.optional().get().parsed(text.strip()));
            }
            return copy;
        }
        JsonNode old = parent.isArray() ? parent.get(Integer.parseInt(last)) : parent.get(last);
        JsonNode value = parsed(old, text.strip(), field.unit().equals("°"));
        if (parent instanceof ArrayNode array) {
            array.set(Integer.parseInt(last), value);
        } else {
            ((ObjectNode) parent).set(last, value);
        }
        return copy;
    }

    /**
     * @param angle may also be written as it stands on maps: 44° 03′ N
     */
    private static JsonNode parsed(JsonNode old, String text, boolean angle) {
        JsonNodeFactory make = JsonNodeFactory.instance;
        if (old.isBoolean()) {
            return make.booleanNode(isYes(text));
        }
        if (old.isIntegralNumber() && text.matches("[-+]?\\d+")) {
            return make.numberNode(Integer.parseInt(text));
        }
        Optional<Double> degrees = angle ? Sexagesimal.degrees(text) : Optional.empty();
        return old.isNumber()
                ? make.numberNode(degrees.orElseGet(() -> Double.parseDouble(text.replace(',', '.'))))
                : make.textNode(text);
    }

    private static boolean isYes(String text) {
        return switch (text.toLowerCase(Locale.ROOT)) {
            case "true", "yes" -> true;
            case "false", "no" -> false;
            default -> throw new IllegalArgumentException("\"" + text + "\" is neither yes nor no");
        };
    }
}
