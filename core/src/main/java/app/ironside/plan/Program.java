package app.ironside.plan;

import app.ironside.Check;
import app.ironside.guide.GuideRules;
import app.ironside.kit.Kit;
import app.ironside.kit.PolarTolerance;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;

/**
 * What a night should do.
 *
 * @param date local date of the evening
 * @param targets in the order they are taken
 * @param coolToC set point of the cooler
 * @param ditherEvery shift the pointing after so many subs
 * @param ditherArcsec by about this much
 * @param refocusAfterC refocus when the tube's temperature has changed by this
 * @param centreWithinArcsec a target counts as centred within this
 * @param recentreBeyondArcsec and is centred again beyond this
 * @param minimumAltitudeDeg lower than this a target is left
 * @param fullFramesPerLeg in rehearsals, read out the whole sensor for so many subs after each start or flip and only its middle
 *     for the rest; empty for whole frames always
 * @param bedBy when everything is to be done, calibration frames and warming too; empty for when it is light
 * @param setUp how the kit is brought up
 * @param focus when it is focused again besides
 * @param guiding how it is guided
 * @param reactions what the night may do by itself when something is wrong
 * @param ending how it ends
 * @param standIns targets for which no time is planned: they are taken while cloud covers the others, and in time that is left over
 */
public record Program(
        LocalDate date,
        List<TargetPlan> targets,
        double coolToC,
        int ditherEvery,
        double ditherArcsec,
        double refocusAfterC,
        double centreWithinArcsec,
        double recentreBeyondArcsec,
        double minimumAltitudeDeg,
        Calibrations calibrations,
        Optional<Integer> fullFramesPerLeg,
        Optional<LocalTime> bedBy,
        SetUp setUp,
        FocusTriggers focus,
        GuideRules guiding,
        Reactions reactions,
        Ending ending,
        List<TargetPlan> standIns) {
    private static final double LONG_NIGHT_HOURS = 10;

    /** A cloud that covers a field covers what is nearer than this as well (common practice): such a target is no stand-in for another. */
    public static final double STAND_IN_APART_DEG = 25;

    /** The axis is set once, and is to serve what is added to a short night too. */
    private static final double SHORT_NIGHT_HOURS = 6;

    public Program {
        targets = List.copyOf(targets);
        standIns = List.copyOf(standIns);
        Check.atLeast("targets", targets.size(), 1);
        Check.inRange("coolToC", coolToC, -60, 30);
        Check.atLeast("ditherEvery", ditherEvery, 1);
        Check.inRange("ditherArcsec", ditherArcsec, 0, 600);
        Check.inRange("refocusAfterC", refocusAfterC, 0.05, 100);
        Check.inRange("centreWithinArcsec", centreWithinArcsec, 1, 3600);
        Check.inRange("recentreBeyondArcsec", recentreBeyondArcsec, 1, 36_000);
        fullFramesPerLeg.ifPresent(frames -> Check.atLeast("fullFramesPerLeg", frames, 1));
        Check.inRange("minimumAltitudeDeg", minimumAltitudeDeg, 0, 85);
    }

    /** The same rules for other targets on another date. */
    public Program withTargets(LocalDate otherDate, List<TargetPlan> others) {
        return new Program(
                otherDate,
                others,
                coolToC,
                ditherEvery,
                ditherArcsec,
                refocusAfterC,
                centreWithinArcsec,
                recentreBeyondArcsec,
                minimumAltitudeDeg,
                calibrations,
                fullFramesPerLeg,
                bedBy,
                setUp,
                focus,
                guiding,
                reactions,
                ending,
                standIns);
    }

    public Program withCoolTo(double other) {
        return changed(c -> c.coolToC = other);
    }

    public Program withDitherEvery(int other) {
        return changed(c -> c.ditherEvery = other);
    }

    public Program withDitherArcsec(double other) {
        return changed(c -> c.ditherArcsec = other);
    }

    public Program withRefocusAfter(double other) {
        return changed(c -> c.refocusAfterC = other);
    }

    public Program withCentreWithin(double other) {
        return changed(c -> c.centreWithinArcsec = other);
    }

    public Program withRecentreBeyond(double other) {
        return changed(c -> c.recentreBeyondArcsec = other);
    }

    public Program withMinimumAltitude(double other) {
        return changed(c -> c.minimumAltitudeDeg = other);
    }

    public Program withCalibrations(Calibrations other) {
        return changed(c -> c.calibrations = other);
    }

    public Program withBedBy(Optional<LocalTime> other) {
        return changed(c -> c.bedBy = other);
    }

    public Program withFocus(FocusTriggers other) {
        return changed(c -> c.focus = other);
    }

    public Program withGuiding(GuideRules other) {
        return changed(c -> c.guiding = other);
    }

    public Program withReactions(Reactions other) {
        return changed(c -> c.reactions = other);
    }

    public Program withEnding(Ending other) {
        return changed(c -> c.ending = other);
    }

    public Program withSetUp(SetUp other) {
        return changed(c -> c.setUp = other);
    }

    public Program withStandIns(List<TargetPlan> others) {
        return changed(c -> c.standIns = others);
    }

    /** With all subs of a rehearsal read out whole. */
    public Program withWholeFrames() {
        return changed(c -> c.fullFramesPerLeg = Optional.empty());
    }

    private Program changed(Consumer<Changed> change) {
        Changed changed = new Changed(this);
        change.accept(changed);
        return changed.program();
    }

    /** The rules of a program while one of them changes. */
    private static final class Changed {
        private final Program from;
        private double coolToC;
        private int ditherEvery;
        private double ditherArcsec;
        private double refocusAfterC;
        private double centreWithinArcsec;
        private double recentreBeyondArcsec;
        private double minimumAltitudeDeg;
        private Calibrations calibrations;
        private Optional<Integer> fullFramesPerLeg;
        private Optional<LocalTime> bedBy;
        private SetUp setUp;
        private FocusTriggers focus;
        private GuideRules guiding;
        private Reactions reactions;
        private Ending ending;
        private List<TargetPlan> standIns;

        Changed(Program from) {
            this.from = from;
            this.coolToC = from.coolToC;
            this.ditherEvery = from.ditherEvery;
            this.ditherArcsec = from.ditherArcsec;
            this.refocusAfterC = from.refocusAfterC;
            this.centreWithinArcsec = from.centreWithinArcsec;
            this.recentreBeyondArcsec = from.recentreBeyondArcsec;
            this.minimumAltitudeDeg = from.minimumAltitudeDeg;
            this.calibrations = from.calibrations;
            this.fullFramesPerLeg = from.fullFramesPerLeg;
            this.bedBy = from.bedBy;
            this.setUp = from.setUp;
            this.focus = from.focus;
            this.guiding = from.guiding;
            this.reactions = from.reactions;
            this.ending = from.ending;
            this.standIns = from.standIns;
        }

        Program program() {
            return new Program(
                    from.date,
                    from.targets,
                    coolToC,
                    ditherEvery,
                    ditherArcsec,
                    refocusAfterC,
                    centreWithinArcsec,
                    recentreBeyondArcsec,
                    minimumAltitudeDeg,
                    calibrations,
                    fullFramesPerLeg,
                    bedBy,
                    setUp,
                    focus,
                    guiding,
                    reactions,
                    ending,
                    standIns);
        }
    }

    /** Every target that may be taken, stand-ins last. */
    public List<TargetPlan> mayTake() {
        return Stream.concat(targets.stream(), standIns.stream()).toList();
    }

    /** Of the target furthest from the equator, where the field turns most: degrees, without its sign. */
    public double furthestDeclinationDeg() {
        return mayTake().stream()
                .mapToDouble(t -> Math.abs(t.position().decDeg()))
                .max()
                .orElseThrow();
    }

    /** How far the polar axis may be off for the subs of this program with a kit that guides, or does not. */
    public PolarTolerance.Limit polarLimit(Kit kit) {
        return PolarTolerance.limit(kit, polarNight());
    }

    /**
     * What the axis has to hold for: the longest sub, the target that turns most, and the hours for which one target is followed, at
     * least those of a short night and at most those of a long one: subs of another target are not laid upon it.
     */
    public PolarTolerance.Night polarNight() {
        double hours = mayTake().stream()
                .mapToDouble(t -> Math.min(LONG_NIGHT_HOURS, t.mostHours().orElse(LONG_NIGHT_HOURS)))
                .max()
                .orElseThrow();
        return new PolarTolerance.Night(
                longestSubSeconds(), furthestDeclinationDeg(), Math.max(SHORT_NIGHT_HOURS, hours));
    }

    /** The longest sub, which sets what the mount must hold. */
    public double longestSubSeconds() {
        return mayTake().stream()
                .mapToDouble(TargetPlan::longestSubSeconds)
                .max()
                .orElseThrow();
    }
}
