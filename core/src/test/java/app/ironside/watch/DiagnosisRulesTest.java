package app.ironside.watch;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.device.Mount;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.SkyTested;
import app.ironside.journal.Stage;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.journal.TroubleSeen;
import app.ironside.journal.Verdict;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.solve.LightMap;
import app.ironside.solve.Wcs;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Each rule of diagnosis on a night told by hand: twelve clear subs, then something that is wrong. */
class DiagnosisRulesTest {
    private static final Instant START = Instant.parse("2026-11-14T20:00:00Z");
    private static final int SECONDS = 60;
    private static final int EVERY = 75;

    private final List<NightEvent> events = new ArrayList<>();
    private final Kit kit;
    private final Diagnosis diagnosis;
    private Sub next = new Sub();

    /** What the next sub will show; a clear one by itself. */
    private static final class Sub {
        String filter = "L";
        double light = 1;
        double fwhm = 2.4;
        double eccentricity = 0.3;
        double sky = 1000;
        double slope = 5;
        double snr = 400;
        int stars = 900;
        double raPulse;
        double decPulse;
        double shake = 0.6;
        double jumpRa = 0.9;
        double jumpDec = 0.4;
        double swing = 0.4;
        int lost;
        int steps = 2500;
        double celsius = 5;
        double sensorC = -10;
        double hourAngle = -40;
        double eastArcsec;
        Optional<LightMap> map = Optional.of(new LightMap(0, 0.5, 0.5, 0, 1));
        Optional<SubMeasures.FieldShape> shape = Optional.of(new SubMeasures.FieldShape(0.01, 20, List.of()));
        boolean keep = true;
    }

    DiagnosisRulesTest() throws Exception {
        Path wren = Path.of("..", "examples", "kits", "wren.json");
        kit = KitFile.parse(Files.readString(wren), wren.toString());
        Site site = app.ironside.sky.SiteFile.parse(
                Files.readString(Path.of("..", "examples", "sites", "colle-sorbo.json")), "site");
        diagnosis = new Diagnosis(kit, Observer.at(site));
    }

    @BeforeEach
    void twelveClearSubs() {
        events.add(focused(5));
        for (int i = 0; i < 12; i++) {
            take();
        }
    }

    private static FocusSwept focused(double celsius) {
        return new FocusSwept(
                START.minusSeconds(200),
                "Focus",
                "start",
                List.of(),
                null,
                null,
                "L",
                OptionalInt.empty(),
                celsius,
                java.time.Duration.ofSeconds(90),
                Optional.empty(),
                Optional.empty());
    }

    private int count() {
        return (int) events.stream().filter(SubTaken.class::isInstance).count();
    }

    private Instant now() {
        return START.plusSeconds((long) EVERY * count());
    }

    private void take() {
        Sub s = next;
        int n = count();
        Instant from = START.plusSeconds((long) EVERY * n);
        // The gear's own small swing, once in eight minutes.
        double gear = 20 * Math.sin(2 * Math.PI * EVERY * n / 480.0);
        double scale = kit.arcsecPerPixel() / 3600;
        events.add(new SubTaken(
                from.plusSeconds(SECONDS),
                "Sub " + n,
                "M 33",
                s.filter,
                SECONDS,
                new Interval(from, from.plusSeconds(SECONDS)),
                "s" + n + ".fits",
                true,
                n == 0,
                false,
                Set.of(),
                false,
                new SubMeasures(
                        2800,
                        s.stars,
                        ofStars(s, s.fwhm / 2),
                        ofStars(s, s.fwhm),
                        ofStars(s, s.eccentricity),
                        500 + s.sky,
                        Math.sqrt(s.sky),
                        OptionalDouble.of(s.sky),
                        OptionalDouble.of(s.stars == 0 ? 0 : 100_000 * s.light),
                        s.shape,
                        s.map,
                        OptionalDouble.of(s.slope)),
                new SubCircumstances(
                        OptionalDouble.of(70),
                        OptionalDouble.of(s.hourAngle),
                        OptionalDouble.of(s.celsius),
                        OptionalInt.of(s.steps),
                        Optional.of(Mount.PierSide.WEST),
                        Optional.of(new SubCircumstances.Cooling(s.sensorC, -10, OptionalDouble.of(0.9)))),
                new GuideFigures(
                        OptionalInt.of(26),
                        s.lost,
                        Optional.of(new GuideFigures.Spread(0.5, 0.4, 0.64, OptionalDouble.of(0.8))),
                        Optional.of(new GuideFigures.Effort(
                                s.snr, s.raPulse + gear, s.decPulse, s.shake, s.jumpRa, s.jumpDec, s.swing, 2.2))),
                OptionalDouble.of(5),
                Optional.of(new Wcs(
                        new Equatorial(23.46 + s.eastArcsec / 3600 / Math.cos(Math.toRadians(30.66)), 30.66),
                        1400,
                        1050,
                        -scale,
                        0,
                        0,
                        scale)),
                new Verdict(s.keep, s.keep ? "good" : "out")));
        next = new Sub();
    }

