package app.ironside.desk.plan;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** What a kit's tree may have more or fewer of: items of its lists, and devices that are fitted or not. Pure. */
enum KitParts {
    FILTER("filter", List.of("filters"), true),
    PART("part", List.of("equipment", "parts"), true),
    GAIN_POINT("gain point", List.of("equipment", "gainCurve"), true),
    CONTACT("contact", List.of("equipment", "contacts"), true),
    GUIDER("guider", List.of("guider"), false),
    FOCUSER("focuser motor", List.of("focuser"), false),
    SUPPLY("supply", List.of("equipment", "supply"), false),
    OFF_AXIS("off-axis prism", List.of("equipment", "offAxis"), false);

    private static final double CONTACTS_APART_DEG = 10;

    private final String words;
    private final List<String> path;
    private final boolean list;

    KitParts(String words, List<String> path, boolean list) {
        this.words = words;
        this.path = path;
        this.list = list;
    }

    String words() {
        return words;
    }

    /** What can be added to a tree: to lists always, a device where it is not fitted. */
    static List<KitParts> toAdd(ObjectNode tree) {
        return Arrays.stream(values())
                .filter(p -> p.list || !tree.at(p.pointer()).isObject())
                .toList();
    }

    /** What a group of values belongs to and can be taken out with, by the path of the group; the last filter stays. */
    static Optional<KitParts> ofGroup(List<String> group, ObjectNode tree) {
        return Arrays.stream(values())
                .filter(p -> p.list
                        ? group.size() == p.path.size() + 1
                                && group.subList(0, p.path.size()).equals(p.path)
                        : group.equals(p.path))
                .filter(p -> p != FILTER || tree.at(p.pointer()).size() > 1)
                .findFirst();
    }

    private String pointer() {
        return "/" + String.join("/", path);
    }

    /** A copy with one more: like the last of its list, or a usual one. */
    ObjectNode addedTo(ObjectNode tree) {
        ObjectNode copy = tree.deepCopy();
        ObjectNode holder = holder(copy);
        String key = path.get(path.size() - 1);
        if (!list) {
            holder.set(key, usual());
            return copy;
        }
        ArrayNode items = holder.get(key) instanceof ArrayNode there ? there : holder.putArray(key);
        ObjectNode item = items.isEmpty()
                ? usual()
                : (ObjectNode) items.get(items.size() - 1).deepCopy();
        if (item.has("name")) {
            item.put("name", freeName(items));
        }
        if (this == CONTACT && !items.isEmpty()) {
            // In rising declination.
            item.put("declinationDeg", Math.min(90, item.get("declinationDeg").asDouble() + CONTACTS_APART_DEG));
        }
        items.add(item);
        return copy;
    }

    /** A copy without a group. */
    ObjectNode takenFrom(ObjectNode tree, List<String> group) {
        ObjectNode copy = tree.deepCopy();
        ObjectNode holder = holder(copy);
        String key = path.get(path.size() - 1);
        if (list) {
            ((ArrayNode) holder.get(key)).remove(Integer.parseInt(group.get(group.size() - 1)));
        } else {
            holder.remove(key);
        }
        return copy;
    }

    private ObjectNode holder(ObjectNode tree) {
        return path.size() == 1 ? tree : (ObjectNode) tree.get(path.get(0));
    }

    private String freeName(ArrayNode items) {
        List<String> taken = new ArrayList<>();
        for (JsonNode item : items) {
            taken.add(item.path("name").asText());
        }
        int number = items.size() + 1;
        while (taken.contains(words + " " + number)) {
            number++;
        }
        return words + " " + number;
    }

    /** Common values, there to be overwritten. */
    private ObjectNode usual() {
        ObjectNode usual = JsonNodeFactory.instance.objectNode();
        switch (this) {
            case FILTER -> usual.put("name", "L").put("bandwidthNm", 270).put("centreNm", 550);
            case PART -> usual.put("name", "part 1")
                    .put("massKg", 0)
                    .put("idleWatts", 0)
                    .put("peakWatts", 0);
            case GAIN_POINT -> usual.put("setting", 0)
                    .put("electronsPerAdu", 1)
                    .put("readNoiseElectrons", 3)
                    .put("fullWellElectrons", 50_000);
            case CONTACT -> usual.put("declinationDeg", 0)
                    .put("beforeFlipDeg", 0)
                    .put("afterFlipDeg", 0);
            case GUIDER -> usual.put("apertureMm", 40)
                    .put("focalLengthMm", 160)
                    .put("widthPx", 1280)
                    .put("heightPx", 960)
                    .put("pixelUm", 3.75);
            case FOCUSER -> usual.put("stepUm", 4)
                    .put("maxSteps", 5000)
                    .put("startSteps", 2500)
                    .put("backlashSteps", 0);
            case SUPPLY -> usual.put("volts", 12).put("amps", 10);
            case OFF_AXIS -> usual.put("offsetMm", 17.5).put("angleDeg", 0);
        }
        return usual;
    }
}
