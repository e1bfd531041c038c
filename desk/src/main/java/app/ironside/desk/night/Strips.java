package app.ironside.desk.night;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.ToDoubleFunction;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/** Small charts stacked on one axis of time, that of the program: a glance down a column explains a bad hour. */
public final class Strips extends DrawnPane {
    private static final double NAME_WIDTH = 118;
    private static final double GAP = 5;

    /** One row. */
    private record Row(String name, String pattern, ToDoubleFunction<NightEvent> value) {}

    private static final List<Row> ROWS = List.of(
            new Row("star size", "%.2f px", e -> e.number("hfrPx").orElse(Double.NaN)),
            new Row("stars", "%,.0f", e -> e.number("stars").orElse(Double.NaN)),
            new Row("sky", "%,.0f ADU", e -> e.number("backgroundAdu").orElse(Double.NaN)),
            new Row("guiding", "%.2f″", e -> e.number("guideRmsArcsec").orElse(Double.NaN)),
            new Row("tube", "%.1f °C", e -> e.number("temperatureC").orElse(Double.NaN)));

    private List<NightEvent> subs = List.of();
    private RibbonState ribbon;

    public Strips() {
        getStyleClass().add("strips");
        setMinHeight(150);
        setPrefHeight(210);
    }

    public void show(RibbonState axis, Moment moment) {
        ribbon = axis;
        subs = moment.of(EventKind.SUB);
        stale();
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        double each = (height - GAP * (ROWS.size() - 1)) / ROWS.size();
        for (int i = 0; i < ROWS.size(); i++) {
            Color color = List.of(accent(), cool(), second(), good(), third()).get(i);
            row(g, ROWS.get(i), color, i * (each + GAP), each, width);
        }
    }

    private void row(GraphicsContext g, Row row, Color color, double top, double height, double width) {
        g.setFill(panel());
        g.fillRoundRect(0, top, width, height, 8, 8);
        g.setTextAlign(TextAlignment.LEFT);
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.fillText(row.name(), 10, top + height / 2 - 3);
        if (subs.isEmpty() || ribbon == null || ribbon.curves().isEmpty()) {
            return;
        }
        double last = row.value().applyAsDouble(subs.get(subs.size() - 1));
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 14));
        g.fillText(Double.isNaN(last) ? "–" : Words.format(row.pattern(), last), 10, top + height / 2 + 14);
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        boolean counts = row.name().equals("stars") || row.name().equals("sky");
        for (NightEvent e : subs) {
            double v = value(row, e, counts);
            if (!Double.isNaN(v)) {
                low = Math.min(low, v);
                high = Math.max(high, v);
            }
        }
        double room = Math.max(0.04 * Math.abs(high), 1e-3) + (high - low) * 0.1;
        low -= room;
        high += room;
        double[] before = null;
        for (NightEvent e : subs) {
            double x = x(e.time(), width);
            double y = top + height - 4 - (value(row, e, counts) - low) / (high - low) * (height - 8);
            if (Double.isNaN(y)) {
                continue;
            }
            if (before != null && x - before[0] < width / 12) {
                g.setStroke(color);
                g.setLineWidth(1.8);
                g.strokeLine(before[0], before[1], x, y);
            }
            before = new double[] {x, y};
            if (!e.isTrue("keep")) {
                g.setStroke(alert());
                g.setLineWidth(2);
                g.strokeLine(x - 4, y - 4, x + 4, y + 4);
                g.strokeLine(x - 4, y + 4, x + 4, y - 4);
            }
        }
    }

    /** Star counts and the sky depend on the filter, counts on the part of the sensor that is read: only like is joined with like. */
    private double value(Row row, NightEvent e, boolean byFilter) {
        boolean stars = row.name().equals("stars");
        NightEvent last = subs.get(subs.size() - 1);
        boolean comparable = !byFilter
                || (e.text("filter").equals(last.text("filter"))
                        && (!stars || e.isTrue("full") == last.isTrue("full")));
        return comparable ? row.value().applyAsDouble(e) : Double.NaN;
    }

    private double x(Instant time, double width) {
        // The program's span, so that every sub has room.
        Instant from = ribbon.curves().get(0).block().from();
        Instant until = ribbon.curves().get(ribbon.curves().size() - 1).block().until();
        double along = (double) Duration.between(from, time).toMillis()
                / Math.max(1, Duration.between(from, until).toMillis());
        return NAME_WIDTH + Math.max(0, Math.min(1, along)) * (width - NAME_WIDTH - 10);
    }
}