    private static OptionalDouble ofStars(Sub s, double value) {
        return s.stars == 0 ? OptionalDouble.empty() : OptionalDouble.of(value);
    }

    private List<Finding> found() {
        return diagnosis.at(NightState.of(events), now()).findings();
    }

    private void assertFirst(Trouble trouble) {
        assertThat(found()).isNotEmpty();
        assertThat(found().get(0).trouble()).isEqualTo(trouble);
    }

    @Test
    void clearSubsShowNothing() {
        assertThat(found()).isEmpty();
    }

    /** The guide telescope has a front glass of its own: cloud dims both, dew only one. */
    @Test
    void theGuideStarTellsCloudFromDew() {
        next.light = 0.6;
        next.snr = 240;
        take();
        assertFirst(Trouble.CLOUD);
        assertThat(found().get(0).sentence()).contains("60 % of the light", "guide star has 60 %");
        next.light = 0.55;
        next.snr = 400;
        next.fwhm = 2.6;
        take();
        assertThat(found()).extracting(Finding::trouble).contains(Trouble.DEW);
    }

    private void starless(double skyAdu) {
        next.stars = 0;
        next.map = Optional.empty();
        next.shape = Optional.empty();
        next.sky = skyAdu;
        next.keep = false;
        take();
    }

    /** Under thick cloud the sky still shines a little; behind a cap it does not. */
    @Test
    void aFrameWithoutStarsAndWithoutSkyIsShut() {
        starless(400);
        assertFirst(Trouble.NO_STARS);
        starless(5);
        assertFirst(Trouble.CAP);
        assertThat(found()).extracting(Finding::trouble).doesNotContain(Trouble.NO_STARS, Trouble.CLOUD);
        assertThat(found().get(0).sentence())
                .matches("No star, and \\d ADU of the sky's light where the subs before had 99\\d.*");
    }

    /**
     * Nothing was seen yet: 20.9 mag/arcsec² behind the kit's L in 120 s is some hundred ADU by its figures; what a narrow filter lets through is
     * less than a camera's zero wanders.
     */
    @Test
    void theFirstSubIsHeldAgainstTheKitsOwnFigures() {
        events.removeIf(SubTaken.class::isInstance);
        starless(4);
        assertFirst(Trouble.CAP);
        assertThat(found().get(0).sentence()).contains("this site, by the kit's own figures, has");
        events.removeIf(SubTaken.class::isInstance);
        next.filter = "Ha";
        starless(4);
        assertThat(found()).extracting(Finding::trouble).doesNotContain(Trouble.CAP);
    }

    /** A worm that has swung for two subs takes the star along while nobody pulses; without that swing, or in declination too, it is a knock. */
    @Test
    void aJumpAlongTheGearsWayIsTheGears() {
        jump(6, 0.5);
        assertFirst(Trouble.KNOCK);
        events.remove(events.size() - 1);
        for (int i = 0; i < 2; i++) {
            next.swing = 1.2;
            take();
        }
        assertFirst(Trouble.GEAR);
        jump(6, 0.5);
        assertFirst(Trouble.GEAR);
        assertThat(found().get(0).sentence()).contains("along right ascension").contains("3.0 times");
        events.remove(events.size() - 1);
        jump(6, 5);
        assertFirst(Trouble.KNOCK);
    }

    private void jump(double ra, double dec) {
        next.jumpRa = ra;
        next.jumpDec = dec;
        next.shake = 1.6;
        take();
    }

    @Test
    void wetAirThatComesSlowlyIsFog() {
        events.add(AirMeasured.told(
                now(),
                OptionalDouble.of(3),
                OptionalDouble.of(98),
                OptionalDouble.empty(),
                OptionalDouble.of(20),
                false));
        for (double light : new double[] {0.95, 0.87, 0.8, 0.72}) {
            next.light = light;
            next.snr = 400 * light;
            next.sky = 1000 * (1.3 - 0.3 * light);
            take();
        }
        assertFirst(Trouble.FOG);
    }

