package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.document.NightFile;
import app.ironside.guide.AxisRule;
import app.ironside.guide.Excursion;
import app.ironside.guide.GuideAdvice;
import app.ironside.guide.GuideAgreement;
import app.ironside.guide.GuideAnalysis;
import app.ironside.guide.GuideCalibration;
import app.ironside.guide.GuideComparison;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideLog;
import app.ironside.guide.GuideRules;
import app.ironside.guide.GuideSample;
import app.ironside.guide.GuideStatistics;
import app.ironside.journal.Dithered;
import app.ironside.journal.GuideCameraLooked;
import app.ironside.journal.GuideFigures;
import app.ironside.journal.GuiderCalibrated;
import app.ironside.journal.GuiderSet;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.journal.UnguidedWatched;
import app.ironside.kit.RoundRecord;
import app.ironside.kit.Sampling;
import app.ironside.plan.Projects;
import app.ironside.star.SubLimits;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;

/** Words the verdict of Guide: whether it is good enough, whose what is left is, and whether the stars agree. Pure. */
final class GuideReckoner {
    private static final int MOST_BLAMED = 3;
    private static final double[] UNGUIDED_LENGTHS = {15, 30, 60, 120};
    private static final int FEWEST_TO_TELL = 8;

    private final NightFile file;

    GuideReckoner(NightFile file) {
        this.file = file;
    }

    ReckoningState of(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> latest = chosen.filter(e -> PlotStates.stretch(e).isPresent())
                .or(() -> moment.night().events().stream()
                        .filter(e -> PlotStates.stretch(e).isPresent())
                        .reduce((a, b) -> b));
        if (file.kit().guideOptics().isEmpty()) {
            return unguided(moment);
        }
        if (latest.isEmpty()) {
            return ReckoningState.waiting("Not guiding yet.", "The guider calibrates on the first target.");
        }
        boolean sub = latest.get() instanceof SubTaken;
        GuideFigures figures =
                latest.get() instanceof SubTaken s ? s.guiding() : ((GuidingProven) latest.get()).figures();
        if (figures.about().isEmpty()) {
            return new ReckoningState(
                    "The guide star was not seen.",
                    "Not once in this " + (sub ? "sub" : "minute of proof") + ": most often this is cloud.",
                    true,
                    List.of(new Row("exposures without it", Words.format("%d", figures.lost()))),
                    "",
                    List.of());
        }
        return of(moment, latest.get(), figures);
    }

    /** Of a kit that nothing guides: which lengths gear and axis allow, and how tonight's subs came out. */
    private ReckoningState unguided(Moment moment) {
        List<Row> rows = new ArrayList<>();
        for (double seconds : UNGUIDED_LENGTHS) {
            rows.add(new Row(
                    Words.format("round at %.0f s", seconds),
                    Words.format(
                            "%.0f %% expected",
                            100 * Projects.roundShare(file.kit(), file.site(), RoundRecord.NONE, seconds))));
        }
        long shown = moment.night().subs().stream()
                .filter(s -> s.measures().eccentricity().isPresent())
                .count();
        long round = moment.night().subs().stream()
                .filter(s -> s.measures().eccentricity().isPresent()
                        && s.measures().eccentricity().getAsDouble() <= SubLimits.TRAILED_ECCENTRICITY)
                .count();
        double planned = file.program().longestSubSeconds();
        double expected = Projects.roundShare(file.kit(), file.site(), RoundRecord.NONE, planned);
        rows.add(new Row("tonight", shown == 0 ? "no subs yet" : Words.format("%d of %d round", round, shown)));
        return new ReckoningState(
                "This kit is not guided.",
                Words.format(
                        "At %.0f s gear and axis let %.0f %% of the subs be round; %s.",
                        planned,
                        100 * expected,
                        shown == 0
                                ? "the first subs will tell"
                                : Words.format("tonight %.0f %% are", 100.0 * round / shown)),
                shown >= FEWEST_TO_TELL && round < shown * expected * 0.7,
                rows,
                "A sub begins anywhere in the gear's swing and drifts with the axis; what moves the star while the shutter is open is added to"
                        + " its width. What this kit's own real nights gave stands at Plan, Exposure.",
                List.of());
    }

