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
import java.util.Map;

/**
 * A star that people and hand controllers know by name.
 *
 * @param name of the International Astronomical Union's list
 */
public record NamedStar(String name, CatalogueStar star) {
    private static final double FAINTEST = 3;

    /** Those that ship: some sixty of the brightest, over the whole sky. */
    public static List<NamedStar> of(StarCatalogue hipparcos) {
        Map<String, CatalogueStar> bright = new HashMap<>();
        for (int i = 0; i < hipparcos.size(); i++) {
            if (hipparcos.magnitude(i) < FAINTEST) {
                CatalogueStar star = hipparcos.star(i);
                bright.put(star.name(), star);
            }
        }
        List<NamedStar> named = new ArrayList<>();
        try (InputStream in = NamedStar.class.getResourceAsStream("named-stars.csv");
                BufferedReader reader = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
            for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                String[] f = line.split(",");
                CatalogueStar star = bright.get("HIP " + f[0]);
                if (star != null) {
                    named.add(new NamedStar(f[1], star));
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException("the names of stars that ship cannot be read", e);
        }
        return List.copyOf(named);
    }
}
