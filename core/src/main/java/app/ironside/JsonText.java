package app.ironside;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import java.time.DateTimeException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;

/** Records to and from JSON text, with messages that name the place of a fault. */
public final class JsonText {
    private static final ObjectMapper JSON = JsonMapper.builder()
            .addModule(new Jdk8Module())
            .addModule(new JavaTimeModule())
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS)
            .build();

    private JsonText() {}

    /** A value in which two documents differ; empty text where one has none. */
    public record Difference(String path, String saved, String current) {}

    /**
     * Reads a record.
     *
     * @param name for messages, usually the file's
     * @param example what a right file looks like: "a kit file as in examples/"
     * @throws BadInputException naming line or value
     */
    public static <T> T read(String text, Class<T> type, String name, String example) {
        try {
            T read = JSON.readValue(text, type);
            if (read == null) {
                throw new BadInputException(name, "is empty", example);
            }
            return read;
        } catch (JsonProcessingException e) {
            throw fault(e, name, example);
        } catch (IllegalArgumentException | DateTimeException e) {
            throw new BadInputException(name, e.getMessage(), example, e);
        }
    }

    /**
     * A record with some of its values replaced by those of an object.
     *
     * @param part names the object in messages
     */
    public static <T> T overlay(T defaults, JsonNode given, Class<T> type, String part) {
        String example = "values as in examples/";
        try {
            ObjectNode merged = JSON.valueToTree(defaults);
            given.fields().forEachRemaining(field -> merged.set(field.getKey(), field.getValue()));
            return JSON.treeToValue(merged, type);
        } catch (JsonProcessingException e) {
            throw fault(e, part, example);
        }
    }

    private static BadInputException fault(JsonProcessingException e, String name, String example) {
        String where = e.getLocation() == null || e.getLocation().getLineNr() < 1
                ? name
                : name + " line " + e.getLocation().getLineNr();
        String what = Optional.ofNullable(e.getOriginalMessage())
                .flatMap(m -> m.lines().findFirst())
                .orElse("is not JSON");
        return new BadInputException(where, what, example, e);
    }

    /** A record as a tree; empty optionals are left out. */
    public static ObjectNode tree(Object value) {
        ObjectNode tree = JSON.valueToTree(value);
        withoutNulls(tree);
        return tree;
    }

    private static void withoutNulls(JsonNode node) {
        if (node instanceof ObjectNode object) {
            List<String> empty = new ArrayList<>();
            object.fields().forEachRemaining(f -> {
                if (f.getValue().isNull()) {
                    empty.add(f.getKey());
                }
            });
            object.remove(empty);
        }
        node.forEach(JsonText::withoutNulls);
    }

    public static ObjectNode newObject() {
        return JSON.createObjectNode();
    }

    /** Text that a person can read and edit. */
    public static String write(JsonNode tree) {
        return tree.toPrettyString() + "\n";
    }

    /** Where two trees differ, leaf by leaf. */
    public static List<Difference> differences(JsonNode saved, JsonNode current) {
        List<Difference> found = new ArrayList<>();
        compare("", saved, current, found);
        return found;
    }

    private static void compare(String path, JsonNode saved, JsonNode current, List<Difference> found) {
        if (saved.isObject() && current.isObject()) {
            TreeSet<String> names = new TreeSet<>();
            saved.fieldNames().forEachRemaining(names::add);
            current.fieldNames().forEachRemaining(names::add);
            for (String name : names) {
                compare(path.isEmpty() ? name : path + "." + name, saved.path(name), current.path(name), found);
            }
        } else if (!same(saved, current)) {
            found.add(new Difference(path, text(saved), text(current)));
        }
    }

    private static boolean same(JsonNode a, JsonNode b) {
        return a.equals(b) || a.isNumber() && b.isNumber() && a.doubleValue() == b.doubleValue();
    }

    private static String text(JsonNode node) {
        return node.isMissingNode() ? "" : node.isValueNode() ? node.asText() : node.toString();
    }
}
