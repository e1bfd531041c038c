package app.ironside.solve;

import app.ironside.Workers;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Indexes of the patterns about a place. A telescope is asked where it looks again and again near the same place: circles are laid on a
 * grid that is fine against their size, so that one index serves all of those, and always the same one serves a place.
 */
final class LocalIndexes {
    private static final int KEPT = 12;

    /** Together in those kept, at some thirty bytes each: wide circles of many stars must not fill the memory. */
    private static final int MOST_KEPT_PATTERNS = 8_000_000;

    /** Of the circle's radius. */
    private static final double GRID_SHARE = 0.25;

    /** From the middle of a cell of the grid to its corner. */
    private static final double CORNER = 0.75;

    private static final double UNKNOWN_SCALE_ARCSEC = 20;
    private static final double DEGREES_PER_RADIAN = 180 / Math.PI;

    private final StarCatalogue catalogue;
    private final Workers workers;
    private final Sizes sizes;

    /** The last asked for stands last. */
    private final Map<Key, PatternIndex> kept = new LinkedHashMap<>(KEPT, 0.75f, true);

    private record Key(Equatorial centre, double radiusDeg, int most) {}

    /**
     * How much of a neighbourhood is indexed.
     *
     * @param fewest stars
     * @param most stars
     * @param inField stars in each area of a frame, where it is
     * @param neighbours with which a star forms patterns
     */
    record Sizes(int fewest, int most, double inField, int neighbours) {}

    LocalIndexes(StarCatalogue catalogue, Workers workers, Sizes sizes) {
        this.catalogue = catalogue;
        this.workers = workers;
        this.sizes = sizes;
    }

    /** The index for a frame about the place of its hints, reaching a frame's radius further than they do. */
    PatternIndex about(StarField field, SolveHints hints) {
        double scale = hints.scaleArcsecPerPixel().orElse(UNKNOWN_SCALE_ARCSEC);
        double fieldRadius = Math.hypot(field.width(), field.height()) / 2 * scale / 3600;
        double wanted = Math.min(180, hints.radiusDeg() + Math.min(20, fieldRadius));
        double step = Math.pow(2, Math.floor(Math.log(GRID_SHARE * wanted) / Math.log(2)));
        double radius = Math.min(180, Math.ceil(wanted / step) * step + CORNER * step);
        double fieldArea = Math.max(1e-3, field.width() * (double) field.height() * scale * scale / 3600 / 3600);
        int most = hints.scaleArcsecPerPixel().isEmpty()
                ? sizes.most()
                : (int) Math.min(
                        sizes.most(), Math.max(sizes.fewest(), sizes.inField() * capSquareDegrees(radius) / fieldArea));
        Key key = new Key(onGrid(hints.near().orElseThrow(), step), radius, most);
        synchronized (kept) {
            PatternIndex index = kept.get(key);
            if (index == null) {
                index = build(key);
                kept.put(key, index);
                forgetTheEldest();
            }
            return index;
        }
    }

    private void forgetTheEldest() {
        long patterns = kept.values().stream().mapToLong(PatternIndex::size).sum();
        Iterator<PatternIndex> eldest = kept.values().iterator();
        while (kept.size() > 1 && (kept.size() > KEPT || patterns > MOST_KEPT_PATTERNS)) {
            patterns -= eldest.next().size();
            eldest.remove();
        }
    }

    private static Equatorial onGrid(Equatorial place, double step) {
        double dec = Math.max(-90, Math.min(90, Math.rint(place.decDeg() / step) * step));
        long around = Math.max(1, Math.round(360 * Angles.cosDeg(dec) / step));
        double width = 360.0 / around;
        return new Equatorial(Angles.wrap360(Math.rint(place.raDeg() / width) * width), dec);
    }

    private PatternIndex build(Key key) {
        int[] inside = catalogue.indicesWithin(key.centre(), key.radiusDeg());
        if (inside.length > key.most()) {
            inside = Arrays.copyOf(inside, key.most());
        }
        List<Integer> levels = new ArrayList<>();
        for (double share = 1; share * inside.length >= 8 && levels.size() < 6; share *= 0.55) {
            levels.add((int) (share * inside.length));
        }
        PatternIndex.Plan plan = new PatternIndex.Plan(
                levels.stream().mapToInt(Integer::intValue).sorted().toArray(), sizes.neighbours());
        return PatternIndex.build(catalogue, inside, plan, workers);
    }

    static double capSquareDegrees(double radiusDeg) {
        return 2 * Math.PI * (1 - Angles.cosDeg(radiusDeg)) * DEGREES_PER_RADIAN * DEGREES_PER_RADIAN;
    }
}
