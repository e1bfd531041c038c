package app.ironside.desk.plan;

import app.ironside.plan.Framing;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.StarSource;
import app.ironside.wiring.Wiring;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Gathers what a {@link FieldChart} shows; keeps the stars of the last place. */
public final class FieldStates {
    private static final double SHOWN_MAGNITUDE = 10.5;
    private static final double MOST_RADIUS_DEG = 12;
    private static final double STEP_DEG = 0.25;
    private static final double DEPTH_DEG = 3;

    private final Wiring wiring;
    private final StarSource source;
    private Equatorial starsAt;
    private double starsWithin;
    private List<CatalogueStar> stars = List.of();

    FieldStates(Wiring wiring) {
        this.wiring = wiring;
        this.source = wiring.starSource();
    }

    /** How the field is to be shown. */
    record Mosaic(int columns, int rows, double overlap) {
        static final Mosaic ONE = new Mosaic(1, 1, 0.15);
    }

    FieldChart.State of(DeepSkyObject subject, Framing framing, Mosaic mosaic, double guideLimit) {
        List<Framing> panels = framing.mosaic(mosaic.columns(), mosaic.rows(), mosaic.overlap());
        double reach = Math.min(
                MOST_RADIUS_DEG,
                framing.kit().fieldRadiusDeg() * (2.6 + Math.max(mosaic.columns(), mosaic.rows()) - 1));
        List<CatalogueStar> around = starsAround(framing.centre(), reach);
        List<DeepSkyObject> objects = new ArrayList<>(wiring.objects().objects().stream()
                .filter(o -> o != subject)
                .filter(o -> Math.abs(o.position().decDeg() - framing.centre().decDeg()) < reach)
                .filter(o -> o.position().separationDeg(framing.centre()) < reach)
                .sorted(Comparator.comparingDouble(DeepSkyObject::longAxisArcmin)
                        .reversed())
                .limit(60)
                .toList());
        objects.add(0, subject);
        List<FieldChart.Guide> guides = new ArrayList<>();
        if (panels.size() == 1) {
            framing.guideField(known(), guideLimit).ifPresent(f -> guides.add(new FieldChart.Guide(framing, f, false)));
            Framing after = framing.flipped();
            after.guideField(known(), guideLimit).ifPresent(f -> guides.add(new FieldChart.Guide(after, f, true)));
        }
        boolean invented = around.stream().anyMatch(s -> s.name().equals("invented"));
        return new FieldChart.State(framing, panels, objects, around, guides, invented);
    }

    private List<CatalogueStar> starsAround(Equatorial centre, double reach) {
        boolean near =
                starsAt != null && starsAt.separationDeg(centre) < STEP_DEG && Math.abs(starsWithin - reach) < 0.01;
        if (!near) {
            double faintest = reach > 6 ? 8 : SHOWN_MAGNITUDE;
            stars = source.stars(centre, reach + STEP_DEG, faintest);
            starsAt = centre;
            starsWithin = reach;
        }
        return stars;
    }

    /** Stars that are known: those that ship, imported ones and the user's own. An invented star guides nobody. */
    StarSource known() {
        return known(wiring);
    }

    /** As faint as the known stars about a place go: but for a tenth of them that are fainter still. */
    static double depth(Wiring wiring, Equatorial place) {
        double[] magnitudes = known(wiring).stars(place, DEPTH_DEG, 99).stream()
                .mapToDouble(CatalogueStar::magnitude)
                .sorted()
                .toArray();
        return magnitudes.length == 0 ? Double.NaN : magnitudes[(int) (0.9 * (magnitudes.length - 1))];
    }

    static StarSource known(Wiring wiring) {
        StarCatalogue catalogue = wiring.shelf().solver().catalogue();
        return (centre, radius, faintest) -> catalogue.within(centre, radius).stream()
                .filter(s -> s.magnitude() <= faintest)
                .toList();
    }
}
