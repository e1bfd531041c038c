package app.ironside.desk.night;

import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Words;
import app.ironside.journal.SubTaken;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.ToDoubleFunction;
import javafx.scene.Cursor;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.TextAlignment;

/**
 * Small charts under the ribbon, on its axis of time: a glance down a column explains a bad hour. A click picks the sub that is nearest.
 */
public final class Strips extends DrawnPane {
    private static final double ROW = 22;
    private static final double GAP = 2;
    private static final double VALUE_X = 76;

    /** Further from a click than this no sub is meant. */
    private static final double NEAR_PX = 12;

    /** One row. */
    private record Row(String name, String pattern, ToDoubleFunction<SubTaken> value) {}

    private static final List<Row> ROWS = List.of(
            new Row("star size", "%.2f px", e -> e.measures().hfrPx().orElse(Double.NaN)),
            new Row("guiding", "%.2f″", e -> e.guiding().rmsTotalArcsec().orElse(Double.NaN)),
            new Row("sky", "%,.0f ADU", e -> e.measures().backgroundAdu()),
            new Row("stars", "%,.0f", e -> e.measures().stars()),
            new Row("tube", "%.1f °C", e -> e.circumstances().temperatureC().orElse(Double.NaN)));

    private List<SubTaken> subs = List.of();
    private RibbonState ribbon;
    private Optional<Instant> now = Optional.empty();
    private int rows = ROWS.size();

    /**
     * @param onSub told which sub was clicked
     */
    public Strips(Consumer<SubTaken> onSub) {
        getStyleClass().add("strips");
        setId("strips");
        setRows(ROWS.size());
        setOnMouseClicked(e -> near(e.getX()).ifPresent(onSub));
        setOnMouseMoved(e -> setCursor(near(e.getX()).isPresent() ? Cursor.HAND : Cursor.DEFAULT));
    }

    /** Shows so many rows, the most telling first. */
    public void setRows(int wanted) {
        rows = Math.max(1, Math.min(ROWS.size(), wanted));
        double height = rows * ROW + (rows - 1) * GAP;
        setMinHeight(height);
        setPrefHeight(height);
        stale();
    }

    public void show(RibbonState axis, Moment moment) {
        ribbon = axis;
        subs = moment.night().subs();
        now = Optional.of(moment.time());
        stale();
    }

    /** The sub whose end is nearest to a place, if one is near. */
    Optional<SubTaken> near(double x) {
        return subs.stream()
                .filter(s -> Math.abs(x(s.time()) - x) < NEAR_PX)
                .min(Comparator.comparingDouble(s -> Math.abs(x(s.time()) - x)));
    }

    @Override
    protected void draw(GraphicsContext g, double width, double height) {
        if (ribbon == null) {
            return;
        }
        List<Color> colours = List.of(accent(), good(), second(), cool(), third());
        for (int i = 0; i < rows; i++) {
            row(g, ROWS.get(i), colours.get(i), i * (ROW + GAP), width);
        }
        now.ifPresent(time -> {
            g.setStroke(accent());
            g.setLineWidth(1);
            g.strokeLine(x(time), 0, x(time), height);
        });
    }

    private void row(GraphicsContext g, Row row, Color color, double top, double width) {
        g.setFill(panel());
        g.fillRoundRect(Ribbon.MARGIN, top, width - 2 * Ribbon.MARGIN, ROW, 6, 6);
        if (!subs.isEmpty()) {
            curve(g, row, color, top);
        }
        // Before dark no sub is taken: that is where the names have room.
        double base = top + ROW / 2 + 5;
        g.setTextAlign(TextAlignment.LEFT);
        g.setFill(dim());
        g.setFont(Font.font("IBM Plex Sans", 13));
        g.fillText(row.name(), Ribbon.MARGIN + 8, base);
        double last = subs.isEmpty() ? Double.NaN : row.value().applyAsDouble(subs.get(subs.size() - 1));
        g.setFill(text());
        g.setFont(Font.font("IBM Plex Sans", FontWeight.BOLD, 13));
        g.fillText(Double.isNaN(last) ? "–" : Words.format(row.pattern(), last), Ribbon.MARGIN + VALUE_X, base);
    }

    private void curve(GraphicsContext g, Row row, Color color, double top) {
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
            double x = x(e.time());
            double y = top + ROW - 4 - (value(row, e, counts) - low) / (high - low) * (ROW - 8);
            if (Double.isNaN(y)) {
                continue;
            }
            if (before != null && x - before[0] < getWidth() / 12) {
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

    /** As on the ribbon above. */
    double x(Instant time) {
        return Ribbon.MARGIN + ribbon.along(time) * (getWidth() - 2 * Ribbon.MARGIN);
    }
}
