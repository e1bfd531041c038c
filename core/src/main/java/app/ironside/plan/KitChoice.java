package app.ironside.plan;

import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Site;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Which of a person's kits suits what. */
public final class KitChoice {
    private KitChoice() {}

    /** How an object sits in a kit's field. */
    public static Candidate.Fit fit(DeepSkyObject object, Kit kit) {
        double side = 60 * Math.min(kit.fieldWidthDeg(), kit.fieldHeightDeg());
        return Candidate.Fit.of(
                object.longAxisArcmin() / side,
                object.longAxisArcmin() * 60 / kit.arcsecPerPixel(),
                CandidateSearch.CROP_MARGIN);
    }

    /**
     * The kit that suits an object: of those that see its light the one with the longest focal length that holds it with room for cropping;
     * where none holds it, the widest (common practice).
     *
     * @return empty if the object's size is not known, or there is no kit
     */
    public static Optional<Kit> forTarget(DeepSkyObject object, List<Kit> kits) {
        if (object.longAxisArcmin() <= 0) {
            return Optional.empty();
        }
        Comparator<Kit> longer = Comparator.comparingDouble(k -> k.optics().focalLengthMm());
        List<Kit> seeing = kits.stream()
                .filter(k -> TargetLight.of(object.kind()).seenBy(k))
                .toList();
        List<Kit> choice = seeing.isEmpty() ? kits : seeing;
        return choice.stream().filter(k -> isHeld(fit(object, k))).max(longer).or(() -> choice.stream()
                .min(longer));
    }

    private static boolean isHeld(Candidate.Fit fit) {
        return fit == Candidate.Fit.GOOD || fit == Candidate.Fit.SMALL || fit == Candidate.Fit.TINY;
    }

    /** The kit that suits most of a class's brightest at a site. */
    public static Optional<Kit> forClass(
            SeasonBoard.ObjectClass of, List<Kit> kits, DeepSkyCatalogue catalogue, Site site) {
        List<DeepSkyObject> best = SeasonBoard.brightest(catalogue, of, site, o -> o.longAxisArcmin() > 0);
        return kits.stream().max(Comparator.comparingLong(k -> best.stream()
                .filter(o -> forTarget(o, kits).filter(k::equals).isPresent())
                .count()));
    }
}
