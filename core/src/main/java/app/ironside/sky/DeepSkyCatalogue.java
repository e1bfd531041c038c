package app.ironside.sky;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPInputStream;

/** The 15,807 deep-sky objects that ship with Ironside, found by any of their names. Immutable. */
public final class DeepSkyCatalogue {
    private final List<DeepSkyObject> objects;
    private final Map<String, DeepSkyObject> byName = new HashMap<>();

    private DeepSkyCatalogue(List<DeepSkyObject> objects) {
        this.objects = List.copyOf(objects);
        for (DeepSkyObject object : objects) {
            for (String name : List.of(object.id(), object.alias(), object.name())) {
                if (!name.isEmpty()) {
                    byName.putIfAbsent(key(name), object);
                }
            }
        }
    }

    /** Loads the shipped objects. */
    public static DeepSkyCatalogue load() {
        try (InputStream in = DeepSkyCatalogue.class.getResourceAsStream("objects.csv.gz");
                BufferedReader reader = new BufferedReader(
                        new InputStreamReader(new GZIPInputStream(in, 1 << 16), StandardCharsets.UTF_8))) {
            List<DeepSkyObject> objects = new ArrayList<>();
            Map<String, Double> angles = angles();
            reader.readLine();
            for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                objects.add(object(fields(line), angles));
            }
            return new DeepSkyCatalogue(objects);
        } catch (IOException e) {
            throw new UncheckedIOException("the object catalogue inside the application cannot be read", e);
        }
    }

    public List<DeepSkyObject> objects() {
        return objects;
    }

    /** Finds an object by designation, alias or proper name; case, spaces and hyphens do not matter. */
    public Optional<DeepSkyObject> find(String name) {
        return Optional.ofNullable(byName.get(key(name)));
    }

    /** A name without what people write differently: case, spaces and hyphens. */
    static String key(String name) {
        StringBuilder key = new StringBuilder(name.length());
        for (char c : name.toLowerCase(Locale.ROOT).toCharArray()) {
            if (!Character.isWhitespace(c) && c != '-' && c != '_') {
                key.append(c);
            }
        }
        return key.toString();
    }

    private static DeepSkyObject object(List<String> f, Map<String, Double> angles) {
        return new DeepSkyObject(
                f.get(0),
                f.get(1),
                f.get(2),
                DeepSkyObject.Kind.ofCode(f.get(3)),
                new Equatorial(Double.parseDouble(f.get(4)), Double.parseDouble(f.get(5))),
                f.get(6).isEmpty() ? Optional.empty() : Optional.of(Double.valueOf(f.get(6))),
                f.get(7).isEmpty() ? 0 : Double.parseDouble(f.get(7)),
                f.get(8).isEmpty() ? 0 : Double.parseDouble(f.get(8)),
                Optional.ofNullable(angles.get(f.get(0))));
    }

    private static Map<String, Double> angles() throws IOException {
        try (InputStream in = DeepSkyCatalogue.class.getResourceAsStream("angles.csv");
                BufferedReader reader = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
            Map<String, Double> angles = new HashMap<>();
            for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                String[] f = line.split(",");
                if (f.length == 2 && !line.startsWith("#") && !line.startsWith("id")) {
                    angles.put(f[0], Double.valueOf(f[1]));
                }
            }
            return angles;
        }
    }

    /** Splits a line of comma-separated values in which a field with a comma stands in quotes. */
    private static List<String> fields(String line) {
        List<String> fields = new ArrayList<>();
        StringBuilder field = new StringBuilder();
        boolean quoted = false;
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == '"') {
                quoted = !quoted;
            } else if (c == ',' && !quoted) {
                fields.add(field.toString());
                field.setLength(0);
            } else {
                field.append(c);
            }
        }
        fields.add(field.toString());
        return fields;
    }
}