    private ReckoningState of(Moment moment, NightEvent latest, GuideFigures figures) {
        double half = Sampling.INVISIBLE_PX * file.kit().arcsecPerPixel();
        GuideFigures.Spread spread = figures.about().orElseThrow();
        double total = Math.hypot(spread.rmsRaArcsec(), spread.rmsDecArcsec());
        boolean good = total <= half;
        List<Action> actions = new ArrayList<>();
        List<GuideSample> samples =
                PlotStates.stretch(latest).map(s -> moment.guided(s.span())).orElse(List.of());
        List<Row> rows = new ArrayList<>(List.of(
                new Row("right ascension", Words.format("%.2f″", spread.rmsRaArcsec())),
                new Row("declination", Words.format("%.2f″", spread.rmsDecArcsec())),
                new Row("in pixels", Words.format("%.2f", total / file.kit().arcsecPerPixel()))));
        spread.p80Arcsec().ifPresent(p -> rows.add(new Row("four fifths within", Words.format("%.2f″", p))));
        if (figures.lost() > 0) {
            rows.add(new Row("exposures without the star", Words.format("%d", figures.lost())));
        }
        Optional<GuideAnalysis> analysis = analysis(samples);
        analysis.ifPresent(a -> analysed(a, samples.get(0).time(), rows));
        Optional<String> stars = latest instanceof SubTaken s ? stars(s, samples, rows) : Optional.empty();
        better(moment, samples, rows, actions);
        dithers(moment, rows);
        camera(moment, rows);
        tried(moment, rows);
        String enough = Words.format("Half a pixel of the main camera is %.2f″.", half);
        String whose = analysis.flatMap(a -> a.advice().stream().findFirst())
                .map(advice -> " " + advice)
                .orElse("");
        return new ReckoningState(
                Words.format("%.2f″ RMS%s", total, good ? ": invisible." : ": it shows."),
                stars.map(s -> s + " ").orElse("") + enough + (good ? "" : whose),
                !good,
                rows,
                actions,
                "RMS about the lock position, both axes added in squares, of the exposures that showed the star. A figure without its "
                        + "statistic says nothing: RMS and the 80th percentile (four fifths within) are not comparable. The air is what changes "
                        + "faster than a mount moves: what makes each exposure least surprising after those before it, pulses taken out "
                        + "(local linear trend, Harvey 1989). Periods by least squares (Zechmeister and Kürster 2009).",
                schools(moment));
    }

    /** What another law or setting would have made of these minutes, and the button that takes it. */
    private void better(Moment moment, List<GuideSample> samples, List<Row> rows, List<Action> actions) {
        Optional<GuiderCalibrated> calibrated = moment.night().last(GuiderCalibrated.class);
        Optional<GuideCalibration> known = calibrated.flatMap(GuiderCalibrated::calibration);
        if (known.isEmpty()) {
            return;
        }
        GuideRules now = rules(moment);
        GuideAdvice.ra(
                        samples,
                        now,
                        known.get().westArcsecPerSecond(),
                        OptionalDouble.of(file.kit().equipment().wormSeconds()))
                .ifPresent(b ->
                        better("right ascension", "better-ra", b, b.tuning().rule(), rows, actions));
        GuideAdvice.dec(samples, now, known.get().northArcsecPerSecond())
                .ifPresent(
                        b -> better("declination", "better-dec", b, b.tuning().rule(), rows, actions));
    }

    private static void better(
            String axis, String id, GuideAdvice.Better b, AxisRule rule, List<Row> rows, List<Action> actions) {
        rows.add(new Row(
                axis + ", better",
                Words.format(
                        "%s: %.2f″ instead of %.2f″ in these minutes",
                        rule.words(), b.tuning().bestArcsec(), b.tuning().heldArcsec())));
        actions.add(new Action(
                id, "Guide " + axis + " " + rule.law().word(), false, true, new Intent.GuideByRules(b.rules())));
    }

    private GuideRules rules(Moment moment) {
        return moment.night()
                .last(GuiderSet.class)
                .map(GuiderSet::rules)
                .orElse(file.program().guiding());
    }

    /** What dithering has cost, and what every other step would. */
    private void dithers(Moment moment, List<Row> rows) {
        List<Dithered> all = moment.night().all(Dithered.class);
        double minutes = all.stream().mapToDouble(d -> d.took().toSeconds()).sum() / 60;
        int every = file.program().ditherEvery();
        rows.add(new Row(
                "dithers",
                all.isEmpty()
                        ? "none yet"
                        : Words.format(
                                "%d in %.0f min; every %d subs instead of %d would have saved %.0f",
                                all.size(), minutes, every + 1, every, minutes / (every + 1))));
    }

    private static void camera(Moment moment, List<Row> rows) {
        moment.night()
                .last(GuideCameraLooked.class)
                .ifPresent(c -> rows.add(new Row(
                        "guide camera",
                        c.hfrPx().isEmpty()
                                ? "no stars"
                                : Words.format(
                                        "%s: %.2f px of at most %.2f, %d stars",
                                        c.sharp() ? "in focus" : "out of focus",
                                        c.hfrPx().getAsDouble(),
                                        c.limitPx(),
                                        c.stars()))));
    }

