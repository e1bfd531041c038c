package app.ironside.wiring;

import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.plan.TargetPlan;
import app.ironside.sim.SkySource;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Coverage;
import app.ironside.solve.PlateSolver;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

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
    private Optional<Made> last = Optional.empty();

    private record Made(Kit kit, List<TargetPlan> targets, PlateSolver solver) {}

    RehearsedStars(StarCatalogue known, SkySource sky) {
        this.known = known;
        this.sky = sky;
    }

    /** The solver for a rehearsal. */
    synchronized PlateSolver solver(NightFile file, PlateSolver real) {
        List<TargetPlan> targets = file.program().targets();
        Kit kit = file.kit();
        boolean enough = targets.stream()
                .allMatch(t -> Coverage.of(real.catalogue(), t.position(), kit.fieldWidthDeg(), kit.fieldHeightDeg(), 0)
                        .suffices());
        if (enough) {
            return real;
        }
        if (last.isPresent()
                && last.get().kit().equals(kit)
                && last.get().targets().equals(targets)) {
            return last.get().solver();
        }
        PlateSolver made = real.asIfKnown(known.joined(own(file), SAME_ARCSEC));
        last = Optional.of(new Made(kit, targets, made));
        return made;
    }

    private StarCatalogue own(NightFile file) {
        double area = file.kit().fieldWidthDeg() * file.kit().fieldHeightDeg();
        double faintest = 8;
        while (faintest < FAINTEST && SkySource.countsPerSquareDegree(faintest) * area < IN_A_FIELD) {
            faintest += 0.25;
        }
        boolean north = file.site().latDeg() >= 0;
        List<CatalogueStar> stars = new ArrayList<>(
                sky.strip(north ? POLAR_FROM_DEG : -POLAR_TO_DEG, north ? POLAR_TO_DEG : -POLAR_FROM_DEG, faintest));
        for (TargetPlan target : file.program().targets()) {
            for (CatalogueStar star : sky.stars(target.position(), ABOUT_TARGET_DEG, faintest)) {
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
