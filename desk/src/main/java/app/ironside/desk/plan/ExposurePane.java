package app.ironside.desk.plan;

import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Plot.Curve;
import app.ironside.desk.parts.Plot.Ink;
import app.ironside.desk.parts.Plot.Mark;
import app.ironside.desk.parts.Plot.Style;
import app.ironside.desk.parts.Words;
import app.ironside.kit.Exposure;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.Photometry;
import app.ironside.kit.RoundRecord;
import app.ironside.plan.Projects;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Site;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** How long, at which gain, and what longer or shorter would cost. */
public final class ExposurePane extends VBox {
    static final double[] LENGTHS = {30, 60, 90, 120, 180, 300, 600};
    private static final double FAINT_PART = 1.5;

    private final PlanDesk plan;
    private final HBox filters = new HBox(3);
    private final ToggleGroup group = new ToggleGroup();
    private final Plot cost = new Plot();
    private final Plot ratio = new Plot();
    private final GridPane ways = new GridPane();
    private String shownKit = "";
    private String filter = "";

    ExposurePane(PlanDesk plan) {
        super(8);
        this.plan = plan;
        cost.setPrefWidth(100);
        ratio.setPrefWidth(100);
        HBox.setHgrow(cost, Priority.ALWAYS);
        HBox.setHgrow(ratio, Priority.ALWAYS);
        HBox plots = new HBox(8, cost, ratio);
        VBox.setVgrow(plots, Priority.ALWAYS);
        ways.setHgap(14);
        ways.setVgap(3);
        ways.getStyleClass().add("table");
        filters.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(filters, plots, ways);
    }

    /** The filter that is reckoned with. */
    FilterSpec filter() {
        List<FilterSpec> all = plan.file().kit().filters();
        return all.stream().filter(f -> f.name().equals(filter)).findFirst().orElse(all.get(0));
    }

    void refresh() {
        Kit kit = plan.file().kit();
        if (!shownKit.equals(kit.name() + kit.filters())) {
            shownKit = kit.name() + kit.filters();
            filters.getChildren().clear();
            for (FilterSpec f : kit.filters()) {
                ToggleButton button = new ToggleButton(f.name());
                button.setToggleGroup(group);
                button.setSelected(f.equals(filter()));
                button.setOnAction(e -> {
                    filter = f.name();
                    button.setSelected(true);
                    plan.setTab(PlanDesk.Tab.EXPOSURE);
                });
                filters.getChildren().add(button);
            }
        }
        Site site = plan.file().site();
        cost.show(costs(kit, site));
        ratio.show(ratios(kit, site, filter(), plan.looked()));
        showWays(kit, site);
    }

    /** What read noise adds to the noise, against the length of a sub, for each kind of filter. */
    private Plot.State costs(Kit kit, Site site) {
        List<Curve> curves = new ArrayList<>();
        Ink[] inks = {Ink.ACCENT, Ink.COOL, Ink.GOOD, Ink.SECOND, Ink.ALERT, Ink.DIM, Ink.DIM};
        int i = 0;
        for (FilterSpec f : kit.filters()) {
            List<double[]> points = new ArrayList<>();
            for (double t = 20; t <= 620; t += 10) {
                double percent = 100
                        * Exposure.readNoiseCost(
                                kit.sensor().readNoiseElectrons(), Projects.background(kit, site, f), t);
                if (percent < 60) {
                    points.add(new double[] {t, percent});
                }
            }
            curves.add(new Curve(f.name(), points, inks[i++ % inks.length], Style.LINE));
        }
        double seconds = Projects.subSeconds(kit, site, filter());
        return new Plot.State(
                "Read noise adds",
                "sub length, s",
                "%",
                curves,
                List.of(new Mark(seconds, Words.format("%.0f s in %s", seconds, filter().name()))),
                true);
    }