    /** What was watched and compared tonight. */
    private static void tried(Moment moment, List<Row> rows) {
        moment.night()
                .last(UnguidedWatched.class)
                .ifPresent(u -> rows.add(new Row(
                        "without guiding",
                        Words.format(
                                        "the air %.2f″, drift %+.1f″ and %+.1f″ a minute",
                                        u.airArcsec(), u.raDriftArcsecPerMin(), u.decDriftArcsecPerMin())
                                + (u.periodSeconds().isPresent()
                                        ? Words.format(
                                                ", the gear ± %.1f″ every %.0f s",
                                                u.periodArcsec().orElse(0),
                                                u.periodSeconds().getAsDouble())
                                        : ""))));
        moment.night()
                .all(GuidingCompared.class)
                .forEach(c -> rows.add(new Row(
                        c.what(),
                        Words.format(
                                "%s: %.2f times the RMS (%.2f to %.2f)%s",
                                c.verdict().word(),
                                c.rmsRatio(),
                                c.low95(),
                                c.high95(),
                                c.verdict() == GuideComparison.Verdict.OPEN
                                        ? Words.format(
                                                "; %.0f min a run would show a tenth",
                                                Math.ceil(c.minutesForTenPercent()))
                                        : ""))));
    }

    /** How right ascension answers; the one in force is that of the journal, else of the plan. */
    private List<School> schools(Moment moment) {
        GuideRules now = rules(moment);
        List<School> schools = new ArrayList<>();
        for (GuideLaw law : GuideLaw.values()) {
            schools.add(new School(
                    "Right ascension: " + law.word(),
                    Words.capital(law.explained()) + ".",
                    now.ra().law() == law,
                    Optional.of(new Intent.GuideByRules(now.withRa(now.ra().withLaw(law))))));
        }
        for (GuideRules.Calibrate when : GuideRules.Calibrate.values()) {
            schools.add(new School(
                    "Calibrated " + when.word().replace('-', ' '),
                    Words.capital(when.explained()) + ".",
                    now.calibrate() == when,
                    Optional.of(new Intent.GuideByRules(now.withCalibrate(when)))));
        }
        return schools;
    }

    /** Of a stretch that is long enough to tell. */
    static Optional<GuideAnalysis> analysis(List<GuideSample> samples) {
        return samples.size() < GuideLog.FEWEST
                ? Optional.empty()
                : Optional.of(GuideAnalysis.of(GuideLog.of(samples, OptionalDouble.empty())));
    }

    private void analysed(GuideAnalysis a, Instant start, List<Row> rows) {
        rows.add(new Row("farthest", Words.format("%.2f″", a.peakArcsec())));
        rows.add(new Row("the air", Words.format("%.2f″", a.seeingArcsec())));
        rows.add(new Row(
                "whose it is",
                a.blame().stream()
                        .limit(MOST_BLAMED)
                        .map(b -> Words.format("%s %.0f %%", b.cause().words(), 100 * b.share()))
                        .collect(Collectors.joining(", "))));
        a.periods().stream()
                .findFirst()
                .ifPresent(p -> rows.add(
                        new Row("swings", Words.format("%.2f″ every %.0f s", p.amplitude(), p.periodSeconds()))));
        rows.add(new Row(
                "drift without pulses", Words.format("%+.1f″ a minute in declination", a.decDriftArcsecPerMin())));
        if (!a.excursions().isEmpty()) {
            rows.add(new Row(
                    "went astray",
                    a.excursions().stream().map(e -> astray(e, start)).collect(Collectors.joining("; "))));
        }
    }

    private String astray(Excursion e, Instant start) {
        return Words.format(
                "%.1f″ at %s for %.0f s: %s",
                e.peakArcsec(),
                file.site().clock(start.plusMillis(Math.round(1000 * e.fromSeconds()))),
                Math.max(1, e.seconds()),
                e.cause().words());
    }

    /** What guiding adds to the sub's stars, and whether they agree with it. */
    private Optional<String> stars(SubTaken sub, List<GuideSample> samples, List<Row> rows) {
        OptionalDouble fwhm = sub.measures().fwhmPx();
        OptionalDouble eccentricity = sub.measures().eccentricity();
        GuideStatistics guiding = GuideStatistics.of(samples);
        if (fwhm.isEmpty() || eccentricity.isEmpty() || guiding.samples() == 0) {
            return Optional.empty();
        }
        double scale = file.kit().arcsecPerPixel();
        rows.add(new Row(
                "share of the stars' width",
                Words.format("%.0f %%", 100 * GuideAgreement.shareOfWidth(guiding, fwhm.getAsDouble(), scale))));
        return GuideAgreement.of(guiding, fwhm.getAsDouble(), eccentricity.getAsDouble(), scale)
                .map(GuideAgreement::sentence);
    }
}
