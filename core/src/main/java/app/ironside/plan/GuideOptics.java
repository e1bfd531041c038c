package app.ironside.plan;

import app.ironside.kit.Equipment.OffAxis;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Sampling;
import java.util.List;
import java.util.Optional;

/**
 * The two ways for a guide camera to see: through the telescope itself by a prism at its edge, or through a small one beside it.
 *
 * @param offAxis whether by a prism
 * @param kit with the guide camera so
 * @param arcsecPerPixel of the guide camera
 */
public record GuideOptics(boolean offAxis, Kit kit, double arcsecPerPixel) {
    /** Clear of the sensor's edge by so much (common practice). */
    private static final double CLEAR_MM = 1.5;

    /** A usual small guide telescope (common practice). */
    private static final double USUAL_APERTURE_MM = 50;

    private static final double USUAL_FOCAL_LENGTH_MM = 200;

    /** A star's centre is found to about this share of a pixel (common practice). */
    private static final double CENTROID_SHARE = 0.1;

    /** Both ways, the one in use as it is and the other as it usually is; none for a kit that nothing guides. */
    public static List<GuideOptics> of(Kit kit) {
        return kit.guideOptics()
                .map(g -> List.of(byPrism(kit, g), byTelescope(kit, g)))
                .orElse(List.of());
    }

    private static GuideOptics byPrism(Kit kit, GuiderSpec guider) {
        double halfHigh = kit.sensor().heightPx() * kit.sensor().pixelUm() / 2000;
        OffAxis prism = kit.equipment()
                .offAxis()
                .orElseGet(() -> new OffAxis(halfHigh + CLEAR_MM + guider.heightPx() * guider.pixelUm() / 2000, 0));
        GuiderSpec through = new GuiderSpec(
                kit.optics().apertureMm(),
                kit.optics().focalLengthMm(),
                guider.widthPx(),
                guider.heightPx(),
                guider.pixelUm());
        return of(true, kit, through, Optional.of(prism));
    }

    private static GuideOptics byTelescope(Kit kit, GuiderSpec guider) {
        GuiderSpec beside = kit.equipment().offAxis().isEmpty()
                ? guider
                : new GuiderSpec(
                        USUAL_APERTURE_MM,
                        USUAL_FOCAL_LENGTH_MM,
                        guider.widthPx(),
                        guider.heightPx(),
                        guider.pixelUm());
        return of(false, kit, beside, Optional.empty());
    }

    private static GuideOptics of(boolean offAxis, Kit kit, GuiderSpec guider, Optional<OffAxis> prism) {
        Kit changed = kit.withGuider(guider).withEquipment(kit.equipment().withOffAxis(prism));
        return new GuideOptics(offAxis, changed, Sampling.arcsecPerPixel(guider.pixelUm(), guider.focalLengthMm()));
    }

    /** How finely a star's place is seen, as a share of the main camera's pixel. */
    public double seenInMainPixels() {
        return CENTROID_SHARE * arcsecPerPixel / kit.arcsecPerPixel();
    }
}
