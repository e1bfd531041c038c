package app.ironside.desk.plan;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.FilePane;
import app.ironside.desk.parts.Words;
import app.ironside.document.NightPack;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.plan.Dew;
import app.ironside.plan.NightBudget;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.print.PrinterJob;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/** What the night costs: walks in the cold, dew by the hour, current, disk; and the night pack to take along. */
public final class CostsPane extends VBox {
    private final PlanDesk plan;
    private final DewStrip dew = new DewStrip();
    private final VBox visits = new VBox();
    private final VBox warnings = new VBox(4);
    private final FlowPane oneFilter = new FlowPane(6, 6);
    private final Label saved = new Label();
    private NightBudget shown;

    CostsPane(PlanDesk plan) {
        super(10);
        this.plan = plan;
        dew.setPrefHeight(150);
        dew.setMinHeight(150);
        ScrollPane scroll = new ScrollPane(visits);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        oneFilter.setAlignment(Pos.CENTER_LEFT);
        saved.getStyleClass().add("dim");
        saved.setId("pack-saved");
        getChildren()
                .addAll(
                        warnings,
                        dew,
                        heading("What needs hands, in as few walks as possible"),
                        scroll,
                        oneFilter,
                        packTools());
    }

    private static Label heading(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("bench-title");
        return label;
    }

    private HBox packTools() {
        HBox row = new HBox(6, heading("Night pack"));
        row.setAlignment(Pos.CENTER_LEFT);
        for (String format : List.of("pdf", "html", "ics", "csv", "json")) {
            Button button = new Button(
                    switch (format) {
                        case "ics" -> "Calendar…";
                        case "csv" -> "Altitudes…";
                        case "json" -> "Night file…";
                        default -> format.toUpperCase(Locale.ROOT) + "…";
                    });
            button.setId("pack-" + format);
            button.setOnAction(e -> choose(format));
            row.getChildren().add(button);
        }
        Button print = new Button("Print…");
        print.setOnAction(e -> print());
        row.getChildren().addAll(print, saved);
        return row;
    }

    private void choose(String format) {
        FilePane.Ask ask = FilePane.Ask.save(
                "Save the night pack", "night-" + plan.file().program().date() + "." + format, Optional.empty());
        FilePane.ask(this, ask, files -> save(format, files.get(0)));
    }

    /** Writes the pack in a format; says where it is, or why not. */
    public void save(String format, Path file) {
        NightPack pack = plan.pack();
        List<Path> read = plan.filesRead();
        saved.setText("Writing " + file.getFileName() + "…");
        plan.beside(
                () -> {
                    Destination.file(file, "the night pack", read);
                    AtomicFile.write(file, out -> {
                        switch (format) {
                            case "pdf" -> pack.pdf(out);
                            case "html" -> out.write(pack.html().getBytes(StandardCharsets.UTF_8));
                            case "ics" -> out.write(pack.calendar().getBytes(StandardCharsets.UTF_8));
                            case "csv" -> out.write(pack.altitudesCsv().getBytes(StandardCharsets.UTF_8));
                            default -> out.write(pack.program().getBytes(StandardCharsets.UTF_8));
                        }
                    });
                },
                () -> saved.setText("Saved: " + file.getFileName()),
                why -> saved.setText("Not saved: " + why + "."));
    }

    private void print() {
        PrinterJob job = PrinterJob.createPrinterJob();
        if (job == null) {
            saved.setText("No printer is set up; save the PDF instead.");
            return;
        }
        if (job.showPrintDialog(getScene().getWindow())) {
            boolean done = job.printPage(visits);
            saved.setText(done && job.endJob() ? "Sent to the printer." : "The printer refused; save the PDF instead.");
        }
    }

    void refresh(NightBudget budget) {
        ZoneId zone = plan.file().site().zone();
        dew.show(budget.dew(), zone, budget.weatherInvented());
        if (budget.equals(shown)) {
            return;
        }
        shown = budget;
        warnings.getChildren().clear();
        for (String warning : budget.warnings()) {
            Label label = new Label("▲  " + warning);
            label.getStyleClass().add("warning");
            label.setWrapText(true);
            warnings.getChildren().add(label);
        }
        for (String reminder : budget.reminders()) {
            Label label = new Label("◦  " + reminder);
            label.setWrapText(true);
            warnings.getChildren().add(label);
        }
        fillOneFilter();
        visits.getChildren().clear();
        for (NightBudget.Visit visit : budget.visits()) {
            visits.getChildren().add(line(Words.clock(visit.at(), zone), String.join(";  ", visit.jobs())));
        }
        visits.getChildren().add(line(Words.clock(budget.bedtime(), zone), "done: everything warm, dark and inside"));
    }

