package app.ironside.desk.night;

import app.ironside.calibrate.MasterBuilder;
import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.document.NightFile;
import app.ironside.document.ReadyList;
import app.ironside.document.ReadyStep;
import app.ironside.journal.CalibrationTaken;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.MasterMade;
import app.ironside.journal.NightAccount;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubTaken;
import app.ironside.plan.BalanceBy;
import app.ironside.plan.CalibrationPlan.Kind;
import app.ironside.plan.Calibrations;
import app.ironside.plan.FrameCount;
import app.ironside.plan.NightPlan;
import app.ironside.plan.SetUp;
import app.ironside.point.FramingMatch;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Words the verdict of each station from the night up to a moment. Pure. */
public final class Reckoner {
    private final NightFile file;
    private final ZoneId zone;
    private final PolarReckoner polar;
    private final PointReckoner point;
    private final FocusReckoner focus;
    private final GuideReckoner guide;
    private final NightPlan plan;
    private final RunReckoner run;

    /**
     * @param earlier how targets were framed on earlier nights
     */
    public Reckoner(NightFile file, NightPlan plan, Map<String, FramingMatch.Wanted> earlier) {
        this.file = file;
        this.zone = file.site().zone();
        this.polar = new PolarReckoner(file, plan.times().darkHours());
        this.point = new PointReckoner(file, earlier);
        this.focus = new FocusReckoner(file, plan);
        this.guide = new GuideReckoner(file);
        this.plan = plan;
        this.run = new RunReckoner(file, plan);
    }

    /** What somebody who comes to the desk has to see at once. */
    public RunGlance glance(Moment moment) {
        return RunGlance.of(moment, plan, zone);
    }

    /** The reckoning of a station. */
    public ReckoningState of(Stage stage, Moment moment, Optional<NightEvent> chosen) {
        return switch (stage) {
            case PLAN -> throw new IllegalArgumentException("the plan reckons for itself");
            case READY -> ready(moment);
            case POLAR -> polar.of(moment, chosen);
            case POINT -> point.of(moment, chosen);
            case FOCUS -> focus.of(moment, chosen);
            case GUIDE -> guide.of(moment, chosen);
            case RUN -> run.of(moment, chosen);
            case CALIBRATE -> calibrate(moment);
            case STACK -> stack(moment, chosen);
            case LOGBOOK -> logbook(moment);
        };
    }

