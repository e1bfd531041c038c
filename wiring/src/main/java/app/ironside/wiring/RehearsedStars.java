package app.ironside.wiring;

import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.plan.TargetPlan;
import app.ironside.sim.SkySource;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Coverage;
import app.ironside.solve.PlateSolver;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The stars by which a rehearsal's frames are recognised. In a narrow field the stars that ship are too few; a real night with it needs a
 * deeper table, and Ready says so. The rehearsal goes on as if there were one: it knows the stars of its own sky.
 */
final class RehearsedStars {
    /** In a frame: patterns want this many. */
    private static final double IN_A_FIELD = 25;

    private static final double FAINTEST = 15;

    /** A mount that starts wrong by a degree or two is searched for so far about a target. */
    private static final double ABOUT_TARGET_DEG = 8;

    /** Where the polar axis is measured. */
    private static final double POLAR_FROM_DEG = 56;

    private static final double POLAR_TO_DEG = 68;
    private static final double SAME_ARCSEC = 1;

    private final StarCatalogue known;
    private final SkySource sky;
    private static final int KEPT = 4;

    /** The last asked for stands last. */
    private final Map<Wanted, PlateSolver> made = new LinkedHashMap<>(KEPT, 0.75f, true);

    /** What the stars depend on: the size of a frame, the half of the sky where the polar axis is measured, and the targets' places. */
    private record Wanted(double widthDeg, double heightDeg, boolean north, List<Equatorial> places) {
        static Wanted of(NightFile file) {
            Kit kit = file.kit();
            return new Wanted(
                    kit.fieldWidthDeg(),
                    kit.fieldHeightDeg(),
                    file.site().latDeg() >= 0,
                    file.program().targets().stream().map(TargetPlan::position).toList());
        }

        boolean suffices(StarCatalogue catalogue) {
            return places.stream().allMatch(place -> Coverage.of(catalogue, place, widthDeg, heightDeg, 0)
                    .suffices());
        }
    }

    RehearsedStars(StarCatalogue known, SkySource sky) {
        this.known = known;
        this.sky = sky;
    }

    /** The solver for a rehearsal. */
    synchronized PlateSolver solver(NightFile file, PlateSolver real) {
        Wanted wanted = Wanted.of(file);
        if (wanted.suffices(real.catalogue())) {
            return real;
        }
        PlateSolver solver = made.computeIfAbsent(wanted, w -> real.asIfKnown(known.joined(own(w), SAME_ARCSEC)));
        if (made.size() > KEPT) {
            made.remove(made.keySet().iterator().next());
        }
        return solver;
    }

    private StarCatalogue own(Wanted wanted) {
        double area = wanted.widthDeg() * wanted.heightDeg();
        double faintest = 8;
        while (faintest < FAINTEST && SkySource.countsPerSquareDegree(faintest) * area < IN_A_FIELD) {
            faintest += 0.25;
        }
        List<CatalogueStar> stars = new ArrayList<>(sky.strip(
                wanted.north() ? POLAR_FROM_DEG : -POLAR_TO_DEG,
                wanted.north() ? POLAR_TO_DEG : -POLAR_FROM_DEG,
                faintest));
        for (Equatorial place : wanted.places()) {
            for (CatalogueStar star : sky.stars(place, ABOUT_TARGET_DEG, faintest)) {
                if (star.name().equals(SkySource.INVENTED)) {
                    stars.add(star);
                }
            }
        }
        List<CatalogueStar> once = stars.stream().distinct().toList();
        return StarCatalogue.of(
                "rehearsed ",
                once.stream().map(CatalogueStar::position).toList(),
                once.stream().mapToDouble(CatalogueStar::magnitude).toArray());
    }
}
