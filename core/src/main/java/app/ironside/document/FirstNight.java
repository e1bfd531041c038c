package app.ironside.document;

import app.ironside.BadInputException;
import app.ironside.guide.GuideRules;
import app.ironside.kit.CameraSettings;
import app.ironside.kit.Equipment;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.FocuserSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.kit.Optics;
import app.ironside.kit.Sensor;
import app.ironside.plan.Calibrations;
import app.ironside.plan.Ending;
import app.ironside.plan.FocusTriggers;
import app.ironside.plan.Program;
import app.ironside.plan.Reactions;
import app.ironside.plan.SetUp;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Horizon;
import app.ironside.sky.Sexagesimal;
import app.ironside.sky.Site;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What somebody who opens Ironside for the first time is asked: where they are and what they own. Everything else of site and kit has a
 * usual value, which they change as they learn it.
 *
 * @param skyMagPerArcsec2 brightness of the sky at the zenith
 * @param colour whether the sensor carries a colour mosaic; then there is one filter, none
 */
public record FirstNight(
        String place,
        double latDeg,
        double lonDeg,
        double elevationM,
        ZoneId zone,
        double skyMagPerArcsec2,
        String kitName,
        double focalLengthMm,
        double apertureMm,
        int widthPx,
        int heightPx,
        double pixelUm,
        boolean cooled,
        boolean colour,
        boolean goTo,
        boolean guided,
        boolean motorFocuser) {
    /** Optics, seeing apart: a good instrument of usual size. */
    private static final double BLUR_ARCSEC = 2.5;

    private static final double MARGIN_DEG = 3;
    private static final double CONTACT_DEG = 5;

    /**
     * An angle as people write it: "44.05", "44° 03' 00\" N", "8 12 E", "-33.9".
     *
     * @param what for the message
     * @throws BadInputException if it is none
     */
    public static double angleDeg(String text, String what) {
        return Sexagesimal.degrees(text)
                .orElseThrow(() -> new BadInputException(
                        what, "\"" + text.strip() + "\" is no angle", "degrees, such as 44.05 or 44° 03′ N"));
    }

    /** The place, with a flat skyline until one is drawn. */
    public Site site() {
        return new Site(
                place,
                latDeg,
                lonDeg,
                elevationM,
                zone,
                skyMagPerArcsec2,
                Horizon.FLAT,
                MARGIN_DEG,
                Optional.empty(),
                Optional.empty());
    }

    /** The kit, with usual values for what was not asked. */
    public Kit kit() {
        Sensor sensor = new Sensor(
                widthPx, heightPx, pixelUm, 1, 500, cooled ? 16 : 14, 3, 40_000, 0.7, 0.05, 0, 6, cooled, 1.5);
        Equipment usual = Equipment.UNKNOWN;
        Equipment equipment = new Equipment(
                colour,
                usual.deepRedShare(),
                usual.gainCurve(),
                goTo,
                usual.needsBalance(),
                usual.payloadLimitKg(),
                usual.payloadWithCounterweightKg(),
                usual.periodicErrorArcsec(),
                usual.wormSeconds(),
                usual.contacts(),
                usual.parts(),
                usual.supply(),
                usual.cardGigabytes(),
                usual.offAxis(),
                usual.setUpMinutes(),
                usual.heated(),
                usual.ownFlipDeg(),
                usual.rotator(),
                usual.filtersByHand(),
                CameraSettings.AS_IT_IS,
                usual.ownTimes(),
                Map.of());
        return new Kit(
                kitName,
                new Optics(apertureMm, focalLengthMm, 0, 0.9, BLUR_ARCSEC),
                sensor,
                colour
                        ? List.of(new FilterSpec("none", 260, 550, 0))
                        : List.of(
                                new FilterSpec("L", 270, 550, 0),
                                new FilterSpec("R", 95, 640, 0),
                                new FilterSpec("G", 90, 535, 0),
                                new FilterSpec("B", 90, 450, 0)),
                motorFocuser ? Optional.of(new FocuserSpec(4, 5000, 2500, 20)) : Optional.empty(),
                new MountSpec(goTo ? 3 : 0.5, 3, 0.5, goTo ? CONTACT_DEG : 60),
                guided && goTo ? Optional.of(new GuiderSpec(30, 120, 1280, 960, 3.75)) : Optional.empty(),
                equipment);
    }

    /** A night with a first target, which is there to be replaced. */
    public NightFile file(LocalDate date, TargetPlan target) {
        Program program = new Program(
                date,
                List.of(target),
                cooled ? -10 : 10,
                2,
                15,
                1.5,
                goTo ? 60 : 600,
                goTo ? 120 : 1200,
                25,
                new Calibrations(16, 30, 15, 0.42),
                Optional.empty(),
                Optional.empty(),
                SetUp.USUAL,
                FocusTriggers.USUAL,
                GuideRules.USUAL,
                Reactions.USUAL,
                Ending.USUAL,
                List.of());
        return NightFile.of(site(), kit(), program, List.of(), JsonNodeFactory.instance.objectNode());
    }
}