    private ReckoningState ready(Moment moment) {
        // A step that is told again counts once, as it stands now.
        List<StepProven> steps = moment.night().steps();
        if (steps.isEmpty()) {
            return ReckoningState.waiting(
                    moment.night().stage().filter(Stage.READY::equals).isPresent()
                            ? "Nothing is proven yet."
                            : "Not begun.",
                    "Each device is brought up alone and proven before the next.");
        }
        List<ReadyStep> list = ReadyList.of(file.site(), file.kit(), file.program(), file.lessons())
                .steps();
        List<String> open = list.stream()
                .filter(s -> steps.stream()
                        .noneMatch(
                                p -> p.subject().equals(s.subject()) && p.step().equals(s.what())))
                .map(ReadyStep::subject)
                .distinct()
                .toList();
        List<StepProven> failed = steps.stream().filter(s -> !s.proven()).toList();
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("proven", (steps.size() - failed.size()) + " of " + (steps.size() + open.size())));
        failed.forEach(s -> rows.add(new Row(s.subject(), "not proven")));
        if (!open.isEmpty()) {
            rows.add(new Row("open", String.join(", ", open)));
        }
        moment.night().gate(Stage.READY).ifPresent(g -> rows.add(new Row("done at", Words.clock(g.time(), zone))));
        String measured = Stream.of("mount", "camera", "cooler")
                .flatMap(device -> steps.stream()
                        .filter(s -> s.subject().equals(device) && s.proven())
                        .map(s -> device + " " + s.measured()))
                .collect(Collectors.joining("; "));
        return new ReckoningState(
                !failed.isEmpty()
                        ? failed.size() + " not proven."
                        : open.isEmpty() ? "Every step is proven." : open.size() + " still open.",
                !failed.isEmpty()
                        ? goneOn(moment.night()).orElse("Mend what is marked, then go on.")
                        : measured.isEmpty() ? "The first steps are for hands." : "Measured: " + measured + ".",
                !failed.isEmpty(),
                rows,
                "",
                List.of(
                        new School(
                                "One at a time, each proven",
                                "A fault has one possible cause.",
                                !file.program().setUp().atOnce(),
                                setUp(file.program().setUp().withAtOnce(false))),
                        new School(
                                "All at once",
                                "The cooler begins at once, some minutes sooner.",
                                file.program().setUp().atOnce(),
                                setUp(file.program().setUp().withAtOnce(true))),
                        balanced()));
    }

    /** The way of balancing in use, with the others a tab away. */
    private School balanced() {
        boolean asked = file.kit().equipment().needsBalance();
        if (asked && !file.kit().equipment().goTo()) {
            return new School("Balanced on its one axis", "With everything on, at tonight's attitude.", true);
        }
        BalanceBy by = file.program().setUp().balanceBy();
        return new School(
                asked ? "Balanced " + by.words() : "No balance",
                asked
                        ? Words.capital(by.how())
                                + Words.format(
                                        "; about %d minutes. Or %s, about %d.",
                                        by.minutes(), next(by).words(), next(by).minutes())
                        : "Its gears hold what is out of balance; what pulls on cables still counts.",
                true,
                asked ? setUp(file.program().setUp().withBalanceBy(next(by))) : Optional.empty());
    }

    private static BalanceBy next(BalanceBy by) {
        return BalanceBy.values()[(by.ordinal() + 1) % BalanceBy.values().length];
    }

    private static Optional<Intent> setUp(SetUp other) {
        return Optional.of(new Intent.SetUpBy(other));
    }

    /** How the night came to go on although not every step is proven. */
    private static Optional<String> goneOn(NightState night) {
        Optional<String> person = night.all(CommandTaken.class).stream()
                .filter(c -> c.obeyed() && c.command().equals(new Command.Overrule(Stage.READY)))
                .reduce((a, b) -> b)
                .map(c -> "Gone on from all the same" + (c.why().isEmpty() ? "." : ": " + c.why() + "."));
        return person.or(() -> night.all(GateOverruled.class).stream()
                .filter(o -> o.stage() == Stage.READY)
                .findFirst()
                .map(GateOverruled::text));
    }

    private ReckoningState calibrate(Moment moment) {
        List<MasterMade> masters = moment.night().all(MasterMade.class);
        if (moment.night().all(CalibrationTaken.class).isEmpty()) {
            return ReckoningState.waiting(
                    "After the last light.", "Flats, bias and darks follow while the sensor is still cold.");
        }
        Optional<GateMeasured> gate = moment.night().gate(Stage.CALIBRATE);
        List<Row> rows = masters.stream()
                .map(m -> new Row(m.name(), Words.format("%d frames", m.frames())))
                .toList();
        return new ReckoningState(
                masters.size() + (masters.size() == 1 ? " master made." : " masters made."),
                darks(moment),
                gate.filter(g -> !g.gate().passed()).isPresent(),
                rows,
                "Mean of each pixel over the set without values beyond " + MasterBuilder.KAPPA
                        + " sigma, or of all where there are fewer than five. A flat is "
                        + "divided by its own level first, so that a fading panel does not matter. Darks are of the lights' own exposure: a sensor's glow is"
                        + " not linear in time, so that none is scaled.",
                countSchools(moment.night()));
    }

    /** How many frames, by what they take and by the noise that their master adds to tonight's stack. */
    private List<School> countSchools(NightState night) {
        List<School> schools = new ArrayList<>();
        Optional<FrameCount.Lights> lights = lights(night);
        Calibrations inUse = file.program().calibrations();
        lights.ifPresent(l -> FrameCount.choices(Kind.DARK, inUse)
                .forEach(n -> schools.add(
                        new School(n + " darks", price(Kind.DARK, n, l), n == inUse.darks(), frames(Kind.DARK, n)))));
        schools.add(new School(
                "No darks",
                "Cold sensors of little dark current; hot pixels go by dithers, glow stays.",
                inUse.darks() == 0,
                frames(Kind.DARK, 0)));
        lights.ifPresent(l -> {
            schools.add(others(Kind.FLAT, "flats a filter", l));
            schools.add(others(Kind.BIAS, "bias frames", l));
        });
        return schools;
    }

    private static Optional<Intent> frames(Kind kind, int count) {
        return Optional.of(new Intent.Frames(kind, count));
    }

    private String price(Kind kind, int count, FrameCount.Lights lights) {
        FrameCount of = FrameCount.of(kind, count, file.kit(), file.program(), lights);
        return Words.format(
                "%d min; their master adds %.1f %% to the noise of %d subs.",
                of.takes().toMinutes(), 100 * of.noiseShare(), lights.subs());
    }

    /** One card for a kind: the number in use with its price, and the next one that is taken by it. */
    private School others(Kind kind, String what, FrameCount.Lights lights) {
        int now = file.program().calibrations().of(kind);
        List<Integer> counts = FrameCount.choices(kind, file.program().calibrations());
        int next = counts.stream().filter(n -> n > now).findFirst().orElse(counts.get(0));
        return new School(
                now + " " + what,
                (now == 0 ? "None are taken." : price(kind, now, lights))
                        + (next == now ? "" : " Or " + next + ": " + price(kind, next, lights)),
                true,
                next == now ? Optional.empty() : frames(kind, next));
    }

    /** The lights of which there are most, as they were measured. */
    private Optional<FrameCount.Lights> lights(NightState night) {
        Map<String, List<SubTaken>> series = night.subs().stream()
                .filter(s -> s.kept() && s.measures().noiseAdu() > 0)
                .collect(Collectors.groupingBy(s -> s.target() + "\n" + s.filter() + "\n" + s.seconds()));
        return series.values().stream()
                .max(java.util.Comparator.comparingInt(List::size))
                .map(subs -> new FrameCount.Lights(
                        subs.stream()
                                        .mapToDouble(s -> s.measures().noiseAdu())
                                        .sorted()
                                        .skip(subs.size() / 2)
                                        .findFirst()
                                        .orElseThrow()
                                * file.kit().sensor().gainElectronsPerAdu(),
                        subs.get(0).seconds(),
                        sensorC(subs),
                        subs.size()));
    }

    /** As it was measured; of an uncooled sensor, as warm as the air. */
    private double sensorC(List<SubTaken> subs) {
        return subs.stream()
                .map(SubTaken::circumstances)
                .flatMap(c -> c
                        .cooling()
                        .map(SubCircumstances.Cooling::sensorC)
                        .or(() -> c.temperatureC().isPresent()
                                ? Optional.of(c.temperatureC().getAsDouble())
                                : Optional.empty())
                        .stream())
                .sorted()
                .skip(subs.size() / 2)
                .findFirst()
                .orElse(file.program().coolToC());
    }

    /** What the darks were taken at, against the lights they are for. */
    private String darks(Moment moment) {
        List<CalibrationTaken> taken = moment.night().all(CalibrationTaken.class).stream()
                .filter(CalibrationTaken::dark)
                .toList();
        if (taken.isEmpty()) {
            return moment.night()
                    .gate(Stage.CALIBRATE)
                    .map(GateMeasured::text)
                    .orElse("Flats and bias first; darks follow, of the lights' own exposures.");
        }
        double coldest =
                taken.stream().mapToDouble(CalibrationTaken::sensorC).min().orElseThrow();
        double warmest =
                taken.stream().mapToDouble(CalibrationTaken::sensorC).max().orElseThrow();
        return Words.format(
                "Darks of the lights' own exposures, at %.1f to %.1f °C%s; none is scaled.",
                coldest,
                warmest,
                file.kit().sensor().cooled()
                        ? Words.format(" (set point %.0f)", file.program().coolToC())
                        : ": an uncooled sensor's lights were warmer or colder than that");
    }

    private static ReckoningState stack(Moment moment, Optional<NightEvent> chosen) {
        Optional<StackMade> stack = moment.evidence(chosen, StackMade.class);
        if (stack.isEmpty()) {
            return ReckoningState.waiting("After the calibration.", "Each set is stacked with its own masters.");
        }
        StackMade e = stack.get();
        List<Row> rows = new ArrayList<>(List.of(
                new Row("light", Words.span(e.light())),
                new Row("noise of a sub", Words.format("%.2f ADU", e.subNoiseAdu())),
                new Row("of the stack, pixel to pixel", Words.format("%.2f ADU", e.noiseAdu())),
                new Row(
                        "star size",
                        e.hfrPx().isPresent()
                                ? Words.format("%.2f px", e.hfrPx().getAsDouble())
                                : "no stars"),
                new Row("in the subs", Words.format("%.2f px", e.subHfrPx())),
                new Row("values left out", Words.format("%.2f %%", 100 * e.rejectedPixelFraction()))));
        if (e.partial() > 0) {
            rows.add(new Row("not stacked", Words.format("%d, read out in the middle only", e.partial())));
        }
        String of = Words.format("%d subs of %s in %s", e.kept(), e.target(), e.filter());
        return new ReckoningState(
                e.gain()
                        .map(g -> Words.format("%.1f times better than one sub.", g.measured()))
                        .orElse(Words.format("%d subs stacked.", e.kept())),
                e.gain()
                        .map(g -> Words.format(
                                "%s; %.2f was possible with them. The measure is good to ± %.2f.",
                                of, g.possible(), g.error()))
                        .orElse(of + "; what was gained was not measured in this night's time."),
                false,
                rows,
                "Aligned by stars, resampled with Lanczos-3, levelled to the reference's background, mean without values beyond "
                        + "3 sigma. Gain: the stars' light over the noise of blocks of 4 pixels, in the stack and in the median sub. "
                        + "From pixel to pixel the noise falls further, since resampling smooths: that is no gain. Possible: the root "
                        + "of the sum of each sub's (light / noise)².",
                List.of());
    }

    private static ReckoningState logbook(Moment moment) {
        NightState night = moment.night();
        Optional<NightEnded> end = night.last(NightEnded.class);
        List<Row> rows = new ArrayList<>();
        NightAccount.of(night).ifPresent(account -> account(rows, account));
        rows.add(new Row("events", Words.format("%d", night.events().size())));
        rows.add(new Row(
                "focus runs", Words.format("%d", night.all(FocusSwept.class).size())));
        rows.add(new Row("flips", Words.format("%d", night.all(Flipped.class).size())));
        rows.add(new Row("faults", Words.format("%d", night.all(FaultTold.class).size())));
        return new ReckoningState(
                end.isPresent()
                        ? night.kept() + " of " + night.subs().size() + " subs kept."
                        : "The night is under way.",
                end.map(NightEnded::text).orElse("Everything that happens is written as it happens."),
                false,
                rows,
                "",
                List.of());
    }

    /** Where the time between the first and the last light went. */
    private static void account(List<Row> rows, NightAccount account) {
        rows.add(new Row("light kept", Words.span(account.kept()) + " of " + Words.span(account.whole())));
        account.lost().forEach((cause, time) -> rows.add(new Row("lost to " + cause, Words.span(time))));
        rows.add(new Row("focus runs took", Words.span(account.focus())));
        rows.add(new Row("dithers took", Words.span(account.dither())));
        rows.add(new Row("pointing, settling, waiting", Words.span(account.other())));
    }
}
