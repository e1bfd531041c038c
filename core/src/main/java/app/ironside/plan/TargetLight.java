package app.ironside.plan;

import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyObject;
import java.util.Comparator;
import java.util.List;

/** What kind of light an object sends, and with it which filters serve it. */
public enum TargetLight {
    /** Stars and what they light up: galaxies, clusters, dust. */
    CONTINUUM("continuum"),
    /** Gas that glows in a few lines: hydrogen, oxygen, sulphur. */
    LINES("emission lines"),
    /** Both at once, or not known which. */
    BOTH("lines and continuum");

    /** The line of hydrogen that shell and cloud nebulae shine in most, nanometres. */
    public static final double H_ALPHA_NM = 656.3;

    private final String words;

    TargetLight(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    public static TargetLight of(DeepSkyObject.Kind kind) {
        return switch (kind) {
            case EMISSION_NEBULA, PLANETARY_NEBULA, SUPERNOVA_REMNANT -> LINES;
            case BRIGHT_NEBULA, STAR_FORMING -> BOTH;
            default -> CONTINUUM;
        };
    }

    /** Whether a filter passes what the object sends. */
    public boolean passes(FilterSpec filter) {
        return !filter.narrow() || this != CONTINUUM;
    }

    /** Whether the camera sees this light at all well: hydrogen's red is cut away before an unmodified sensor. */
    public boolean seenBy(Kit kit) {
        return this == CONTINUUM || kit.equipment().deepRedShare() >= 0.5;
    }

    /**
     * The filters of a kit for this light, best first.
     *
     * <p>Common practice: emission under moonlight or a city: narrow filters; continuum: broad ones in a moonless sky, the widest first.
     *
     * @param bright whether Moon or town light the sky
     */
    public List<FilterSpec> filters(Kit kit, boolean bright) {
        Comparator<FilterSpec> order = Comparator.comparingDouble(
                f -> this != CONTINUUM && (bright || this == LINES) == f.narrow() ? 0 : f.narrow() ? 2 : 1);
        return kit.filters().stream()
                .filter(this::passes)
                .filter(f -> !f.narrow() || kit.equipment().deepRedShare() >= 0.5 || f.bluestNm() < 600)
                .sorted(order.thenComparingDouble(f -> -f.passNm()))
                .toList();
    }
}
