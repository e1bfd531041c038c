package app.ironside.desk.plan;

import app.ironside.kit.Equipment;
import app.ironside.kit.KitFile;
import app.ironside.sky.SiteFile;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Which single values of a site or kit may be left out, read off the records that hold them. Pure. */
enum ProfileShape {
    SITE(SiteFile.Entry.class),
    KIT(KitFile.Entry.class);

    /** Stands in a path for the place in a list. */
    private static final String ANY_ELEMENT = "*";

    private final Map<List<String>, Kind> optional = new LinkedHashMap<>();

    /** What an optional value is, and so what may be typed. */
    enum Kind {
        WORDS("nothing set"),
        NUMBER("not known"),
        WHOLE_NUMBER("as it is");

        private final String unset;

        Kind(String unset) {
            this.unset = unset;
        }

        /** What stands where none is given. */
        String unset() {
            return unset;
        }

        /**
         * @throws NumberFormatException if a number is wanted and the text is none
         */
        JsonNode parsed(String text) {
            return switch (this) {
                case WORDS -> JsonNodeFactory.instance.textNode(text);
                case NUMBER -> JsonNodeFactory.instance.numberNode(Double.parseDouble(text.replace(',', '.')));
                case WHOLE_NUMBER -> JsonNodeFactory.instance.numberNode(Integer.parseInt(text));
            };
        }
    }

    ProfileShape(Class<?> root) {
        walk(root, List.of());
    }

    private void walk(Class<?> shape, List<String> path) {
        for (RecordComponent component : shape.getRecordComponents()) {
            List<String> longer = new ArrayList<>(path);
            longer.add(component.getName());
            Type type = component.getGenericType();
            Optional<Class<?>> element = elementOfList(type);
            if (element.isPresent()) {
                longer.add(ANY_ELEMENT);
                walk(element.get(), longer);
                continue;
            }
            boolean mayLack = type instanceof ParameterizedType p && p.getRawType() == Optional.class;
            Type held = mayLack ? ((ParameterizedType) type).getActualTypeArguments()[0] : type;
            if (held == JsonNode.class) {
                held = Equipment.class; // the file's own name for a tree that overlays the usual equipment
            }
            if (held instanceof Class<?> of && of.isRecord()) {
                walk(of, longer);
            } else if (mayLack && kind(held) != null) {
                optional.put(List.copyOf(longer), kind(held));
            }
        }
    }

    private static Optional<Class<?>> elementOfList(Type type) {
        return type instanceof ParameterizedType p
                        && p.getRawType() == List.class
                        && p.getActualTypeArguments()[0] instanceof Class<?> of
                        && of.isRecord()
                ? Optional.of(of)
                : Optional.empty();
    }

    private static Kind kind(Type type) {
        return type == String.class
                ? Kind.WORDS
                : type == Double.class ? Kind.NUMBER : type == Integer.class ? Kind.WHOLE_NUMBER : null;
    }

    /** The kind of a value that may be left out; empty for one that must be there. */
    Optional<Kind> optional(List<String> path) {
        return Optional.ofNullable(optional.get(path.stream()
                .map(key -> key.matches("\\d+") ? ANY_ELEMENT : key)
                .toList()));
    }

    /** All values that may be left out, of lists once for each element that a tree has. */
    List<List<String>> optional(JsonNode tree) {
        List<List<String>> paths = new ArrayList<>();
        for (List<String> path : optional.keySet()) {
            int any = path.indexOf(ANY_ELEMENT);
            if (any < 0) {
                paths.add(path);
                continue;
            }
            JsonNode list = tree.at("/" + String.join("/", path.subList(0, any)));
            for (int i = 0; i < list.size(); i++) {
                List<String> element = new ArrayList<>(path);
                element.set(any, String.valueOf(i));
                paths.add(List.copyOf(element));
            }
        }
        return paths;
    }
}
