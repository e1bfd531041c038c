package app.ironside.sky;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Places of the sky by what a person types: an object's name or a part of it, a bright star's, or right ascension and declination. */
public final class SkyNames {
    /** Three numbers that may be parted by letters, colons or the signs of minutes and seconds. */
    private static final String SEXAGESIMAL =
            "([+\\-−]?\\d{1,3})\\s*[hd°:\\s]\\s*(\\d{1,2})\\s*(?:[m'′:\\s]\\s*(\\d{1,2}(?:\\.\\d+)?)\\s*[s\"″]?|[m'′])?";

    private static final Pattern PLACE = Pattern.compile("\\s*" + SEXAGESIMAL + "[\\s,;]+" + SEXAGESIMAL + "\\s*");
    private static final Pattern DEGREES =
            Pattern.compile("\\s*(\\d{1,3}(?:\\.\\d+)?)°?[\\s,;]+([+\\-−]?\\d{1,2}(?:\\.\\d+)?)°?\\s*");

    /** Fewer letters are part of too many names. */
    private static final int FEWEST_LETTERS = 2;

    /** What has no magnitude comes last. */
    private static final double UNKNOWN = 99;

    private final DeepSkyCatalogue objects;
    private final Map<String, NamedStar> stars = new LinkedHashMap<>();
    private final List<Entry> entries = new ArrayList<>();

    /** What can be found, under all its names. */
    private record Entry(List<String> keys, Place place, double magnitude) {}

    public SkyNames(DeepSkyCatalogue objects, List<NamedStar> named) {
        this.objects = objects;
        for (NamedStar s : named) {
            String key = DeepSkyCatalogue.key(s.name());
            stars.put(key, s);
            entries.add(new Entry(List.of(key), of(s), s.star().magnitude()));
        }
        for (DeepSkyObject o : objects.objects()) {
            List<String> keys = Stream.of(o.id(), o.alias(), o.name())
                    .filter(n -> !n.isEmpty())
                    .map(DeepSkyCatalogue::key)
                    .toList();
            entries.add(new Entry(keys, of(o), o.magnitude().orElse(UNKNOWN)));
        }
    }

    /**
     * A place with what it is called.
     *
     * @param position J2000
     * @param object if it is one of the catalogue
     */
    public record Place(String name, Equatorial position, Optional<DeepSkyObject> object) {}

    /**
     * What is meant: a whole name; else a place in hours and degrees ("01 33 51 +30 39 37") or in degrees alone ("23.46 +30.66"), J2000;
     * else the first of what has this in its name, as {@link #like} orders it.
     */
    public Optional<Place> find(String typed) {
        Optional<Place> exact = objects.find(typed).map(SkyNames::of);
        if (exact.isPresent()) {
            return exact;
        }
        NamedStar star = stars.get(DeepSkyCatalogue.key(typed));
        if (star != null) {
            return Optional.of(of(star));
        }
        return place(typed).or(() -> like(typed, 1).stream().findFirst());
    }

    /** Objects and stars with this in their names: those that begin with it first, then the brightest. */
    public List<Place> like(String typed, int most) {
        String part = DeepSkyCatalogue.key(typed);
        if (part.chars().filter(Character::isLetter).count() < FEWEST_LETTERS) {
            return List.of();
        }
        return entries.stream()
                .filter(e -> e.keys().stream().anyMatch(k -> k.contains(part)))
                .sorted(Comparator.comparing((Entry e) -> e.keys().stream().noneMatch(k -> k.startsWith(part)))
                        .thenComparingDouble(Entry::magnitude))
                .limit(most)
                .map(Entry::place)
                .toList();
    }

    private static Place of(DeepSkyObject o) {
        return new Place(o.name().isEmpty() ? o.id() : o.id() + ", " + o.name(), o.position(), Optional.of(o));
    }

    private static Place of(NamedStar s) {
        return new Place(s.name(), s.star().position(), Optional.empty());
    }

    /** A place in numbers. */
    static Optional<Place> place(String typed) {
        Matcher m = PLACE.matcher(typed);
        if (m.matches()) {
            return at(
                    typed, 15 * Sexagesimal.of(m.group(1), m.group(2), m.group(3)), m.group(4), m.group(5), m.group(6));
        }
        Matcher d = DEGREES.matcher(typed);
        return d.matches()
                ? at(typed, Double.parseDouble(d.group(1)), d.group(2).replace('−', '-'), "0", null)
                : Optional.empty();
    }

    private static Optional<Place> at(String typed, double raDeg, String degrees, String minutes, String seconds) {
        double dec = degrees.contains(".") ? Double.parseDouble(degrees) : Sexagesimal.of(degrees, minutes, seconds);
        return raDeg < 0 || raDeg >= 360 || Math.abs(dec) > 90
                ? Optional.empty()
                : Optional.of(new Place(typed.strip(), new Equatorial(raDeg, dec), Optional.empty()));
    }
}