    /** With a box of filters the choice is to go out, or to take one filter all night; a wheel asks nobody. */
    private void fillOneFilter() {
        List<String> filters = plan.file().program().targets().stream()
                .flatMap(t -> t.filters().stream())
                .distinct()
                .toList();
        boolean asked = plan.file().kit().equipment().filtersByHand() && filters.size() > 1;
        oneFilter.setVisible(asked);
        oneFilter.setManaged(asked);
        oneFilter.getChildren().clear();
        if (!asked) {
            return;
        }
        oneFilter.getChildren().add(new Label("Filters are changed by hand. All night only"));
        for (String filter : filters) {
            Button button = new Button(filter);
            button.setId("only-" + filter);
            button.setTooltip(new Tooltip("Nobody goes out for a filter; Ctrl Z takes it back"));
            button.setOnAction(e -> plan.edit(now -> now.onlyFilter(filter)));
            oneFilter.getChildren().add(button);
        }
    }

    private static HBox line(String time, String what) {
        Label clock = new Label(time);
        clock.getStyleClass().add("step-value");
        clock.setMinWidth(64);
        Label words = new Label(what);
        words.setWrapText(true);
        HBox row = new HBox(12, clock, words);
        row.getStyleClass().add("step");
        return row;
    }

    /** Air and dew point by the hour, with what unheated glass must expect. */
    private static final class DewStrip extends DrawnPane {
        private List<NightBudget.DewHour> hours = List.of();
        private boolean invented;
        private ZoneId zone = ZoneId.of("UTC");

        void show(List<NightBudget.DewHour> next, ZoneId place, boolean madeUp) {
            if (!next.equals(hours) || madeUp != invented) {
                hours = next;
                invented = madeUp;
                zone = place;
                stale();
            }
        }

        @Override
        protected void draw(GraphicsContext g, double width, double height) {
            g.setFill(panel());
            g.fillRoundRect(0, 0, width, height, 10, 10);
            g.setFill(text());
            g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 15));
            g.setTextAlign(TextAlignment.LEFT);
            g.fillText(
                    invented
                            ? "Air and dew point as the rehearsal invents them, and what unheated glass would expect"
                            : "Air, dew point and what unheated glass must expect",
                    16,
                    24);
            g.setFont(Font.font("IBM Plex Sans", 13));
            if (hours.isEmpty()) {
                g.setFill(dim());
                g.fillText("No forecast for this night.", 16, 60);
                return;
            }
            double low = hours.stream()
                            .mapToDouble(NightBudget.DewHour::dewPointC)
                            .min()
                            .orElse(0)
                    - 1;
            double high = hours.stream()
                            .mapToDouble(NightBudget.DewHour::temperatureC)
                            .max()
                            .orElse(10)
                    + 1;
            double step = (width - 70) / hours.size();
            double[] air = null;
            double[] point = null;
            for (int i = 0; i < hours.size(); i++) {
                NightBudget.DewHour hour = hours.get(i);
                double x = 52 + (i + 0.5) * step;
                g.setFill(faded(colour(hour.risk()), 0.9));
                g.fillRoundRect(52 + i * step + 1, height - 46, step - 2, 20, 4, 4);
                g.setFill(hour.risk() == Dew.Risk.DRY ? text() : night());
                g.setTextAlign(TextAlignment.CENTER);
                g.fillText(shortWord(hour.risk()), x, height - 31);
                g.setFill(dim());
                g.fillText(Words.clock(hour.time(), zone).substring(0, 2), x, height - 8);
                air = join(g, air, new double[] {x, y(hour.temperatureC(), low, high, height)}, accent());
                point = join(g, point, new double[] {x, y(hour.dewPointC(), low, high, height)}, cool());
            }
            g.setTextAlign(TextAlignment.LEFT);
            g.setFill(accent());
            g.fillText(
                    Words.format("%.0f °C", hours.get(0).temperatureC()),
                    8,
                    air == null ? 50 : y(hours.get(0).temperatureC(), low, high, height) + 5);
            g.setFill(cool());
            g.fillText(
                    Words.format("%.0f °C", hours.get(0).dewPointC()),
                    8,
                    y(hours.get(0).dewPointC(), low, high, height) + 5);
        }

        private static double[] join(GraphicsContext g, double[] before, double[] now, Color color) {
            if (before != null) {
                g.setStroke(color);
                g.setLineWidth(2);
                g.strokeLine(before[0], before[1], now[0], now[1]);
            }
            return now;
        }

        private static double y(double value, double low, double high, double height) {
            return height - 54 - (value - low) / (high - low) * (height - 96);
        }

        private static String shortWord(Dew.Risk risk) {
            return switch (risk) {
                case DRY -> "dry";
                case NEAR -> "near";
                case DEW -> "dew";
                case FROST -> "frost";
            };
        }

        private Color colour(Dew.Risk risk) {
            return switch (risk) {
                case DRY -> line();
                case NEAR -> third();
                case DEW -> cool();
                case FROST -> alert();
            };
        }
    }

    /** When the last thing is done, for the reckoning. */
    static String bedtime(NightBudget budget, ZoneId zone) {
        Instant bed = budget.bedtime();
        return Words.clock(bed, zone);
    }
}
