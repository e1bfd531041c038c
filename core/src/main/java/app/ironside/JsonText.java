package app.ironside;

import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.core.io.JsonEOFException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.exc.InvalidFormatException;
import com.fasterxml.jackson.databind.exc.MismatchedInputException;
import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import com.fasterxml.jackson.databind.exc.ValueInstantiationException;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Records to and from JSON text, with messages that name the place of a fault. */
public final class JsonText {
    private static final ObjectMapper JSON = JsonMapper.builder()
            .addModule(new Jdk8Module())
            .addModule(new JavaTimeModule())
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .defaultSetterInfo(JsonSetter.Value.forContentNulls(Nulls.FAIL))
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS)
            .build();

    /** How the parser words that a record's value is not there; the name stands nowhere else. */
    private static final Pattern MISSING = Pattern.compile("creator property '(\\w+)'");

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

    /** What is wrong with a file, in words of the file: never in those of the parser or of a class. */
    private static BadInputException fault(JsonProcessingException e, String name, String example) {
        String line = e.getLocation() == null || e.getLocation().getLineNr() < 1
                ? ""
                : " line " + e.getLocation().getLineNr();
        String field = e instanceof JsonMappingException mapping ? path(mapping) : "";
        String where = name + line + (field.isEmpty() ? "" : ", " + field);
        if (e instanceof UnrecognizedPropertyException unknown) {
            return new BadInputException(
                    name + line,
                    "has a field \"" + Printable.line(path(unknown)) + "\", which is not known here",
                    "one of "
                            + String.join(
                                    ", ",
                                    new TreeSet<>(unknown.getKnownPropertyIds().stream()
                                            .map(String::valueOf)
                                            .toList())),
                    e);
        }
        if (e instanceof InvalidFormatException wrong) {
            return new BadInputException(
                    where,
                    "\"" + Printable.line(String.valueOf(wrong.getValue())) + "\" is not "
                            + kind(wrong.getTargetType()),
                    example,
                    e);
        }
        if (e instanceof ValueInstantiationException refused) {
            String why = refused.getCause() == null
                    ? "cannot be used"
                    : refused.getCause().getMessage();
            return new BadInputException(where, Printable.line(why), example, e);
        }
        if (String.valueOf(e.getOriginalMessage()).startsWith("Trailing token")) {
            return new BadInputException(name + line, "has something behind its last bracket", example, e);
        }
        Matcher missing = MISSING.matcher(String.valueOf(e.getOriginalMessage()));
        if (missing.find()) {
            String outer = field.replaceFirst("(^|\\.)" + missing.group(1) + "$", "");
            return new BadInputException(
                    name + line + (outer.isEmpty() ? "" : ", " + outer),
                    "has no \"" + missing.group(1) + "\"",
                    example,
                    e);
        }
        if (e instanceof MismatchedInputException mismatch) {
            return new BadInputException(where, "is not " + kind(mismatch.getTargetType()), example, e);
        }
        if (e instanceof JsonEOFException) {
            return new BadInputException(name + line, "ends before its last bracket", example, e);
        }
        if (String.valueOf(e.getOriginalMessage()).startsWith("Duplicate field")) {
            return new BadInputException(
                    name + line,
                    "has a field twice (" + e.getOriginalMessage().replaceFirst("^Duplicate field ", "") + ")",
                    example,
                    e);
        }
        return new BadInputException(name + line, "is not JSON there", example, e);
    }

    private static String path(JsonMappingException e) {
        StringBuilder path = new StringBuilder();
        for (JsonMappingException.Reference step : e.getPath()) {
            path.append(
                    step.getFieldName() == null
                            ? "[" + (step.getIndex() + 1) + "]"
                            : (path.isEmpty() ? "" : ".") + step.getFieldName());
        }
        return Printable.line(path.toString()).replace("no message", "");
    }

    private static String kind(Class<?> type) {
        if (type == null) {
            return "what belongs there";
        }
        if (type == boolean.class || type == Boolean.class) {
            return "true or false";
        }
        if (type == int.class || type == Integer.class || type == long.class || type == Long.class) {
            return "a whole number";
        }
        if (type.isPrimitive() || Number.class.isAssignableFrom(type)) {
            return "a number";
        }
        if (Collection.class.isAssignableFrom(type)) {
            return "a list in square brackets";
        }
        if (type == LocalDate.class) {
            return "a date like 2026-11-14";
        }
        if (type == LocalTime.class) {
            return "a time like 21:30";
        }
        if (type == Instant.class) {
            return "a time like 2026-11-14T21:30:00Z";
        }
        if (type.isEnum()) {
            return "one of "
                    + String.join(
                            ", ",
                            Arrays.stream(type.getEnumConstants())
                                    .map(String::valueOf)
                                    .toList());
        }
        return type == String.class ? "a text" : "an object in curly brackets";
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
