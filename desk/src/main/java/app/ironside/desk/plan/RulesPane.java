package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.kit.Kit;
import app.ironside.kit.OwnTimes;
import app.ironside.logbook.TimesTaken;
import app.ironside.plan.BalanceBy;
import app.ironside.plan.CalibrationPlan;
import app.ironside.plan.Calibrations;
import app.ironside.plan.FocusTriggers;
import app.ironside.plan.Overheads;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.PolarBy;
import app.ironside.plan.Program;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Predicate;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The rules of the night, each with what it costs tonight. */
final class RulesPane extends VBox {
    private static final double CHOICE_WIDTH = 186;
    private static final double UNIT_WIDTH = 98;

    private final PlanDesk plan;
    private final GridPane grid = new GridPane();
    private final Label fault = new Label();
    private final GuideRulesPane guiding;
    private String shown = "";

    /**
     * A number that rules.
     *
     * @param change the program with another value
     * @param price what follows from it tonight
     */
    private record Rule(
            String id,
            String group,
            String name,
            String unit,
            Function<Program, Double> value,
            BiFunction<Program, Double, Program> change,
            String price) {}

    RulesPane(PlanDesk plan) {
        super(8);
        this.plan = plan;
        setId("rules");
        guiding = new GuideRulesPane(r -> plan.setRules(p -> p.withGuiding(r)), false);
        grid.setHgap(10);
        // Room for a unit, and for a choice that reaches over from the column before.
        ColumnConstraints units = new ColumnConstraints();
        units.setMinWidth(UNIT_WIDTH);
        grid.getColumnConstraints().addAll(new ColumnConstraints(), new ColumnConstraints(), units);
        grid.setVgap(6);
        fault.getStyleClass().add("warning");
        fault.setWrapText(true);
        fault.setId("rules-fault");
        fault.managedProperty().bind(fault.textProperty().isNotEmpty());
        ScrollPane scroll = new ScrollPane(grid);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(fault, scroll);
    }

    void refresh() {
        String now = plan.file().program().toString()
                + plan.file().kit()
                + plan.draft().plan().subs()
                + plan.wishes().times();
        if (now.equals(shown)) {
            return;
        }
        shown = now;
        grid.getChildren().clear();
        String group = "";
        int row = 0;
        addBed(row++);
        if (plan.file().kit().equipment().goTo()) {
            addSweep(row++);
        }
        if (plan.file().kit().equipment().goTo()
                && plan.file().kit().equipment().needsBalance()) {
            addBalance(row++);
        }
        addPolar(row++);
        if (plan.file().kit().sensor().cooled()) {
            addAtOnce(row++);
        }
        if (plan.wishes().times().isKnown()) {
            addOwnTimes(row++);
        }
        for (Rule rule : rules()) {
            if (!rule.group().equals(group)) {
                group = rule.group();
                Label head = new Label(group);
                head.getStyleClass().add("bench-title");
                grid.add(head, 0, row++, 4, 1);
            }
            addRow(rule, row++);
            if (rule.id().equals("focus-minutes")) {
                row = addFocusSwitches(row);
            }
        }
        guiding.show(plan.file().program().guiding());
        boolean guides = plan.file().kit().guideOptics().isPresent();
        if (guides) {
            Label head = new Label("Guiding");
            head.getStyleClass().add("bench-title");
            grid.add(head, 0, row++, 4, 1);
            grid.add(guiding, 0, row++, 4, 1);
        }
        new TroubleRules(plan, grid).add(row);
    }