    /** Signal-to-noise of the faint parts of the target against hours of light. */
    static Plot.State ratios(Kit kit, Site site, FilterSpec filter, Optional<DeepSkyObject> target) {
        double mu = target.flatMap(ExposurePane::faintSurface).orElse(24.0);
        double seconds = Projects.subSeconds(kit, site, filter);
        double source = Photometry.electronsPerSecondPerPixel(mu, kit, filter);
        double background = Projects.background(kit, site, filter);
        List<double[]> points = new ArrayList<>();
        for (double h = 0.1; h <= 30; h += 0.3) {
            points.add(new double[] {
                h,
                Exposure.stackSignalToNoise(
                        source,
                        background,
                        kit.sensor().readNoiseElectrons(),
                        new Exposure.Subs(h * 3600 / seconds, seconds))
            });
        }
        String name = target.map(DeepSkyObject::id).orElse("an object");
        return new Plot.State(
                Words.format("Signal over noise at %.1f mag/arcsec²", mu),
                "hours of light",
                "a pixel of " + name,
                List.of(new Curve("", points, Ink.ACCENT, Style.LINE)),
                List.of(),
                true);
    }

    /** Arms and outskirts are fainter than the mean by about this. */
    static Optional<Double> faintSurface(DeepSkyObject o) {
        if (o.magnitude().isEmpty() || o.longAxisArcmin() <= 0) {
            return Optional.empty();
        }
        double b = o.shortAxisArcmin() > 0 ? o.shortAxisArcmin() : o.longAxisArcmin();
        double mean = o.magnitude().get() + 2.5 * Math.log10(Math.PI / 4 * o.longAxisArcmin() * b * 3600);
        return Optional.of(mean + FAINT_PART);
    }

    private void showWays(Kit kit, Site site) {
        double hours = Math.max(0.5, plan.draft().plan().times().darkHours());
        List<Exposure.Way> all = Projects.ways(
                kit,
                site,
                filter(),
                new Projects.Spending(hours, plan.file().program().ditherEvery()),
                plan.wishes().round(),
                LENGTHS);
        double best = all.stream().mapToDouble(Exposure.Way::noise).min().orElse(1);
        double chosen = Projects.subSeconds(kit, site, filter());
        ways.getChildren().clear();
        String[] heads = {"sub", "taken", "kept", "files", "stacking", "noise", "round stars"};
        for (int c = 0; c < heads.length; c++) {
            ways.add(label(heads[c], "dim"), c, 0);
        }
        int row = 1;
        for (Exposure.Way w : all) {
            String style = w.seconds() == chosen ? "row-value" : "";
            ways.add(label(Words.format("%.0f s", w.seconds()), style), 0, row);
            ways.add(label(Words.format("%d", w.subs()), style), 1, row);
            ways.add(label(Words.format("%.0f", w.keptSubs()), style), 2, row);
            ways.add(label(Words.format("%.1f GB", w.gigabytes()), style), 3, row);
            ways.add(label(Words.format("%.0f min", w.stackMinutes()), style), 4, row);
            ways.add(
                    label(
                            w.noise() <= best * 1.0001
                                    ? "least"
                                    : Words.format("+%.1f %%", 100 * (w.noise() / best - 1)),
                            style),
                    5,
                    row);
            ways.add(label(kit.guideOptics().isPresent() ? "guided" : round(kit, site, w.seconds()), style), 6, row);
            row++;
        }
    }

    /** The share that is expected, and what was seen of about the length. */
    private String round(Kit kit, Site site, double seconds) {
        RoundRecord record = plan.wishes().round();
        RoundRecord.Length seen = record.about(seconds);
        return Words.format("%.0f %%", 100 * Projects.roundShare(kit, site, record, seconds))
                + (seen.taken() > 0 ? Words.format(", %d of %d were", seen.round(), seen.taken()) : "");
    }

    private static Label label(String text, String style) {
        Label label = new Label(text);
        label.setMinWidth(78);
        if (!style.isEmpty()) {
            label.getStyleClass().add(style);
        }
        return label;
    }
}