    @Test
    void frostGrowsFromTheMiddle() {
        next.map = Optional.of(new LightMap(0, 0.5, 0.5, 0, 0.9));
        take();
        assertFirst(Trouble.FROST);
    }

    @Test
    void anotherFilterChangesStarsAndSkyAlike() {
        next.light = 0.4;
        next.sky = 400;
        take();
        assertFirst(Trouble.WRONG_FILTER);
    }

    /** What lies on the sensor stays where it is; noise does not come three times. */
    @Test
    void aSpotIsToldWhenItHasStayed() {
        for (int i = 0; i < 3; i++) {
            assertThat(found()).isEmpty();
            next.map = Optional.of(new LightMap(0.2, 0.58, 0.45, 0, 1));
            take();
        }
        assertFirst(Trouble.SPOT);
        assertThat(found().get(0).sentence()).contains("58 % of the width", "45 % of the height", "20 %");
    }

    @Test
    void aFrameWithoutItsLastRowsIsBroken() {
        next.map = Optional.of(new LightMap(0, 0.5, 0.5, 0.4, 1));
        take();
        assertFirst(Trouble.BROKEN);
    }

    @Test
    void lightFromOneSideIsALamp() {
        next.sky = 3000;
        next.slope = 900;
        take();
        assertFirst(Trouble.STRAY);
    }

    /** On this evening the Moon is down by then and the Sun far below: both are told with a doubt of clock and place. */
    @Test
    void evenLightIsMoonlightAndGrowingLightTwilight() {
        next.sky = 3000;
        take();
        assertFirst(Trouble.MOON);
        assertThat(found().get(0).certainty()).isLessThan(0.7);
        assertThat(found().get(0).sentence()).contains("clock");
        for (double sky : new double[] {4000, 5500}) {
            next.sky = sky;
            take();
        }
        assertFirst(Trouble.TWILIGHT);
    }

    @Test
    void airSwellsAndShakesWhereAFocuserOnlySwells() {
        next.fwhm = 4;
        next.keep = false;
        take();
        assertFirst(Trouble.SLIP);
        next.fwhm = 4;
        next.shake = 0.85;
        next.keep = false;
        take();
        next.fwhm = 4;
        next.shake = 0.85;
        next.keep = false;
        take();
        assertThat(found().get(0).trouble()).isIn(Trouble.SEEING, Trouble.SLIP);
    }

    @Test
    void onlyOneFilterSwollenIsItsOffset() {
        for (int i = 0; i < 4; i++) {
            next.filter = "R";
            take();
        }
        for (int i = 0; i < 3; i++) {
            next.filter = "R";
            next.fwhm = 3.4;
            take();
            take();
        }
        next.filter = "R";
        next.fwhm = 3.4;
        take();
        assertFirst(Trouble.FILTER_OFFSET);
    }

    @Test
    void aFocuserThatTellsOfStepsNobodyMadeHasLostItsZero() {
        next.steps = 30;
        take();
        assertFirst(Trouble.LOST_ZERO);
        assertThat(found().get(0).sentence()).contains("30 steps", "2500");
    }

    /** Two subs above the set point by more than a degree; the darks of the set point fit neither, and no light is lost. */
    @Test
    void aSensorThatIsWarmerThanItsDarksWillBeIsTold() {
        next.sensorC = -9.2;
        take();
        assertThat(found()).isEmpty();
        next.sensorC = -8.4;
        take();
        next.sensorC = -6.1;
        take();
        assertFirst(Trouble.COOLER);
        assertThat(found().get(0).sentence())
                .isEqualTo(
                        "The sensor stood at -6.1 °C and should be at -10; darks taken at the set point fit none of 2 subs."
                                + " The cooler gives 90 % of its power.");
        assertThat(found().get(0).losing()).isFalse();
        next.sensorC = -10.1;
        take();
        assertThat(found()).isEmpty();
    }

    @Test
    void windShakesFromExposureToExposure() {
        next.shake = 2;
        next.jumpRa = 3;
        take();
        assertFirst(Trouble.WIND);
    }

    @Test
    void aKnockIsOneJumpAndAMountThatStandsLeavesTheSkyAtItsRate() {
        next.shake = 12;
        next.jumpRa = 30;
        next.jumpDec = 50;
        take();
        assertFirst(Trouble.KNOCK);
        next.shake = 7;
        next.jumpRa = -15.041 * 2.2;
        next.jumpDec = 1;
        take();
        assertFirst(Trouble.MOUNT);
    }