    /** When everything is to be done: a time, or nothing for when it is light. */
    private void addBed(int row) {
        Label name = new Label("in bed by");
        name.setMinWidth(210);
        String value = plan.file().program().bedBy().map(LocalTime::toString).orElse("");
        TextField field = new TextField(value);
        field.setPromptText("dawn");
        field.setId("rule-bed");
        field.setPrefWidth(80);
        Runnable take = () -> {
            String text = field.getText().strip();
            if (text.equals(value)) {
                return;
            }
            try {
                Optional<LocalTime> bed = text.isEmpty()
                        ? Optional.empty()
                        : Optional.of(LocalTime.parse(text.length() == 4 ? "0" + text : text));
                fault.setText("");
                plan.setRules(p -> p.withBedBy(bed));
            } catch (DateTimeParseException e) {
                fault.setText("in bed by: \"" + text + "\" is not a time; expected one as 01:30.");
                field.setText(value);
            }
        };
        field.setOnAction(e -> take.run());
        field.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                take.run();
            }
        });
        Label price = new Label("calibration frames and warming included; blocks end before, and Arrange keeps to it");
        price.getStyleClass().add("dim");
        price.setWrapText(true);
        grid.addRow(row, name, field, new Label(), price);
    }

    /** How the axis is set; each way with its minutes. */
    private void addPolar(int row) {
        ChoiceBox<PolarBy> how = new ChoiceBox<>();
        how.setId("rule-polar");
        how.setMinWidth(CHOICE_WIDTH);
        how.getItems().setAll(PolarBy.values());
        how.setConverter(Words.naming(PolarBy::words));
        how.setValue(plan.file().program().setUp().polarBy());
        how.setOnAction(e -> plan.setRules(p -> p.withSetUp(p.setUp().withPolarBy(how.getValue()))));
        PolarBy now = how.getValue();
        grid.add(new Label("polar axis by"), 0, row);
        grid.add(how, 1, row, 2, 1);
        grid.add(price(Words.format("about %d minutes, knobs turned twice: %s", now.minutes(), now.how())), 3, row);
    }

    /** How the mount is balanced; each way with its minutes. */
    private void addBalance(int row) {
        ChoiceBox<BalanceBy> how = new ChoiceBox<>();
        how.setId("rule-balance");
        how.setMinWidth(CHOICE_WIDTH);
        how.getItems().setAll(BalanceBy.values());
        how.setConverter(Words.naming(BalanceBy::words));
        how.setValue(plan.file().program().setUp().balanceBy());
        how.setOnAction(e -> plan.setRules(p -> p.withSetUp(p.setUp().withBalanceBy(how.getValue()))));
        BalanceBy now = how.getValue();
        grid.add(new Label("balanced"), 0, row);
        grid.add(how, 1, row, 2, 1);
        grid.add(price(Words.format("about %d minutes: %s", now.minutes(), now.how())), 3, row);
    }

    private void addAtOnce(int row) {
        CheckBox atOnce = new CheckBox("the cooler begins before the first device is proven");
        atOnce.setId("rule-at-once");
        atOnce.setSelected(plan.file().program().setUp().atOnce());
        atOnce.setOnAction(e -> plan.setRules(p -> p.withSetUp(p.setUp().withAtOnce(atOnce.isSelected()))));
        grid.add(atOnce, 0, row, 3, 1);
        grid.add(
                price(
                        atOnce.isSelected()
                                ? "ready some minutes sooner; if a supply sags, more than one part may be the cause"
                                : "one device after the other, so that a fault has one possible cause"),
                3,
                row);
    }

    /** What the kit's own nights took besides light; the plan reckons with it once it is taken over. */
    private void addOwnTimes(int row) {
        Kit kit = plan.file().kit();
        TimesTaken times = plan.wishes().times();
        OwnTimes own = kit.equipment().ownTimes();
        boolean ours = own.equals(times.forKit());
        Button take = new Button(ours ? "Reckon as usual" : "Reckon with these");
        take.setId("rule-own-times");
        take.setMinWidth(Region.USE_PREF_SIZE);
        take.setOnAction(e -> plan.use(
                plan.file().site(),
                kit.withEquipment(kit.equipment().withOwnTimes(ours ? OwnTimes.UNKNOWN : times.forKit()))));
        Overheads overheads = Overheads.of(kit);
        grid.add(new Label("what things took"), 0, row);
        grid.add(take, 1, row, 2, 1);
        grid.add(
                price(Words.format(
                        "%s; the plan reckons with %.0f, %.0f and %.0f s%s",
                        Words.capital(times.words()),
                        overheads.perDither(),
                        overheads.perFocus(),
                        overheads.perFlip(),
                        own.equals(OwnTimes.UNKNOWN) ? ", as usual" : ", as the kit says")),
                3,
                row);
    }

    private static Label price(String words) {
        Label price = new Label(words);
        price.getStyleClass().add("dim");
        price.setWrapText(true);
        return price;
    }

    private void addSweep(int row) {
        CheckBox sweep = new CheckBox("before dark, a turn through the whole travel");
        sweep.setId("rule-sweep");
        sweep.setSelected(plan.file().program().setUp().sweepAxes());
        sweep.setOnAction(e -> plan.setRules(p -> p.withSetUp(p.setUp().withSweepAxes(sweep.isSelected()))));
        grid.add(sweep, 0, row, 3, 1);
        grid.add(
                price(
                        "the axes stop at each end for you to look at the cables; without it, you turn them by the hand controller"),
                3,
                row);
    }

    /** When focus is looked for besides; 0 for never. */
    private List<Rule> focusRules(Program p, Overheads overheads, int subs) {
        FocusTriggers t = p.focus();
        double minutes = overheads.perFocus() / 60;
        double hours = plan.draft().plan().blocks().stream()
                .mapToDouble(b -> b.span().hours())
                .sum();
        return List.of(
                new Rule(
                        "focus-growth",
                        "Dither and focus",
                        "when stars are larger by, 0 never",
                        "%",
                        x -> 100 * x.focus().growth().orElse(0.0),
                        (x, v) -> x.withFocus(x.focus().withGrowth(v == 0 ? Optional.empty() : Optional.of(v / 100))),
                        "than just after the last run, height taken out; costs nothing while they are not"),
                new Rule(
                        "focus-subs",
                        "Dither and focus",
                        "after so many subs, 0 never",
                        "subs",
                        x -> (double) x.focus().everySubs().orElse(0),
                        (x, v) ->
                                x.withFocus(x.focus().withEverySubs(v == 0 ? Optional.empty() : Optional.of(whole(v)))),
                        t.everySubs()
                                .map(n -> price(subs / n, minutes))
                                .orElse("pays for runs that find nothing, and is never late")),
                new Rule(
                        "focus-points",
                        "Dither and focus",
                        "points of a sweep: 9, or 7 or 5 where they suffice",
                        "points",
                        x -> (double) x.focus().points(),
                        (x, v) -> x.withFocus(x.focus().withPoints(whole(v))),
                        Words.format(
                                "%.0f s of exposures a run; fewer points know the best place less well",
                                (t.points() + 1)
                                        * plan.file().kit().filters().get(0).focusExposureSeconds())),
                new Rule(
                        "focus-minutes",
                        "Dither and focus",
                        "after so long, 0 never",
                        "min",
                        x -> (double) x.focus().everyMinutes().orElse(0),
                        (x, v) -> x.withFocus(
                                x.focus().withEveryMinutes(v == 0 ? Optional.empty() : Optional.of(whole(v)))),
                        t.everyMinutes()
                                .map(n -> price((int) (60 * hours / n), minutes))
                                .orElse("for a focuser that slips")));
    }

    private static String price(int runs, double minutesEach) {
        return Words.format("%d runs, %.0f minutes of the night", runs, runs * minutesEach);
    }

    /** Switches of focusing, each with its price tonight. */
    private int addFocusSwitches(int from) {
        int row = from;
        List<PlannedBlock> blocks = plan.draft().plan().blocks();
        double minutes = Overheads.of(plan.file().kit()).perFocus() / 60;
        int changes = blocks.stream()
                .filter(b -> b.target().goals().size() > 1)
                .mapToInt(b -> b.subs() / Math.max(1, b.target().subsPerFilter()))
                .sum();
        int flips = (int) blocks.stream().filter(b -> b.flip().isPresent()).count();
        addSwitch(
                row++,
                "rule-focus-filter",
                "focus at each change of the filter",
                FocusTriggers::onFilter,
                FocusTriggers::withOnFilter,
                price(changes, minutes) + "; without it a filter's offset in the kit is trusted");
        addSwitch(
                row++,
                "rule-focus-flip",
                "focus after a meridian flip",
                FocusTriggers::afterFlip,
                FocusTriggers::withAfterFlip,
                price(flips, minutes) + "; for a mirror that moves");
        addSwitch(
                row++,
                "rule-focus-fresh",
                "leave a run out where the last is young",
                FocusTriggers::skipFresh,
                FocusTriggers::withSkipFresh,
                Words.format("saves %.1f minutes after each short break", minutes));
        addSwitch(
                row++,
                "rule-focus-compensate",
                "between runs the focuser follows the temperature",
                FocusTriggers::compensate,
                FocusTriggers::withCompensate,
                "only once this kit's own runs carry it, which Focus tells each night; then no run is made for temperature");
        return row;
    }

    private void addSwitch(
            int row,
            String id,
            String name,
            Predicate<FocusTriggers> is,
            BiFunction<FocusTriggers, Boolean, FocusTriggers> with,
            String price) {
        CheckBox box = new CheckBox(name);
        box.setId(id);
        box.setSelected(is.test(plan.file().program().focus()));
        box.setOnAction(e -> plan.setRules(p -> p.withFocus(with.apply(p.focus(), box.isSelected()))));
        grid.add(box, 0, row, 3, 1);
        grid.add(price(price), 3, row);
    }

    private void addRow(Rule rule, int row) {
        Label name = new Label(rule.name());
        name.setMinWidth(210);
        String value = Words.number(rule.value().apply(plan.file().program()));
        TextField field = new TextField(value);
        field.setId("rule-" + rule.id());
        field.setPrefWidth(80);
        field.setMinWidth(64);
        field.setOnAction(e -> set(rule, field, value));
        field.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                set(rule, field, value);
            }
        });
        Label unit = new Label(rule.unit());
        unit.getStyleClass().add("dim");
        unit.setMinWidth(54);
        Label price = new Label(rule.price());
        price.getStyleClass().add("dim");
        price.setWrapText(true);
        price.setId("price-" + rule.id());
        GridPane.setHgrow(price, Priority.ALWAYS);
        grid.addRow(row, name, field, unit, price);
    }

    private void set(Rule rule, TextField field, String before) {
        String text = field.getText().strip().replace(',', '.');
        if (text.equals(before)) {
            return;
        }
        try {
            double value = Double.parseDouble(text);
            if (rule.change()
                    .apply(plan.file().program(), value)
                    .equals(plan.file().program())) {
                return;
            }
            fault.setText("");
            plan.setRules(program -> rule.change().apply(program, value));
        } catch (NumberFormatException e) {
            fault.setText(rule.name() + ": \"" + field.getText() + "\" is not a number.");
            field.setText(before);
        } catch (IllegalArgumentException e) {
            fault.setText(rule.name() + ": " + e.getMessage() + ".");
            field.setText(before);
        }
    }

    // ---- the rules
    // ---------------------------------------------------------------------------------------------------------

    private List<Rule> rules() {
        Program p = plan.file().program();
        Kit kit = plan.file().kit();
        Overheads overheads = Overheads.of(kit);
        int subs = plan.draft().plan().subs();
        List<Rule> rules = new ArrayList<>();
        if (kit.sensor().cooled()) {
            rules.add(new Rule(
                    "cool",
                    "Camera",
                    "set point of the cooler",
                    "°C",
                    Program::coolToC,
                    Program::withCoolTo,
                    Words.format(
                            "dark current %.3f e⁻/s a pixel there",
                            kit.sensor().darkElectronsPerSecondAt(p.coolToC()))));
        }
        rules.add(new Rule(
                "altitude",
                "Targets",
                "left when lower than",
                "°",
                Program::minimumAltitudeDeg,
                Program::withMinimumAltitude,
                "on top of the skyline; a target's own rule under Wishes stands above this one"));
        rules.add(new Rule(
                "centre",
                "Targets",
                "centred within",
                "″",
                Program::centreWithinArcsec,
                Program::withCentreWithin,
                Words.format("%.0f pixels", p.centreWithinArcsec() / kit.arcsecPerPixel())));
        rules.add(new Rule(
                "recentre",
                "Targets",
                "centred again beyond",
                "″",
                Program::recentreBeyondArcsec,
                Program::withRecentreBeyond,
                Words.format("%.0f pixels", p.recentreBeyondArcsec() / kit.arcsecPerPixel())));
        rules.add(new Rule(
                "dither",
                "Dither and focus",
                "dither after each",
                "subs",
                x -> (double) x.ditherEvery(),
                (x, v) -> x.withDitherEvery(whole(v)),
                Words.format("%.0f minutes of the night", overheads.secondsOfDithers(subs, p.ditherEvery()) / 60)));
        rules.add(new Rule(
                "dither-by",
                "Dither and focus",
                "by about",
                "″",
                Program::ditherArcsec,
                Program::withDitherArcsec,
                Words.format("%.1f pixels", p.ditherArcsec() / kit.arcsecPerPixel())));
        rules.add(new Rule(
                "refocus",
                "Dither and focus",
                "focus again after a change of",
                "°C",
                Program::refocusAfterC,
                Program::withRefocusAfter,
                Words.format("each run takes %.0f s, guiding begun anew included", overheads.perFocus())));
        rules.addAll(focusRules(p, overheads, subs));
        CalibrationPlan frames = CalibrationPlan.of(p);
        rules.add(new Rule(
                "darks",
                "Calibration frames",
                "darks of each length",
                "",
                x -> (double) x.calibrations().darks(),
                (x, v) -> x.withCalibrations(with(
                        x.calibrations(),
                        whole(v),
                        x.calibrations().bias(),
                        x.calibrations().flatsPerFilter())),
                price(frames, CalibrationPlan.Kind.DARK, kit)));
        rules.add(new Rule(
                "bias",
                "Calibration frames",
                "bias frames",
                "",
                x -> (double) x.calibrations().bias(),
                (x, v) -> x.withCalibrations(with(
                        x.calibrations(),
                        x.calibrations().darks(),
                        whole(v),
                        x.calibrations().flatsPerFilter())),
                price(frames, CalibrationPlan.Kind.BIAS, kit)));
        rules.add(new Rule(
                "flats",
                "Calibration frames",
                "flats of each filter",
                "",
                x -> (double) x.calibrations().flatsPerFilter(),
                (x, v) -> x.withCalibrations(with(
                        x.calibrations(),
                        x.calibrations().darks(),
                        x.calibrations().bias(),
                        whole(v))),
                price(frames, CalibrationPlan.Kind.FLAT, kit)));
        rules.add(new Rule(
                "flat-level",
                "Calibration frames",
                "level of the flats",
                "%",
                x -> 100 * x.calibrations().flatLevel(),
                (x, v) -> x.withCalibrations(new Calibrations(
                        x.calibrations().darks(),
                        x.calibrations().bias(),
                        x.calibrations().flatsPerFilter(),
                        v / 100)),
                Words.format(
                        "%.0f ADU",
                        p.calibrations().flatLevel() * (Math.pow(2, kit.sensor().bitDepth()) - 1))));
        return rules;
    }

    private static Calibrations with(Calibrations c, int darks, int bias, int flats) {
        return new Calibrations(darks, bias, flats, c.flatLevel());
    }

    private static int whole(double value) {
        if (value != Math.rint(value)) {
            throw new IllegalArgumentException("is " + Words.number(value) + "; expected a whole number");
        }
        return (int) value;
    }

    private static String price(CalibrationPlan frames, CalibrationPlan.Kind kind, Kit kit) {
        CalibrationPlan those = new CalibrationPlan(
                frames.sets().stream().filter(s -> s.kind() == kind).toList());
        return Words.format(
                "%d frames, %d minutes", those.frames(), those.duration(kit).toMinutes());
    }
}
