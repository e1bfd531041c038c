package app.ironside.desk.night;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.journal.SubTaken;
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
    private record Row(String name, String pattern, ToDoubleFunction<SubTaken> value) {}

    private static final List<Row> ROWS = List.of(
            new Row("star size", "%.2f px", e -> e.measures().hfrPx().orElse(Double.NaN)),
            new Row("stars", "%,.0f", e -> e.measures().stars()),
            new Row("sky", "%,.0f ADU", e -> e.measures().backgroundAdu()),
            new Row("guiding", "%.2f″", e -> e.guiding().rmsTotalArcsec().orElse(Double.NaN)),
            new Row("tube", "%.1f °C", e -> e.circumstances().temperatureC().orElse(Double.NaN)));

    private List<SubTaken> subs = List.of();
    private RibbonState ribbon;

    public Strips() {
        getStyleClass().add("strips");
        setMinHeight(130);
        setPrefHeight(180);
    }

    public void show(RibbonState axis, Moment moment) {
        ribbon = axis;
        subs = moment.night().subs();
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
        for (SubTaken e : subs) {
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
        for (SubTaken e : subs) {
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
            if (!e.kept()) {
                g.setStroke(alert());
                g.setLineWidth(2);
                g.strokeLine(x - 4, y - 4, x + 4, y + 4);
                g.strokeLine(x - 4, y + 4, x + 4, y - 4);
            }
        }
    }

    /** Star counts and the sky depend on the filter, counts on the part of the sensor that is read: only like is joined with like. */
    private double value(Row row, SubTaken e, boolean byFilter) {
        boolean stars = row.name().equals("stars");
        SubTaken last = subs.get(subs.size() - 1);
        boolean comparable = !byFilter || (e.filter().equals(last.filter()) && (!stars || e.full() == last.full()));
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