    @Test
    void nearWhereItTouchesItIsAContact() {
        next.hourAngle = kit.contactHourAngleDeg(30.66) - 3;
        next.shake = 7;
        next.jumpRa = -15.041 * 2.2;
        next.jumpDec = 1;
        take();
        assertFirst(Trouble.CONTACT);
    }

    @Test
    void aStarThatDoesNotEvenTwinkleIsNone() {
        next.shake = 0.05;
        take();
        assertFirst(Trouble.WRONG_STAR);
    }

    @Test
    void aFaintGuideStarUnderAClearSkyIsTheGuideScope() {
        next.snr = 180;
        take();
        assertFirst(Trouble.GUIDE_FOCUS);
    }

    /** A steady pull in right ascension: behind is balance, ahead a wrong rate; in both axes and growing, a cable. */
    @Test
    void pullsAreToldByWayAndGrowth() {
        List<NightEvent> clear = List.copyOf(events);
        for (int i = 0; i < 7; i++) {
            next.raPulse = 130;
            take();
        }
        assertFirst(Trouble.BALANCE);
        events.clear();
        events.addAll(clear);
        for (int i = 0; i < 7; i++) {
            next.raPulse = -90;
            take();
        }
        assertFirst(Trouble.RATE);
        events.clear();
        events.addAll(clear);
        for (int i = 1; i <= 8; i++) {
            next.raPulse = 25 * i;
            next.decPulse = -18 * i;
            take();
        }
        assertFirst(Trouble.CABLE);
    }

    @Test
    void aGearSwingsInRightAscensionOnly() {
        for (int i = 0; i < 3; i++) {
            next.swing = 1.2;
            take();
        }
        assertFirst(Trouble.GEAR);
    }

    @Test
    void aFieldThatCreepsWhileTheStarIsHeldIsFlexure() {
        for (int i = 1; i <= 10; i++) {
            next.eastArcsec = 1.6 * i;
            take();
        }
        assertFirst(Trouble.FLEXURE);
    }

    @Test
    void devicesThatGoTogetherGoForOneReason() {
        events.add(fault("camera"));
        assertFirst(Trouble.CAMERA);
        events.add(fault("mount"));
        assertFirst(Trouble.POWER);
        take();
        take();
        assertThat(found()).as("subs come again").isEmpty();
    }

    /** Slack that is taken up looks like a small drift; a large one, or any after a knock, is the axis. */
    @Test
    void aDoubtedAxisIsToldWhenTheDriftIsLargeOrSomebodyKnocked() {
        events.add(doubted(-1.3));
        assertThat(found()).isEmpty();
        events.add(doubted(-3.7));
        assertFirst(Trouble.POLAR);
        assertThat(found()).extracting(Finding::trouble).contains(Trouble.CABLE);
        events.remove(events.size() - 1);
        events.add(new TroubleSeen(
                now().minusSeconds(600),
                "t",
                Trouble.KNOCK,
                now().minusSeconds(600),
                0.9,
                "s",
                List.of(),
                true,
                List.of()));
        events.add(doubted(-1.3));
        assertFirst(Trouble.POLAR);
        assertThat(found().get(0).certainty()).isGreaterThan(0.9);
    }

    private AxisDoubted doubted(double drift) {
        return new AxisDoubted(now(), "It drifts.", now().minusSeconds(500), 5, drift, -0.1);
    }

    @Test
    void aFullDiskIsTold() {
        events.add(fault(FaultTold.DISK));
        assertFirst(Trouble.DISK);
    }

    /** What the main camera sees tells a clouded sky from a guide camera that fails. */
    @Test
    void aLostGuideStarIsLookedAfterWithTheMainCamera() {
        events.add(fault("guider"));
        events.add(new SkyTested(now().plusSeconds(20), "look", 300, 0.98));
        assertThat(diagnosis
                        .at(NightState.of(events), now().plusSeconds(30))
                        .findings()
                        .get(0)
                        .trouble())
                .isEqualTo(Trouble.GUIDE_STAR);
        events.set(events.size() - 1, new SkyTested(now().plusSeconds(20), "look", 40, 0.2));
        assertThat(diagnosis
                        .at(NightState.of(events), now().plusSeconds(30))
                        .findings()
                        .get(0)
                        .trouble())
                .isEqualTo(Trouble.CLOUD);
    }

    private FaultTold fault(String about) {
        return new FaultTold(now().plusSeconds(5), about + " fails", Stage.RUN, Optional.of(about));
    }
}
