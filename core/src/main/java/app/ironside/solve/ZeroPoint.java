package app.ironside.solve;

import app.ironside.image.Statistics;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;

/** How much light a frame has of stars whose brightness is known. */
public final class ZeroPoint {
    private static final double SAME_ARCSEC = 2;

    private ZeroPoint() {}

    /**
     * The magnitude of one ADU: the median over the stars by which a frame was recognised, unsaturated ones if there are some; empty if none of
     * them is one of the catalogue's. Colours are not taken into it.
     *
     * @param field the stars by which it was solved
     * @param catalogue by which it was solved
     */
    public static OptionalDouble of(PlateSolution solution, StarField field, StarCatalogue catalogue) {
        record Place(double x, double y) {}
        Map<Place, Star> stars = new HashMap<>();
        field.stars().forEach(s -> stars.put(new Place(s.x(), s.y()), s));
        List<Double> sound = new ArrayList<>();
        List<Double> all = new ArrayList<>();
        for (StarMatch match : solution.stars()) {
            int[] known = catalogue.indicesWithin(match.sky(), SAME_ARCSEC / 3600);
            Star seen = stars.get(new Place(match.x(), match.y()));
            if (known.length > 0 && seen != null && seen.fluxAdu() > 0) {
                double zero = catalogue.magnitude(known[0]) + 2.5 * Math.log10(seen.fluxAdu());
                all.add(zero);
                if (!seen.saturated()) {
                    sound.add(zero);
                }
            }
        }
        double[] zeros = (sound.isEmpty() ? all : sound)
                .stream().mapToDouble(Double::doubleValue).toArray();
        return zeros.length == 0 ? OptionalDouble.empty() : OptionalDouble.of(Statistics.median(zeros));
    }
}
